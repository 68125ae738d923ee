/** Colours the text of a sheet without reading its grammar: light enough for any page. */

import { KEYWORDS } from '../grammar/generated/words.js';

/** What a piece of a sheet is. */
export type PieceKind = 'keyword' | 'text' | 'number' | 'comment' | 'declared' | 'option' | 'value' | 'plain';
export interface Piece {
  readonly kind: PieceKind;
  readonly text: string;
}

const WORDS: ReadonlySet<string> = new Set(KEYWORDS);
const DECLARES = new Set(['setting', 'kind', 'pile', 'var', 'def', 'routine', 'bot', 'let']);
const VALUES = new Set([
  'yes',
  'no',
  'nothing',
  'spades',
  'hearts',
  'diamonds',
  'clubs',
  'red',
  'black',
  'A',
  'K',
  'Q',
  'J',
]);
const TOKEN = /(\/\/[^\n]*)|("(?:\\.|[^"\\\n])*"?)|(\d\w*)|([A-Za-z]\w*)|(\s+)|([^\s\w"])/g;

/** A number or a time; other words that begin with a digit are none. */
const NUMBER = /^\d+(s|min)?$/;

/** A sheet's text in coloured pieces, line by line. */
export function highlight(source: string): Piece[][] {
  return source.replace(/\n$/, '').split('\n').map(line);
}

function line(text: string): Piece[] {
  const pieces: Piece[] = [];
  let before = '';
  for (const [whole, comment, quoted, number, word] of text.matchAll(TOKEN)) {
    const kind: PieceKind = comment
      ? 'comment'
      : quoted
        ? 'text'
        : number
          ? NUMBER.test(number)
            ? 'number'
            : 'plain'
          : word
            ? wordKind(word, before)
            : 'plain';
    const last = pieces.at(-1);
    if (last && last.kind === kind && kind === 'plain') pieces[pieces.length - 1] = { kind, text: last.text + whole };
    else pieces.push({ kind, text: whole });
    if (whole.trim() !== '') before = whole;
  }
  return pieces;
}

function wordKind(word: string, before: string): PieceKind {
  if (before === '.') return 'plain';
  if (DECLARES.has(before)) return 'declared';
  if (before === 'option') return 'option';
  if (WORDS.has(word)) return 'keyword';
  return VALUES.has(word) ? 'value' : 'plain';
}
