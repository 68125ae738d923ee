import { createHash, randomBytes } from 'node:crypto';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type LOCK, Op, type Transaction } from 'sequelize';
import { isAway } from './database.js';
import { FIRST_DEVELOPER, KeyRow } from './models.js';

/** What a key may do. */
export type Right =
  | { readonly role: 'developer'; readonly developer: string }
  /** Opened the table: sees it as a watcher, and looks after its seats. */
  | { readonly role: 'host'; readonly table: string }
  | { readonly role: 'seat'; readonly table: string; readonly seat: number }
  | { readonly role: 'watch'; readonly table: string }
  /** Reads one draft of the workshop, and nothing else. */
  | { readonly role: 'look'; readonly draft: string };
/** What a key may do at a table. */
export type TableRight = Exclude<Right, { readonly role: 'look' }>;

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
    tableId: right.role === 'developer' ? null : right.role === 'look' ? right.draft : right.table,
    seat: right.role === 'seat' ? right.seat : null,
    developer: right.role === 'developer' ? right.developer : null,
  };
  await KeyRow.upsert(row, transaction ? { transaction } : {});
}

/** Whether there is a developer of this name: whoever has a key that does not end by itself. */
export async function isDeveloper(
  developer: string,
  held?: { readonly transaction: Transaction; readonly lock: LOCK },
): Promise<boolean> {
  const where = { role: 'developer' as const, developer, until: { [Op.is]: null } };
  return (await KeyRow.findOne({ where, attributes: ['hash'], raw: true, ...held })) !== null;
}

/** Makes the key of a page that came in with a word: a developer's, until a moment. */
export async function makeSessionKey(developer: string, until: Date, transaction: Transaction): Promise<string> {
  const key = fresh('session');
  const row = { hash: hashOf(key), role: 'developer' as const, tableId: null, seat: null, developer, until };
  await KeyRow.create(row, { transaction });
  return key;
}

/** Ends one key. */
export async function endKey(key: string): Promise<void> {
  await KeyRow.destroy({ where: { hash: hashOf(key) } });
  forget((_, other) => other === key);
}

/** By what other processes are told which session has ended: the key itself is told to nobody. */
export const sessionMark = (key: string): string => hashOf(key).slice(0, 24);
/** A session has ended by way of another process. */
export const forgetSession = (mark: string): void =>
  forget(({ role }, key) => role === 'developer' && sessionMark(key) === mark);

/** Sets when all keys of a table end by themselves; `null` for never. */
export async function endKeysAt(table: string, until: Date | null, transaction: Transaction): Promise<void> {
  await KeyRow.update({ until }, { where: { tableId: table }, transaction });
}

/** Deletes the keys that have ended by themselves. */
export async function deleteEndedKeys(): Promise<void> {
  await KeyRow.destroy({ where: { until: { [Op.lt]: new Date() } } });
}

/** Ends every key to watch a table. Other processes must be told of it: they {@link forgetWatchKeys}. */
export async function endWatchKeys(table: string): Promise<void> {
  await KeyRow.destroy({ where: { tableId: table, role: 'watch' as const } });
  forgetWatchKeys(table);
}

/** Ends every key to look at a draft. */
export async function endLookKeys(draft: string): Promise<void> {
  await KeyRow.destroy({ where: { tableId: draft, role: 'look' as const } });
  forgetLookKeys(draft);
}

/** Ends every key of a seat. Other processes must be told of it: they {@link forgetKeys}. */
export async function endKeys(table: string, seat: number, transaction: Transaction): Promise<void> {
  await KeyRow.destroy({ where: { tableId: table, role: 'seat' as const, seat }, transaction });
}

interface Known {
  readonly right: Right;
  readonly until: number;
}

/** How long a key is taken for known without a look into the database, in milliseconds. */
const REMEMBERED = 60_000;
/** The most keys that are remembered. */
const MOST_KNOWN = 20_000;
const known = new Map<string, Known>();
/** How often keys ended: what was being read meanwhile is not remembered. */
let endings = 0;

type Ended = (right: Right, key: string) => boolean;
const hearers = new Set<(isEnded: Ended) => void>();

/** Calls back with whose keys have ended, here or by way of another process. Gives what ends that. */
export function onEnding(hear: (isEnded: Ended) => void): () => void {
  hearers.add(hear);
  return () => hearers.delete(hear);
}

/** Keys have ended: what is remembered of them counts no more, and lines that they opened end. */
function forget(isEnded: Ended): void {
  endings++;
  for (const [key, { right }] of known) if (isEnded(right, key)) known.delete(key);
  for (const hear of [...hearers]) hear(isEnded);
}

/** The keys of a seat have ended. */
export const forgetKeys = (table: string, seat: number): void =>
  forget((right) => right.role === 'seat' && right.table === table && right.seat === seat);
/** The keys to watch a table have ended. */
export const forgetWatchKeys = (table: string): void =>
  forget((right) => right.role === 'watch' && right.table === table);
/** The keys to look at a draft have ended. */
export const forgetLookKeys = (draft: string): void =>
  forget((right) => right.role === 'look' && right.draft === draft);
/** The keys and sessions of a developer have ended. */
export const forgetDeveloper = (developer: string): void =>
  forget((right) => right.role === 'developer' && right.developer === developer);
/** A table is gone, and its keys with it. */
export const forgetTable = (table: string): void => forget((right) => 'table' in right && right.table === table);

function remember(key: string, right: Right): void {
  const [oldest] = known.keys();
  if (known.size >= MOST_KNOWN && oldest !== undefined) known.delete(oldest);
  // Keys that came together, as a table's do, are not looked up together again.
  known.set(key, { right, until: Date.now() + REMEMBERED * (0.5 + Math.random() / 2) });
}

/** Whether a key was known lately: then it is no guess. */
export const wasKnown = (key: string): boolean => known.has(key);

/** What a key may do, or `null` for an unknown one. */
export async function rightOf(key: string): Promise<Right | null> {
  const remembered = known.get(key);
  if (remembered && remembered.until > Date.now()) return remembered.right;
  if (key.length > 100) return null;
  const before = endings;
  let row: KeyRow | null;
  try {
    row = await KeyRow.findByPk(hashOf(key), { raw: true });
  } catch (error) {
    // Who was known stays known while the database is away: looking goes on, and nothing is kept anyway.
    if (remembered && isAway(error)) return remembered.right;
    throw error;
  }
  known.delete(key);
  if (!row || (row.until !== null && row.until !== undefined && row.until.getTime() < Date.now())) return null;
  const right = rightOfRow(row);
  // A session is worth what its developer's own key is.
  if (right.role === 'developer' && row.until && !(await isDeveloper(right.developer))) return null;
  if (endings === before) remember(key, right);
  return right;
}

function rightOfRow({ role, tableId, seat, developer }: KeyRow): Right {
  const table = tableId ?? '';
  if (role === 'seat') return { role, table, seat: seat ?? 0 };
  if (role === 'look') return { role, draft: table };
  return role === 'developer' ? { role, developer: developer ?? FIRST_DEVELOPER } : { role, table };
}

/** The key that earlier releases gave every page on this machine: derived from the developer key. */
const nearbyKeyOf = (developerKey: string): string =>
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
  await keep(key, { role: 'developer', developer: FIRST_DEVELOPER });
  // Nobody has a right for being near any more.
  await endKey(nearbyKeyOf(key));
  return key;
}
