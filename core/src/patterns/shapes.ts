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

/** Whether a card may come after others in a row that fits the shape so far. */
function follows(shape: Shape, facts: CardFacts, row: readonly number[], card: number): boolean {
  const [first] = row;
  const last = row.at(-1);
  if (first === undefined || last === undefined) return !shape.inOrder || facts.place(card) >= 0;
  if (shape.oneRank && facts.rank(card) !== facts.rank(first)) return false;
  if (shape.oneSuit && facts.suit(card) !== facts.suit(first)) return false;
  return !shape.inOrder || facts.place(card) === facts.place(last) + 1;
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
  if (oneRank && cards.some((card) => facts.rank(card) !== facts.rank(first))) return false;
  if (oneSuit && cards.some((card) => facts.suit(card) !== facts.suit(first))) return false;
  return !inOrder || areInOrder(cards.map((card) => facts.place(card)));
}

/**
 * All sets of a shape among cards, each in the order of its ranks.
 * @param mostTested rows that are looked at, sets or not; then the search ends
 */
export function* setsOfShape(
  shape: Shape,
  facts: CardFacts,
  cards: readonly number[],
  mostTested: number,
): Iterable<readonly number[]> {
  const sorted = byPlace(facts, cards);
  const most = shape.most ?? sorted.length;
  if (shape.least === 0) yield [];
  // Depth first, so that each row comes before the longer ones that it grows into.
  const places: number[] = [];
  const row: number[] = [];
  let next = 0;
  for (let tested = 1; ; next++) {
    const card = sorted[next];
    if (card === undefined || row.length === most) {
      const last = places.pop();
      if (last === undefined) return;
      row.pop();
      next = last;
      continue;
    }
    if (!follows(shape, facts, row, card)) continue;
    if (++tested > mostTested) return;
    row.push(card);
    places.push(next);
    if (row.length >= shape.least) yield [...row];
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
    for (const set of setsOfShape(shape, facts, cards, mostTested)) if (set.length > found.length) found = set;
  return found;
}
