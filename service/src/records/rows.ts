import type { Header, Row, WireChoice } from '@wily-jester/core';
import { Op } from 'sequelize';
import type { NewChoice } from '../storage/ledger.js';
import { ChoiceRow, type TableRow } from '../storage/models.js';

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

/** The kept choices of a table after a number, in order. */
export async function rowsAfter(tableId: string, number: number): Promise<Row[]> {
  const rows = await ChoiceRow.findAll({
    where: { tableId, number: { [Op.gt]: number } },
    order: [['number', 'ASC']],
    raw: true,
  });
  return rows.map(rowOf);
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
