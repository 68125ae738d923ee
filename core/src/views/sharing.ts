import { OPEN } from '../machine/runtime/visibility.js';
import { alike } from '../program/equal.js';
import type { Offer } from './offers.js';
import type { SeatView, View } from './view.js';

const sameWords = (a: readonly string[], b: readonly string[]): boolean => {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};

/** Whether an option is offered as it was before; what the sheet says of it is the same wherever it stands there. */
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

/** What is the same for whoever looks. */
type Common = Pick<View, 'chapter' | 'waiting'>;
/** What may be another for each viewer. */
type Own = Pick<View, 'seats' | 'values' | 'notes' | 'offers'>;

/**
 * What each viewer was told last. Most of a view stays as it is in most steps, and that part is the very same object
 * in the next view, and in the views of others who see the same: patches pass over it, or are made once for all.
 */
export class ViewSharing {
  private common: Common | undefined;
  /** By viewer, the open one first. */
  private readonly last: (Own | undefined)[] = [];

  /** What is the same for all in a new view, with what is as before wherever it says the same. */
  share(now: Common): Common {
    const { common } = this;
    this.common = { chapter: kept(common?.chapter, now.chapter), waiting: kept(common?.waiting, now.waiting) };
    return this.common;
  }

  /**
   * The parts of a viewer's new view, with those of others or of its own last one wherever they say the same.
   * @param others what others who look at the same state were told
   */
  shareFor(viewer: number, now: Own, others: readonly Own[]): Own {
    const before = this.last[viewer - OPEN];
    const ofOthers = <Part extends keyof Own>(part: Part): Own[Part] | undefined =>
      others.find((other) => alike(other[part], now[part]))?.[part];
    const own = {
      seats: ofOthers('seats') ?? reuse(before?.seats ?? [], now.seats, sameSeat),
      values: ofOthers('values') ?? kept(before?.values, now.values),
      notes: ofOthers('notes') ?? kept(before?.notes, now.notes),
      offers: now.offers.length === 0 ? NONE : reuse(before?.offers ?? [], now.offers, sameOffer),
    };
    this.last[viewer - OPEN] = own;
    return own;
  }
}
/** Shared empty list. */
const NONE: readonly Offer[] = [];
