import type { Fault, Table } from '@wily-jester/core';
import type { TableSummary } from '@wily-jester/protocol';
import type { Sequelize } from 'sequelize';
import { cutTo } from '../bytes.js';
import { isAway, isContested } from '../storage/database.js';
import { TableRow } from '../storage/models.js';
import { type Summary, writeSummaries } from '../storage/summaries.js';
import { keepFault, lastFault, type ToldFault } from './faults.js';

/** Longest title of a chapter in a table's row, in bytes: only lists of tables show it. */
export const LONGEST_CHAPTER = 200;

type Status = TableSummary['status'];

/**
 * The status of a table in use: open, over, closed or stopped by a fault, at which choice and since when. Its row in
 * the database follows later; it only serves the list of tables, since states follow from choices.
 */
export class TableStatus {
  /** The fault that the table stopped at, until a choice comes after it. */
  fault: ToldFault | null = null;
  /** The row is behind what is known here. */
  private isBehind = false;

  constructor(readonly row: TableRow) {}

  get word(): Status {
    return this.row.status;
  }
  get isOpen(): boolean {
    return this.word === 'open';
  }
  /** Whether nothing more will happen here. */
  get isDone(): boolean {
    return this.word === 'over' || this.word === 'closed';
  }

  /** Reconciles the stored status after replay. */
  async reconcile(status: Status, number: number): Promise<void> {
    if (status === 'closed') this.row.status = status;
    const fault = status === 'fault' ? await lastFault(this.row.id) : null;
    if (fault?.number !== number) return;
    this.row.status = 'fault';
    this.fault = fault;
  }

  /** A choice is kept. */
  reached(table: Table, number: number, at: Date): void {
    this.row.number = number;
    this.row.chapter = cutTo(table.chapter, LONGEST_CHAPTER);
    this.row.changedAt = at;
    if (this.word !== 'closed') this.row.status = table.isOver ? 'over' : 'open';
    this.fault = null;
    this.isBehind = true;
  }

  /** The sheet made a fault. */
  async failed(table: Table, fault: Fault): Promise<void> {
    this.fault = await keepFault(this.row.id, table, fault);
    this.row.status = 'fault';
  }

  /** Takes over a status that another process wrote. */
  async heard(status: Status): Promise<void> {
    if (status === 'closed' || status === 'fault') this.row.status = status;
    if (status === 'fault') this.fault = await lastFault(this.row.id);
  }

  async close(): Promise<void> {
    const changedAt = new Date();
    await TableRow.update({ status: 'closed', changedAt }, { where: { id: this.row.id } });
    this.row.status = 'closed';
    this.row.changedAt = changedAt;
  }

  /** The summary to write, if the row is behind; it counts as written unless {@link lost} is called. */
  take(): Summary | null {
    if (!this.isBehind) return null;
    this.isBehind = false;
    const { id, number, chapter, changedAt, status } = this.row;
    return { id, number, chapter, changedAt, status };
  }

  /** What was taken could not be written. */
  lost(): void {
    this.isBehind = true;
  }
}

/** Writes statuses into the tables' rows. While the database is unavailable they stay behind, and are written later. */
export async function writeStatuses(database: Sequelize, statuses: readonly TableStatus[]): Promise<void> {
  const taken = statuses.flatMap((status) => {
    const summary = status.take();
    return summary ? [{ status, summary }] : [];
  });
  try {
    await writeSummaries(
      database,
      taken.map(({ summary }) => summary),
    );
  } catch (error) {
    for (const { status } of taken) status.lost();
    if (!isAway(error) && !isContested(error)) throw error;
  }
}
