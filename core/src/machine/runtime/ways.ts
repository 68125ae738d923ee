import { arrangedIn, HEAVIEST, MOST_ARRANGED, TooManyToArrange } from '../../patterns/arranged.js';
import { type CardFacts, eachSetOfShape, type Pay } from '../../patterns/shapes.js';
import type { At, Shape } from '../../program/types.js';
import { fault } from '../fault.js';

/** Sets of shapes that are looked at when one is chosen. */
const MOST_SETS = 65_536;

/** The color of each suit, as cards have it. */
const SUIT_COLORS = [0, 1, 1, 0];

/** Ways to choose some of a list, one at a time: each is a list of its own. */
export interface Ways {
  /** The next way, or `null` after the last one. */
  next(): number[] | null;
}

/** So many items of a list, by their places from the left. */
function waysOfSize(list: readonly number[], size: number): Ways {
  const many = list.length;
  const places = Array.from({ length: Math.max(0, size) }, (_, i) => i);
  let isFirst = size >= 0 && size <= many;
  return {
    next: () => {
      if (!isFirst) {
        let i = size - 1;
        while (i >= 0 && places[i] === many - size + i) i--;
        if (i < 0) return null;
        places[i] = (places[i] as number) + 1;
        for (let j = i + 1; j < size; j++) places[j] = (places[j - 1] as number) + 1;
      }
      isFirst = false;
      return places.map((place) => list[place] as number);
    },
  };
}

/** What expressions call to choose among cards as values. */
export function wayFunctions(shapes: readonly Shape[], facts: CardFacts) {
  const shapeOf = (i: number): Shape => shapes[i] as Shape;
  /** The ways to choose as many of a list as each size says, the sizes in their order. */
  const waysOf = (list: readonly number[], sizes: readonly number[]): Ways => {
    let at = 0;
    let ways: Ways | null = null;
    return {
      next: () => {
        for (;;) {
          const way = ways?.next() ?? null;
          if (way !== null) return way;
          const size = sizes[at++];
          if (size === undefined) return null;
          ways = size < 0 || size > list.length ? null : waysOfSize(list, size);
        }
      },
    };
  };
  /** The groups of any of these shapes among cards: those that fit two come once. */
  const shapeWays = (names: readonly number[], cards: readonly number[], pay: Pay): Ways => {
    const found: (readonly number[])[] = [];
    const known = new Set<string>();
    for (const name of names)
      eachSetOfShape(shapeOf(name), facts, cards, MOST_SETS, pay, (set) => {
        const key = names.length > 1 ? [...set].sort((a, b) => a - b).join() : String(found.length);
        if (known.has(key)) return false;
        known.add(key);
        found.push(set);
        return false;
      });
    let at = 0;
    return { next: () => (at < found.length ? [...(found[at++] as readonly number[])] : null) };
  };
  const bestGroups = (
    names: readonly number[],
    cards: readonly number[],
    weights: readonly number[] | null,
    at: At,
    pay: Pay,
  ): number[][] => {
    for (const weight of weights ?? [])
      if (Math.abs(weight) > HEAVIEST) return fault(`A card weighs ${HEAVIEST} at most here, not ${weight}.`, at);
    try {
      return arrangedIn(names.map(shapeOf), facts, cards, weights ?? cards.map(() => 1), pay);
    } catch (error) {
      if (error instanceof TooManyToArrange)
        return fault(
          `At most ${MOST_ARRANGED.cards} cards in ${MOST_ARRANGED.groups} groups can be arranged, and here are ${error.cards} in ${error.groups} or more.`,
          at,
        );
      throw error;
    }
  };

  // ---- lists that are made of others
  const rangeOf = (from: number, to: number, at: At, longest: number): number[] => {
    const size = to - from + 1;
    if (size > longest) return fault(`A list has at most ${longest} items: ${from}..${to} has ${size}.`, at);
    return Array.from({ length: Math.max(0, size) }, (_, i) => from + i);
  };
  const withoutItems = (list: readonly number[], other: readonly number[]): number[] => {
    const out = new Set(other);
    return list.filter((x) => !out.has(x));
  };
  const withoutLists = (list: readonly number[], lists: readonly (readonly number[])[]): number[] =>
    withoutItems(list, lists.flat());
  return { suitColor: SUIT_COLORS, waysOf, shapeWays, bestGroups, rangeOf, withoutItems, withoutLists };
}
