/** What is counted of many orders of the same cards, each taken as a permutation: place by place, the card that lies there. */
export class PermutationCounts {
  /** How often each card lay at each place: rows are places. */
  readonly at: Uint32Array;
  /** How often a card lay so many places after its own, going round. */
  readonly shift: Float64Array;
  orders = 0;
  together = 0;
  backwards = 0;
  descents = 0;
  /** Rising sequences, one less for each order. */
  rises = 0;
  inversions = 0;
  cycles = 0;
  odd = 0;
  /** Orders of one cycle alone. */
  whole = 0;
  private readonly inverse: Uint16Array;
  private readonly tree: Uint32Array;
  private readonly seen: Uint8Array;

  /** @param n how many cards there are */
  constructor(readonly n: number) {
    this.at = new Uint32Array(n * n);
    this.shift = new Float64Array(n);
    this.inverse = new Uint16Array(n);
    this.tree = new Uint32Array(n + 1);
    this.seen = new Uint8Array(n);
  }

  add(order: Uint16Array): void {
    const { n, at, shift, inverse } = this;
    this.orders++;
    let before = order[0] as number;
    for (let i = 0; i < n; i++) {
      const card = order[i] as number;
      const cell = i * n + card;
      at[cell] = (at[cell] as number) + 1;
      const d = i >= card ? i - card : i - card + n;
      shift[d] = (shift[d] as number) + 1;
      inverse[card] = i;
      if (i === 0) continue;
      if (card === before + 1) this.together++;
      else if (card + 1 === before) this.backwards++;
      if (card < before) this.descents++;
      before = card;
    }
    for (let card = 1; card < n; card++) if ((inverse[card] as number) < (inverse[card - 1] as number)) this.rises++;
    this.inversions += this.outOfOrder(order);
    const cycles = this.cyclesOf(order);
    this.cycles += cycles;
    if ((n - cycles) % 2 === 1) this.odd++;
    if (cycles === 1) this.whole++;
  }

  /** Pairs out of order, by a tree of partial sums (Fenwick 1994). */
  private outOfOrder(order: Uint16Array): number {
    const { n, tree } = this;
    tree.fill(0);
    let pairs = 0;
    for (let i = n - 1; i >= 0; i--) {
      const card = order[i] as number;
      for (let k = card; k > 0; k -= k & -k) pairs += tree[k] as number;
      for (let k = card + 1; k <= n; k += k & -k) tree[k] = (tree[k] as number) + 1;
    }
    return pairs;
  }

  private cyclesOf(order: Uint16Array): number {
    const { n, seen } = this;
    seen.fill(0);
    let cycles = 0;
    for (let i = 0; i < n; i++) {
      if (seen[i]) continue;
      cycles++;
      for (let k = i; !seen[k]; k = order[k] as number) seen[k] = 1;
    }
    return cycles;
  }

  /** How often a card lay at a place. */
  count(place: number, card: number): number {
    return this.at[place * this.n + card] as number;
  }
}

/** Bits of the hash that tell which slots are kept. */
const FIRST_SLOTS = 1 << 14;
const MOST_SLOTS = 1 << 22;

/**
 * Counts how often an order comes again, without keeping any: hashes of 64 bits in a table of bounded size. When it is
 * half full, only hashes whose next low bit is 0 are kept, and so half as many pairs are expected.
 */
export class RepeatCounter {
  private high = new Uint32Array(FIRST_SLOTS);
  private low = new Uint32Array(FIRST_SLOTS);
  private counts = new Uint32Array(FIRST_SLOTS);
  private used = 0;
  private bits = 0;
  /** Pairs of equal orders among those that are kept. */
  pairs = 0;
  /** Orders that equal the one just before, all of them. */
  neighbours = 0;
  private lastHigh = 0;
  private lastLow = 0;
  private isFirst = true;

  /** The share of all orders that is kept. */
  get kept(): number {
    return 2 ** -this.bits;
  }

  add(order: Uint16Array | Uint8Array): void {
    // Two hashes of 32 bits over the same numbers (FNV-1a with other bases and a final spread).
    let a = 0x811c9dc5;
    let b = 0x2f0b4a6d;
    for (let i = 0; i < order.length; i++) {
      const x = order[i] as number;
      a = Math.imul(a ^ x, 0x01000193);
      b = Math.imul(b ^ (x + 0x9e37), 0x85ebca6b);
      b ^= b >>> 13;
    }
    a = Math.imul(a ^ (a >>> 16), 0x85ebca6b);
    a ^= a >>> 13;
    const low = a >>> 0;
    const high = (Math.imul(b, 0xc2b2ae35) ^ (b >>> 16)) >>> 0;
    if (!this.isFirst && low === this.lastLow && high === this.lastHigh) this.neighbours++;
    this.isFirst = false;
    this.lastLow = low;
    this.lastHigh = high;
    if (this.isKept(high)) this.put(high, low);
  }

  private isKept(high: number): boolean {
    return this.bits === 0 || (high & (2 ** this.bits - 1)) === 0;
  }

  private slotOf(high: number, low: number): number {
    const mask = this.low.length - 1;
    let slot = (low ^ (high >>> 7)) & mask;
    while (this.counts[slot] !== 0 && (this.low[slot] !== low || this.high[slot] !== high)) slot = (slot + 1) & mask;
    return slot;
  }

  private put(high: number, low: number): void {
    const slot = this.slotOf(high, low);
    const count = this.counts[slot] as number;
    this.pairs += count;
    this.counts[slot] = count + 1;
    if (count > 0) return;
    this.high[slot] = high;
    this.low[slot] = low;
    if (++this.used * 2 > this.low.length) this.makeRoom();
  }

  private makeRoom(): void {
    const [high, low, counts] = [this.high, this.low, this.counts];
    const isFull = low.length >= MOST_SLOTS;
    const size = isFull ? low.length : low.length * 4;
    if (isFull) this.bits++;
    this.high = new Uint32Array(size);
    this.low = new Uint32Array(size);
    this.counts = new Uint32Array(size);
    this.used = 0;
    this.pairs = 0;
    for (let i = 0; i < counts.length; i++) {
      const count = counts[i] as number;
      if (count === 0 || !this.isKept(high[i] as number)) continue;
      const slot = this.slotOf(high[i] as number, low[i] as number);
      this.high[slot] = high[i] as number;
      this.low[slot] = low[i] as number;
      this.counts[slot] = count;
      this.pairs += (count * (count - 1)) / 2;
      this.used++;
    }
  }
}
