import { OPEN } from '../machine/runtime/visibility.js';
import { alike } from '../program/equal.js';
import type { Offer } from './offers.js';
import type { SeatView, View } from './view.js';

const sameWords = (a: readonly string[], b: readonly string[]): boolean => {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};

/** Whether two offers are equal. Fixed fields of the sheet's option are covered by its line. */
const sameOffer = (a: Offer, b: Offer): boolean =>
  a.line === b.line &&
  a.option === b.option &&
  a.label === b.label &&
  a.legal === b.legal &&
  a.reason === b.reason &&
  a.byClock === b.byClock &&
  a.quick === b.quick &&
  a.aside === b.aside &&
  sameWords(a.on, b.on) &&
  alike(a.params, b.params) &&
  alike(a.ways, b.ways);

const sameSeat = (a: SeatView, b: SeatView): boolean => a.score === b.score && alike(a.values, b.values);

/** Reuses equal items of the list before; returns that very list if all are equal. */
function reuse<T>(before: readonly T[], now: readonly T[], same: (a: T, b: T) => boolean): readonly T[] {
  let all = before.length === now.length;
  const list = now.map((item, i) => {
    const kept = before[i];
    if (kept !== undefined && same(kept, item)) return kept;
    all = false;
    return item;
  });
  return all ? before : list;
}

/** The object from before if it is equal. */
const kept = <T>(before: T | undefined, now: T): T => (before !== undefined && alike(before, now) ? before : now);

/** Parts that are the same for every viewer. */
type Common = Pick<View, 'chapter' | 'waiting'>;
/** Parts that may differ between viewers. */
export type Own = Pick<View, 'seats' | 'values' | 'notes' | 'offers'> & { readonly orders: View['orders'] | undefined };

/**
 * The last view of each viewer. Most of a view does not change in most steps; unchanged parts stay the same object
 * in the next view, and in the views of others who see the same: patches pass over it, or are made once for all.
 */
export class ViewSharing {
  private common: Common | undefined;
  /** By viewer, the open one first. */
  private readonly last: (Own | undefined)[] = [];

  /** Reuses the common parts of the view before where they are equal. */
  share(now: Common): Common {
    const { common } = this;
    this.common = { chapter: kept(common?.chapter, now.chapter), waiting: kept(common?.waiting, now.waiting) };
    return this.common;
  }

  /**
   * Reuses parts of other viewers' views, or of this viewer's last one, where they are equal.
   * @param others views of the same state for other viewers
   */
  shareFor(viewer: number, now: Own, others: readonly Own[]): Own {
    const before = this.last[viewer - OPEN];
    const ofOthers = <Part extends keyof Own>(part: Part): Own[Part] | undefined =>
      others.find((other) => alike(other[part], now[part]))?.[part];
    const own = {
      seats: ofOthers('seats') ?? reuse(before?.seats ?? [], now.seats, sameSeat),
      values: ofOthers('values') ?? kept(before?.values, now.values),
      notes: ofOthers('notes') ?? kept(before?.notes, now.notes),
      orders: ofOthers('orders') ?? kept(before?.orders, now.orders),
      offers: now.offers.length === 0 ? NONE : reuse(before?.offers ?? [], now.offers, sameOffer),
    };
    this.last[viewer - OPEN] = own;
    return own;
  }
}
/** Shared empty list. */
const NONE: readonly Offer[] = [];
