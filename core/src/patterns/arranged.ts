import type { Shape } from '../program/types.js';
import { type CardFacts, eachSetOfShape, type Pay } from './shapes.js';

/** Most cards that stand in any group, and most groups among them. */
export const MOST_ARRANGED = { cards: 20, groups: 4_096 };
/** Weights are whole numbers within this. */
export const HEAVIEST = 1_000_000_000;

/** More cards or groups than are looked at. */
export class TooManyToArrange extends Error {
  override readonly name = 'TooManyToArrange';
  constructor(
    readonly cards: number,
    readonly groups: number,
  ) {
    super('too many to arrange');
  }
}

/** A group of cards: a bit for each of those that stand in any group, in the order of the list. */
interface Group {
  readonly mask: number;
  readonly cards: readonly number[];
  readonly shape: number;
}

/** A cost, how many cards are left and in how many groups, as one number that compares in this order: exact in 2^53. */
const packed = (cost: number, left: number, groups: number): number => cost * 1_024 + left * 32 + groups;

/**
 * The best arrangement of cards into groups of some shapes that share no card: the sum of the weights of the cards in
 * no group is least; of those the one with fewer cards left, then with fewer groups, then the one that groups the
 * first card on which two differ, with the shape written first, in the larger group, with the earlier cards.
 * By the lowest card of what remains: it is left, or it stands in one of the groups that it begins (dynamic
 * programming over sets of cards, as in Held and Karp, 1962).
 * @param cards in the order of their list
 * @param weights of the cards, likewise
 * @returns groups by shape, then by their first card; the cards of each by rank, then by suit
 * @throws TooManyToArrange
 */
export function arrangedIn(
  shapes: readonly Shape[],
  facts: CardFacts,
  cards: readonly number[],
  weights: readonly number[],
  pay: Pay,
): number[][] {
  const found: { cards: readonly number[]; shape: number }[] = [];
  const known = new Set<string>();
  for (const [shape, of] of shapes.entries())
    eachSetOfShape(of, facts, cards, Number.MAX_SAFE_INTEGER, pay, (set) => {
      // A set of two shapes counts as the first.
      const name = shapes.length > 1 ? [...set].sort((a, b) => a - b).join() : '';
      if (name === '' || !known.has(name)) {
        if (name !== '') known.add(name);
        found.push({ cards: set, shape });
      }
      return found.length > MOST_ARRANGED.groups;
    });
  const grouped = new Set(found.flatMap((group) => group.cards));
  const places = new Map<number, number>();
  const costs: number[] = [];
  for (const [i, card] of cards.entries())
    if (grouped.has(card)) {
      places.set(card, places.size);
      costs.push(weights[i] as number);
    }
  const many = places.size;
  if (many > MOST_ARRANGED.cards || found.length > MOST_ARRANGED.groups) throw new TooManyToArrange(many, found.length);
  const byFirst = groupsByFirst(found, places, many);
  const best = bestOf(byFirst, costs, many, pay);
  const chosen: Group[] = [];
  for (let left = 2 ** many - 1; left !== 0; ) {
    const first = 31 - Math.clz32(left & -left);
    const group = byFirst[first]?.[(best.get(left) as Best).group];
    if (group) chosen.push(group);
    left &= group ? ~group.mask : ~(1 << first);
  }
  return chosen
    .sort((a, b) => a.shape - b.shape || (a.mask & -a.mask) - (b.mask & -b.mask))
    .map((group) => [...group.cards]);
}

/** The groups of each card that they begin with, those that are preferred among equals first. */
function groupsByFirst(
  found: readonly { readonly cards: readonly number[]; readonly shape: number }[],
  places: ReadonlyMap<number, number>,
  many: number,
): Group[][] {
  const byFirst: Group[][] = Array.from({ length: many }, () => []);
  for (const { cards, shape } of found) {
    let mask = 0;
    for (const card of cards) mask |= 1 << (places.get(card) as number);
    byFirst[31 - Math.clz32(mask & -mask)]?.push({ mask, cards, shape });
  }
  for (const groups of byFirst)
    groups.sort((a, b) => a.shape - b.shape || b.cards.length - a.cards.length || earlier(a.mask, b.mask));
  return byFirst;
}

/** Of two groups of as many cards, the one whose cards come earlier: the lowest bit on which they differ decides. */
function earlier(a: number, b: number): number {
  const differ = a ^ b;
  return (a & differ & -differ) !== 0 ? -1 : 1;
}

interface Best {
  readonly worth: number;
  /** Which of the first card's groups; −1 where the card is left. */
  readonly group: number;
}

/** For each set of cards that is met, what is best for it. */
function bestOf(
  byFirst: readonly (readonly Group[])[],
  costs: readonly number[],
  many: number,
  pay: Pay,
): Map<number, Best> {
  const best = new Map<number, Best>();
  const of = (left: number): number => {
    if (left === 0) return 0;
    const known = best.get(left);
    if (known) return known.worth;
    const first = 31 - Math.clz32(left & -left);
    const groups = byFirst[first] as readonly Group[];
    pay(10 + 2 * groups.length);
    let worth = Number.POSITIVE_INFINITY;
    let chosen = -1;
    for (const [i, { mask }] of groups.entries()) {
      if ((mask & left) !== mask) continue;
      const value = packed(0, 0, 1) + of(left & ~mask);
      if (value < worth) {
        worth = value;
        chosen = i;
      }
    }
    const alone = packed(costs[first] as number, 1, 0) + of(left & ~(1 << first));
    if (alone < worth) {
      worth = alone;
      chosen = -1;
    }
    best.set(left, { worth, group: chosen });
    return worth;
  };
  of(2 ** many - 1);
  return best;
}
