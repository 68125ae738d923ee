import type { Sequelize } from 'sequelize';
import { momentText, withConnection } from './statements.js';

/** How far the database has come, and which processes serve it. */
export interface Latest {
  /** The place of the last choice in the order of all. */
  readonly choice: number;
  /** The last notice. */
  readonly notice: number;
  /** The processes that said lately that they are up. */
  readonly houses: readonly string[];
}

// Every process asks this several times a second, so all of it is one question.
const QUESTION =
  'SELECT (SELECT MAX(`seq`) FROM `choices`) AS `choice`, (SELECT MAX(`id`) FROM `notices`) AS `notice`, (SELECT GROUP_CONCAT(`id`) FROM `houses` WHERE `seenAt` > ?) AS `houses`';

/** @param since a process that said something after this moment is up */
export async function latestIn(database: Sequelize, since: Date): Promise<Latest> {
  const rows: { choice: unknown; notice: unknown; houses: string | null }[] = await withConnection(
    database,
    (connection) => connection.execute(QUESTION, [momentText(since)]),
  );
  const [row] = rows;
  return { choice: Number(row?.choice ?? 0), notice: Number(row?.notice ?? 0), houses: row?.houses?.split(',') ?? [] };
}
