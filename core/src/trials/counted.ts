/**
 * What a trial has counted: for each tally, by what it goes by, exact sums over games. One game is one independent unit:
 * everything that is counted in it is added up first.
 */
import { type Exact, plus, times } from './exact.js';

/** What a tally goes by, or counts: a number, a text, or all that were too many to be kept apart. */
export type Mark = number | string;
export const OTHERS = '\u0000others';

/** The most values of one thing that a tally goes by: numbers, and texts. */
const MOST_NUMBERS = 256;
const MOST_WORDS = 64;
/** The most categories of one cell, cells of one tally, and things that are counted in all tallies of a sheet together. */
const MOST_CATEGORIES = 256;
const MOST_CELLS = 4_096;
const MOST_COUNTED = 20_000;
/** The most different values of one thing, in all parts of its distribution together. */
const MOST_VALUES = 65_536;
/** Distributions are kept in so many parts, so that the error of a quantile can be found (jackknife). */
export const PARTS = 32;

/** Sums of one thing that is counted, over games: `x` is its sum in a game, `y` the base that it is held against. */
export class Quantity {
  x: Exact = 0;
  xx: Exact = 0;
  xy: Exact = 0;
  least = Number.POSITIVE_INFINITY;
  most = Number.NEGATIVE_INFINITY;
  /** Sums of products with the first setting, where several are held against each other. */
  readonly cross: [xx: Exact, xy: Exact, yx: Exact] = [0, 0, 0];
  /** How often each value was counted, in parts of which each holds every 32nd block. */
  readonly values: Map<number, number>[] = [];
  /** Whether large values share their place with others near them, since there were too many. */
  isCoarse = false;
  /** Its sum in the game under way. */
  now = 0;
  touched = false;

  constructor(readonly key: Mark | null) {}

  note(value: number, part: number): void {
    if (value < this.least) this.least = value;
    if (value > this.most) this.most = value;
    const place = this.isCoarse ? coarse(value) : value;
    let map = this.values[part];
    if (!map) {
      map = new Map();
      this.values[part] = map;
    }
    map.set(place, (map.get(place) ?? 0) + 1);
    if (map.size > MOST_VALUES) this.keepFewer();
  }

  /** Values share cells where there are too many, and then all parts are one: only errors of quantiles are lost. */
  private keepFewer(): void {
    if (!this.isCoarse) this.becomeCoarse();
    let all = 0;
    for (const map of this.values) all += map?.size ?? 0;
    if (all <= MOST_VALUES) return;
    const together = new Map<number, number>();
    for (const map of this.values)
      for (const [value, count] of map ?? []) together.set(value, (together.get(value) ?? 0) + count);
    this.values.length = 0;
    this.values.push(together);
  }

  /** Keeps values in cells from now on: exact below 1,024, and else their 10 leading bits. */
  private becomeCoarse(): void {
    this.isCoarse = true;
    for (const [part, map] of this.values.entries()) {
      if (!map) continue;
      const cells = new Map<number, number>();
      for (const [value, count] of map) cells.set(coarse(value), (cells.get(coarse(value)) ?? 0) + count);
      this.values[part] = cells;
    }
  }

  add(other: Quantity): void {
    this.x = plus(this.x, other.x);
    this.xx = plus(this.xx, other.xx);
    this.xy = plus(this.xy, other.xy);
    this.least = Math.min(this.least, other.least);
    this.most = Math.max(this.most, other.most);
    for (const i of [0, 1, 2] as const) this.cross[i] = plus(this.cross[i], other.cross[i]);
    if (other.isCoarse && !this.isCoarse) this.becomeCoarse();
    for (const [part, from] of other.values.entries()) {
      if (!from) continue;
      const into = this.values[part] ?? new Map<number, number>();
      this.values[part] = into;
      for (const [value, count] of from) {
        const place = this.isCoarse ? coarse(value) : value;
        into.set(place, (into.get(place) ?? 0) + count);
      }
    }
    let all = 0;
    for (const map of this.values) all += map?.size ?? 0;
    if (all > MOST_VALUES) this.keepFewer();
  }
}

/** A value as cells keep it: the middle of all that share their sign, their exponent and 9 further bits. */
export function coarse(value: number): number {
  const size = Math.abs(value);
  if (size < 1024) return value;
  const step = 2 ** (Math.floor(Math.log2(size)) - 9);
  return Math.sign(value) * (Math.floor(size / step) * step + step / 2);
}

/** One cell of a tally: what it goes by, its base over games, and what was counted there. */
export class Cell {
  y: Exact = 0;
  yy: Exact = 0;
  /** Games in which anything was counted here. */
  games = 0;
  cross: Exact = 0;
  readonly quantities = new Map<Mark | null, Quantity>();
  now = 0;
  readonly touched: Quantity[] = [];
  isTouched = false;

  constructor(
    readonly marks: readonly Mark[],
    private readonly room: { left: number },
  ) {}

  quantity(key: Mark | null): Quantity {
    let found = this.quantities.get(key);
    if (!found) {
      const isFull = this.quantities.size >= MOST_CATEGORIES || this.room.left <= 0;
      if (key !== null && key !== OTHERS && isFull) return this.quantity(OTHERS);
      this.room.left--;
      found = new Quantity(key);
      this.quantities.set(key, found);
    }
    return found;
  }

  /** Ends a game: what was counted in it goes into the sums. */
  fold(): void {
    const y = this.now;
    this.games++;
    this.y = plus(this.y, y);
    this.yy = plus(this.yy, times(y, y));
    for (const quantity of this.touched) {
      const x = quantity.now;
      quantity.x = plus(quantity.x, x);
      quantity.xx = plus(quantity.xx, times(x, x));
      quantity.xy = plus(quantity.xy, times(x, y));
    }
  }

  /** Forgets the game that was folded. */
  clear(): void {
    for (const quantity of this.touched) {
      quantity.now = 0;
      quantity.touched = false;
    }
    this.touched.length = 0;
    this.now = 0;
    this.isTouched = false;
  }

  add(other: Cell): void {
    this.y = plus(this.y, other.y);
    this.yy = plus(this.yy, other.yy);
    this.games += other.games;
    this.cross = plus(this.cross, other.cross);
    for (const [key, quantity] of other.quantities) this.quantity(key).add(quantity);
  }
}

/** The marks of one thing that a tally goes by: those past the most are others. */
class Marks {
  private readonly known = new Set<Mark>();
  private words = 0;

  of(mark: Mark): Mark {
    if (this.known.has(mark)) return mark;
    if (mark === OTHERS || this.known.size >= MOST_NUMBERS || (typeof mark === 'string' && this.words >= MOST_WORDS))
      return OTHERS;
    if (typeof mark === 'string') this.words++;
    this.known.add(mark);
    return mark;
  }
}

/** What was counted of one tally. */
export class Counts {
  private readonly marks = [new Marks(), new Marks()] as const;
  private readonly rows = new Map<Mark, Map<Mark, Cell>>();
  /** Cells in which something was counted in the game under way. */
  readonly touched: Cell[] = [];

  private size = 0;
  private readonly room: { left: number };

  /**
   * @param keys how many things it goes by, 0 to 2
   * @param tallies among how many tallies the room for what is counted is shared
   */
  constructor(
    readonly keys: number,
    tallies = 1,
  ) {
    this.room = { left: Math.floor(MOST_COUNTED / Math.max(1, tallies)) };
  }

  /** All cells, in the order in which they were first counted. */
  get cells(): Cell[] {
    return [...this.rows.values()].flatMap((row) => [...row.values()]);
  }

  cell(first: Mark, second: Mark): Cell {
    const [one, two] = this.marks;
    const a = this.keys > 0 ? one.of(first) : 0;
    const b = this.keys > 1 ? two.of(second) : 0;
    const isFull = this.size >= MOST_CELLS || this.room.left <= 0;
    if (isFull && (a !== OTHERS || (this.keys > 1 && b !== OTHERS)) && !this.rows.get(a)?.has(b))
      return this.cell(OTHERS, OTHERS);
    let row = this.rows.get(a);
    if (!row) {
      row = new Map();
      this.rows.set(a, row);
    }
    let cell = row.get(b);
    if (!cell) {
      cell = new Cell([a, b].slice(0, this.keys), this.room);
      this.size++;
      row.set(b, cell);
    }
    return cell;
  }

  /** The cell of these marks, where there is one. */
  find(marks: readonly Mark[]): Cell | undefined {
    const [first = 0, second = 0] = marks;
    return this.rows.get(first)?.get(second);
  }

  /** Counts something in the game under way. @param part of the distribution, or −1 where none is kept */
  count(first: Mark, second: Mark, key: Mark | null, x: number, y: number, part: number): void {
    const cell = this.cell(first, second);
    if (!cell.isTouched) {
      cell.isTouched = true;
      this.touched.push(cell);
    }
    cell.now += y;
    const quantity = cell.quantity(key);
    if (!quantity.touched) {
      quantity.touched = true;
      cell.touched.push(quantity);
    }
    quantity.now += x;
    if (part >= 0) quantity.note(x, part);
  }

  /** Puts the game's counts into the sums, and its products with the same game under the first setting. */
  fold(first: Counts | null): void {
    for (const cell of this.touched) {
      if (!Number.isSafeInteger(cell.now) || cell.touched.some(({ now }) => !Number.isSafeInteger(now)))
        throw new RangeError('A game counts to more than 9,007,199,254,740,991: count smaller numbers.');
      cell.fold();
    }
    if (first) this.foldCross(first);
  }

  private foldCross(first: Counts): void {
    for (const cell of this.touched) {
      const other = first.find(cell.marks);
      if (!other?.isTouched) continue;
      cell.cross = plus(cell.cross, times(cell.now, other.now));
      for (const quantity of cell.touched) {
        const there = other.quantities.get(quantity.key)?.now ?? 0;
        quantity.cross[0] = plus(quantity.cross[0], times(quantity.now, there));
        quantity.cross[1] = plus(quantity.cross[1], times(quantity.now, other.now));
      }
      for (const quantity of other.touched) {
        const mine = cell.quantity(quantity.key);
        mine.cross[2] = plus(mine.cross[2], times(cell.now, quantity.now));
      }
    }
  }

  clear(): void {
    for (const cell of this.touched) cell.clear();
    this.touched.length = 0;
  }

  /** Adds what others counted. */
  add(other: Counts): void {
    for (const cell of other.cells) {
      const [first = 0, second = 0] = cell.marks;
      this.cell(first, second).add(cell);
    }
  }
}
