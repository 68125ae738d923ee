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
  /** The sheet with the parts that it uses pasted in. */
  readonly text: string;
  readonly rehearsalProblems: SheetProblem[];
}

/** A worker that has compiled something and waits for more: the language takes half a second to get ready. */
let idle: Worker | undefined;

function takeWorker(): Worker {
  const ready = idle;
  idle = undefined;
  if (ready) return ready;
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
    const worker = takeWorker();
    worker.removeAllListeners();
    const fail = (why: string): void => {
      clearTimeout(timer);
      worker.removeAllListeners();
      void worker.terminate();
      reject(new Problem('sheet', why));
    };
    const timer = setTimeout(() => fail(`The sheet took more than ${LONGEST / 1000} seconds to compile.`), LONGEST);
    worker.once('message', (compiled: CompiledSheet) => {
      clearTimeout(timer);
      giveBack(worker);
      resolve(compiled);
    });
    worker.once('error', (error) => fail(`The sheet could not be compiled: ${error.message}`));
    worker.postMessage({ source, rehearsals });
  });
}
