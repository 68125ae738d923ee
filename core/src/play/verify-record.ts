import { type FairLine, type LinkedLine, linkOf } from '../fair/lines.js';
import { canonical } from '../fair/messages.js';
import type { Check } from '../fair/verify.js';
import { Fault } from '../machine/fault.js';
import { WATCHER } from '../machine/runtime/visibility.js';
import { SetupError } from '../machine/setup.js';
import { plural } from '../machine/text.js';
import type { Program } from '../program/types.js';
import type { Header, Row } from './record.js';
import { ReplayError, replay, replayRow } from './replay.js';
import type { Table } from './table.js';

/** A whole record: what its table was opened with, and its choices. */
export interface WholeRecord {
  /** The hash of its sheet. */
  readonly sheet: string;
  readonly header: Header;
  readonly rows: readonly Row[];
}

/** Why something of a record does not hold; whatever it holds, nothing is thrown. */
function wrongOf(work: () => string | null): string | null {
  try {
    return work();
  } catch (error) {
    if (error instanceof ReplayError || error instanceof SetupError || error instanceof Fault) return error.message;
    return `it cannot be played again: ${error instanceof Error ? error.message : String(error)}`;
  }
}

const isLinked = (line: FairLine): line is LinkedLine => 'after' in line;

/** The first line of what everybody was told that the table played again would not have told; `null` where there is none. */
function toldOtherwise(lines: readonly FairLine[], table: Table): string | null {
  const again = [...(table.fairnessFor(WATCHER, false) ?? [])];
  const known = new Set(again.filter(isLinked).map(linkOf));
  // Of very many shuffles the first are told no more.
  const earlier = again.find((line) => line.fair === 'earlier')?.shuffles ?? 0;
  const other = lines
    .filter(isLinked)
    .find((line) => !known.has(linkOf(line)) && !(line.fair === 'shuffle' && line.shuffle <= earlier));
  if (!other) return null;
  if (other.fair === 'choices') return 'they are other choices than those that were told of';
  return `${other.fair === 'shuffle' ? `shuffle ${other.shuffle}, or a choice before it,` : `"${other.fair}"`} was told otherwise`;
}

/** What a row holds that follows from playing it again. */
const AS_KEPT = ['number', 'seat', 'by', 'ask', 'option', 'args', 'digest'] as const;

const missing = (many: number, last: number): string | null =>
  many < last ? `the record ends after choice ${many}, and choice ${last} was told of` : null;

/**
 * Plays a whole record again on its sheet, and checks that it leads where it says, and that it is the game of which a
 * viewer was told something. It never throws for what was tampered with.
 * @param sheet the hash of the text that the program was compiled of
 * @param lines what a viewer was given of the same table
 */
export function verifyRecord(
  record: WholeRecord,
  program: Program,
  sheet: string,
  lines: readonly FairLine[],
): Check[] {
  const checks: Check[] = [];
  const check = (what: string, wrong: string | null): void => {
    checks.push(wrong === null ? { what, agrees: true } : { what, agrees: false, wrong });
  };
  const [table] = lines.flatMap((line) => (line.fair === 'table' ? [line.facts] : []));
  check(
    'the record is of this table',
    record.header.fair?.table === table?.table && record.sheet === table?.sheet ? null : 'it is of another one',
  );
  check(
    'the sheet is the one that was played',
    sheet === record.sheet ? null : 'it is another text, or another version',
  );
  const { header, rows } = record;
  const bound = lines.find((line) => line.fair === 'choices');
  const last = bound?.at ?? rows.length;
  let told: string | null = 'it cannot be played again';
  const played = wrongOf(() => {
    const table = replay(program, header, [], { live: true, openings: true });
    for (const [i, row] of rows.entries()) {
      if (i === last) told = toldOtherwise(lines, table);
      const { row: again } = replayRow(table, row);
      const other = AS_KEPT.find((name) => canonical(again[name]) !== canonical(row[name]));
      if (other) return `choice ${i + 1} is written with another "${other}" than it has`;
    }
    if (rows.length <= last) told = toldOtherwise(lines, table);
    return null;
  });
  check(`the game, played again: ${plural(rows.length, 'choice')}, each of them legal`, played);
  if (bound)
    check(`choice by choice what all were told of: ${plural(last, 'choice')}`, missing(rows.length, last) ?? told);
  else if (played === null) check('what was told of it', told);
  if (rows.length > last)
    checks.push({
      what: `the last ${plural(rows.length - last, 'choice')}: nothing that was given speaks of them`,
      agrees: true,
    });
  return checks;
}
