import { type Fault, lineWords, ownLine, type Program } from '@wily-jester/core';

/** A place of a sheet as editors open it. Parts are files named like them, beside the sheet or in the language's own folder. */
export function placeWords(program: Program, file: string, line: number, column?: number): string {
  const own = ownLine(program, line);
  return `${own.part === null ? file : `${own.part}.motley`}:${own.line}${column === undefined ? '' : `:${column}`}`;
}

/** The same for machines: `part` is there where the line is a part's. */
export function placeJson(program: Program, line: number): { line: number; part?: string } {
  const own = ownLine(program, line);
  return own.part === null ? { line: own.line } : { line: own.line, part: own.part };
}

/** What went wrong in a sheet, and where. */
export const faultWords = (program: Program, fault: Fault): string =>
  `The sheet made a fault in ${lineWords(program, fault.line)}, column ${fault.column}: ${fault.message}`;
