import { below, type Generator } from '../../chance/generator.js';
import { type CardFacts, eachSetOfShape, fitsShape, type Pay } from '../../patterns/shapes.js';
import type { Shape } from '../../program/types.js';
import { type Arg, MOST_TESTED } from '../code.js';

/** What a set costs that is looked at, besides its cards. */
const SET = 30;

/** Looks at one set; `true` ends the walk. */
export type Visit = (set: readonly number[]) => boolean;

/** Keeps the first of equal items of a buffer, and gives how many are left. */
export function distinct(items: number[], count: number): number {
  let kept = 0;
  for (let i = 0; i < count; i++) {
    const item = items[i] as number;
    let isNew = true;
    for (let j = 0; j < kept && isNew; j++) isNew = items[j] !== item;
    if (isNew) items[kept++] = item;
  }
  return kept;
}

/** Whether a value is among the first `count` items of a buffer. */
export function holdsItem(items: readonly number[], count: number, value: unknown): boolean {
  for (let i = 0; i < count; i++) if (items[i] === value) return true;
  return false;
}

/** Whether a value is several cards. */
export const isSet = (value: Arg): value is readonly number[] => Array.isArray(value);

/** Cards in the order of a list. */
export const inOrderOf = (list: readonly number[], cards: readonly number[]): number[] =>
  [...cards].sort((a, b) => list.indexOf(a) - list.indexOf(b));

/** Whether two sets hold the same cards. */
export const sameSet = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === b.length && a.every((card) => b.includes(card));

/** Whether these are different cards out of the first `count` of a buffer, as many as may be chosen. */
export function standsIn(
  items: readonly number[],
  count: number,
  set: readonly number[],
  least: number,
  most: number,
): boolean {
  if (set.length < least || set.length > Math.min(most, count)) return false;
  for (let i = 0; i < set.length; i++) {
    const at = items.indexOf(set[i] as number);
    if (at < 0 || at >= count || set.indexOf(set[i] as number) !== i) return false;
  }
  return true;
}

/**
 * Calls back for each set of the first `count` items of a buffer, depth first, so that each set comes before the
 * larger ones that it grows into; at most {@link MOST_TESTED} sets are tested.
 * @param spent is called where there are more
 * @param grow holds for a set and for every smaller part of it; others are not looked into
 * @returns whether a visit ended the walk
 */
export function eachSet(
  items: readonly number[],
  count: number,
  least: number,
  most: number,
  grow: Visit | null,
  visit: Visit,
  pay: Pay,
  spent: (() => void) | null,
): boolean {
  const fewest = Math.max(0, least);
  const largest = Math.min(count, most);
  if (fewest > largest) return false;
  if (fewest === 0 && visit([])) return true;
  const places: number[] = [];
  const taken: number[] = [];
  let next = 0;
  for (let tested = 0; ; ) {
    // No more than is left can still be taken.
    if (taken.length === largest || next === count || taken.length + (count - next) < fewest) {
      const last = places.pop();
      if (last === undefined) return false;
      taken.pop();
      next = last + 1;
      continue;
    }
    taken.push(items[next] as number);
    pay(SET + 2 * taken.length);
    if (!grow || grow(taken.slice())) {
      if (++tested > MOST_TESTED) {
        spent?.();
        return false;
      }
      if (taken.length >= fewest && visit(taken.slice())) return true;
      places.push(next);
    } else taken.pop();
    next++;
  }
}

/**
 * How often a set is drawn anew before all of them are walked: an eighth of what a walk may take. Where there are few
 * sets, the walk comes at once.
 */
const triesFor = (sets: number): number => (sets <= 48 ? 0 : Math.min(1024, sets >> 3));

/** How many sets of each size there are among so many items, from the fewest to the most. */
function setCounts(count: number, fewest: number, largest: number): number[] {
  const counts: number[] = [];
  let ways = 1;
  for (let size = 0; size <= largest; size++) {
    if (size > 0) ways = (ways * (count - size + 1)) / size;
    if (size >= fewest) counts.push(ways);
  }
  return counts;
}

/** Draws a place among weights that come to `all`. Weights of up to 2^32 in all are drawn exactly, larger ones to within 2^−32. */
function drawPlace(weights: readonly number[], all: number, generator: Generator): number {
  let left = all <= 0x1_0000_0000 ? below(generator, all) : (generator.next() / 0x1_0000_0000) * all;
  for (let i = 0; i < weights.length; i++) {
    left -= weights[i] as number;
    if (left < 0) return i;
  }
  return weights.length - 1;
}

/**
 * Draws one of the sets of the first `count` items of a buffer, each as likely as any other, its cards in their order.
 * @param accepts whether a set is legal; `null` where all are
 * @returns `null` where there are none, `undefined` where too many of those that were drawn are not legal
 */
export function drawSet(
  items: readonly number[],
  count: number,
  least: number,
  most: number,
  accepts: Visit | null,
  generator: Generator,
  pay: Pay,
): readonly number[] | null | undefined {
  const fewest = Math.max(0, least);
  const largest = Math.min(count, most);
  if (fewest > largest) return null;
  const counts = setCounts(count, fewest, largest);
  const all = counts.reduce((sum, ways) => sum + ways, 0);
  for (let tries = accepts === null ? 1 : triesFor(all); tries > 0; tries--) {
    pay(SET + 4 * count);
    const size = fewest + drawPlace(counts, all, generator);
    const set: number[] = [];
    // Selection sampling keeps the order (Knuth, TAOCP vol. 2, 3.4.2, algorithm S).
    for (let i = 0; set.length < size; i++)
      if (below(generator, count - i) < size - set.length) set.push(items[i] as number);
    if (accepts === null || accepts(set)) return set;
  }
  return undefined;
}

/** How many sets of so many to so many there are among so many items. */
export const setsOf = (count: number, least: number, most: number): number =>
  setCounts(count, Math.max(0, least), Math.min(count, most)).reduce((sum, ways) => sum + ways, 0);

/**
 * The set whose items are worth the most together, in the order of the buffer: the dearest ones, as many as there must
 * be, and more as long as they are worth something. Of equal ones chance decides.
 * @returns `null` where there are too few
 */
export function dearestSet(
  items: readonly number[],
  count: number,
  worth: (item: number) => number,
  least: number,
  most: number,
  generator: Generator,
  pay: Pay,
): readonly number[] | null {
  const fewest = Math.max(0, least);
  const largest = Math.min(count, most);
  if (fewest > largest) return null;
  pay(SET * count);
  const places = Array.from({ length: count }, (_, i) => i);
  for (let i = count - 1; i > 0; i--) {
    const j = below(generator, i + 1);
    [places[i], places[j]] = [places[j] as number, places[i] as number];
  }
  const worths = places.map((place) => worth(items[place] as number));
  const order = places.map((_, i) => i).sort((a, b) => (worths[b] as number) - (worths[a] as number));
  const taken = order.filter((i, n) => n < fewest || (n < largest && (worths[i] as number) > 0));
  return taken
    .map((i) => places[i] as number)
    .sort((a, b) => a - b)
    .map((place) => items[place] as number);
}

/** The walks over sets of the shapes that a sheet names. */
export function shapeSets(shapes: readonly Shape[], facts: CardFacts) {
  /** Calls back for each set of these shapes, its cards in the order of the buffer; gives whether a visit ended the walk. */
  const eachShape = (
    names: readonly number[],
    items: readonly number[],
    count: number,
    visit: Visit,
    pay: Pay,
  ): boolean => {
    const list = items.slice(0, count);
    const inOrder = (set: readonly number[]): number[] => {
      pay(SET + ((set.length * count) >> 2));
      const places = set.map((card) => list.indexOf(card)).sort((a, b) => a - b);
      return places.map((i) => list[i] as number);
    };
    for (const name of names)
      if (eachSetOfShape(shapes[name] as Shape, facts, list, MOST_TESTED, pay, (set) => visit(inOrder(set))))
        return true;
    return false;
  };
  const fitsAny = (names: readonly number[], set: readonly number[]): boolean =>
    names.some((name) => fitsShape(shapes[name] as Shape, facts, set));
  return {
    eachShape,
    fitsAny,
    inOrderOf,
    distinct,
    holdsItem,
    isSet,
    sameSet,
    standsIn,
    eachSet,
    drawSet,
    setsOf,
    dearestSet,
  };
}
