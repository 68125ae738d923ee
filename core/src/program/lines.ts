import type { Program } from './types.js';

/** Where a line of a whole sheet stands in what was written: in the sheet itself, or in one of its parts. */
export interface OwnLine {
  /** The part's name, or `null` for the sheet itself. */
  readonly part: string | null;
  readonly line: number;
}

/** The line that was written, for a line of the whole sheet. */
export function ownLine({ parts = [] }: Pick<Program, 'parts'>, line: number): OwnLine {
  const part = parts.find(({ from, to }) => line >= from && line <= to);
  return part ? { part: part.name, line: line - part.from + part.own } : { part: null, line };
}

/** The same in words. */
export function lineWords(program: Pick<Program, 'parts'>, line: number): string {
  const own = ownLine(program, line);
  return own.part === null ? `line ${own.line}` : `line ${own.line} of part "${own.part}"`;
}
