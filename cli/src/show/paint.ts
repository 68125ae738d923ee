import { Chalk, type ChalkInstance, supportsColor } from 'chalk';

/** Colours where the output is a terminal that shows them; none anywhere else. */
export const paint: ChalkInstance = new Chalk({
  level:
    (process.stdout.isTTY || process.env.FORCE_COLOR) && supportsColor && !process.env.NO_COLOR
      ? supportsColor.level
      : 0,
});

const RED_SUITS = /[♥♦]/;
/** A hidden card. */
export const HIDDEN = '▒▒';

/** A card's face for a terminal, in the colour of its suit. */
export function card(face: string | null): string {
  if (face === null) return paint.dim(HIDDEN);
  return RED_SUITS.test(face) ? paint.red(face) : paint.bold(face);
}
export const cards = (faces: readonly (string | null)[]): string => faces.map(card).join(' ');

/** Colours the cards that a sentence names. */
export const sentence = (text: string): string => text.replace(/(?:10|[2-9AJQK])[♠♥♦♣]/g, (face) => card(face));

/** Text of a certain width as it is seen, colours not counted. */
export function padded(text: string, width: number): string {
  // biome-ignore lint/suspicious/noControlCharactersInRegex: colours are control characters
  const seen = [...text.replace(/\u001b\[[0-9;]*m/g, '')].length;
  return text + ' '.repeat(Math.max(0, width - seen));
}
