import type { Header, Row, WholeRecord } from '@wily-jester/core';
import { RECORD_FORM, type RecordHeader } from '@wily-jester/protocol';
import { Exit, WRONG_USE } from './exit.js';

/** What stands in a line. @throws Exit where it is no JSON */
function parsed(file: string, line: string, at: number): Record<string, unknown> {
  try {
    const value: unknown = JSON.parse(line);
    return typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {};
  } catch {
    throw new Exit(`Line ${at} of ${file} is no JSON.`, WRONG_USE);
  }
}

/** Whether a line has the form of a choice that hides nothing. */
const isRow = (row: Record<string, unknown>): boolean =>
  Number.isSafeInteger(row.number) &&
  Number.isSafeInteger(row.ask) &&
  (row.seat === null || Number.isSafeInteger(row.seat)) &&
  typeof row.by === 'string' &&
  typeof row.option === 'string' &&
  typeof row.args === 'object' &&
  row.args !== null &&
  typeof row.digest === 'string';

/** A whole record as it is written; whether it holds is not looked at. @throws Exit where it is none, or hides something */
export function recordIn(file: string, text: string): WholeRecord {
  const lines = text.split('\n').flatMap((line, i) => (line.trim() === '' ? [] : [{ at: i + 1, line }]));
  const [first, ...rest] = lines.map(({ at, line }) => ({ at, value: parsed(file, line, at) }));
  const header = first?.value as Partial<RecordHeader> | undefined;
  if (header?.form !== RECORD_FORM || !Array.isArray(header.seats) || typeof header.sheet !== 'string')
    throw new Exit(`${file} is no record: save it with ./wily tables record TABLE > record.ndjson`, WRONG_USE);
  if (typeof header.seed !== 'string')
    throw new Exit(
      `${file} has no seed, so that it cannot be played again: it is whole for developers, and for all once the seed was shown.`,
      WRONG_USE,
    );
  const rows = rest.map(({ at, value }): Row => {
    if (!isRow(value)) throw new Exit(`Line ${at} of ${file} is no choice of a whole record.`, WRONG_USE);
    return value as unknown as Row;
  });
  return { sheet: header.sheet, header: header as unknown as Header, rows };
}
