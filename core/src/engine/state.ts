import { CHAPTER_TEXT, FREE, type Shape } from './shape.js';

/** Before the first chapter. */
const NO_TITLE: readonly never[] = [];

/** How large the parts of a state are. */
export interface StateSize {
  readonly numbers: number;
  readonly refs: number;
  readonly cards: number;
  readonly piles: number;
}

const room = (size: StateSize): number => 2 * size.cards + 4 * size.piles + 16;

/**
 * The whole state of one table, as a value: one buffer of numbers, one short row of frozen lists.
 * Each pile is a stretch of `cards` with some room behind it; a pile that outgrows its room moves to
 * the free end, and when that is used up all piles are laid close together again.
 */
export class State {
  /** Control, scores, variables and the script's own slots. */
  readonly f: Float64Array;
  readonly start: Uint16Array;
  readonly len: Uint16Array;
  readonly cap: Uint16Array;
  readonly cards: Uint16Array;
  /** The pile of every card. */
  readonly where: Uint16Array;
  /** The facing of every card: 0 down, 1 up, 2 private. */
  readonly facing: Uint8Array;
  /** Seats that may see a card besides what its facing says, a bit each. */
  readonly seen: Uint16Array;
  /** Seats that have seen a card since it was last shuffled, a bit each; kept only where bots ask for it. */
  readonly known: Uint16Array;
  readonly refs: unknown[];
  private readonly bytes: Uint8Array;

  constructor(readonly size: StateSize) {
    const { numbers, cards, piles } = size;
    const total = room(size);
    const length = numbers * 8 + (3 * piles + total + 3 * cards) * 2 + cards;
    const buffer = new ArrayBuffer(length);
    this.bytes = new Uint8Array(buffer);
    let at = 0;
    this.f = new Float64Array(buffer, at, numbers);
    at += numbers * 8;
    this.start = new Uint16Array(buffer, at, piles);
    at += piles * 2;
    this.len = new Uint16Array(buffer, at, piles);
    at += piles * 2;
    this.cap = new Uint16Array(buffer, at, piles);
    at += piles * 2;
    this.cards = new Uint16Array(buffer, at, total);
    at += total * 2;
    this.where = new Uint16Array(buffer, at, cards);
    at += cards * 2;
    this.seen = new Uint16Array(buffer, at, cards);
    at += cards * 2;
    this.known = new Uint16Array(buffer, at, cards);
    at += cards * 2;
    this.facing = new Uint8Array(buffer, at, cards);
    this.refs = new Array<unknown>(size.refs).fill(null);
    this.refs[CHAPTER_TEXT] = NO_TITLE;
  }

  /** Bytes of the state's buffer. */
  get byteLength(): number {
    return this.bytes.byteLength;
  }

  /** Makes this state equal to another of the same size: one copy of bytes and a few lists. */
  copyFrom(other: State): this {
    this.bytes.set(other.bytes);
    const { refs } = this;
    const theirs = other.refs;
    for (let i = 0; i < refs.length; i++) refs[i] = theirs[i];
    return this;
  }

  /** A new state equal to this one. */
  copy(): State {
    return new State(this.size).copyFrom(this);
  }

  /** Gives a pile room for at least `need` cards. */
  grow(pile: number, need: number): void {
    const wanted = Math.max(need + 2, 2 * (this.cap[pile] as number));
    let at = this.f[FREE] as number;
    if (at + wanted > this.cards.length) {
      this.close(pile, need);
      return;
    }
    const from = this.start[pile] as number;
    this.cards.copyWithin(at, from, from + (this.len[pile] as number));
    this.start[pile] = at;
    this.cap[pile] = wanted;
    at += wanted;
    this.f[FREE] = at;
  }

  /** Lays all piles close together, with two places to spare behind each and more behind the one that grows. */
  private close(growing: number, need: number): void {
    const old = this.cards.slice();
    let at = 0;
    for (let p = 0; p < this.len.length; p++) {
      const length = this.len[p] as number;
      const from = this.start[p] as number;
      this.cards.set(old.subarray(from, from + length), at);
      this.start[p] = at;
      this.cap[p] = (p === growing ? Math.max(need, length) : length) + 2;
      at += this.cap[p] as number;
    }
    this.f[FREE] = at;
  }
}

/** The first state of a table: the whole deck in the pack, in deck order. */
export function firstState(shape: Shape, size: StateSize): State {
  const state = new State(size);
  const cards = shape.faces.length;
  for (let p = 0; p < size.piles; p++) {
    state.start[p] = p === 0 ? 0 : cards + 2 * (p - 1);
    state.cap[p] = p === 0 ? cards : 2;
  }
  state.f[FREE] = cards + 2 * (size.piles - 1);
  for (let c = 0; c < cards; c++) state.cards[c] = c;
  state.len[0] = cards;
  return state;
}
