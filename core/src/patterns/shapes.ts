import type { Shape } from '../program/types.js';

/** What a pattern looks at of cards. */
export interface CardFacts {
  /** Place of a card's rank in the game's order; −1 without a rank. */
  place(card: number): number;
  /** A card's rank, or its number; −1 for jokers. */
  rank(card: number): number;
  suit(card: number): number;
}

const byPlace = (facts: CardFacts, cards: readonly number[]): number[] =>
  [...cards].sort((a, b) => facts.place(a) - facts.place(b) || facts.suit(a) - facts.suit(b) || a - b);

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
  if (oneRank && cards.some((card) => facts.rank(card) !== facts.rank(first))) return false;
  if (oneSuit && cards.some((card) => facts.suit(card) !== facts.suit(first))) return false;
  return !inOrder || areInOrder(cards.map((card) => facts.place(card)));
}

/**
 * Calls back for each set of a shape among cards, its cards in the order of their ranks, and before the longer ones
 * that it grows into.
 * @param mostTested rows that are looked at, sets or not; then the search ends
 * @returns whether a visit ended the walk by giving `true`
 */
export function eachSetOfShape(
  shape: Shape,
  facts: CardFacts,
  cards: readonly number[],
  mostTested: number,
  visit: (set: readonly number[]) => boolean,
): boolean {
  const { least, oneRank, oneSuit, inOrder } = shape;
  const sorted = byPlace(facts, cards);
  const most = shape.most ?? sorted.length;
  const place = sorted.map((card) => facts.place(card));
  const rank = sorted.map((card) => facts.rank(card));
  const suit = sorted.map((card) => facts.suit(card));
  if (least === 0 && visit([])) return true;
  const row: number[] = [];
  let next = 0;
  for (let tested = 1; ; next++) {
    const last = row.at(-1);
    // Cards stand in the order of their places: past a gap, or past a rank, none follows any more.
    const isAtEnd =
      next >= sorted.length ||
      row.length === most ||
      (last !== undefined &&
        ((inOrder && (place[next] as number) > (place[last] as number) + 1) ||
          (oneRank && place[next] !== place[last])));
    if (isAtEnd) {
      if (last === undefined) return false;
      row.pop();
      next = last;
      continue;
    }
    if (last === undefined ? inOrder && (place[next] as number) < 0 : !follows(last, next)) continue;
    if (++tested > mostTested) return false;
    row.push(next);
    if (row.length >= least && visit(row.map((i) => sorted[i] as number))) return true;
  }

  function follows(last: number, next: number): boolean {
    if (oneRank && rank[next] !== rank[row[0] as number]) return false;
    if (oneSuit && suit[next] !== suit[row[0] as number]) return false;
    return !inOrder || place[next] === (place[last] as number) + 1;
  }
}

/** The set of a shape with the most cards, or none. */
export function largestOfShapes(
  shapes: readonly Shape[],
  facts: CardFacts,
  cards: readonly number[],
  mostTested: number,
): readonly number[] {
  let found: readonly number[] = [];
  for (const shape of shapes)
    eachSetOfShape(shape, facts, cards, mostTested, (set) => {
      if (set.length > found.length) found = set;
      return false;
    });
  return found;
}
