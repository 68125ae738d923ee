import type { Expr } from '../../program/types.js';

/** What makes two calls the same: all but the place where they stand. */
export const callKey = (e: Expr): string => JSON.stringify(e, (key, value) => (key === 'at' ? undefined : value));

/**
 * Calls that a def's body holds more than once. Defs are pure, so each is made once at most, when it is
 * first needed; calls inside short functions differ from item to item and are left alone.
 */
export function repeatedCalls(body: Expr): string[] {
  return [...callCounts(body)].filter(([, times]) => times > 1).map(([key]) => key);
}

/** How often each call may be made on one way through an expression: of two branches only one is taken. */
function callCounts(value: unknown): Map<string, number> {
  const counts = new Map<string, number>();
  const add = (more: ReadonlyMap<string, number>): void => {
    for (const [key, times] of more) counts.set(key, (counts.get(key) ?? 0) + times);
  };
  if (Array.isArray(value)) for (const inner of value) add(callCounts(inner));
  else if (value !== null && typeof value === 'object') {
    const e = value as Expr;
    if (e.k === 'if') {
      add(callCounts(e.c));
      const other = callCounts(e.b);
      for (const [key, times] of callCounts(e.a)) other.set(key, Math.max(times, other.get(key) ?? 0));
      add(other);
      return counts;
    }
    if (e.k === 'call') counts.set(callKey(e), 1);
    for (const [key, inner] of Object.entries(value)) if (key !== 'by') add(callCounts(inner));
  }
  return counts;
}
