import type { At } from '../program/types.js';
import { Fault } from './fault.js';
import { EVENT_BYTES, MOST_EVENTS, MOST_SAID } from './prices.js';

/** What happened, as the running script noted it. */
export const MOVED = 1;
export const TURNED = 2;
export const SHUFFLED = 3;
export const SAID = 4;
export const TOLD = 5;
export const CHAPTER = 6;
export const ACTED = 7;
export const SHOWN = 8;

/** The most cards of a pile, by which two places of cards fit one number. */
const PLACES = 4_096;
/** The place that a card leaves and the one that it takes, both from 1, as one number of a row. */
export const placesOf = (from: number, to: number): number => from * PLACES + to;
export const placeLeft = (places: number): number => Math.floor(places / PLACES);
export const placeTaken = (places: number): number => places % PLACES;

/** The mask of everybody: all seats, and watchers (bit 12). */
export const ALL = 0x1fff;
export const WATCHER_BIT = 1 << 12;
/** All seats. */
export const SEATS = WATCHER_BIT - 1;
const NOTHING_KEPT: unknown[] = [];
/** Numbers in the row of an event. */
export const WIDTH = 7;

/**
 * What happened in a step, as rows of numbers that are decoded only when somebody looks.
 * A row: kind, then up to six numbers; texts and lists are kept beside them under their number.
 */
export class Trace {
  private rows = new Int32Array(WIDTH * 256);
  private used = 0;
  private readonly refs: unknown[] = [];
  private refsUsed = 0;
  private saidBytes = 0;
  private movedBytes = 0;

  /**
   * @param quiet records nothing: for simulation
   * @param pileBytes what a pile's name and label take in an event and its sentence, by its number
   */
  constructor(
    readonly quiet = false,
    private readonly pileBytes: readonly number[] = [],
  ) {}

  clear(): void {
    this.used = 0;
    this.saidBytes = 0;
    this.movedBytes = 0;
    this.refsUsed = 0;
  }
  /** Counts bytes that are said. @throws Fault where it is too much for one step */
  said(bytes: number, at: At): void {
    this.saidBytes += bytes;
    if (this.saidBytes > MOST_SAID)
      throw new Fault(`A step says at most ${MOST_SAID / 1024} KiB, and this one says more.`, at);
  }
  /** The most bytes that telling this step takes, whoever is told: what is said stands in an event and in a sentence. */
  get toldBytes(): number {
    return this.movedBytes + 2 * this.saidBytes;
  }
  /** Keeps a text or a list for this step, and gives its number. */
  keep(ref: unknown): number {
    if (this.quiet) return -1;
    this.refs[this.refsUsed] = ref;
    return this.refsUsed++;
  }
  add(kind: number, a: number, b: number, c: number, d: number, e: number, f: number): void {
    if (this.quiet) return;
    this.movedBytes += EVENT_BYTES;
    if (kind === MOVED || kind === TURNED || kind === SHOWN) {
      this.movedBytes += this.pileBytes[b] ?? 0;
      if (kind === MOVED) this.movedBytes += this.pileBytes[c] ?? 0;
    }
    let at = this.used;
    let { rows } = this;
    if (at + WIDTH > rows.length) {
      if (at >= WIDTH * MOST_EVENTS)
        throw new Fault(
          `More than ${MOST_EVENTS.toLocaleString('en')} things happened in one step: the script runs on without waiting.`,
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
  /** The texts and lists of all events, by their numbers. */
  kept(): unknown[] {
    return this.refsUsed === 0 ? NOTHING_KEPT : this.refs.slice(0, this.refsUsed);
  }
  /** The numbers of all events, one row behind the other: {@link WIDTH} each, the kind first. */
  numbers(): number[] {
    const numbers = new Array<number>(this.used);
    for (let i = 0; i < this.used; i++) numbers[i] = this.rows[i] as number;
    return numbers;
  }
}
