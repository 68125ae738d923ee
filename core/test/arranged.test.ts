import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangedIn, TooManyToArrange } from '../src/patterns/arranged.js';
import { type CardFacts, fitsShape } from '../src/patterns/shapes.js';
import type { Shape } from '../src/program/types.js';

const PACK = Array.from({ length: 52 }, (_, card) => card);
const facts: CardFacts = {
  place: PACK.map((card) => card % 13),
  rank: PACK.map((card) => (card % 13) + 1),
  suit: PACK.map((card) => Math.floor(card / 13)),
};
const shape = (more: Partial<Shape>): Shape => ({
  name: 'shape',
  least: 3,
  most: null,
  oneRank: false,
  oneSuit: false,
  inOrder: false,
  ...more,
});
const SET = shape({ name: 'set', most: 4, oneRank: true });
const RUN = shape({ name: 'run', oneSuit: true, inOrder: true });
const free = (): void => undefined;

/** The least that is left, by trying all ways to put each card somewhere. */
function leastLeft(cards: readonly number[], weights: ReadonlyMap<number, number>): number {
  const [first, ...rest] = cards;
  if (first === undefined) return 0;
  let least = (weights.get(first) ?? 0) + leastLeft(rest, weights);
  for (let mask = 1; mask < 2 ** rest.length; mask++) {
    const group = [first, ...rest.filter((_, i) => (mask >> i) & 1)];
    if (![SET, RUN].some((of) => fitsShape(of, facts, group))) continue;
    const others = rest.filter((card) => !group.includes(card));
    least = Math.min(least, leastLeft(others, weights));
  }
  return least;
}

describe('the best arrangement into groups', () => {
  it('leaves as little as any other, shares no card, and is the same for the same cards', () => {
    // Few ranks, so that there is much to arrange.
    const card = fc.integer({ min: 0, max: 23 }).map((n) => Math.floor(n / 6) * 13 + (n % 6));
    fc.assert(
      fc.property(fc.uniqueArray(card, { minLength: 0, maxLength: 9 }), fc.boolean(), (cards, byRank) => {
        const weights = cards.map((each) => (byRank ? (facts.rank[each] as number) : 1));
        const groups = arrangedIn([SET, RUN], facts, cards, weights, free);
        const grouped = groups.flat();
        expect(new Set(grouped).size).toBe(grouped.length);
        for (const group of groups) expect([SET, RUN].some((of) => fitsShape(of, facts, group))).toBe(true);
        const left = cards.filter((each) => !grouped.includes(each));
        const weight = new Map(cards.map((each, i) => [each, weights[i] as number]));
        const sum = left.reduce((all, each) => all + (weight.get(each) as number), 0);
        expect(sum).toBe(leastLeft(cards, weight));
        expect(arrangedIn([SET, RUN], facts, cards, weights, free)).toEqual(groups);
      }),
      { numRuns: 300 },
    );
  });

  it('prefers fewer cards left, then fewer groups, then the shape that is written first', () => {
    const cards = [2, 3, 4, 5, 6, 7];
    const whole = arrangedIn(
      [SET, RUN],
      facts,
      cards,
      cards.map(() => 0),
      free,
    );
    expect(whole).toEqual([cards]);
    const corner = [4, 17, 30, 5, 6];
    const even = corner.map(() => 1);
    expect(arrangedIn([SET, RUN], facts, corner, even, free)).toEqual([[4, 17, 30]]);
    expect(arrangedIn([RUN, SET], facts, corner, even, free)).toEqual([[4, 5, 6]]);
  });

  it('says how many cards and groups there were, where they are too many', () => {
    expect(() =>
      arrangedIn(
        [SET],
        facts,
        PACK,
        PACK.map(() => 1),
        free,
      ),
    ).toThrow(TooManyToArrange);
  });
});
