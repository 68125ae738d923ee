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
    // Of forty copies: a hundred thousand million ways to take nineteen; 780 to take thirty-eight, after some 2^40 beginnings.
    const one = all(80).filter((card) => card % 2 === 0);
    for (const many of [19, 38])
      expect(copies(80, new Array<string>(many).fill('A♠'), one.slice(0, many)).length).toBeLessThanOrEqual(64);
  });
});
