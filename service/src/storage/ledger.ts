import type { Sequelize } from 'sequelize';
import { isContested, isTaken } from './database.js';
import { LentConnections, momentText } from './statements.js';

/** A choice as its row is written. */
export interface NewChoice {
  readonly tableId: string;
  readonly number: number;
  readonly seat: number | null;
  readonly by: string;
  readonly ask: number;
  readonly option: string;
  readonly args: string;
  readonly digest: string;
  readonly once: string | null;
  readonly sent: string | null;
  readonly at: Date;
  readonly house: string;
}

const COLUMNS = [
  'tableId',
  'number',
  'seat',
  'by',
  'ask',
  'option',
  'args',
  'digest',
  'once',
  'sent',
  'at',
  'house',
] as const;
const INSERT = `INSERT INTO choices (${COLUMNS.map((name) => `\`${name}\``).join(', ')}) VALUES (${COLUMNS.map(() => '?').join(', ')})`;

const valuesOf = (row: NewChoice): unknown[] => COLUMNS.map((name) => (name === 'at' ? momentText(row.at) : row[name]));

interface Entry {
  readonly row: NewChoice;
  done(): void;
  failed(error: unknown): void;
}

/** The most choices in one statement: with the longest values that a client may send it stays below the database's packet. */
const MOST_AT_ONCE = 200;
/** How often one choice is tried where other processes are in its way. */
const MOST_TRIES = 5;
/** Statements under way at once: while one is being committed, the next is sent. */
const WRITERS = 2;

/**
 * Appends choices. Those of many tables that come at the same time go into one statement, and each is answered
 * once that statement is committed. Whether a choice may stand is decided by its unique (table, number).
 */
export class Ledger {
  private waiting: Entry[] = [];
  private writing = 0;
  private readonly connections: LentConnections;

  constructor(database: Sequelize) {
    this.connections = new LentConnections(database);
  }

  /** Lets go of what it holds, once nothing more is to be kept. */
  close(): void {
    this.connections.giveBack();
  }

  /** Whether choices are being kept. */
  get isKeeping(): boolean {
    return this.writing > 0 || this.waiting.length > 0;
  }

  /** Keeps a choice. Rejects with what the database says: nothing was kept then, as far as it answered. */
  append(row: NewChoice): Promise<void> {
    return new Promise((done, failed) => {
      this.waiting.push({ row, done, failed });
      // Those that came with it are read first: they go along.
      if (this.waiting.length === 1) setImmediate(() => this.pump());
    });
  }

  private pump(): void {
    while (this.writing < WRITERS && this.waiting.length > 0) {
      const group = this.waiting.splice(0, MOST_AT_ONCE);
      this.writing++;
      void this.write(group).finally(() => {
        this.writing--;
        this.pump();
      });
    }
  }

  private async write(group: readonly Entry[], tries = 1): Promise<void> {
    try {
      await this.insert(group);
    } catch (error) {
      // None was kept. Where one of them was taken, or other processes write the same ones, each is tried alone.
      if (group.length > 1 && (isTaken(error) || isContested(error)))
        await Promise.all(group.map((entry) => this.write([entry])));
      else if (isContested(error) && tries < MOST_TRIES) await this.write(group, tries + 1);
      else for (const entry of group) entry.failed(error);
      return;
    }
    for (const entry of group) entry.done();
  }

  private insert(group: readonly Entry[]): Promise<unknown> {
    const rows = group.map(({ row }) => valuesOf(row));
    // All of a batch or none: the database carries out such a statement as a whole. One alone is quicker without.
    return this.connections.with((connection) =>
      rows.length === 1 ? connection.execute(INSERT, rows[0]) : connection.batch(INSERT, rows),
    );
  }
}
