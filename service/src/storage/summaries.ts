import type { Sequelize } from 'sequelize';
import type { TableRow } from './models.js';
import { momentText, withConnection } from './statements.js';

/** How a table stands, as the list of tables tells it. */
export type Summary = Pick<TableRow, 'id' | 'number' | 'chapter' | 'changedAt' | 'status'>;

// Another process may have written a later one, or closed the table.
const UPDATE =
  "UPDATE `tables` SET `number` = ?, `chapter` = ?, `changedAt` = ?, `status` = ? WHERE `id` = ? AND `number` <= ? AND `status` <> 'closed'";
/** The most in one statement: their rows are held until it is committed. */
const MOST_AT_ONCE = 200;

/** Writes how tables stand into their rows: many with one statement, and one commit. Gives up at what the database says. */
export async function writeSummaries(database: Sequelize, summaries: readonly Summary[]): Promise<void> {
  // Two processes that take the same rows in the same order wait for each other, and never in a ring.
  const inOrder = [...summaries].sort((a, b) => (a.id < b.id ? -1 : 1));
  for (let i = 0; i < inOrder.length; i += MOST_AT_ONCE) {
    const group = inOrder.slice(i, i + MOST_AT_ONCE);
    await withConnection(database, async (connection) => {
      await connection.beginTransaction();
      try {
        await connection.batch(
          UPDATE,
          group.map(({ id, number, chapter, changedAt, status }) => [
            number,
            chapter,
            momentText(changedAt),
            status,
            id,
            number,
          ]),
        );
        await connection.commit();
      } catch (error) {
        // Where the line is gone there is nothing to take back.
        await connection.rollback().catch(() => undefined);
        throw error;
      }
    });
  }
}
