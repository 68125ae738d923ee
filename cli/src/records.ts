import type { Header, Row, WholeRecord } from '@wily-jester/core';
import { RECORD_FORM, recordHeaderSchema, recordRowSchema } from '@wily-jester/protocol';
import { Ajv, type ValidateFunction } from 'ajv';
import { Exit, WRONG_USE } from './exit.js';

/** What stands in a line. @throws Exit where it is no JSON */
function parsed(file: string, line: string, at: number): unknown {
  try {
    return JSON.parse(line);
  } catch {
    throw new Exit(`Line ${at} of ${file} is no JSON.`, WRONG_USE);
  }
}

/** What is wrong with a value, in words. */
const wrongWith = ({ errors }: ValidateFunction): string => {
  const [first] = errors ?? [];
  return first ? `${first.instancePath.slice(1).replaceAll('/', '.') || 'it'} ${first.message}` : 'it has another form';
};

/** A whole record as it is written; whether it holds is not looked at. @throws Exit where it is none, or hides something */
export function recordIn(file: string, text: string): WholeRecord {
  const ajv = new Ajv({ strict: false });
  const [isHeader, isRow] = [ajv.compile(recordHeaderSchema), ajv.compile(recordRowSchema)];
  const lines = text.split('\n').flatMap((line, i) => (line.trim() === '' ? [] : [{ at: i + 1, line }]));
  const [first, ...rest] = lines.map(({ at, line }) => ({ at, value: parsed(file, line, at) }));
  const header = first?.value as
    | { readonly form?: unknown; readonly seed?: unknown; readonly sheet: string }
    | undefined;
  if (header?.form !== RECORD_FORM)
    throw new Exit(`${file} is no record: save it with ./wily tables record TABLE > record.ndjson`, WRONG_USE);
  if (!(isHeader(header) as boolean))
    throw new Exit(`${file} is no record: in its first line ${wrongWith(isHeader)}.`, WRONG_USE);
  if (header.seed === undefined)
    throw new Exit(
      `${file} has no seed, so that it cannot be played again: it is whole for developers, and for all once the seed was shown.`,
      WRONG_USE,
    );
  const rows = rest.map(({ at, value }): Row => {
    if (!(isRow(value) as boolean))
      throw new Exit(`Line ${at} of ${file} is no choice of a whole record: ${wrongWith(isRow)}.`, WRONG_USE);
    const row = value as unknown as Row;
    if (row.option === null || row.args === null || row.digest === undefined)
      throw new Exit(`Line ${at} of ${file} is no choice of a whole record: it hides what was chosen.`, WRONG_USE);
    return row;
  });
  return { sheet: header.sheet, header: header as unknown as Header, rows };
}
