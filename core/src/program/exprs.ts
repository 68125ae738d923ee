import type { Expr } from './expressions.js';

/** Calls back for an expression and everything inside it. */
export function eachExpr(e: Expr, visit: (e: Expr) => void): void {
  visit(e);
  for (const value of Object.values(e)) eachIn(value, visit);
}

function eachIn(value: unknown, visit: (e: Expr) => void): void {
  if (Array.isArray(value)) for (const item of value) eachIn(item, visit);
  else if (value !== null && typeof value === 'object') {
    if ('k' in value && 't' in value && 'at' in value) eachExpr(value as Expr, visit);
    else for (const inner of Object.values(value)) eachIn(inner, visit);
  }
}

/** Calls back for every expression anywhere below a piece of a program. */
export const eachExprIn = (piece: unknown, visit: (e: Expr) => void): void => eachIn(piece, visit);

/** The locals that an expression reads. */
export function localsIn(e: Expr): Set<number> {
  const found = new Set<number>();
  eachExpr(e, (inner) => {
    if (inner.k === 'local') found.add(inner.i);
  });
  return found;
}

/** Whether two expressions are the same but for where they stand. */
export function sameExpr(a: Expr, b: Expr): boolean {
  const placeless = (e: Expr): string => JSON.stringify(e, (key, value) => (key === 'at' ? undefined : value));
  return placeless(a) === placeless(b);
}
