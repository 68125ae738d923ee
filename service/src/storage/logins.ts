import { createHash, randomBytes } from 'node:crypto';
import { Op, type Sequelize } from 'sequelize';
import { inTransaction } from './database.js';
import { isDeveloper, makeSessionKey } from './keys.js';
import { LoginRow } from './models.js';

/** How long a word may be used, in milliseconds: the one that the start command prints has more time. */
const TIMES = { start: 10 * 60_000, ask: 2 * 60_000 } as const;
/** How long whoever came in with a word stays, in milliseconds. */
export const SESSION = 30 * 24 * 60 * 60_000;

const hashOf = (word: string): string => createHash('sha256').update(word).digest('hex');

export interface Login {
  /** Shown once, kept hashed. */
  readonly word: string;
  readonly until: Date;
}

/** Makes a word with which a page becomes this developer's, once. */
export async function makeLogin(developer: string, what: keyof typeof TIMES): Promise<Login> {
  const word = randomBytes(32).toString('base64url');
  const until = new Date(Date.now() + TIMES[what]);
  await LoginRow.destroy({ where: { until: { [Op.lt]: new Date() } } });
  await LoginRow.create({ hash: hashOf(word), developer, until });
  return { word, until };
}

/**
 * Uses a word up, and gives the session that comes of it; `null` for a word that is unknown, used or too old. It must
 * strike one row, so it works once, whichever process is asked; and its developer must still be one.
 */
export async function useLogin(database: Sequelize, word: string): Promise<{ key: string; developer: string } | null> {
  if (word.length > 100) return null;
  const where = { hash: hashOf(word), until: { [Op.gt]: new Date() } };
  const made = await LoginRow.findOne({ where, raw: true });
  if (made === null) return null;
  const { developer } = made;
  return inTransaction(database, async (transaction) => {
    // Held until the session is kept: whoever ends the developer meanwhile waits, and ends the session too.
    if (!(await isDeveloper(developer, { transaction, lock: transaction.LOCK.SHARE }))) return null;
    if ((await LoginRow.destroy({ where, transaction })) !== 1) return null;
    return { key: await makeSessionKey(developer, new Date(Date.now() + SESSION), transaction), developer };
  });
}
