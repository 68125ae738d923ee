import { type Connection, createConnection } from 'mariadb';
import { onTestFinished } from 'vitest';
import { until } from './service.js';

/** A connection of one's own to a database, beside the service's. */
export const connected = (database: string): Promise<Connection> => createConnection(database);

/** What is to be written into one table of a database, and waits. */
export interface HeldUp {
  /** Waits until something that holds a text is to be written and waits, and tells its connection. */
  waiting(text: string): Promise<number>;
  /** Ends what a connection waits for, as a database that stops would. */
  cut(connection: number): Promise<void>;
  letGo(): Promise<void>;
}

/** Holds up everything that is to be written into a table of a database until it is let go, or the test ends. */
export async function heldUp(database: string, table: string): Promise<HeldUp> {
  const [holding, looking] = [await connected(database), await connected(database)];
  const end = async (): Promise<void> => {
    await Promise.all([holding, looking].filter((one) => one.isValid()).map((one) => one.end()));
  };
  onTestFinished(end);
  await holding.query(`LOCK TABLES ${table} READ`);
  const waitingOf = async (text: string): Promise<number[]> => {
    const rows = (await looking.query(
      "SELECT id FROM information_schema.processlist WHERE db = DATABASE() AND state LIKE 'Waiting for table%' AND INSTR(info, ?)",
      [text],
    )) as { id: number }[];
    return rows.map(({ id }) => Number(id));
  };
  return {
    waiting: async (text) => {
      let waits: number | undefined;
      await until(async () => {
        [waits] = await waitingOf(text);
        return waits !== undefined;
      }, `something about ${text} that waits to be written`);
      return waits as number;
    },
    // A statement that is prepared and then carried out can wait twice.
    cut: (connection) =>
      until(async () => {
        await looking.query(`KILL QUERY ${connection}`);
        return !(await waitingOf('')).includes(connection);
      }, 'a statement that is ended and waits no more'),
    letGo: end,
  };
}
