import { blocksOf, type Stmt } from '@wily-jester/core';
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
      case 'while':
      case 'repeat':
      case 'each':
      case 'for':
        return leaves(s.body, sheet, true);
      case 'call': {
        // A routine may finish the game; its own breaks stay inside.
        const routine = sheet.routines[s.routine];
        return routine !== undefined && finishes(routine.body, sheet, new Set([s.routine]));
      }
      default:
        return blocksOf(s, sheet.asks).some((block) => leaves(block, sheet, inner));
    }
  });
}

function finishes(body: readonly Stmt[], sheet: Sheet, seen: Set<number>): boolean {
  return body.some((s) => {
    if (s.s === 'finish') return true;
    if (s.s === 'call' && !seen.has(s.routine)) {
      seen.add(s.routine);
      return finishes(sheet.routines[s.routine]?.body ?? [], sheet, seen);
    }
    return blocksOf(s, sheet.asks).some((block) => finishes(block, sheet, seen));
  });
}
