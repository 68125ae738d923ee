import { destination, type Logger, pino } from 'pino';

/** What an error tells a log: never a statement, its values, or anything else that was being worked on. */
export interface ToldError {
  readonly name: string;
  readonly message: string;
  readonly stack: readonly string[];
  /** The database's number and state of it. */
  readonly errno?: number;
  readonly sqlState?: string;
}

interface DatabaseError extends Error {
  readonly errno?: number;
  readonly sqlState?: string;
  /** What the server said, without the statement that the driver puts behind it. */
  readonly sqlMessage?: string | null;
}

const LONGEST = 500;

/** An error as it is logged. */
export function toldError(error: unknown): ToldError {
  if (!(error instanceof Error)) return { name: 'unknown', message: String(error).slice(0, LONGEST), stack: [] };
  const driver = ((error as { original?: Error }).original ?? error) as DatabaseError;
  // The system's own errors, such as a line that was reset, have numbers below zero: they are no database's.
  const isDatabase = (driver.errno ?? -1) > 0 || driver.sqlState !== undefined || driver !== error;
  const message = isDatabase ? (driver.sqlMessage ?? `error ${driver.errno ?? ''} of the database`) : error.message;
  return {
    name: error.name,
    message: message.slice(0, LONGEST),
    stack: (error.stack ?? '')
      .split('\n')
      .filter((line) => /^\s+at /.test(line))
      .map((line) => line.trim()),
    ...(typeof driver.errno === 'number' ? { errno: driver.errno } : {}),
    ...(typeof driver.sqlState === 'string' ? { sqlState: driver.sqlState } : {}),
  };
}

/** The service's log: JSON lines, errors under `error`. */
export function openLog(level: string): Logger {
  const output = destination({ fd: 1, sync: true });
  // A reader that went away, or a disk that is full, must not end the service.
  output.on('error', () => undefined);
  return pino({ level, redact: ['req.headers', 'key'], serializers: { error: toldError, err: toldError } }, output);
}
