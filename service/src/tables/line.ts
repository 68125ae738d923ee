import { passingProblem } from '../failure.js';
import { Problem } from '../problems.js';
import type { InTurn } from '../records/replay.js';

const FIRST_RETRY = 1_000;
const LONGEST_RETRY = 30_000;

interface Around {
  /** Runs work when the table's turn comes. */
  readonly inTurn: InTurn;
  /** Told of what went wrong with something that the table did by itself. */
  failed(error: unknown): void;
  /** Has the table go on by itself after so many milliseconds. */
  again(milliseconds: number): void;
}

/** Everything that is done with a table stands in one line: one thing after the other, looks after what came before them. */
export class Line {
  private last: Promise<unknown> = Promise.resolve();
  /** After how long what could not be kept is tried again, in milliseconds. */
  private retryIn = FIRST_RETRY;
  lastUsed = Date.now();

  constructor(private readonly around: Around) {}

  /** Somebody uses the table. */
  used(): void {
    this.lastUsed = Date.now();
  }

  /** Runs one thing after the other. */
  run<T>(work: () => Promise<T>): Promise<T> {
    this.used();
    const run = this.last.then(work, work);
    this.last = run.catch(() => undefined);
    return run;
  }

  /** Reads the table after pending work: a choice that is not stored yet is seen by nobody. */
  read<T>(look: () => T): Promise<T> {
    this.used();
    return this.last.then(() => this.around.inTurn(look));
  }

  /** Runs something the table does by itself; errors are logged, and retried if the database was unavailable. */
  act(work: () => Promise<unknown>): void {
    this.run(work).catch((error: unknown) => {
      this.around.failed(error);
      // Whatever may pass is tried again, after waits that grow.
      const passing = error instanceof Problem ? error.kind === 'unavailable' : passingProblem(error) !== null;
      if (!passing) return;
      this.around.again(this.retryIn);
      this.retryIn = Math.min(LONGEST_RETRY, 2 * this.retryIn);
    });
  }

  /** The table could be kept: what fails next is tried again soon. */
  kept(): void {
    this.retryIn = FIRST_RETRY;
  }

  /** Waits for all that stands in the line now. */
  async end(): Promise<void> {
    await this.last;
  }
}
