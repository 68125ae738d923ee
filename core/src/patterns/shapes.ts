import type { Shape } from '../program/types.js';

/** What a pattern looks at of cards, by card. */
export interface CardFacts {
  /** Place of a card's rank in the game's order; −1 without a rank. */
  readonly place: ArrayLike<number>;
  /** A card's rank, or its number; −1 for jokers. */
  readonly rank: ArrayLike<number>;
  readonly suit: ArrayLike<number>;
}

/** Counts what a search costs; it stops the search by throwing. */
export type Pay = (operations: number) => void;

/** Cards by place, then by suit. Sorted by insertion: they are a hand, and mostly lie in order already. */
function byPlace({ place, suit }: CardFacts, cards: readonly number[]): number[] {
  const sorted = [...cards];
  for (let i = 1; i < sorted.length; i++) {
    const card = sorted[i] as number;
    let at = i;
    for (; at > 0; at--) {
      const before = sorted[at - 1] as number;
      const order =
        (place[before] as number) - (place[card] as number) ||
        (suit[before] as number) - (suit[card] as number) ||
        before - card;
      if (order <= 0) break;
      sorted[at] = before;
    }
    sorted[at] = card;
  }
  return sorted;
}

/** Whether places follow on each other, in any order. */
function areInOrder(places: readonly number[]): boolean {
  const least = Math.min(...places);
  if (least < 0) return false;
  const met = new Uint8Array(places.length);
  for (const place of places) {
    const i = place - least;
    if (i >= met.length || met[i] === 1) return false;
    met[i] = 1;
  }
  return true;
}

/** Whether cards, in any order, are of a shape. */
export function fitsShape(shape: Shape, facts: CardFacts, cards: readonly number[]): boolean {
  const { least, most, oneRank, oneSuit, inOrder } = shape;
  if (cards.length < least || (most !== null && cards.length > most)) return false;
  const [first] = cards;
  if (first === undefined) return true;
  if (oneRank && cards.some((card) => facts.rank[card] !== facts.rank[first])) return false;
  if (oneSuit && cards.some((card) => facts.suit[card] !== facts.suit[first])) return false;
  return !inOrder || areInOrder(cards.map((card) => facts.place[card] as number));
}

/**
 * Calls back for each set of a shape among cards, its cards in the order of their ranks, and before the longer ones
 * that it grows into.
 * @param mostTested rows that are looked at, sets or not; then the search ends
 * @param pay is told what each part of the search costs
 * @returns whether a visit ended the walk by giving `true`
 */
export function eachSetOfShape(
  shape: Shape,
  facts: CardFacts,
  cards: readonly number[],
  mostTested: number,
  pay: Pay,
  visit: (set: readonly number[]) => boolean,
): boolean {
  const { least, oneRank, oneSuit, inOrder } = shape;
  const { place, rank, suit } = facts;
  pay(60 * cards.length + ((cards.length * cards.length) >> 3));
  const sorted = byPlace(facts, cards);
  const most = shape.most ?? sorted.length;
  if (least === 0 && visit([])) return true;
  const row: number[] = [];
  /** Where each card of the row stands among the sorted ones. */
  const places: number[] = [];
  let next = 0;
  for (let tested = 1; ; next++) {
    const many = row.length;
    pay(4);
    let goesOn = next < sorted.length && many < most;
    const card = sorted[next] as number;
    if (goesOn && many > 0) {
      const last = row[many - 1] as number;
      // Cards stand in the order of their places: past a gap, or past a rank, none follows any more.
      goesOn = inOrder
        ? (place[card] as number) <= (place[last] as number) + 1
        : !oneRank || place[card] === place[last];
      if (goesOn) {
        if (oneRank && rank[card] !== rank[row[0] as number]) continue;
        if (oneSuit && suit[card] !== suit[row[0] as number]) continue;
        if (inOrder && place[card] !== (place[last] as number) + 1) continue;
      }
    } else if (goesOn && inOrder && (place[card] as number) < 0) continue;
    if (!goesOn) {
      if (many === 0) return false;
      row.pop();
      next = places.pop() as number;
      continue;
    }
    if (++tested > mostTested) return false;
    pay(40 + 2 * many);
    row.push(card);
    places.push(next);
    if (row.length >= least && visit(row.slice())) return true;
  }
}

/** The set of a shape with the most cards, or none. */
export function largestOfShapes(
  shapes: readonly Shape[],
  facts: CardFacts,
  cards: readonly number[],
  mostTested: number,
  pay: Pay,
): readonly number[] {
  let found: readonly number[] = [];
  for (const shape of shapes)
    eachSetOfShape(shape, facts, cards, mostTested, pay, (set) => {
      if (set.length > found.length) found = set;
      return false;
    });
  return found;
}
