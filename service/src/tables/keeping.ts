import { Op } from 'sequelize';
import { deleteEndedKeys } from '../storage/keys.js';
import { AuditRow, TableRow } from '../storage/models.js';
import type { Rooms } from './rooms.js';

const DAY = 24 * 60 * 60_000;
/** How long looks stay written down, in days. */
const LOOKS = 400;
/** How many tables are deleted in one sweep at most: the next one goes on. */
const AT_ONCE = 200;

/**
 * Deletes what is old: tables that have long been closed or over, looks, and keys that have ended.
 * @param keepClosed days; `null` keeps tables for ever
 */
export async function sweep(rooms: Rooms, keepClosed: number | null, now = Date.now()): Promise<number> {
  await deleteEndedKeys();
  await AuditRow.destroy({ where: { at: { [Op.lt]: new Date(now - LOOKS * DAY) } } });
  if (keepClosed === null) return 0;
  const old = await TableRow.findAll({
    attributes: ['id'],
    where: { status: ['closed', 'over'], changedAt: { [Op.lt]: new Date(now - keepClosed * DAY) } },
    limit: AT_ONCE,
    raw: true,
  });
  for (const { id } of old) await rooms.delete(id);
  return old.length;
}
