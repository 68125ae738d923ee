import {
  ConnectionError,
  ForeignKeyConstraintError,
  Sequelize,
  type Transaction,
  UniqueConstraintError,
} from 'sequelize';
import { migrate } from './migrations.js';
import { bindModels } from './models.js';

/** Connects, binds the models and migrates. */
export async function openDatabase(address: string): Promise<Sequelize> {
  const sequelize = new Sequelize(address, {
    dialect: 'mariadb',
    logging: false,
    define: { charset: 'utf8mb4' },
    pool: { max: 12, min: 0, acquire: 6_000, idle: 10_000 },
    dialectOptions: { connectTimeout: 4_000 },
  });
  await sequelize.authenticate();
  bindModels(sequelize);
  await migrate(sequelize.getQueryInterface());
  return sequelize;
}

/** So often a transaction is tried that others kept the database from. */
const TRIES = 4;

/** Does something whole or not at all; what others kept the database from is tried again. */
export async function inTransaction<T>(
  database: Sequelize,
  work: (transaction: Transaction) => Promise<T>,
): Promise<T> {
  for (let tries = 1; ; tries++)
    try {
      return await database.transaction(work);
    } catch (error) {
      if (!isContested(error) || tries === TRIES) throw error;
    }
}

/** What the driver says of an error, where one comes from a connection itself. */
interface DriverError {
  readonly errno?: number;
  readonly sqlState?: string | null;
  readonly sqlMessage?: string | null;
  /** The connection cannot be used any more. */
  readonly fatal?: boolean;
}
const DUPLICATE = 1062;
/** A deadlock; a lock that was not let go in time. */
const CONTESTED: ReadonlySet<number> = new Set([1213, 1205]);
/** Classes of the SQL standard's states: the connection failed, or the server cut short what was under way. */
const GONE = /^(08|70)/;

/** No room: for temporary files, for a write, for a table; and what the machine itself calls it (ENOSPC). */
const FULL: ReadonlySet<number> = new Set([1021, 1026, 1030, 1114, 28]);

/** Whether a row was there already. */
export const isTaken = (error: unknown): boolean =>
  error instanceof UniqueConstraintError || (error as DriverError | null)?.errno === DUPLICATE;

/** What the driver says: the library wraps it, where it comes of a query. */
const driverErrorOf = (error: Error): DriverError => ((error as { original?: Error }).original ?? error) as DriverError;

/** Whether others wanted the same rows at the same time, so that the database took this back, or had enough of waiting. */
export const isContested = (error: unknown): boolean =>
  error instanceof Error && CONTESTED.has(driverErrorOf(error).errno ?? 0);

/** Whether there is no room on the disk. Nothing was kept then; once there is room again, all goes on. */
export function isFull(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { errno, sqlMessage } = driverErrorOf(error);
  // The server tells of the system's error 28 inside of its own words.
  return FULL.has(errno ?? 0) || /errno: 28\b|\bENOSPC\b/.test(sqlMessage ?? error.message);
}

/** Whether the database did not answer, so that trying again later may do. */
export function isAway(error: unknown): boolean {
  if (error instanceof ConnectionError) return true;
  if (isFull(error)) return true;
  if (!(error instanceof Error) || error instanceof ForeignKeyConstraintError || isContested(error)) return false;
  const { fatal, sqlState } = driverErrorOf(error);
  return (
    fatal === true ||
    GONE.test(sqlState ?? '') ||
    /pool|ECONN|timeout|closed|socket/i.test(`${error.name} ${error.message}`)
  );
}
