import { FairQueue } from './fair-queue.js';

/** Too much waits already, of all or of one developer. */
export class Crowded extends Error {
  override readonly name = 'Crowded';
}

export interface FairLimits {
  /** So much is done at a time. */
  readonly atOnce: number;
  /** So much waits at most, and of one developer. */
  readonly waiting: number;
  readonly waitingOfOne: number;
}

/** Does a few things at a time, those of several developers in turn: whoever asks much waits for itself. */
export class FairLimit {
  private readonly queue = new FairQueue<() => Promise<void>>();
  private underWay = 0;

  constructor(private readonly limits: FairLimits) {}

  /** @throws Crowded where too much waits, or what the work throws */
  run<T>(developer: string, work: () => Promise<T>): Promise<T> {
    const { waiting, waitingOfOne } = this.limits;
    if (this.queue.size >= waiting || this.queue.sizeOf(developer) >= waitingOfOne)
      return Promise.reject(new Crowded('too much waits already'));
    return new Promise<T>((done, failed) => {
      this.queue.push(developer, () => work().then(done, failed));
      this.pump();
    });
  }

  private pump(): void {
    while (this.underWay < this.limits.atOnce) {
      const next = this.queue.next();
      if (!next) return;
      this.underWay++;
      void next().finally(() => {
        this.underWay--;
        this.pump();
      });
    }
  }
}
