import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { eachSetOfShape, fitsShape } from '../dist/patterns/shapes.js';
import type { Shape } from '../dist/program/types.js';

/** Cards are numbers here: four suits of thirteen, and jokers behind them. */
const JOKER = 52;
const byCard = (of: (card: number) => number): number[] =>
  Array.from({ length: JOKER + 2 }, (_, card) => (card >= JOKER ? -1 : of(card)));
const facts = {
  place: byCard((card) => card % 13),
  rank: byCard((card) => card % 13),
  suit: byCard((card) => Math.floor(card / 13)),
};
/** Few ranks and suits, so that random cards often fit. */
const card = fc.oneof(
  { weight: 9, arbitrary: fc.tuple(fc.nat(5), fc.nat(2)).map(([rank, suit]) => suit * 13 + rank) },
  { weight: 1, arbitrary: fc.constantFrom(JOKER, JOKER + 1) },
);
const shapes: fc.Arbitrary<Shape> = fc.record({
  name: fc.constant('any'),
  least: fc.integer({ min: 1, max: 3 }),
  most: fc.option(fc.integer({ min: 3, max: 5 })),
  oneRank: fc.boolean(),
  oneSuit: fc.boolean(),
  inOrder: fc.boolean(),
});
const hands = fc.uniqueArray(card, { maxLength: 8 });

/** All sets of a shape, as many rows as may be looked at. */
function setsOfShape(shape: Shape, among: readonly number[], mostTested: number): (readonly number[])[] {
  const found: (readonly number[])[] = [];
  eachSetOfShape(
    shape,
    facts,
    among,
    mostTested,
    () => undefined,
    (set) => {
      found.push(set);
      return false;
    },
  );
  return found;
}

/** What a shape says, word for word. */
function isOf({ least, most, oneRank, oneSuit, inOrder }: Shape, cards: readonly number[]): boolean {
  const alike = (of: readonly number[]): boolean => new Set(cards.map((c) => of[c])).size <= 1;
  const places = cards.map((c) => facts.place[c] as number).sort((a, b) => a - b);
  return (
    cards.length >= least &&
    (most === null || cards.length <= most) &&
    (!oneRank || alike(facts.rank)) &&
    (!oneSuit || alike(facts.suit)) &&
    (!inOrder || places.every((place, i) => place >= 0 && place === (places[0] ?? 0) + i))
  );
}
const subsetsOf = (cards: readonly number[]): number[][] =>
  Array.from({ length: 2 ** cards.length }, (_, mask) => cards.filter((_, i) => mask & (1 << i)));
const named = (sets: Iterable<readonly number[]>): string[] =>
  [...sets].map((set) => [...set].sort((a, b) => a - b).join());

describe('a shape', () => {
  it('fits what its words say, in whatever order the cards lie', () => {
    fc.assert(fc.property(shapes, hands, (shape, cards) => fitsShape(shape, facts, cards) === isOf(shape, cards)));
  });

  it('finds every set of its kind among cards, each once, and before those that it grows into', () => {
    fc.assert(
      fc.property(shapes, hands, (shape, cards) => {
        const rows = setsOfShape(shape, cards, 65_536);
        const all = subsetsOf(cards).filter((set) => isOf(shape, set));
        expect(named(rows).sort()).toEqual(named(all).sort());
        const begins = (row: readonly number[], other: readonly number[]): boolean =>
          row.length < other.length && row.every((card, i) => card === other[i]);
        for (const [i, row] of rows.entries())
          expect(rows.slice(0, i).some((before) => begins(row, before))).toBe(false);
      }),
    );
  });

  it('ends its search after as many rows as it may look at', () => {
    const set: Shape = { name: 'set', least: 1, most: null, oneRank: true, oneSuit: false, inOrder: false };
    const kings = [12, 25, 38, 51];
    expect(setsOfShape(set, kings, 65_536)).toHaveLength(15);
    expect(setsOfShape(set, kings, 5)).toHaveLength(4);
  });

  it('ends its search where a visit says so', () => {
    const set: Shape = { name: 'set', least: 1, most: null, oneRank: true, oneSuit: false, inOrder: false };
    let visits = 0;
    expect(
      eachSetOfShape(
        set,
        facts,
        [12, 25, 38],
        65_536,
        () => undefined,
        () => ++visits === 3,
      ),
    ).toBe(true);
    expect(visits).toBe(3);
  });
});
