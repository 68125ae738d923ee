import { eachStmt } from '../../program/tree.js';
import type { Expr, ExprOf, Program } from '../../program/types.js';
import { FUNCTIONS } from './functions.js';
import type { Place } from './places.js';

/** Gives the place of a local. */
type PlaceOf = (local: number) => Place;

/** Whether a card, seat or pile is never nothing. */
export function isThere(e: Expr, place: PlaceOf): boolean {
  switch (e.k) {
    case 'lit':
      return e.v >= 0;
    case 'me':
    case 'pile':
    case 'cell':
    case 'fresh':
    case 'face':
      return true;
    case 'field':
      return e.f === 'pile';
    case 'local':
      return place(e.i).isThere === true;
    case 'item':
      return areThere(e.of, place);
    default:
      return false;
  }
}

/** Whether nothing is never among the items of a list. */
export function areThere(e: Expr, place: PlaceOf): boolean {
  switch (e.k) {
    case 'cards':
    case 'family':
    case 'seats':
    case 'suits':
    case 'ranks':
    case 'teams':
      return true;
    case 'local':
      return place(e.i).asPile === true;
    case 'sift':
      return (e.f === 'only' || e.f === 'leaders' || e.f === 'sorted') && areThere(e.of, place);
    case 'fn':
      return listsThere(e, place);
    case 'op':
      return e.op === '+' && areThere(e.a, place) && areThere(e.b, place);
    default:
      return false;
  }
}

function listsThere(e: ExprOf<'fn'>, place: PlaceOf): boolean {
  const { items } = FUNCTIONS[e.f];
  return items === 'there' || (items === 'given' && areThere(e.args[0] as Expr, place));
}

/**
 * The locals of each routine that are never nothing: those of loops through lists that hold none, and parameters that
 * every call gives a value that is not nothing. Starts from all parameters and removes those that a call contradicts.
 */
export function localsThere(program: Program): readonly ReadonlySet<number>[] {
  const calls: { readonly from: number; readonly to: number; readonly args: readonly Expr[] }[] = [];
  const there = program.routines.map((routine, from) => {
    const locals = new Set(routine.params);
    eachStmt(routine.body, program.asks, (s) => {
      if (s.s === 'call') calls.push({ from, to: s.routine, args: s.args });
      if (s.s === 'each' && areThere(s.list, NOWHERE)) locals.add(s.local);
    });
    return locals;
  });
  let isSettled = false;
  while (!isSettled) {
    isSettled = true;
    for (const { from, to, args } of calls)
      for (const [i, param] of (program.routines[to]?.params ?? []).entries()) {
        const arg = args[i];
        const known = there[to];
        if (
          !known?.has(param) ||
          (arg && isThere(arg, (local) => ({ js: '', isThere: there[from]?.has(local) === true })))
        )
          continue;
        known.delete(param);
        isSettled = false;
      }
  }
  return there;
}

/** Nothing is known of a local. */
export const NOWHERE: PlaceOf = () => ({ js: '' });
