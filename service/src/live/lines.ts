import type { Logger } from 'pino';
import { guarded } from '../guarded.js';
import { Problem } from '../problems.js';
import { onEnding, type Right, rightOf } from '../storage/keys.js';
import { Crowd } from './crowd.js';

/** How often the keys of open lines are looked up again, in milliseconds, and how many at a time. */
const LOOKED_EVERY = 30_000;
const MOST_LOOKED = 500;

/** What is said to those whose key has ended. */
const ENDED: Readonly<Record<Right['role'], string>> = {
  developer: 'The keys of this developer have ended.',
  host: 'The key of this host has ended.',
  seat: 'This key has ended: the host has made a new one for the seat.',
  watch: 'The keys to watch this table have ended.',
  look: 'The keys to look at this draft have ended.',
};

/** A socket, or a stream of events, with the key that opened it. */
interface Line {
  readonly key: string;
  readonly right: Right;
  end(problem: Problem): void;
}

/** The lines that are open, whatever they are made of: none outlives the right that opened it, and nobody has all of them. */
export class Lines {
  readonly crowd = new Crowd();
  /** Those that were looked at longest ago come first. */
  private readonly open = new Set<Line>();
  private readonly timer: NodeJS.Timeout;
  private readonly stopHearing: () => void;

  constructor(log: Logger) {
    this.stopHearing = onEnding((isEnded) => {
      for (const line of [...this.open]) if (isEnded(line.right, line.key)) this.end(line);
    });
    this.timer = setInterval(
      guarded(log, 'looking up the keys of open lines', () => this.look()),
      LOOKED_EVERY,
    );
    this.timer.unref();
  }

  /** Takes note of an open line. Gives what is to be called once it is closed. */
  add(line: Line): () => void {
    this.open.add(line);
    return () => this.open.delete(line);
  }

  /** Ends the lines whose keys have ended by themselves, or where nobody told this process of it. */
  private async look(): Promise<void> {
    for (const line of [...this.open].slice(0, MOST_LOOKED)) {
      if (!this.open.delete(line)) continue;
      this.open.add(line);
      if ((await rightOf(line.key)) === null) this.end(line);
    }
  }

  private end(line: Line): void {
    this.open.delete(line);
    line.end(new Problem('no-key', ENDED[line.right.role]));
  }

  stop(): void {
    clearInterval(this.timer);
    this.stopHearing();
  }
}
