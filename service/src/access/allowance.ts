import { LRUCache } from 'lru-cache';

/** So many seconds' worth may be done at once, and so many things in any case. */
const BURST = 2;
const LEAST = 10;
/** Longer than this nobody is held up, in milliseconds. */
export const LONGEST_WAIT = 2_000;
/** The most keys that are remembered. */
const MOST_KEYS = 20_000;

/**
 * What each key to a seat, to watch or of a host may do in a second, over requests and sockets together. Whoever wants
 * more is slowed down, not refused: people never notice, and a client that does not rest takes nothing from others.
 */
export class Allowance {
  /** By key: when what was taken so far would have been allowed, in milliseconds. */
  private readonly until = new LRUCache<string, number>({ max: MOST_KEYS });
  private readonly each: number;

  /** @param perSecond how much a key may do in a second, for long */
  constructor(perSecond: number) {
    this.each = 1_000 / perSecond;
  }

  /** Takes one thing to do, and gives after how many milliseconds it may be done. */
  take(key: string, now = performance.now()): number {
    const from = Math.max(
      this.until.get(key) ?? Number.NEGATIVE_INFINITY,
      now - Math.max(BURST * 1_000, LEAST * this.each),
    );
    const wait = Math.max(0, from + this.each - now);
    // What is refused because of its wait costs nothing.
    if (wait <= LONGEST_WAIT) this.until.set(key, from + this.each);
    return wait;
  }
}
