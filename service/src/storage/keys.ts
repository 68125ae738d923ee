import { createHash, randomBytes } from 'node:crypto';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Transaction } from 'sequelize';
import { isAway } from './database.js';
import { KeyRow } from './models.js';

/** What a key may do. */
export type Right =
  | { readonly role: 'developer' }
  /** Opened the table: sees it as a watcher, and looks after its seats. */
  | { readonly role: 'host'; readonly table: string }
  | { readonly role: 'seat'; readonly table: string; readonly seat: number }
  | { readonly role: 'watch'; readonly table: string };

const hashOf = (key: string): string => createHash('sha256').update(key).digest('hex');
const fresh = (role: string): string => `${role}_${randomBytes(24).toString('base64url')}`;

/** Makes a key, keeps its hash, and gives the key itself: it cannot be shown again. */
export async function makeKey(right: Right, transaction?: Transaction): Promise<string> {
  const key = fresh(right.role);
  await keep(key, right, transaction);
  return key;
}

async function keep(key: string, right: Right, transaction?: Transaction): Promise<void> {
  const row = {
    hash: hashOf(key),
    role: right.role,
    tableId: right.role === 'developer' ? null : right.table,
    seat: right.role === 'seat' ? right.seat : null,
  };
  await KeyRow.upsert(row, transaction ? { transaction } : {});
}

/** Ends every key of a seat. A process that has used one forgets it within {@link REMEMBERED}. */
export async function endKeys(table: string, seat: number, transaction: Transaction): Promise<void> {
  const where = { tableId: table, role: 'seat' as const, seat };
  const rows = await KeyRow.findAll({ where, transaction });
  await KeyRow.destroy({ where, transaction });
  for (const { hash } of rows) known.delete(hash);
}

/** How long a key is taken for known without a look into the database, in milliseconds. */
const REMEMBERED = 5_000;
const known = new Map<string, { readonly right: Right; readonly until: number }>();

/** What a key may do, or `null` for an unknown one. */
export async function rightOf(key: string): Promise<Right | null> {
  if (key.length > 100) return null;
  const hash = hashOf(key);
  const remembered = known.get(hash);
  if (remembered && remembered.until > Date.now()) return remembered.right;
  let row: KeyRow | null;
  try {
    row = await KeyRow.findByPk(hash);
  } catch (error) {
    // Who was known stays known while the database is away: looking goes on, and nothing is kept anyway.
    if (remembered && isAway(error)) return remembered.right;
    throw error;
  }
  if (!row) return null;
  let right: Right = { role: 'developer' };
  if (row.role === 'seat') right = { role: 'seat', table: row.tableId ?? '', seat: row.seat ?? 0 };
  if (row.role === 'watch' || row.role === 'host') right = { role: row.role, table: row.tableId ?? '' };
  if (known.size > 10_000) known.clear();
  known.set(hash, { right, until: Date.now() + REMEMBERED });
  return right;
}

/** The console's key on a loopback address: derived from the developer key, so that it outlives a restart. */
export const consoleKeyOf = (developerKey: string): string =>
  `console_${createHash('sha256').update(`console of ${developerKey}`).digest('base64url')}`;

/** The first developer key: read from the data folder, or made there, readable to its owner alone. */
export async function developerKey(data: string): Promise<string> {
  const file = join(data, 'developer.key');
  let key: string;
  try {
    key = (await readFile(file, 'utf8')).trim();
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
    key = fresh('developer');
    await mkdir(data, { recursive: true });
    await writeFile(file, `${key}\n`, { mode: 0o600, flag: 'wx' });
  }
  await keep(key, { role: 'developer' });
  await keep(consoleKeyOf(key), { role: 'developer' });
  return key;
}
