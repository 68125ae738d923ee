import type { Header, Row, WholeRecord } from '@wily-jester/core';
import { RECORD_FORM, type RecordHeader, type RecordRow } from '@wily-jester/protocol';
import { Exit, WRONG_USE } from './exit.js';

/** A record as it is written; whether it holds is not looked at. @throws Exit where it is none, or hides something */
export function recordIn(file: string, text: string): WholeRecord {
  const parsed = (line: string, i: number): unknown => {
    try {
      return JSON.parse(line);
    } catch {
      throw new Exit(`Line ${i + 1} of ${file} is no JSON.`, WRONG_USE);
    }
  };
  const [head, ...rows] = text.split('\n').flatMap((line, i) => (line.trim() === '' ? [] : [parsed(line, i)]));
  const header = head as Partial<RecordHeader> | undefined;
  if (header?.form !== RECORD_FORM)
    throw new Exit(`${file} is no record: save it with ./wily tables record TABLE > record.ndjson`, WRONG_USE);
  if (header.seed === undefined)
    throw new Exit(
      `${file} has no seed, so that it cannot be played again: it is whole for developers, and for all once the seed was shown.`,
      WRONG_USE,
    );
  return { sheet: header.sheet ?? '', header: header as unknown as Header, rows: rows as RecordRow[] as Row[] };
}
