import type { TableSummary } from '@wily-jester/protocol';
import { headerOf } from '../records/rows.js';
import type { TableRow } from '../storage/models.js';
import type { Seats } from './seats.js';
import { unplayableOf } from './unplayable.js';

/** What everybody with a key may know of a table. */
export function summaryOf(
  row: TableRow,
  game: string,
  settings: TableSummary['settings'],
  seats: Seats,
  fault: TableSummary['fault'],
): TableSummary {
  const header = headerOf(row);
  const unplayable = unplayableOf(row);
  return {
    id: row.id,
    sheet: row.sheetHash,
    game,
    seats: seats.summary(header.seats),
    status: row.status,
    number: row.number,
    chapter: row.chapter,
    opened: row.openedAt.toISOString(),
    changed: row.changedAt.toISOString(),
    settings,
    commitment: row.commitment,
    promisesFairness: Boolean(row.promisesFairness),
    pace: row.pace,
    clocks: Boolean(row.clocks),
    hints: Boolean(row.hints),
    fault,
    ...(unplayable ? { unplayable: { number: unplayable.number, reason: unplayable.reason } } : {}),
    parent: row.parentId === null ? null : { table: row.parentId, number: row.parentNumber ?? 0 },
  };
}
