import type { Game, Header, Row, WireChoice } from '@wily-jester/core';
import type { TableSummary } from '@wily-jester/protocol';
import type { NewChoice } from '../storage/ledger.js';
import type { ChoiceRow, TableRow } from '../storage/models.js';
import type { Seats } from '../tables/seats.js';

export const headerOf = (row: TableRow): Header => JSON.parse(row.header) as Header;

/** A kept choice as the engine's record knows it. */
export function rowOf(row: ChoiceRow): Row {
  return {
    number: row.number,
    seat: row.seat,
    by: row.by as Row['by'],
    ask: row.ask,
    option: row.option,
    args: JSON.parse(row.args) as Row['args'],
    digest: row.digest,
  };
}

/** A client's choice as it came: its word, with its seat before it, and its values. */
export interface Sent {
  readonly word: string;
  readonly args: WireChoice['args'];
}

/** What was carried out just now, as it is to be kept. @param sent as it came, where a client sent it */
export function newRowOf(
  row: Row,
  { table, house, sent }: { table: string; house: string; sent: Sent | null },
): NewChoice {
  return {
    tableId: table,
    ...row,
    args: JSON.stringify(row.args),
    once: sent?.word ?? null,
    sent: sent && JSON.stringify(sent.args),
    at: new Date(),
    house,
  };
}

/** A table's settings by name, with the values that it runs on. */
export function settingsOf(game: Game): Record<string, number | boolean | string> {
  const settings: Record<string, number | boolean | string> = {};
  for (const [i, { name, domain }] of game.program.settings.entries()) {
    const value = game.layout.settings[i] ?? 0;
    settings[name] = domain.k === 'flag' ? value !== 0 : domain.k === 'words' ? (domain.words[value] ?? '') : value;
  }
  return settings;
}

/** What everybody with a key may know of a table. */
export function summaryOf(
  row: TableRow,
  game: string,
  settings: TableSummary['settings'],
  seats: Seats,
  fault: TableSummary['fault'],
): TableSummary {
  const header = headerOf(row);
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
    fault,
    parent: row.parentId === null ? null : { table: row.parentId, number: row.parentNumber ?? 0 },
  };
}
