/** A piece of a text that the script made: a card is named only to those who may see it. */
export type Piece =
  | string
  | number
  | { readonly card: number; readonly mask: number }
  | { readonly seat: number }
  | readonly Piece[];

/** How pieces are said to one viewer. */
export interface Voice {
  card(card: number, mask: number): string;
  seat(seat: number): string;
}

/** Puts pieces together for one viewer. */
export function voiced(pieces: readonly Piece[], voice: Voice): string {
  let text = '';
  for (const piece of pieces) {
    if (typeof piece === 'string' || typeof piece === 'number') text += piece;
    else if (Array.isArray(piece)) text += voiced(piece as readonly Piece[], voice);
    else if ('card' in piece) text += voice.card(piece.card, piece.mask);
    else text += voice.seat((piece as { seat: number }).seat);
  }
  return text;
}

/** `1 card`, `3 cards`; words in -y, -s, -x, -ch, -sh change as English does. */
export function plural(n: number, word: string): string {
  if (n === 1) return `1 ${word}`;
  if (/[^aeiou]y$/.test(word)) return `${n} ${word.slice(0, -1)}ies`;
  return `${n} ${word}${/(s|x|z|ch|sh)$/.test(word) ? 'es' : 's'}`;
}
