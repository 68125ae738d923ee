import { type Face, GREATEST_NUMBER, joker, numbered, suited } from './face.js';

/** A deck's form before copies are counted. Ranks are 1 (ace) to 13 (king), suits 0 to 3 in deck order. */
export type DeckForm =
  | { readonly kind: 'standard' }
  | { readonly kind: 'ranks'; readonly ranks: readonly number[]; readonly suits: readonly number[] }
  | { readonly kind: 'numbered'; readonly from: number; readonly to: number }
  | { readonly kind: 'of'; readonly faces: readonly Face[] };

export interface DeckSpec {
  readonly form: DeckForm;
  /** How many packs, one after the other; 1 or more. */
  readonly copies: number;
  /** Jokers in each pack. */
  readonly jokers: number;
}

/** The greatest number of cards on one table. */
export const MOST_CARDS = 2000;

export class DeckError extends Error {
  override readonly name = 'DeckError';
}

/**
 * Ranks from one to another going up, `7..A` (7 8 9 10 J Q K A) or `A..K`: the ace stands at the
 * bottom when the range begins with it, at the top when it ends with it.
 * @throws DeckError where the range runs backwards
 */
export function rankRange(from: number, to: number): number[] {
  const top = to === 1 && from !== 1 ? 14 : to;
  if (top < from) throw new DeckError('A range of ranks goes up, such as 7..A or A..K.');
  const ranks: number[] = [];
  for (let r = from; r <= top; r++) ranks.push(r === 14 ? 1 : r);
  return ranks;
}

/** One pack in deck order: suits spades hearts diamonds clubs, ranks A to K in each, then jokers. */
function onePack(form: DeckForm, jokers: number): Face[] {
  const faces: Face[] = [];
  switch (form.kind) {
    case 'standard':
      for (let s = 0; s < 4; s++) for (let r = 1; r <= 13; r++) faces.push(suited(r, s));
      break;
    case 'ranks': {
      const ranks = [...form.ranks].sort((a, b) => a - b);
      for (const s of [...form.suits].sort((a, b) => a - b)) for (const r of ranks) faces.push(suited(r, s));
      break;
    }
    case 'numbered':
      if (form.to < form.from) throw new DeckError('A numbered deck goes up, such as 1..60.');
      if (form.to > GREATEST_NUMBER) throw new DeckError(`A numbered card bears at most ${GREATEST_NUMBER}.`);
      for (let n = form.from; n <= form.to; n++) faces.push(numbered(n));
      break;
    case 'of':
      faces.push(...form.faces);
      break;
  }
  for (let j = 1; j <= jokers; j++) faces.push(joker(j));
  return faces;
}

/**
 * The faces of a whole deck in deck order; a card's identity is its place in this list.
 * The order never changes: records and digests rest on it.
 * @throws DeckError for an empty deck, for one of over 2,000 cards, or for a range that runs backwards
 */
export function deckFaces(decks: readonly DeckSpec[]): Face[] {
  const faces: Face[] = [];
  for (const deck of decks) {
    if (!Number.isInteger(deck.copies) || deck.copies < 1) throw new DeckError('A deck has one copy or more.');
    const pack = onePack(deck.form, deck.jokers);
    if (faces.length + pack.length * deck.copies > MOST_CARDS)
      throw new DeckError(`A table holds at most ${MOST_CARDS} cards.`);
    for (let copy = 0; copy < deck.copies; copy++) faces.push(...pack);
  }
  if (faces.length === 0) throw new DeckError('The deck has no cards.');
  return faces;
}
