import { availableParallelism } from 'node:os';
import { MessageChannel } from 'node:worker_threads';
import Tinypool from 'tinypool';
import type { Job } from './task.js';

/** Why work came to nothing: no worker was free in time, it took too long, or it threw or used up its memory. */
export type WorkFailure = 'busy' | 'too-long' | 'failed';

export class WorkError extends Error {
  override readonly name = 'WorkError';
  constructor(
    readonly failure: WorkFailure,
    message: string,
  ) {
    super(message);
  }
}

export interface PoolLimits {
  /** Workers at most. */
  readonly workers: number;
  /** Pieces of work that wait for a worker at most. */
  readonly waiting: number;
  /** Longest time from the call until a worker begins, in milliseconds: a busy machine is not the work's fault. */
  readonly longestWait: number;
  /** Memory of a worker's heap, in MiB. */
  readonly heap: number;
}

/** Does work in workers, with caps on time, memory and number, so that strangers' texts cannot hold up the tables. */
export class WorkerPool {
  private readonly pool: Tinypool;
  /** Calls that are not answered yet. */
  private open = 0;

  constructor(private readonly limits: PoolLimits) {
    this.pool = new Tinypool({
      minThreads: 1,
      maxThreads: limits.workers,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: limits.heap, stackSizeMb: 4 },
    });
    // A worker that dies while it has nothing to do is replaced by the next call.
    this.pool.on('error', () => undefined);
  }

  /**
   * Runs a task file (see `taskOf`) with an input.
   * @param longest milliseconds that the work may take once it has begun; its worker is ended then
   * @throws WorkError
   */
  async run<Output>(file: URL, input: unknown, longest: number): Promise<Output> {
    if (this.open >= this.limits.workers + this.limits.waiting)
      throw new WorkError('busy', `${this.limits.waiting} pieces of work wait already.`);
    const abort = new AbortController();
    let failure: WorkFailure = 'failed';
    const endAfter = (why: WorkFailure, time: number): NodeJS.Timeout =>
      setTimeout(() => {
        failure = why;
        abort.abort();
      }, time);
    let timer = endAfter('busy', this.limits.longestWait);
    const { port1, port2 } = new MessageChannel();
    port1.once('message', () => {
      clearTimeout(timer);
      timer = endAfter('too-long', longest);
    });
    const job: Job<unknown> = { input, started: port2 };
    this.open++;
    try {
      return await this.pool.run(job, { filename: file.href, transferList: [port2], signal: abort.signal });
    } catch (error) {
      throw new WorkError(failure, error instanceof Error ? error.message : String(error));
    } finally {
      this.open--;
      // A message that is still under way must not set another timer.
      port1.removeAllListeners();
      port1.close();
      clearTimeout(timer);
    }
  }

  /** Ends all workers, with what they do. */
  close(): Promise<void> {
    return this.pool.destroy();
  }
}

let shared: WorkerPool | undefined;

/** The one pool of this process, made at its first use. */
export function workers(): WorkerPool {
  shared ??= new WorkerPool({
    // Two at least: one hostile text does not keep all others waiting.
    workers: Math.max(2, availableParallelism() - 1),
    waiting: 64,
    longestWait: 60_000,
    heap: 192,
  });
  return shared;
}
