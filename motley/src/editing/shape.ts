import { highlight, type PieceKind } from '../highlight/highlight.js';

/** Lines that can be folded away, from 0; a block from its head, or several lines of notes. */
export interface Fold {
  readonly from: number;
  readonly to: number;
  readonly kind: 'block' | 'comment';
}

/** The blocks and the rows of notes of a text. It needs no parser, so that a broken text folds as well. */
export function foldsOf(text: string): Fold[] {
  const folds: Fold[] = [];
  const open: number[] = [];
  let notes = -1;
  const lines = highlight(text);
  for (const [i, pieces] of lines.entries()) {
    const isNote = pieces.length > 0 && pieces.every(({ kind, text: t }) => kind === 'comment' || t.trim() === '');
    if (isNote && notes < 0) notes = i;
    if (!isNote && notes >= 0) {
      if (i - 1 > notes) folds.push({ from: notes, to: i - 1, kind: 'comment' });
      notes = -1;
    }
    for (const { kind, text: t } of pieces)
      if (kind === 'plain')
        for (const sign of t) {
          if (sign === '{') open.push(i);
          const from = sign === '}' ? open.pop() : undefined;
          if (from !== undefined && i - 1 > from) folds.push({ from, to: i - 1, kind: 'block' });
        }
  }
  return folds.sort((a, b) => a.from - b.from || b.to - a.to);
}

/** So many braces that are opened in a line are not closed again in it. */
function openedIn(line: string): number {
  let depth = 0;
  for (const { kind, text } of highlight(line)[0] ?? [])
    if (kind === 'plain')
      for (const sign of text) {
        if ('{(['.includes(sign)) depth++;
        if ('})]'.includes(sign)) depth = Math.max(0, depth - 1);
      }
  return depth;
}
const spacesAt = (line: string): number => line.length - line.trimStart().length;

/**
 * How far a line is set in, in spaces, by those before it: as the one before, two more after what that opens, and what
 * closes a block as far as the line that opened it. It needs no parser: texts are indented as they are written.
 * @param before the lines before it
 * @param after what stands in it already
 */
export function indentOf(before: readonly string[], after: string): number {
  const last = before.findLastIndex((line) => line.trim() !== '');
  const line = before[last];
  if (line === undefined) return 0;
  const inner = spacesAt(line) + (openedIn(line) > 0 ? 2 : 0);
  if (!/^\s*[})\]]/.test(after)) return inner;
  let open = 0;
  for (let i = last; i >= 0; i--) {
    for (const { kind, text } of [...(highlight(before[i] ?? '')[0] ?? [])].reverse())
      if (kind === 'plain')
        for (const sign of [...text].reverse()) {
          if ('})]'.includes(sign)) open++;
          if ('{(['.includes(sign) && --open < 0) return spacesAt(before[i] ?? '');
        }
  }
  return Math.max(0, inner - 2);
}

/** The kinds of coloured words that editors are told of, in the order of their numbers. */
export const TOKEN_KINDS = ['keyword', 'string', 'number', 'comment', 'variable', 'function', 'enumMember'] as const;

const TOKENS: Readonly<Partial<Record<PieceKind, (typeof TOKEN_KINDS)[number]>>> = {
  keyword: 'keyword',
  text: 'string',
  number: 'number',
  comment: 'comment',
  declared: 'variable',
  option: 'function',
  value: 'enumMember',
};

/** A coloured stretch of one line. */
export interface Token {
  readonly line: number;
  readonly column: number;
  readonly length: number;
  readonly kind: number;
}

export function tokensOf(text: string): Token[] {
  return highlight(text).flatMap((pieces, line) => {
    let column = 0;
    return pieces.flatMap(({ kind, text: t }): Token[] => {
      const at = column;
      column += t.length;
      const name = TOKENS[kind];
      return name === undefined ? [] : [{ line, column: at, length: t.length, kind: TOKEN_KINDS.indexOf(name) }];
    });
  });
}

/** Where the word begins that ends at a place; the place itself where none does. */
export function wordStart(text: string, offset: number): number {
  let start = offset;
  while (start > 0 && /\w/.test(text[start - 1] as string)) start--;
  return start;
}

/** The call around a place: the name before its parenthesis, and which of its values is being written. */
export function callAround(
  text: string,
  offset: number,
): { readonly name: string; readonly index: number } | undefined {
  let depth = 0;
  let index = 0;
  for (let i = offset - 1; i >= 0; i--) {
    const sign = text[i];
    if (sign === '\n' || sign === '{' || sign === '}' || sign === '"') return undefined;
    if (sign === ')' || sign === ']') depth++;
    if (sign === '[' && --depth < 0) return undefined;
    if (sign === ',' && depth === 0) index++;
    if (sign !== '(' || --depth >= 0) continue;
    const name = text.slice(wordStart(text, i), i);
    return /^[A-Za-z]/.test(name) ? { name, index } : undefined;
  }
  return undefined;
}
