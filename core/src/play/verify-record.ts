import { type FairLine, type LinkedLine, linkOf } from '../fair/lines.js';
import type { Check } from '../fair/verify.js';
import { Fault } from '../machine/fault.js';
import { WATCHER } from '../machine/runtime/visibility.js';
import { SetupError } from '../machine/setup.js';
import type { Program } from '../program/types.js';
import type { Header, Row } from './record.js';
import { ReplayError, replay } from './replay.js';
import type { Table } from './table.js';

/** A whole record: what its table was opened with, and its choices. */
export interface WholeRecord {
  /** The hash of its sheet. */
  readonly sheet: string;
  readonly header: Header;
  readonly rows: readonly Row[];
}

/** Plays a record again; gives its table, or why it does not hold. */
function playedAgain(program: Program, { header, rows }: WholeRecord): Table | string {
  try {
    return replay(program, header, rows, { live: true, openings: true });
  } catch (error) {
    if (error instanceof ReplayError || error instanceof SetupError || error instanceof Fault) return error.message;
    throw error;
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
  return `${other.fair === 'shuffle' ? `shuffle ${other.shuffle}` : `"${other.fair}"`} was told otherwise`;
}

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
  const again = playedAgain(program, record);
  const many = record.rows.length;
  check(
    `the game, played again: ${many} ${many === 1 ? 'choice' : 'choices'}, each of them legal`,
    typeof again === 'string' ? again : null,
  );
  if (typeof again !== 'string') check('what was told of it', toldOtherwise(lines, again));
  return checks;
}
