import type { At } from '../program/types.js';
import { Fault } from './fault.js';

/** Greatest number of events in one step. */
export const MOST_EVENTS = 10_000;

/** What happened, as the running script noted it. */
export const MOVED = 1;
export const TURNED = 2;
export const SHUFFLED = 3;
export const SAID = 4;
export const TOLD = 5;
export const CHAPTER = 6;
export const ACTED = 7;
export const SHOWN = 8;

/** Everybody may see: all seats, and those who watch (bit 12). */
export const ALL = 0x1fff;
export const WATCHER_BIT = 1 << 12;
/** All seats. */
export const SEATS = WATCHER_BIT - 1;
const WIDTH = 7;

/**
 * What happened in a step, as rows of numbers that are decoded only when somebody looks.
 * A row: kind, then up to six numbers; texts and lists stand in `refs` under their number.
 */
export class Trace {
  private rows = new Int32Array(WIDTH * 256);
  private used = 0;
  readonly refs: unknown[] = [];
  private kept = 0;

  /** How many events there are. */
  get length(): number {
    return this.used / WIDTH;
  }
  clear(): void {
    this.used = 0;
    this.kept = 0;
  }
  /** Keeps a text or a list for this step, and gives its number. */
  keep(ref: unknown): number {
    this.refs[this.kept] = ref;
    return this.kept++;
  }
  add(kind: number, a: number, b: number, c: number, d: number, e: number, f: number): void {
    let at = this.used;
    let { rows } = this;
    if (at + WIDTH > rows.length) {
      if (at >= WIDTH * MOST_EVENTS)
        throw new Fault(
          `More than ${MOST_EVENTS} things happened in one step: the script runs on without waiting.`,
          0 as At,
        );
      const larger = new Int32Array(Math.min(2 * rows.length, WIDTH * MOST_EVENTS));
      larger.set(rows);
      rows = larger;
      this.rows = larger;
    }
    rows[at++] = kind;
    rows[at++] = a;
    rows[at++] = b;
    rows[at++] = c;
    rows[at++] = d;
    rows[at++] = e;
    rows[at++] = f;
    this.used = at;
  }
  /** The numbers of the i-th event: kind first. */
  row(i: number): readonly number[] {
    return [...this.rows.subarray(i * WIDTH, (i + 1) * WIDTH)];
  }
}
