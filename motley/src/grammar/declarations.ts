import { nearest } from '../problems.js';
import { DECLARATION_HEADS } from './generated/words.js';
import { reservedWords } from './messages.js';

/** The words with which a declaration of a sheet, or a rehearsal, begins: first on its line. */
export const BEGINNINGS: ReadonlySet<string> = new Set([...DECLARATION_HEADS, 'rehearse']);

/** Whether a declaration begins with these words; the first may be misspelt, for in no value two names follow each other. */
const begins = (word: string, next: string | undefined): boolean =>
  BEGINNINGS.has(word) ||
  (word.length > 3 &&
    next !== undefined &&
    !reservedWords.has(word) &&
    !reservedWords.has(next) &&
    nearest(word, BEGINNINGS) !== undefined);

/** The first word of a text, past blank lines and comments. */
export function firstWord(text: string): string {
  for (const line of text.split('\n')) {
    const code = line.trim();
    if (code !== '' && !code.startsWith('//')) return /^\w*/.exec(code)?.[0] ?? '';
  }
  return '';
}

/** A stretch of a text, by offsets: the end is not part of it. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/**
 * The declarations of a text in which all braces and texts are closed: each from its first word to that of the next
 * one, or to the brace around them all. It needs no parser, so that one broken declaration hides no other.
 */
export function declarationsIn(text: string): Stretch[] {
  const found: { from: number; to: number }[] = [];
  /** How deep declarations stand: rehearsals beside each other, all others in the braces of their game. */
  const outside = firstWord(text) === 'rehearse' ? 0 : 1;
  let depth = 0;
  let isFirst = true;
  for (let i = 0; i < text.length; ) {
    const sign = text[i] as string;
    if (text.startsWith('//', i)) {
      const end = text.indexOf('\n', i);
      i = end < 0 ? text.length : end;
      continue;
    }
    if (sign === '"') {
      i = textEnd(text, i);
      isFirst = false;
      continue;
    }
    if (sign === '\n') isFirst = true;
    const [head, word, next] = /^([A-Za-z]\w*)(?:[ \t]+([A-Za-z]\w*))?/.exec(text.slice(i, i + 160)) ?? [];
    if (head !== undefined && isFirst && depth === outside && begins(word ?? '', next)) {
      const last = found.at(-1);
      if (last && last.to < 0) last.to = i;
      found.push({ from: i, to: -1 });
    }
    if (!/\s/.test(sign)) isFirst = false;
    if (sign === '{') depth++;
    if (sign === '}' && --depth < outside) {
      const last = found.at(-1);
      if (last && last.to < 0) last.to = i;
    }
    i += word?.length ?? 1;
  }
  const last = found.at(-1);
  if (last && last.to < 0) last.to = text.length;
  return found;
}

/** Where a text with the values inside it ends. */
function textEnd(text: string, start: number): number {
  let i = start + 1;
  let braces = 0;
  for (; i < text.length; i++) {
    const sign = text[i];
    if (braces === 0 && sign === '\\') i++;
    else if (sign === '{') braces++;
    else if (sign === '}') braces--;
    else if (sign === '"') {
      if (braces === 0) return i + 1;
      i = textEnd(text, i) - 1;
    }
  }
  return i;
}

/** The text with a stretch of it left blank; lines and columns of all the rest stay as they are. */
export const blanked = (text: string, { from, to }: Stretch): string =>
  text.slice(0, from) + text.slice(from, to).replace(/[^\n]/g, ' ') + text.slice(to);
