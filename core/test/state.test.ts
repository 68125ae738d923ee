import { plural, State, third } from '@wily-jester/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

/** The slot that holds where the free end of the cards' array is. */
const FREE = 9;

/** A state with all cards in its first pile, as a table begins. */
function begin(cards: number, piles: number): State {
  const state = new State({ numbers: 16, refs: 3, cards, piles, words: 'a test' });
  for (let p = 0; p < piles; p++) {
    state.start[p] = p === 0 ? 0 : cards + 2 * (p - 1);
    state.cap[p] = p === 0 ? cards : 2;
  }
  state.f[FREE] = cards + 2 * (piles - 1);
  for (let c = 0; c < cards; c++) state.cards[c] = c;
  state.len[0] = cards;
  return state;
}

function pile(state: State, p: number): number[] {
  const from = state.start[p] as number;
  return [...state.cards.subarray(from, from + (state.len[p] as number))];
}

/** Moves some cards from the top of one pile to another, as the engine does. */
function move(state: State, from: number, to: number, count: number): void {
  for (let i = 0; i < count; i++) {
    const length = state.len[from] as number;
    if (length === 0) return;
    const card = state.cards[(state.start[from] as number) + length - 1] as number;
    state.len[from] = length - 1;
    const place = state.len[to] as number;
    if (place === state.cap[to]) state.grow(to, place + 1);
    state.cards[(state.start[to] as number) + place] = card;
    state.len[to] = place + 1;
  }
}

const moves = (piles: number) =>
  fc.array(fc.tuple(fc.nat(piles - 1), fc.nat(piles - 1), fc.integer({ min: 1, max: 60 })), { maxLength: 120 });

describe('a state', () => {
  it('keeps every pile as plain lists would, however piles grow and move', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 2, max: 9 }), moves(9), (cards, piles, todo) => {
        const state = begin(cards, piles);
        const model: number[][] = Array.from({ length: piles }, (_, p) => (p === 0 ? [...Array(cards).keys()] : []));
        for (const [a, b, count] of todo) {
          const from = a % piles;
          const to = b % piles;
          if (from === to) continue;
          move(state, from, to, count);
          for (let i = 0; i < count; i++) {
            const card = model[from]?.pop();
            if (card !== undefined) model[to]?.push(card);
          }
          expect(state.f[FREE] as number).toBeLessThanOrEqual(state.cards.length);
        }
        for (let p = 0; p < piles; p++) expect(pile(state, p)).toEqual(model[p]);
      }),
      { numRuns: 200 },
    );
  });

  it('never lets two piles share a place', () => {
    fc.assert(
      fc.property(moves(6), (todo) => {
        const state = begin(40, 6);
        for (const [from, to, count] of todo) if (from !== to) move(state, from, to, count);
        const stretches = [...state.start]
          .map((start, p) => [start, start + (state.cap[p] as number)] as const)
          .sort((x, y) => x[0] - y[0]);
        for (let i = 1; i < stretches.length; i++)
          expect(stretches[i]?.[0]).toBeGreaterThanOrEqual(stretches[i - 1]?.[1] ?? 0);
      }),
    );
  });

  it('is copied whole, and the copy goes its own way', () => {
    const state = begin(30, 4);
    move(state, 0, 2, 7);
    state.refs[1] = Object.freeze([1, 2]);
    state.f[12] = 99;
    const copy = state.copy();
    expect([0, 1, 2, 3].map((p) => pile(copy, p))).toEqual([0, 1, 2, 3].map((p) => pile(state, p)));
    expect([copy.f[12], copy.refs[1]]).toEqual([99, [1, 2]]);
    move(copy, 2, 3, 5);
    copy.f[12] = 1;
    expect(pile(state, 2)).toHaveLength(7);
    expect(state.f[12]).toBe(99);
    expect(new State(state.form).copyFrom(state).byteLength).toBe(state.byteLength);
  });

  it('is small: little more than 4 KiB for six packs', () => {
    expect(begin(312, 10).byteLength).toBeLessThan(4200);
  });
});

describe('words about a game', () => {
  it.each([
    [1, 'card', '1 card'],
    [0, 'card', '0 cards'],
    [3, 'penny', '3 pennies'],
    [2, 'key', '2 keys'],
    [2, 'box', '2 boxes'],
    [4, 'batch', '4 batches'],
  ])('count: %i %s is %s', (n, word, text) => {
    expect(plural(n, word)).toBe(text);
  });

  it.each([
    ['hit', 'hits'],
    ['pass', 'passes'],
    ['carry', 'carries'],
    ['play', 'plays'],
    ['watch', 'watches'],
    ['go', 'goes'],
  ])('tell of a third person: %s, %s', (verb, text) => {
    expect(third(verb)).toBe(text);
  });
});
