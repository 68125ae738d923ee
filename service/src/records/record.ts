import { type Header, type Row, SEMANTICS, type Waiting } from '@wily-jester/core';
import { RECORD_FORM, type RecordHeader, type RecordRow, type TableSummary } from '@wily-jester/protocol';
import { Op } from 'sequelize';
import { Problem } from '../problems.js';
import { ChoiceRow, TableRow } from '../storage/models.js';
import { checked } from '../validate.js';
import { isSeedShown } from './fairness.js';
import { headerOf } from './rows.js';

/** The table whose record is written, as far as more of it is known than its rows. */
export interface RecordedTable {
  readonly waiting: Waiting;
  /** The values of a choice as a viewer may know them. */
  argsFor(args: Row['args'], viewer: number): Row['args'];
  /** Looks at it once what is under way there is done. */
  read<T>(look: () => T): Promise<T>;
}

/** How many rows are read, and written, at a time. */
const PAGE = 500;

const hidden = { option: null, args: null } as const;

/**
 * A table's record as NDJSON, page by page: a header line, then a line a choice. The seed, promised cards, digests
 * (over all cards: where few are hidden they could be found by trying) and the values of answers that are not in yet go
 * to developers only; all others read of cards what events tell them. Once everybody is shown the seed the record is whole
 * for all.
 * @param viewer whose eyes read it; `null` for a developer, who reads it whole
 * @param table absent where it cannot be played again: then only developers read what was chosen
 */
export async function* recordOf(
  summary: TableSummary,
  table: RecordedTable | null,
  viewer: number | null,
): AsyncGenerator<string> {
  const row = await TableRow.findByPk(summary.id, { rejectOnEmpty: true });
  const { seed, seats, gets, branches, fair } = headerOf(row);
  const whole = viewer === null || (await isSeedShown(row, table?.waiting.kind === 'over'));
  const header: RecordHeader = {
    form: RECORD_FORM,
    table: row.id,
    game: summary.game,
    sheet: row.sheetHash,
    semantics: SEMANTICS,
    generator: fair ? 'chacha20/2' : 'chacha20',
    settings: summary.settings,
    seats: [...seats],
    commitment: row.commitment,
    promisesFairness: summary.promisesFairness,
    opened: summary.opened,
    ...(fair ? { fair } : {}),
    ...(whole ? { seed, gets: { ...gets } } : {}),
    ...(whole && branches ? { branches: branches.map((branch) => ({ ...branch })) } : {}),
  };
  yield `${JSON.stringify(header)}\n`;
  for (let last = 0; ; ) {
    const rows = await ChoiceRow.findAll({
      where: { tableId: row.id, number: { [Op.gt]: last } },
      order: [['number', 'ASC']],
      limit: PAGE,
      raw: true,
    });
    // Read after the rows: of an ask that is over by then, all may be shown.
    const waiting = table ? await table.read(() => table.waiting) : null;
    const shown = (choice: ChoiceRow): Pick<RecordRow, 'option' | 'args'> => {
      const args = JSON.parse(choice.args) as Row['args'];
      if (whole) return { option: choice.option, args: args as RecordRow['args'] };
      const isOpen =
        waiting?.kind === 'ask' && waiting.together && choice.ask === waiting.ask && choice.number > choice.ask;
      if (!table || isOpen) return hidden;
      return { option: choice.option, args: table.argsFor(args, viewer) as RecordRow['args'] };
    };
    const lines = rows.map(
      (choice): RecordRow => ({
        number: choice.number,
        seat: choice.seat,
        by: choice.by as Row['by'],
        ask: choice.ask,
        ...shown(choice),
        ...(whole ? { digest: choice.digest } : {}),
        at: choice.at.toISOString(),
      }),
    );
    if (lines.length > 0) yield `${lines.map((line) => JSON.stringify(line)).join('\n')}\n`;
    if (rows.length < PAGE) return;
    last = rows.at(-1)?.number ?? last;
  }
}

/** A record that was read: what its table was opened with, and its choices. */
export interface ReadRecord {
  readonly sheet: string;
  readonly game: string;
  readonly header: Header;
  readonly rows: readonly Row[];
}

/** Reads a record's text. @throws Problem which names the line that does not fit */
export function readRecord(text: string): ReadRecord {
  const lines = text.split('\n').flatMap((line, i) => (line.trim() === '' ? [] : [{ at: i + 1, line }]));
  const parse = ({ at, line }: { at: number; line: string }): unknown => {
    try {
      return JSON.parse(line);
    } catch {
      throw new Problem('malformed', `Line ${at} of the record is not JSON.`, { line: at });
    }
  };
  const [first, ...rest] = lines;
  if (!first)
    throw new Problem('malformed', 'The record is empty: its first line tells what the table was opened with.');
  const head = within(first.at, () => checked('recordHeader', parse(first)));
  if (head.semantics !== SEMANTICS)
    throw new Problem(
      'malformed',
      `The record was written under semantics ${head.semantics}, and this version runs ${SEMANTICS}.`,
    );
  if (head.seed === undefined)
    throw new Problem(
      'malformed',
      'The record has no seed, so it cannot be replayed: save it with a developer key, which writes the whole record.',
    );
  const rows = rest.map((line, i): Row => {
    const row = within(line.at, () => checked('recordRow', parse(line)));
    if (row.number !== i + 1)
      throw new Problem('malformed', `Line ${line.at} should be choice ${i + 1}, and is choice ${row.number}.`, {
        line: line.at,
      });
    const { option, args, digest } = row;
    if (option === null || args === null || digest === undefined)
      throw new Problem('malformed', `Line ${line.at} hides what was chosen: save the whole record.`, {
        line: line.at,
      });
    return { ...row, option, digest, args: args as Row['args'] };
  });
  const { seats, settings, seed, gets, branches, fair } = head;
  const header: Header = {
    seats,
    settings,
    seed,
    gets: gets ?? {},
    ...(branches ? { branches } : {}),
    ...(fair ? { fair } : {}),
  };
  return { sheet: head.sheet, game: head.game, header, rows };
}

/** Says in which line a problem lies. */
function within<T>(at: number, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (error instanceof Problem && error.extra.line === undefined)
      throw new Problem('malformed', `Line ${at} of the record: ${error.message}`, { line: at });
    throw error;
  }
}
