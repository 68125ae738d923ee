import type { CreationAttributes } from 'sequelize';
import { isTaken } from './database.js';
import { ChoiceRow } from './models.js';

type NewChoice = CreationAttributes<ChoiceRow>;

interface Entry {
  readonly row: NewChoice;
  done(): void;
  failed(error: unknown): void;
}

/** The most choices in one statement. */
const MOST_AT_ONCE = 400;
/** Statements under way at once: while one is being committed, the next is sent. */
const WRITERS = 2;

/**
 * Appends choices. Those of many tables that come at the same time go into one statement, and each is answered
 * once that statement is committed. Whether a choice may stand is decided by its unique (table, number).
 */
export class Ledger {
  private waiting: Entry[] = [];
  private writing = 0;

  /** Keeps a choice. Rejects with what the database says: nothing was kept then, as far as it answered. */
  append(row: NewChoice): Promise<void> {
    return new Promise((done, failed) => {
      this.waiting.push({ row, done, failed });
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

  private async write(group: readonly Entry[]): Promise<void> {
    try {
      await ChoiceRow.bulkCreate(
        group.map((entry) => entry.row),
        { validate: false, hooks: false, returning: false },
      );
    } catch (error) {
      // One of them was taken, so none was kept: each is tried alone.
      if (isTaken(error) && group.length > 1) await Promise.all(group.map((entry) => this.write([entry])));
      else for (const entry of group) entry.failed(error);
      return;
    }
    for (const entry of group) entry.done();
  }
}
