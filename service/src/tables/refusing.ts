import type { Fault, Refusal } from '@wily-jester/core';
import { passingProblem } from '../failure.js';
import { Problem } from '../problems.js';
import { isTaken } from '../storage/database.js';

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
