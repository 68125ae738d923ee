import { Worker } from 'node:worker_threads';
import type { Program } from '@wily-jester/core';
import type { SheetProblem } from '@wily-jester/protocol';
import { Problem } from '../problems.js';

/** Longest time that a sheet may take to compile, in milliseconds, the start of its worker included. */
const LONGEST = 8_000;

export interface CompiledSheet {
  readonly program: Program | null;
  readonly problems: SheetProblem[];
  readonly lines: number;
  readonly rehearsalProblems: SheetProblem[];
}

/**
 * Compiles a sheet in a worker with a cap on time and memory, so that a hostile text cannot hold up
 * the tables. @throws Problem where it takes too long or too much
 */
export function compileApart(source: string, rehearsals?: string): Promise<CompiledSheet> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./worker.js', import.meta.url), {
      workerData: { source, rehearsals },
      resourceLimits: { maxOldGenerationSizeMb: 192, stackSizeMb: 4 },
    });
    const timer = setTimeout(() => {
      void worker.terminate();
      reject(new Problem('sheet', `The sheet took more than ${LONGEST / 1000} seconds to compile.`));
    }, LONGEST);
    worker.once('message', (compiled: CompiledSheet) => {
      clearTimeout(timer);
      resolve(compiled);
    });
    worker.once('error', (error) => {
      clearTimeout(timer);
      reject(new Problem('sheet', `The sheet could not be compiled: ${error.message}`));
    });
  });
}
