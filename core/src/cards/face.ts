/**
 * Card faces: what is printed on a card. A face is held as one whole number, so that tables of
 * faces are flat:
 * - 1..52: suit (spades, hearts, diamonds, clubs) times 13 plus rank (ace 1 … king 13)
 * - 53..72: jokers, the first to the twentieth of a pack
 * - 1000 and more: numbered cards, 1000 plus the number
 */
export type Face = number;

/** Suits in deck order: 0 spades, 1 hearts, 2 diamonds, 3 clubs. */
export const SUITS = ['spades', 'hearts', 'diamonds', 'clubs'] as const;
export type SuitName = (typeof SUITS)[number];

/** Ranks as they are written, at their own number: RANKS[1] is the ace, RANKS[13] the king. */
export const RANKS = ['', 'A', '2', '3', '4', '5', '6', '7', '8', '9', '10', 'J', 'Q', 'K'] as const;

const SUIT_SIGNS = ['♠', '♥', '♦', '♣'] as const;
const SUIT_LETTERS = ['S', 'H', 'D', 'C'] as const;
/** Ranks in words, at their own number: RANK_WORDS[1] is the ace. */
export const RANK_WORDS = [
  '',
  'ace',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'jack',
  'queen',
  'king',
] as const;
const JOKER_BASE = 52;
const MOST_JOKERS = 20;
const NUMBER_BASE = 1000;
/** The greatest number that a numbered card may bear. */
export const GREATEST_NUMBER = 9999;

/** Text that is not a card; `part` is the piece that could not be read. */
export class FaceError extends Error {
  constructor(
    message: string,
    readonly part: string,
  ) {
    super(message);
    this.name = 'FaceError';
  }
}

/** The face of a suited card. @param rank 1 (ace) to 13 (king) @param suit 0 to 3, as in {@link SUITS} */
export function suited(rank: number, suit: number): Face {
  return suit * 13 + rank;
}

/** The n-th joker of a pack, counted from 1. */
export function joker(n: number): Face {
  if (n < 1 || n > MOST_JOKERS) throw new FaceError(`A pack has at most ${MOST_JOKERS} jokers.`, String(n));
  return JOKER_BASE + n;
}

/** The face of a numbered card. */
export function numbered(n: number): Face {
  if (!Number.isInteger(n) || n < 0 || n > GREATEST_NUMBER)
    throw new FaceError(`A numbered card bears 0 to ${GREATEST_NUMBER}.`, String(n));
  return NUMBER_BASE + n;
}

export const isSuited = (face: Face): boolean => face >= 1 && face <= JOKER_BASE;
export const isJoker = (face: Face): boolean => face > JOKER_BASE && face < NUMBER_BASE;
export const isNumbered = (face: Face): boolean => face >= NUMBER_BASE;

/** Rank 1 to 13 of a suited card, −1 for any other. */
export const rankOf = (face: Face): number => (isSuited(face) ? ((face - 1) % 13) + 1 : -1);
/** Suit 0 to 3 of a suited card, −1 for any other. */
export const suitOf = (face: Face): number => (isSuited(face) ? Math.floor((face - 1) / 13) : -1);
/** 0 for black, 1 for red, −1 for cards without a suit. */
export const colorOf = (face: Face): number => {
  const suit = suitOf(face);
  return suit < 0 ? -1 : suit === 1 || suit === 2 ? 1 : 0;
};
/** The number on a numbered card, −1 for any other. */
export const numberOf = (face: Face): number => (isNumbered(face) ? face - NUMBER_BASE : -1);

const texts: string[] = [];
/** A face as text: `10♠`, `★` for the first joker, `★2` for the second, `57`. */
export function faceText(face: Face): string {
  texts[face] ??= spelled(face);
  return texts[face];
}

function spelled(face: Face): string {
  if (isNumbered(face)) return String(face - NUMBER_BASE);
  if (isJoker(face)) return face === JOKER_BASE + 1 ? '★' : `★${face - JOKER_BASE}`;
  return `${RANKS[rankOf(face)]}${SUIT_SIGNS[suitOf(face)]}`;
}

/** A face in plain ASCII: `10S`, `JK`, `JK2`, `57`. */
export function faceAscii(face: Face): string {
  if (isNumbered(face)) return String(face - NUMBER_BASE);
  if (isJoker(face)) return face === JOKER_BASE + 1 ? 'JK' : `JK${face - JOKER_BASE}`;
  return `${RANKS[rankOf(face)]}${SUIT_LETTERS[suitOf(face)]}`;
}

/** A face in words, as a screen reader says it: `ten of spades`. */
export function faceName(face: Face): string {
  if (isNumbered(face)) return `number ${face - NUMBER_BASE}`;
  if (isJoker(face)) return face === JOKER_BASE + 1 ? 'joker' : `joker ${face - JOKER_BASE}`;
  return `${RANK_WORDS[rankOf(face)]} of ${SUITS[suitOf(face)]}`;
}

/**
 * Reads a face: `10♠`, `10S`, `TS`, `a♥`, `★`, `JK`, `JK2`, `57`.
 * @throws FaceError that names the part which is not understood
 */
export function parseFace(text: string): Face {
  const whole = text.trim();
  if (whole === '') throw new FaceError('A card is missing: write a rank and a suit, such as 10♠ or 10S.', text);
  const several = whole.split(/[\s,]+/).filter((part) => part !== '');
  if (several.length > 1)
    throw new FaceError(
      `"${whole}" is more than one card: write each by itself, such as "${several[0]}" "${several[1]}".`,
      whole,
    );
  const upper = whole.toUpperCase();
  const jokerForm = /^(?:★|JK)(\d{0,2})$/.exec(upper);
  if (jokerForm) return joker(jokerForm[1] ? Number(jokerForm[1]) : 1);
  if (/^\d+$/.test(upper)) return numbered(Number(upper));
  const last = [...upper].at(-1) ?? '';
  let suit = (SUIT_SIGNS as readonly string[]).indexOf(last);
  if (suit < 0) suit = (SUIT_LETTERS as readonly string[]).indexOf(last);
  const rankPart = upper.slice(0, upper.length - last.length);
  const rank = rankPart === 'T' ? 10 : (RANKS as readonly string[]).indexOf(rankPart, 1);
  if (suit < 0)
    throw new FaceError(
      `"${whole}" is not a card: "${last}" is no suit. Suits are ♠ ♥ ♦ ♣, or S H D C, after the rank.`,
      last,
    );
  if (rank < 1)
    throw new FaceError(
      `"${whole}" is not a card: "${rankPart}" is no rank. Ranks are A 2 3 4 5 6 7 8 9 10 J Q K (T is read as 10).`,
      rankPart,
    );
  return suited(rank, suit);
}

/** Reads several faces parted by spaces or commas. @throws FaceError at the first that is not a card */
export function parseFaces(text: string): Face[] {
  return text
    .split(/[\s,]+/)
    .filter((part) => part !== '')
    .map(parseFace);
}
