import { STEERING, signCode } from '@wily-jester/core';
import { paint } from './paint.js';

/** What our own colours are made of: no other sequence is let through, whoever wrote it. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: colours are control characters
const COLOURS = /(\u001b\[(?:[124]|22|24|3[0-7]|39|9[0-7])m)/;
/** Line ends of another system, as CSV has them (RFC 4180), are none. */
const EACH = new RegExp(`(?!\\r\\n)${STEERING.source}`, 'g');

/**
 * A text as a terminal may show it: signs that would steer it are written out, as JSON writes them, so that lines of
 * JSON mean the same.
 */
export function harmless(text: string): string {
  if (!STEERING.test(text)) return text;
  return text
    .split(COLOURS)
    .map((part, i) => (i % 2 === 1 && paint.level > 0 ? part : part.replace(EACH, signCode)))
    .join('');
}

/** Writes what is asked for. */
export const write = (text: string): void => {
  process.stdout.write(harmless(text));
};
export const print = (text = ''): void => write(`${text}\n`);
export const printJson = (value: unknown): void => print(JSON.stringify(value, null, 2));
/** Says something beside it: what is wrong, what was written, how far something is. */
export const complain = (text: string): void => {
  process.stderr.write(harmless(`${text}\n`));
};
