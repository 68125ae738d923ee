import { statfs } from 'node:fs/promises';
import type { Logger } from 'pino';
import { guarded } from '../guarded.js';
import { Problem } from '../problems.js';

/** With less room than this nothing new begins: no sheets, no tables. In bytes. */
const FOR_MORE = 200 * 1024 * 1024;
/** With less room than this no choice is taken either: the database needs some to end what it is doing. In bytes. */
const FOR_CHOICES = 50 * 1024 * 1024;
/** How often is looked, in milliseconds. */
const LOOK = 10_000;

/** How many bytes are free where a folder lies; infinitely many where the machine does not say. */
export async function freeBytes(folder: string): Promise<number> {
  try {
    const { bavail, bsize } = await statfs(folder);
    return bavail * bsize;
  } catch {
    return Number.POSITIVE_INFINITY;
  }
}

/** The room that is left on the disk: play stops in order before there is none, and goes on by itself. */
export class Space {
  private free = Number.POSITIVE_INFINITY;
  private wasShort = false;
  private readonly timer: NodeJS.Timeout;

  /** @param read how many bytes are free */
  constructor(
    private readonly read: () => Promise<number>,
    private readonly log: Logger,
  ) {
    this.timer = setInterval(
      guarded(log, 'looking how much room is left', () => this.look()),
      LOOK,
    );
    this.timer.unref();
  }

  /** Looks how much room is left. */
  async look(): Promise<void> {
    this.free = await this.read();
    const isShort = this.free < FOR_MORE;
    if (isShort !== this.wasShort)
      this.log.warn({ free: this.free }, isShort ? 'the disk is nearly full' : 'there is room again');
    this.wasShort = isShort;
  }

  /** Insists on room for new sheets and tables. @throws Problem */
  demandForMore(): void {
    if (this.free < FOR_MORE) throw noRoom('for new sheets and tables');
  }

  /** Insists on room for a choice. @throws Problem */
  demandForChoice(): void {
    if (this.free < FOR_CHOICES) throw noRoom('for a choice');
  }

  stop(): void {
    clearInterval(this.timer);
  }
}

const noRoom = (what: string): Problem =>
  new Problem('unavailable', `There is too little room on the disk ${what}. Nothing was changed: try again later.`, {
    retryAfter: 10,
  });
