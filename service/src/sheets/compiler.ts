import type { Program } from '@wily-jester/core';
import type { SheetProblem } from '@wily-jester/protocol';
import { Problem } from '../problems.js';
import { WorkError, workers } from '../workers/pool.js';

/** Longest time that a sheet may take to compile, in milliseconds: a second does, where the machine has nothing else to do. */
const LONGEST = 20_000;

export interface SheetSource {
  readonly source: string;
  readonly rehearsals: string | undefined;
}

export interface CompiledSheet {
  readonly program: Program | null;
  readonly problems: readonly SheetProblem[];
  readonly lines: number;
  /** The sheet with the parts that it uses pasted in. */
  readonly text: string;
  readonly rehearsalProblems: readonly SheetProblem[];
}

const TASK = new URL('./compile-task.js', import.meta.url);

/** Compiles a sheet in a worker. @throws Problem where it takes too long or too much, or no worker is free */
export async function compileApart(source: string, rehearsals?: string): Promise<CompiledSheet> {
  const given: SheetSource = { source, rehearsals };
  try {
    return await workers().run<CompiledSheet>(TASK, given, LONGEST);
  } catch (error) {
    if (error instanceof WorkError) throw problemOf(error);
    throw error;
  }
}

function problemOf({ failure, message }: WorkError): Problem {
  switch (failure) {
    case 'busy':
      return new Problem('unavailable', 'Too many sheets wait for the compiler: try again.');
    case 'too-long':
      return new Problem('sheet', `The sheet took more than ${LONGEST / 1000} seconds to compile.`);
    case 'failed':
      return new Problem('sheet', `The sheet could not be compiled: ${message}`);
  }
}
