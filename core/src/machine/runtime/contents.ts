import type { At } from '../../program/types.js';
import { fault } from '../fault.js';
import type { State } from '../state.js';

/** Runtime functions for the cards of piles, bottom to top. */
export function contents(pileName: (p: number) => string) {
  // Copied by hand: these run for every candidate of every choice, and are mostly a few cards long.
  const pileCards = (s: State, p: number): number[] => {
    const from = s.start[p] as number;
    const count = s.len[p] as number;
    const cards = new Array<number>(count);
    for (let i = 0; i < count; i++) cards[i] = s.cards[from + i] as number;
    return cards;
  };
  const pileItem = (s: State, p: number, i: number, at: At): number =>
    i >= 1 && i <= (s.len[p] as number)
      ? (s.cards[(s.start[p] as number) + i - 1] as number)
      : fault(`There is no card ${i} in ${pileName(p)}, which holds ${s.len[p]}.`, at);
  const top = (s: State, p: number): number => {
    const length = s.len[p] as number;
    return length === 0 ? -1 : (s.cards[(s.start[p] as number) + length - 1] as number);
  };
  const bottom = (s: State, p: number): number => (s.len[p] === 0 ? -1 : (s.cards[s.start[p] as number] as number));
  const tops = (s: State, list: readonly number[]): number[] =>
    list.filter((p) => s.len[p] !== 0).map((p) => top(s, p));
  /** The place of a card in its pile, from 0. */
  const indexOf = (s: State, c: number): number => {
    const p = s.where[c] as number;
    const from = s.start[p] as number;
    for (let i = (s.len[p] as number) - 1; i >= 0; i--) if (s.cards[from + i] === c) return i;
    return -1;
  };
  /** From a card to the top of its pile. */
  const tail = (s: State, c: number): number[] => pileCards(s, s.where[c] as number).slice(indexOf(s, c));
  const cardsOf = (s: State, list: readonly number[]): number[] => {
    const cards: number[] = [];
    for (const p of list) {
      const from = s.start[p] as number;
      const to = from + (s.len[p] as number);
      for (let i = from; i < to; i++) cards.push(s.cards[i] as number);
    }
    return cards;
  };
  return { pileCards, pileItem, top, bottom, tops, indexOf, tail, cardsOf };
}
export type Contents = ReturnType<typeof contents>;
