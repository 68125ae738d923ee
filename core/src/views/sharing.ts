import { OPEN } from '../machine/runtime/visibility.js';
import type { Offer } from './offers.js';
import type { SeatView, View } from './view.js';

/** Whether two JSON values say the same. */
export function alike(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a)) {
    if (!Array.isArray(b) || a.length !== b.length) return false;
    for (let i = 0; i < a.length; i++) if (!alike(a[i], b[i])) return false;
    return true;
  }
  if (Array.isArray(b)) return false;
  let members = 0;
  for (const name in a) {
    if (!Object.hasOwn(b, name) || !alike((a as Members)[name], (b as Members)[name])) return false;
    members++;
  }
  for (const _ in b) members--;
  return members === 0;
}
type Members = Readonly<Record<string, unknown>>;

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

/** A list in which what is the same as before is the very same object; itself the one of before, where all is. */
function share<T>(before: readonly T[], now: readonly T[], same: (a: T, b: T) => boolean): readonly T[] {
  let all = before.length === now.length;
  const list = now.map((item, i) => {
    const kept = before[i];
    if (kept !== undefined && same(kept, item)) return kept;
    all = false;
    return item;
  });
  return all ? before : list;
}

/** The very same object as before, where it says the same. */
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
  again(now: Common): Common {
    const { common } = this;
    this.common = { chapter: kept(common?.chapter, now.chapter), waiting: kept(common?.waiting, now.waiting) };
    return this.common;
  }

  /**
   * The parts of a viewer's new view, with those of others or of its own last one wherever they say the same.
   * @param others what others who look at the same state were told
   */
  againFor(viewer: number, now: Own, others: readonly Own[]): Own {
    const before = this.last[viewer - OPEN];
    const ofOthers = <Part extends keyof Own>(part: Part): Own[Part] | undefined =>
      others.find((other) => alike(other[part], now[part]))?.[part];
    const own = {
      seats: ofOthers('seats') ?? share(before?.seats ?? [], now.seats, sameSeat),
      values: ofOthers('values') ?? kept(before?.values, now.values),
      notes: ofOthers('notes') ?? kept(before?.notes, now.notes),
      offers: now.offers.length === 0 ? NONE : share(before?.offers ?? [], now.offers, sameOffer),
    };
    this.last[viewer - OPEN] = own;
    return own;
  }
}
/** Most viewers are offered nothing, and all of them the same nothing. */
const NONE: readonly Offer[] = [];
