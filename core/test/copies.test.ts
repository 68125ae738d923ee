import { describe, expect, it } from 'vitest';
import { otherCopies } from '../src/rules/copies.js';

/** Cards of so many packs of two faces: even cards bear the one, odd ones the other. */
const layoutOf = (cards: number) => ({ layout: { faces: Array.from({ length: cards }, (_, card) => 1 + (card % 2)) } });
const all = (cards: number) => Array.from({ length: cards }, (_, card) => card);
function copies(cards: number, named: readonly string[], read: readonly number[]): (number | readonly number[])[] {
  const rules = layoutOf(cards) as unknown as Parameters<typeof otherCopies>[0];
  return [...otherCopies(rules, 'list:card', named, read, all(cards))];
}

describe('copies that a face may stand for', () => {
  it('are each set of them once, the first of each face first', () => {
    expect(copies(6, ['A♠', 'A♠'], [0, 2])).toEqual([
      [0, 2],
      [0, 4],
      [2, 4],
    ]);
    expect(copies(4, ['A♠', '2♠'], [0, 1])).toEqual([
      [0, 1],
      [0, 3],
      [2, 1],
      [2, 3],
    ]);
    expect(copies(6, ['hand/1#1', 'A♠'], [0, 2])).toEqual([
      [0, 2],
      [0, 4],
    ]);
    expect(copies(2, ['A♠'], [0])).toEqual([]);
  });

  it('are looked for only so far, however many packs there are', () => {
    // Nineteen of forty: a hundred thousand million ways, and more beginnings that lead nowhere.
    const named = new Array<string>(19).fill('A♠');
    expect(
      copies(
        80,
        named,
        all(80)
          .filter((card) => card % 2 === 0)
          .slice(0, 19),
      ).length,
    ).toBeLessThanOrEqual(64);
    // Thirty-eight of forty are 780 ways, of which 64 are tried; the beginnings alone are some 2^40.
    const many = new Array<string>(38).fill('A♠');
    expect(
      copies(
        80,
        many,
        all(80)
          .filter((card) => card % 2 === 0)
          .slice(0, 38),
      ).length,
    ).toBeLessThanOrEqual(64);
  });
});
