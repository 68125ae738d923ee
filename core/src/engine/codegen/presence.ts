import type { Expr } from '../../program/types.js';
import type { Place } from './expressions.js';

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
      return e.f === 'seatsFrom' || e.f === 'others' || e.f === 'seatsOf' || e.f === 'cardsOf' || e.f === 'tail';
    default:
      return false;
  }
}
