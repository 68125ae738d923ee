import type { Logger } from 'pino';
import { Problem } from './problems.js';
import { isAway, isContested } from './storage/database.js';

/** What is told where the database could not do something now, though it may later; `null` of any other error. */
export function passingProblem(error: unknown): Problem | null {
  if (isAway(error)) return new Problem('unavailable', 'The database does not answer. Nothing was changed: try again.');
  if (isContested(error))
    return new Problem('unavailable', 'Others kept the database from it. Nothing was changed: try again.');
  return null;
}

/** Any error as a problem: what the service foresaw by name, everything else without its insides. */
export function problemFrom(error: unknown, log: Logger): Problem {
  if (error instanceof Problem) return error;
  const { type, status } = error as { type?: string; status?: number };
  if (type === 'entity.too.large')
    return new Problem('too-large', 'The body is too large: 256 KiB are taken, and 5 MiB of a record.');
  if (type === 'entity.parse.failed') return new Problem('malformed', 'The body is not JSON.');
  if (status === 400 || status === 415) return new Problem('malformed', 'The request cannot be read.');
  const passing = passingProblem(error);
  if (passing) return passing;
  log.error({ error }, 'something could not be answered');
  return new Problem('internal', 'Something went wrong here; it was noted.');
}
