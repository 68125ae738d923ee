import { Worker } from 'node:worker_threads';
import type { Program } from '@wily-jester/core';
import type { SheetProblem } from '@wily-jester/protocol';
import { Problem } from '../problems.js';

/** Longest time that a sheet may take to compile, in milliseconds: a second does, where the machine has nothing else to do. */
const LONGEST = 20_000;
/** Longest time that a worker may take to get ready: a machine that is busy is not the sheet's fault. */
const LONGEST_START = 60_000;

export interface CompiledSheet {
  readonly program: Program | null;
  readonly problems: SheetProblem[];
  readonly lines: number;
  /** The sheet with the parts that it uses pasted in. */
  readonly text: string;
  readonly rehearsalProblems: SheetProblem[];
}

/** A worker that has compiled something and waits for more. */
let idle: Worker | undefined;

function newWorker(): Worker {
  const worker = new Worker(new URL('./worker.js', import.meta.url), {
    resourceLimits: { maxOldGenerationSizeMb: 192, stackSizeMb: 4 },
  });
  // A worker that waits does not keep the service from ending.
  worker.unref();
  return worker;
}

function giveBack(worker: Worker): void {
  worker.removeAllListeners();
  if (idle) {
    void worker.terminate();
    return;
  }
  idle = worker;
  worker.once('error', () => {
    if (idle === worker) idle = undefined;
  });
}

/**
 * Compiles a sheet in a worker with a cap on time and memory, so that a hostile text cannot hold up
 * the tables. @throws Problem where it takes too long or too much
 */
export function compileApart(source: string, rehearsals?: string): Promise<CompiledSheet> {
  return new Promise((resolve, reject) => {
    const waiting = idle;
    idle = undefined;
    const worker = waiting ?? newWorker();
    worker.removeAllListeners();
    const fail = (why: string, kind: 'sheet' | 'unavailable' = 'sheet'): void => {
      clearTimeout(timer);
      worker.removeAllListeners();
      void worker.terminate();
      reject(new Problem(kind, why));
    };
    let timer = setTimeout(() => fail('The compiler did not get ready: try again.', 'unavailable'), LONGEST_START);
    const begin = (): void => {
      clearTimeout(timer);
      timer = setTimeout(() => fail(`The sheet took more than ${LONGEST / 1000} seconds to compile.`), LONGEST);
      worker.once('message', (compiled: CompiledSheet) => {
        clearTimeout(timer);
        giveBack(worker);
        resolve(compiled);
      });
      worker.postMessage({ source, rehearsals });
    };
    if (waiting) begin();
    else worker.once('message', begin);
    worker.once('error', (error) => fail(`The sheet could not be compiled: ${error.message}`));
  });
}
