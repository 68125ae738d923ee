import { CHAPTER_TEXT, FREE, type StateLayout } from './layout.js';

/** Before the first chapter. */
const NO_TITLE: readonly never[] = [];

/**
 * What the states of a game are made of. States are copied as bytes, so only states of the very same form can take
 * each other's place: games whose states mean the same share one form.
 */
export interface StateForm {
  readonly numbers: number;
  readonly refs: number;
  readonly cards: number;
  readonly piles: number;
  /** The game, its settings, seats, promised cards and memory in words, for whoever mixes up two of them. */
  readonly words: string;
}

/** A state was handed to a game whose states are made otherwise. */
export class StateFormError extends Error {
  override readonly name = 'StateFormError';
  constructor(given: StateForm, wanted: StateForm) {
    super(
      `This state belongs to another kind of table: it is of ${given.words}, and one of ${wanted.words} is needed. Make the twin with Game.twin().`,
    );
  }
}

type Counts = Pick<StateForm, 'cards' | 'piles'>;

/** The last stamp given, over all states. In a typed array, so that it never becomes a boxed number. */
export const changes = new Float64Array(1);

/** Places for cards: more than there are, and many more where states are small, so that piles are seldom laid anew. */
const room = ({ cards, piles }: Counts): number => (cards <= 54 ? 8 : cards <= 108 ? 4 : 2) * cards + 4 * piles + 16;

/** Where each part of a state begins in its {@link State.row}. */
export interface RowOffsets {
  readonly start: number;
  readonly len: number;
  readonly cap: number;
  readonly where: number;
  readonly seen: number;
  readonly known: number;
  readonly facing: number;
  readonly cards: number;
  readonly end: number;
}
export function rowOffsets(size: Counts): RowOffsets {
  const { piles, cards } = size;
  const where = 3 * piles;
  const places = where + 4 * cards;
  return {
    start: 0,
    len: piles,
    cap: 2 * piles,
    where,
    seen: where + cards,
    known: where + 2 * cards,
    facing: where + 3 * cards,
    cards: places,
    end: places + room(size),
  };
}

/**
 * The whole state of one table, as a value: one buffer of numbers, one short row of frozen lists.
 * Each pile is a stretch of `cards` with some room behind it; a pile that outgrows its room moves to
 * the free end, and when that is used up all piles are laid close together again.
 */
export class State {
  /** Control, scores, variables and the script's own slots. */
  readonly f: Float64Array;
  /** A stamp for each pile: equal stamps mean equal cards, order and visibility. */
  readonly stamp: Float64Array;
  /**
   * The rows below, one behind the other: what runs for every card reads this one, at the places that
   * {@link rowOffsets} gives, since each array costs several reads before the first of its numbers is read.
   */
  readonly row: Uint16Array;
  readonly start: Uint16Array;
  readonly len: Uint16Array;
  readonly cap: Uint16Array;
  readonly cards: Uint16Array;
  /** The pile of every card. */
  readonly where: Uint16Array;
  /** The facing of every card: 0 down, 1 up, 2 private. */
  readonly facing: Uint16Array;
  /** Seats that may see a card besides what its facing says, a bit each. */
  readonly seen: Uint16Array;
  /** Seats that have seen a card since it was last shuffled, a bit each; kept only where bots ask for it. */
  readonly known: Uint16Array;
  readonly refs: unknown[];
  private readonly bytes: Uint8Array;

  constructor(readonly form: StateForm) {
    const { numbers, cards, piles } = form;
    const parts = rowOffsets(form);
    const doubles = (numbers + piles) * 8;
    const buffer = new ArrayBuffer(doubles + parts.end * 2);
    this.bytes = new Uint8Array(buffer);
    this.f = new Float64Array(buffer, 0, numbers);
    this.stamp = new Float64Array(buffer, numbers * 8, piles);
    this.row = new Uint16Array(buffer, doubles, parts.end);
    const part = (from: number, count: number): Uint16Array => new Uint16Array(buffer, doubles + from * 2, count);
    this.start = part(parts.start, piles);
    this.len = part(parts.len, piles);
    this.cap = part(parts.cap, piles);
    this.where = part(parts.where, cards);
    this.seen = part(parts.seen, cards);
    this.known = part(parts.known, cards);
    this.facing = part(parts.facing, cards);
    this.cards = part(parts.cards, parts.end - parts.cards);
    this.refs = new Array<unknown>(form.refs).fill(null);
    this.refs[CHAPTER_TEXT] = NO_TITLE;
  }

  /** Bytes of the state's buffer. */
  get byteLength(): number {
    return this.bytes.byteLength;
  }

  /**
   * Makes this state equal to another: one copy of bytes and a few lists.
   * @throws StateFormError where it is of another form
   */
  copyFrom(other: State): this {
    if (other.form !== this.form) throw new StateFormError(other.form, this.form);
    this.bytes.set(other.bytes);
    changes[0] = (changes[0] as number) + 1;
    const { refs } = this;
    const theirs = other.refs;
    for (let i = 0; i < refs.length; i++) refs[i] = theirs[i];
    return this;
  }

  /** As a state is when it is new. */
  clear(): this {
    this.bytes.fill(0);
    changes[0] = (changes[0] as number) + 1;
    this.refs.fill(null);
    this.refs[CHAPTER_TEXT] = NO_TITLE;
    return this;
  }

  /** Its numbers and cards, as bytes of its own. */
  bytesCopied(): Uint8Array {
    return this.bytes.slice();
  }

  /** Takes over bytes and lists that were kept of another process; returns whether they are of this form. */
  fill(bytes: Uint8Array, refs: readonly unknown[]): boolean {
    if (bytes.length !== this.bytes.length || refs.length !== this.refs.length) return false;
    this.bytes.set(bytes);
    for (let i = 0; i < refs.length; i++) this.refs[i] = refs[i];
    // Stamps of another process mean nothing here.
    for (let pile = 0; pile < this.stamp.length; pile++) this.touch(pile);
    return true;
  }

  /** A new state equal to this one. */
  copy(): State {
    return new State(this.form).copyFrom(this);
  }

  /** Gives one or two piles a new stamp, because their cards changed. */
  touch(pile: number, other = pile): void {
    const next = (changes[0] as number) + 1;
    changes[0] = next;
    this.stamp[pile] = next;
    this.stamp[other] = next;
  }

  /** Gives a pile room for at least `need` cards. */
  grow(pile: number, need: number): void {
    const wanted = this.wanted(pile, need);
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

  /** The room of a pile that grows: twice what it had, and never more than all cards take. */
  private wanted(pile: number, need: number): number {
    return Math.max(need + 2, Math.min(2 * (this.cap[pile] as number), this.form.cards + 2));
  }

  /**
   * Lays all piles close together. Those that hold cards keep their room where all of it fits, for they were that
   * large before; otherwise each has two places to spare, and the one that grows gets half of what is left.
   */
  private close(growing: number, need: number): void {
    const old = this.cards.slice();
    const piles = this.len.length;
    const wanted = this.wanted(growing, need);
    let tight = 2 * piles + need - (this.len[growing] as number);
    let wide = wanted;
    for (let p = 0; p < piles; p++) {
      const length = this.len[p] as number;
      tight += length;
      if (p !== growing) wide += length === 0 ? 2 : (this.cap[p] as number);
    }
    const isWide = wide <= old.length;
    const more = (old.length - tight) >> 1;
    let at = 0;
    for (let p = 0; p < piles; p++) {
      const length = this.len[p] as number;
      const from = this.start[p] as number;
      this.cards.set(old.subarray(from, from + length), at);
      this.start[p] = at;
      if (p === growing) this.cap[p] = isWide ? wanted : need + more + 2;
      else if (!isWide) this.cap[p] = length + 2;
      else if (length === 0) this.cap[p] = 2;
      at += this.cap[p] as number;
    }
    this.f[FREE] = at;
  }
}

/** Makes a state the first one of a table: the whole deck in the pack, in deck order. @param state is overwritten */
export function firstState(layout: StateLayout, state: State): State {
  const { form } = state.clear();
  const cards = layout.faces.length;
  for (let p = 0; p < form.piles; p++) {
    state.start[p] = p === 0 ? 0 : cards + 2 * (p - 1);
    state.cap[p] = p === 0 ? cards : 2;
  }
  state.f[FREE] = cards + 2 * (form.piles - 1);
  for (let c = 0; c < cards; c++) state.cards[c] = c;
  state.len[0] = cards;
  return state;
}
