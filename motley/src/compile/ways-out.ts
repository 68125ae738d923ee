import type { Stmt } from '@wily-jester/core';
import type { Sheet } from '../symbols/scope.js';

/** Whether statements hold a way out of the loop around them. */
export function leaves(body: readonly Stmt[], sheet: Sheet, inner = false): boolean {
  return body.some((s) => {
    switch (s.s) {
      case 'break':
        return !inner;
      case 'return':
      case 'finish':
        return true;
      case 'if':
        return leaves(s.yes, sheet, inner) || (s.no !== null && leaves(s.no, sheet, inner));
      case 'while':
      case 'repeat':
      case 'each':
      case 'for':
        return leaves(s.body, sheet, true);
      case 'ask': {
        const ask = sheet.asks[s.ask];
        return (
          ask?.options.some((o) => leaves(o.body, sheet, inner)) === true ||
          (!!ask?.stuck && leaves(ask.stuck, sheet, inner))
        );
      }
      case 'call': {
        // A routine may finish the game; its own breaks stay inside.
        const routine = sheet.routines[s.routine];
        return routine !== undefined && finishes(routine.body, sheet, new Set([s.routine]));
      }
      default:
        return false;
    }
  });
}

function finishes(body: readonly Stmt[], sheet: Sheet, seen: Set<number>): boolean {
  return body.some((s) => {
    if (s.s === 'finish') return true;
    if (s.s === 'if') return finishes(s.yes, sheet, seen) || (s.no !== null && finishes(s.no, sheet, seen));
    if (s.s === 'while' || s.s === 'repeat' || s.s === 'each' || s.s === 'for') return finishes(s.body, sheet, seen);
    if (s.s === 'ask') {
      const ask = sheet.asks[s.ask];
      return (
        ask?.options.some((o) => finishes(o.body, sheet, seen)) === true ||
        (!!ask?.stuck && finishes(ask.stuck, sheet, seen))
      );
    }
    if (s.s === 'call' && !seen.has(s.routine)) {
      seen.add(s.routine);
      return finishes(sheet.routines[s.routine]?.body ?? [], sheet, seen);
    }
    return false;
  });
}
