import { type Fault, meaningOf, type Table } from '@wily-jester/core';
import type { TableSummary } from '@wily-jester/protocol';
import { FaultRow, TableRow } from '../storage/models.js';

/** A fault as it appears in a table's summary. */
export type ToldFault = NonNullable<TableSummary['fault']>;

/** Keeps a fault beside the record, with the state that it happened in; the table waits for somebody to choose otherwise. */
export async function keepFault(tableId: string, table: Table, fault: Fault): Promise<ToldFault> {
  const { message, line, column } = fault;
  const { number } = table;
  const state = meaningOf(table.game, table.state);
  // One is enough to see what went wrong: each holds a whole state.
  await FaultRow.destroy({ where: { tableId } });
  await FaultRow.create({ tableId, number, message, line, column, state, at: new Date() });
  await TableRow.update({ status: 'fault' }, { where: { id: tableId } });
  return { message, line, column, number };
}

/** The last fault of a table. */
export async function lastFault(tableId: string): Promise<ToldFault | null> {
  const row = await FaultRow.findOne({ where: { tableId }, order: [['id', 'DESC']] });
  return row && { message: row.message, line: row.line, column: row.column, number: row.number };
}
