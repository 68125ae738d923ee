import { exprKey, operandsOf } from '../../program/tree.js';
import type { Expr } from '../../program/types.js';

/**
 * Calls that a def's body holds more than once. Defs are pure, so each is made once at most, when it is
 * first needed; calls inside short functions differ from item to item and are left alone.
 */
export function repeatedCalls(body: Expr): string[] {
  return [...callCounts(body)].filter(([, times]) => times > 1).map(([key]) => key);
}

/** How often each call may be made on one way through an expression: of two branches only one is taken. */
function callCounts(e: Expr): Map<string, number> {
  const counts = new Map<string, number>();
  const add = (more: ReadonlyMap<string, number>): void => {
    for (const [key, times] of more) counts.set(key, (counts.get(key) ?? 0) + times);
  };
  if (e.k === 'if') {
    add(callCounts(e.c));
    const other = callCounts(e.b);
    for (const [key, times] of callCounts(e.a)) other.set(key, Math.max(times, other.get(key) ?? 0));
    add(other);
    return counts;
  }
  if (e.k === 'call') counts.set(exprKey(e), 1);
  for (const operand of operandsOf(e)) add(callCounts(operand));
  return counts;
}
