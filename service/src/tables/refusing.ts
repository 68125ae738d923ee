import type { Refusal } from '@wily-jester/core';
import { Problem } from '../problems.js';

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
