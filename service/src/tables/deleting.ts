import type { Sequelize } from 'sequelize';
import {
  AuditRow,
  CheckpointRow,
  ChoiceRow,
  FaultRow,
  GatheringRow,
  KeyRow,
  PresenceRow,
  TableRow,
} from '../storage/models.js';
import { withConnection } from '../storage/statements.js';

/** So many choices are deleted in one statement: their rows are held until it is committed. */
const AT_ONCE = 1_000;

/** Deletes a table with all that hangs on it. Nobody may hold it in use any more. */
export async function deleteTable(database: Sequelize, tableId: string): Promise<void> {
  const where = { tableId };
  // Its keys go first: nobody comes back meanwhile. Its row goes last: what is broken off is found again.
  await KeyRow.destroy({ where });
  // Who asks how its seats gave chance would have it opened again.
  await GatheringRow.destroy({ where: { id: tableId } });
  for (;;) {
    const { affectedRows } = await withConnection(
      database,
      (connection) =>
        connection.query('DELETE FROM choices WHERE tableId = ? LIMIT ?', [tableId, AT_ONCE]) as Promise<{
          affectedRows: number;
        }>,
    );
    if (affectedRows < AT_ONCE) break;
  }
  await CheckpointRow.destroy({ where });
  await FaultRow.destroy({ where });
  await AuditRow.destroy({ where });
  await PresenceRow.destroy({ where });
  await TableRow.destroy({ where: { id: tableId } });
  // What another process kept while it still held the table.
  await ChoiceRow.destroy({ where });
}
