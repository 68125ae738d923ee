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

/** Whether cards, in any order, are of a shape. */
export function fitsShape(shape: Shape, facts: CardFacts, cards: readonly number[]): boolean {
  if (cards.length < shape.least || (shape.most !== null && cards.length > shape.most)) return false;
  const row: number[] = [];
  for (const card of byPlace(facts, cards)) {
    if (!follows(shape, facts, row, card)) return false;
    row.push(card);
  }
  return true;
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
  const row: number[] = [];
  let tested = 0;
  function* grow(from: number): Iterable<readonly number[]> {
    if (++tested > mostTested) return;
    if (row.length >= shape.least) yield [...row];
    if (row.length === most) return;
    for (let i = from; i < sorted.length; i++) {
      const card = sorted[i] as number;
      if (!follows(shape, facts, row, card)) continue;
      row.push(card);
      yield* grow(i + 1);
      row.pop();
    }
  }
  yield* grow(0);
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
