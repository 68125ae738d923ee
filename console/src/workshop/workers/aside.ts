import { type Remote, wrap } from 'comlink';

/** A worker did not answer in time, and was ended. */
export class Overdue extends Error {
  override readonly name = 'Overdue';
}

/** Between two looks at whether an answer is there, in milliseconds. */
const LOOK = 100;

/**
 * A worker that may be ended at any time: it is begun anew when it is next asked. Its time is counted in looks of the page, not
 * by the clock: where the whole machine stands still, nothing runs on.
 */
export class Aside<T> {
  private worker: Worker | null = null;
  private remote: Remote<T> | null = null;

  /** @param make a new worker. @param limit how long an answer may take, in milliseconds of a page that gets to run */
  constructor(
    private readonly make: () => Worker,
    private readonly limit: number,
  ) {}

  /** Whether it runs, and so knows what it was told. */
  get isUp(): boolean {
    return this.worker !== null;
  }

  /** @throws Overdue where no answer comes in time */
  async ask<R>(work: (remote: Remote<T>) => Promise<R>): Promise<R> {
    if (!this.worker) {
      this.worker = this.make();
      this.remote = wrap<T>(this.worker);
    }
    const { worker } = this;
    let timer = 0;
    let looks = this.limit / LOOK;
    const late = new Promise<never>((_, reject) => {
      timer = window.setInterval(() => {
        if (--looks > 0) return;
        window.clearInterval(timer);
        if (this.worker === worker) this.stop();
        reject(new Overdue(`No answer came within ${this.limit / 1_000} seconds.`));
      }, LOOK);
    });
    try {
      return await Promise.race([work(this.remote as Remote<T>), late]);
    } finally {
      window.clearInterval(timer);
    }
  }

  /** Ends it with all that it is doing. */
  stop(): void {
    this.worker?.terminate();
    this.worker = null;
    this.remote = null;
  }
}
