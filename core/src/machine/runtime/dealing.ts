import type { Pay } from '../../patterns/shapes.js';
import type { At } from '../../program/types.js';
import { CARD } from '../prices.js';
import type { State } from '../state.js';

/** Deals the top card of a pile to another one, as generated code does it for its own table. Gives the card. */
export type DealOne = (s: State, from: number, to: number, facing: number, at: At) => number;

/**
 * The ways to deal more than one card, made of dealing one. A single one weighs where its statement stands; each of
 * several is paid for.
 * @param fill refills a pile that is empty, where it can be
 */
export function dealing(one: DealOne, fill: (s: State, p: number) => void, pay: Pay) {
  const deal1: DealOne = (s, from, to, facing, at) => {
    pay(CARD);
    return one(s, from, to, facing, at);
  };
  /** Deals up to a number; stops early, when fewer will do, once the pile and its refill are used up. */
  const dealN = (
    s: State,
    from: number,
    to: number,
    count: number,
    upTo: boolean,
    facing: number,
    at: At,
  ): number[] => {
    const dealt: number[] = [];
    for (let i = 0; i < count; i++) {
      if (upTo) {
        fill(s, from);
        if (s.len[from] === 0) break;
      }
      dealt.push(deal1(s, from, to, facing, at));
    }
    return dealt;
  };
  const dealAll = (s: State, from: number, to: readonly number[], facing: number, at: At): number[] => {
    const dealt: number[] = [];
    for (let i = 0; (s.len[from] as number) > 0 && to.length > 0; i++)
      dealt.push(deal1(s, from, to[i % to.length] as number, facing, at));
    return dealt;
  };
  /** Deals so many to each of several piles, one pile after the other. */
  const dealEach = (
    s: State,
    from: number,
    to: readonly number[],
    count: number,
    upTo: boolean,
    facing: number,
    at: At,
  ): number[] => to.flatMap((pile) => dealN(s, from, pile, count, upTo, facing, at));
  /**
   * Deals round the table, one card at a time; `count` −1 deals all. Where each seat has several piles, a round goes
   * to the first of every seat, then to the second, and so on.
   */
  const dealRound = (
    s: State,
    from: number,
    base: number,
    many: number,
    of: readonly number[],
    starting: number,
    count: number,
    upTo: boolean,
    facing: number,
    at: At,
  ): number[] => {
    const order =
      starting < 0 ? of : [...of.filter((seat) => seat >= starting), ...of.filter((seat) => seat < starting)];
    const dealt: number[] = [];
    if (order.length === 0) return dealt;
    for (let i = 0; count < 0 || i < count; i++)
      for (let pile = base; pile < base + many; pile++)
        for (const seat of order) {
          if (count < 0 && s.len[from] === 0) return dealt;
          if (upTo) {
            fill(s, from);
            if (s.len[from] === 0) return dealt;
          }
          dealt.push(deal1(s, from, pile + seat * many, facing, at));
        }
    return dealt;
  };
  return { dealN, dealAll, dealEach, dealRound };
}
