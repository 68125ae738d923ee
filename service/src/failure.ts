import type { Fault, Refusal } from '@wily-jester/core';
import type { Logger } from 'pino';
import { Problem } from './problems.js';
import { isAway, isContested, isFull, isTaken } from './storage/database.js';

/** The problem for an error of the database that may pass; `null` for any other error. */
export function passingProblem(error: unknown): Problem | null {
  if (isFull(error))
    return new Problem('unavailable', 'There is no room to keep it. Nothing was changed: try again.', {
      retryAfter: 5,
    });
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

const KINDS = {
  turn: 'turn',
  stale: 'stale',
  unknown: 'unknown-option',
  malformed: 'malformed',
  illegal: 'refused',
} as const;

/** What a client is told of a choice that the rules refuse. @param number where the table stands */
export function refusalProblem({ kind, reason, line }: Refusal, option: string, number: number): Problem {
  return new Problem(KINDS[kind], reason, { number, option, ...(line === undefined ? {} : { line }) });
}

/** The same of a choice that ran into a fault of the sheet. @param number where the table stands */
export function faultProblem({ line, column, message }: Fault, number: number): Problem {
  const stands = `The table stands where it stood, at choice ${number}.`;
  return new Problem('fault', `Line ${line}: ${message} ${stands}`, { line, column, number });
}

/** The same of a choice that could not be kept; anything unforeseen stays what it is. @param number where the table stands */
export function keepingProblem(error: unknown, number: number): unknown {
  if (isTaken(error))
    return new Problem('stale', `Another choice came first; the table is at number ${number}.`, { number });
  return passingProblem(error) ?? error;
}
