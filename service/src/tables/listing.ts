import type { TableSummary } from '@wily-jester/protocol';
import { col, fn, Op, type WhereOptions } from 'sequelize';
import { Problem } from '../problems.js';
import { headerOf } from '../records/rows.js';
import { ChoiceRow, FaultRow, SheetRow, TableRow, type TableStatus } from '../storage/models.js';
import type { ToldFault } from './faults.js';
import type { Room } from './room.js';
import { type SeatHolder, Seats } from './seats.js';
import { summaryOf } from './summary.js';

const PAGE = 50;
const LARGEST_PAGE = 200;
const STATUSES: ReadonlySet<string> = new Set<TableStatus>(['open', 'over', 'closed', 'fault']);

/** Which tables, and where the page begins. */
export interface ListWish {
  readonly status?: string | undefined;
  readonly after?: string | undefined;
  readonly limit?: number | undefined;
}

export interface TablePage {
  readonly tables: TableSummary[];
  readonly next: string | null;
}

/** The place of a table in the order of lists: when it was opened, and its id where several were opened at once. */
const cursorOf = ({ openedAt, id }: TableRow): string => `${openedAt.getTime()}-${id}`;

function afterCursor(cursor: string): WhereOptions<TableRow> {
  const [, moment, id] = /^(\d{1,15})-([a-z0-9]{12})$/.exec(cursor) ?? [];
  if (moment === undefined || id === undefined)
    throw new Problem('malformed', '"after" is what the page before gave as "next".');
  const openedAt = new Date(Number(moment));
  // Written out, so that the database finds the place by its index.
  return { openedAt: { [Op.lte]: openedAt }, [Op.or]: [{ openedAt: { [Op.lt]: openedAt } }, { id: { [Op.lt]: id } }] };
}

/**
 * A page of tables, the newest first. Nothing is loaded, and nobody waits for a table that is being loaded.
 * @param here the table's room, where it is in use
 */
export async function listTables(
  { status, after, limit = PAGE }: ListWish,
  here: (id: string) => Room | undefined,
): Promise<TablePage> {
  if (status !== undefined && !STATUSES.has(status))
    throw new Problem('malformed', `"status" is one of ${[...STATUSES].join(', ')}.`);
  const most = Math.min(LARGEST_PAGE, Math.max(1, limit));
  const rows = await TableRow.findAll({
    where: { ...(status === undefined ? {} : { status: status as TableStatus }), ...(after ? afterCursor(after) : {}) },
    order: [
      ['openedAt', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: most + 1,
  });
  const page = rows.slice(0, most);
  const last = page.at(-1);
  const resting = await restingSummaries(page.filter(({ id }) => !here(id)));
  return {
    tables: page.flatMap(({ id }) => here(id)?.summary() ?? resting.get(id) ?? []),
    next: rows.length > most && last ? cursorOf(last) : null,
  };
}

/** Summaries of tables that are not in use, by id: from rows alone, for all of them at once. */
export async function restingSummaries(rows: readonly TableRow[]): Promise<Map<string, TableSummary>> {
  if (rows.length === 0) return new Map();
  const ids = rows.map(({ id }) => id);
  const [reached, sheets, faults] = await Promise.all([
    ChoiceRow.findAll({
      attributes: ['tableId', [fn('MAX', col('number')), 'number']],
      where: { tableId: ids },
      group: ['tableId'],
      raw: true,
    }),
    SheetRow.findAll({
      attributes: ['hash', 'name'],
      where: { hash: [...new Set(rows.map(({ sheetHash }) => sheetHash))] },
      raw: true,
    }),
    FaultRow.findAll({
      attributes: ['tableId', 'message', 'line', 'column', 'number'],
      where: { tableId: rows.filter(({ status }) => status === 'fault').map(({ id }) => id) },
      order: [['id', 'ASC']],
      raw: true,
    }),
  ]);
  const numbers = new Map(reached.map(({ tableId, number }) => [tableId, number]));
  const names = new Map(sheets.map(({ hash, name }) => [hash, name]));
  const told = new Map(
    faults.map(({ tableId, message, line, column, number }): [string, ToldFault] => [
      tableId,
      { message, line, column, number },
    ]),
  );
  return new Map(
    rows.map((row): [string, TableSummary] => {
      row.number = Math.max(row.number, numbers.get(row.id) ?? 0);
      const seats = new Seats(JSON.parse(row.holders) as SeatHolder[]);
      const settings = headerOf(row).settings ?? {};
      return [row.id, summaryOf(row, names.get(row.sheetHash) ?? '', settings, seats, told.get(row.id) ?? null)];
    }),
  );
}

/** The same of one table. @throws Problem for an unknown one */
export async function restingSummary(id: string): Promise<TableSummary> {
  const row = await TableRow.findByPk(id);
  const summary = row && (await restingSummaries([row])).get(id);
  if (!summary) throw new Problem('not-found', `There is no table ${id}.`);
  return summary;
}
