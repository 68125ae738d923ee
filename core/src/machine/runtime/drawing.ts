import { below, type Generator } from '../../chance/generator.js';
import type { Answer } from '../code.js';
import type { StateLayout } from '../layout.js';
import type { State } from '../state.js';

type Draw = (s: State, v: number, generator: Generator) => Answer | null;

/**
 * After how many items a reservoir of one, that has seen `seen` of them, takes the next one: the chance to pass over
 * all up to `m` is `seen / m`. Exact to within 2^−32.
 */
export const skip = (generator: Generator, seen: number): number =>
  Math.floor((seen * 0x1_0000_0000) / (generator.next() + 1)) + 1;

/**
 * A function that draws an option evenly among those that have a legal way, and then one of its ways: options are
 * tried in random order, and the first that has one is taken.
 * @param begin begins to count operations anew, as each option may take as many
 */
export function drawingAmong(draws: readonly Draw[], options: readonly number[], begin: () => void): Draw {
  const [only, ...more] = options;
  if (only !== undefined && more.length === 0) {
    const draw = draws[only] as Draw;
    return (s, v, generator) => {
      begin();
      return draw(s, v, generator);
    };
  }
  const order = [...options];
  return (s, v, generator) => {
    // What was drawn before must not matter.
    for (let i = 0; i < options.length; i++) order[i] = options[i] as number;
    for (let left = order.length; left > 0; left--) {
      const at = left === 1 ? 0 : below(generator, left);
      const option = order[at] as number;
      order[at] = order[left - 1] as number;
      order[left - 1] = option;
      begin();
      const answer = (draws[option] as Draw)(s, v, generator);
      if (answer !== null) return answer;
    }
    return null;
  };
}

/** The chance of bots: what they toss with while they think. */
export class Dice {
  private generator: Generator | null = null;

  use(generator: Generator): void {
    this.generator = generator;
  }
  toss(times: number, outOf: number): boolean {
    return this.generator !== null && below(this.generator, Math.max(1, outOf)) < times;
  }
}

/** Which piles and cards stand for each other, as a sheet promises of piles that are `alike`. */
export function twins({ piles, program, faces }: StateLayout) {
  const isAlike = piles.map((placed) => program.piles[placed.decl]?.alike === true);
  const isSamePlace = (s: State, a: number, b: number): boolean =>
    faces[a] === faces[b] && s.facing[a] === s.facing[b] && s.seen[a] === s.seen[b];
  const areTwinPiles = (s: State, a: number, b: number): boolean => {
    const [one, other] = [piles[a], piles[b]];
    if (one?.decl !== other?.decl || one?.seat !== other?.seat || s.len[a] !== s.len[b]) return false;
    for (let i = 0; i < (s.len[a] as number); i++)
      if (!isSamePlace(s, s.cards[(s.start[a] as number) + i] as number, s.cards[(s.start[b] as number) + i] as number))
        return false;
    return true;
  };
  /** Whether a pile of a buffer is interchangeable with one before it. */
  const isTwinPile = (s: State, items: readonly number[], i: number): boolean => {
    const pile = items[i] as number;
    if (!isAlike[pile]) return false;
    for (let j = 0; j < i; j++) if (areTwinPiles(s, items[j] as number, pile)) return true;
    return false;
  };
  /** Whether a card of a buffer is interchangeable with one before it: of the same face, in one pile that is alike. */
  const isTwinCard = (s: State, items: readonly number[], i: number): boolean => {
    const card = items[i] as number;
    if (!isAlike[s.where[card] as number]) return false;
    for (let j = 0; j < i; j++) {
      const other = items[j] as number;
      if (s.where[other] === s.where[card] && isSamePlace(s, other, card)) return true;
    }
    return false;
  };
  return { isTwinPile, isTwinCard };
}
