import type { Connection } from 'mariadb';
import type { Sequelize } from 'sequelize';

// What runs with every choice, or for all tables at once, is written as plain statements, on a connection of the
// library's: putting together a query of its own takes the library as long as the database takes to commit it.

/** Lends a connection of the pool. */
export async function withConnection<T>(database: Sequelize, work: (connection: Connection) => Promise<T>): Promise<T> {
  const { connectionManager } = database;
  const connection = (await connectionManager.getConnection({ type: 'write' })) as Connection;
  try {
    return await work(connection);
  } finally {
    connectionManager.releaseConnection(connection);
  }
}

let lastMoment = 0;
let lastText = '';
/** A moment as the database writes it. Many choices come in the same millisecond. */
export function momentText(at: Date): string {
  const moment = at.getTime();
  if (moment !== lastMoment) {
    lastMoment = moment;
    lastText = at.toISOString().replace('T', ' ').slice(0, 23);
  }
  return lastText;
}
