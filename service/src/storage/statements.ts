import type { Connection } from 'mariadb';
import type { Sequelize } from 'sequelize';

// What runs with every choice, or for all tables at once, is written as plain statements, on a connection of the
// library's: putting together a query of its own takes the library as long as the database takes to commit it.

const lend = async (database: Sequelize): Promise<Connection> =>
  (await database.connectionManager.getConnection({ type: 'write' })) as Connection;

/** Lends a connection of the pool. */
export async function withConnection<T>(database: Sequelize, work: (connection: Connection) => Promise<T>): Promise<T> {
  const connection = await lend(database);
  try {
    return await work(connection);
  } finally {
    database.connectionManager.releaseConnection(connection);
  }
}

/** So long unused, lent connections go back to the pool, in milliseconds. */
const IDLE = 1_000;

/** Connections that stay lent while there is always more to do: lending one takes a good part of the time that a short statement takes. */
export class LentConnections {
  private readonly free: Connection[] = [];
  private isUsed = false;
  private timer: NodeJS.Timeout | undefined;

  constructor(private readonly database: Sequelize) {}

  async with<T>(work: (connection: Connection) => Promise<T>): Promise<T> {
    const connection = this.freeOne() ?? (await lend(this.database));
    let result: T;
    try {
      result = await work(connection);
    } catch (error) {
      // It may be broken: the pool knows what to do.
      this.database.connectionManager.releaseConnection(connection);
      throw error;
    }
    this.free.push(connection);
    this.isUsed = true;
    this.timer ??= setTimeout(() => this.look(), IDLE).unref();
    return result;
  }

  /** One whose line is whole: the database may have been away meanwhile. */
  private freeOne(): Connection | undefined {
    for (;;) {
      const connection = this.free.pop();
      if (connection === undefined || connection.isValid()) return connection;
      this.database.connectionManager.releaseConnection(connection);
    }
  }

  private look(): void {
    if (!this.isUsed) {
      this.giveBack();
      return;
    }
    this.isUsed = false;
    this.timer = setTimeout(() => this.look(), IDLE).unref();
  }

  /** Gives back what is not in use. */
  giveBack(): void {
    clearTimeout(this.timer);
    this.timer = undefined;
    for (const connection of this.free.splice(0)) this.database.connectionManager.releaseConnection(connection);
  }
}

let lastSecond = Number.NaN;
let secondText = '';
/** A moment as the database writes it. Many choices come in the same second. */
export function momentText(at: Date): string {
  const moment = at.getTime();
  const second = Math.floor(moment / 1000);
  if (second !== lastSecond) {
    lastSecond = second;
    secondText = at.toISOString().replace('T', ' ').slice(0, 19);
  }
  return `${secondText}.${String(moment - second * 1000).padStart(3, '0')}`;
}
