/** A piece of a text that the script made: a card is named only to those who may see it. */
export type Piece =
  | string
  | number
  | { readonly card: number; readonly mask: number }
  | { readonly cards: readonly number[]; readonly masks: readonly number[] }
  | { readonly seat: number }
  | readonly Piece[];

/** How pieces are said to one viewer. */
export interface Rendering {
  /** A card's face, or `null` where the viewer may not see it. */
  card(card: number, mask: number): string | null;
  seat(seat: number): string;
}

/** Puts pieces together for one viewer. */
export function render(pieces: readonly Piece[], voice: Rendering): string {
  let text = '';
  for (const piece of pieces) {
    if (typeof piece === 'string' || typeof piece === 'number') text += piece;
    else if (Array.isArray(piece)) text += render(piece as readonly Piece[], voice);
    else if ('card' in piece) text += voice.card(piece.card, piece.mask) ?? 'a card';
    else if ('cards' in piece) text += renderCards(piece.cards, piece.masks, voice);
    else text += voice.seat((piece as { seat: number }).seat);
  }
  return text;
}

/** Several cards: the faces that are seen, and how many others there are. */
function renderCards(cards: readonly number[], masks: readonly number[], voice: Rendering): string {
  const faces = cards.map((card, i) => voice.card(card, masks[i] ?? 0));
  const seen = faces.filter((face) => face !== null);
  const unseen = faces.length - seen.length;
  const others = unseen === 1 ? 'a card' : `${unseen} cards`;
  return [...(seen.length > 0 ? [seen.join(' ')] : []), ...(unseen > 0 ? [others] : [])].join(' and ');
}

/** Words that were said in the plural before. */
const plurals = new Map<string, string>();

/** `1 card`, `3 cards`; words in -y, -s, -x, -ch, -sh change as English does. */
export function plural(n: number, word: string): string {
  if (n === 1) return `1 ${word}`;
  let many = plurals.get(word);
  if (many === undefined) {
    many = /[^aeiou]y$/.test(word) ? `${word.slice(0, -1)}ies` : `${word}${/(s|x|z|ch|sh)$/.test(word) ? 'es' : 's'}`;
    plurals.set(word, many);
  }
  return `${n} ${many}`;
}

/** A name as words, for what bears no label: `sitOut` is "sit out". */
export const wordsOf = (name: string): string => name.replace(/([A-Z])/g, (_, c: string) => ` ${c.toLowerCase()}`);

/** Signs that steer a terminal or the direction of a line, and are no text: C0 but for tab and line end, C1, and bidi signs. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: these are the signs that are looked for
export const STEERING = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]/;
/** How such a sign is written where it is shown. */
export const signCode = (sign: string): string => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`;

/** What a number takes in a text at most: the largest whole number that is exact, and its sign. */
export const NUMBER_BYTES = 17;
/** What a card takes: its rank, its suit of three bytes, a space. */
export const CARD_BYTES = 6;
/** The bytes of a text in UTF-8. */
export function utf8Length(text: string): number {
  let bytes = text.length;
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    if (unit > 0x7f) bytes++;
    // Two units of a pair take four bytes together.
    if (unit > 0x7ff && (unit < 0xd800 || unit > 0xdfff)) bytes++;
  }
  return bytes;
}
