import { chachaChance, seedFrom } from '../chance/chacha.js';
import { below, type Generator, shufflePlaces } from '../chance/generator.js';
import { quickChance } from '../chance/quick.js';

/** Puts an order of cards in another, in place. */
export type Shuffle = (order: Uint16Array, generator: Generator) => void;

/** A shuffle that is known by name. */
export interface NamedShuffle {
  readonly name: string;
  /** What it does, in a sentence's half. */
  readonly words: string;
  /** Gives the next order: it is overwritten by the one after it. */
  next(): Uint16Array;
}

/** A name that stands for no shuffle. */
export class ShuffleError extends Error {
  override readonly name = 'ShuffleError';
}

const swap = (order: Uint16Array, i: number, j: number): void => {
  const held = order[i] as number;
  order[i] = order[j] as number;
  order[j] = held;
};

const swapAnywhere: Shuffle = (order, generator) => {
  for (let i = 0; i < order.length; i++) swap(order, i, below(generator, order.length));
};

const neverStays: Shuffle = (order, generator) => {
  for (let i = order.length - 1; i >= 1; i--) swap(order, i, below(generator, i));
};

const offByOne: Shuffle = (order, generator) => {
  const n = order.length;
  for (let i = 0; i < n - 2; i++) swap(order, i, i + below(generator, n - 1 - i));
};

const randomPairs =
  (swaps: number): Shuffle =>
  (order, generator) => {
    for (let i = 0; i < swaps; i++) swap(order, below(generator, order.length), below(generator, order.length));
  };

/**
 * What a sort makes of a comparison that tosses a coin: a first run as long as the coins agree, turned round where they
 * say "less", and binary insertion of the rest, as common library sorts begin (Peters 2002).
 */
const sortByCoin: Shuffle = (order, generator) => {
  const less = (): boolean => below(generator, 2) === 0;
  const n = order.length;
  if (n < 2) return;
  const turned = less();
  let run = 2;
  while (run < n && less() === turned) run++;
  if (turned) order.subarray(0, run).reverse();
  for (let start = run; start < n; start++) {
    const held = order[start] as number;
    let [left, right] = [0, start];
    while (left < right) {
      const middle = (left + right) >> 1;
      if (less()) right = middle;
      else left = middle + 1;
    }
    order.copyWithin(left + 1, left, start);
    order[left] = held;
  }
};

/** Cuts the deck as coins fall, and lets the next card come from a packet in proportion to its size (Gilbert, Shannon, Reeds). */
const riffles =
  (times: number): Shuffle =>
  (order, generator) => {
    const n = order.length;
    const before = new Uint16Array(n);
    for (let time = 0; time < times; time++) {
      before.set(order);
      let cut = 0;
      for (let i = 0; i < n; i++) cut += below(generator, 2);
      let [a, b] = [0, cut];
      for (let i = 0; i < n; i++) {
        const left = cut - a;
        order[i] = below(generator, n - i) < left ? (before[a++] as number) : (before[b++] as number);
      }
    }
  };

/** Drops packets from the top onto a new pile: after each card the packet ends with one chance in five. */
const overhands =
  (times: number): Shuffle =>
  (order, generator) => {
    const n = order.length;
    const before = new Uint16Array(n);
    for (let time = 0; time < times; time++) {
      before.set(order);
      let [from, to] = [0, n];
      while (from < n) {
        let size = 1;
        while (from + size < n && below(generator, 5) !== 0) size++;
        to -= size;
        order.set(before.subarray(from, from + size), to);
        from += size;
      }
    }
  };

const shortKeys =
  (bits: number): Shuffle =>
  (order, generator) => {
    const keys = Array.from(order, (card) => ({ card, key: below(generator, 2 ** bits) }));
    keys.sort((a, b) => a.key - b.key);
    for (const [i, { card }] of keys.entries()) order[i] = card;
  };

const modulo =
  (bits: number): Shuffle =>
  (order, generator) => {
    for (let i = order.length - 1; i >= 1; i--) swap(order, i, below(generator, 2 ** bits) % (i + 1));
  };

const weakSeed =
  (bits: number): Shuffle =>
  (order, generator) => {
    const seed = below(generator, 2 ** bits);
    shufflePlaces(order, 0, order.length, quickChance(seed).stream('weak', 0));
  };

const fair: Shuffle = (order, generator) => shufflePlaces(order, 0, order.length, generator);

/** A known shuffle: how it is done with its number, and what that number may be. */
interface Kind {
  readonly words: (n: number) => string;
  readonly make: (n: number) => Shuffle;
  /** Its number where none is given, and its limits; missing where it takes none. */
  readonly takes?: readonly [usual: number, from: number, to: number];
}

const KINDS: Readonly<Record<string, Kind>> = {
  ours: { words: () => 'what every table here uses', make: () => fair },
  'swap-anywhere': { words: () => 'the swap of place i with any place', make: () => swapAnywhere },
  'sort-by-coin': { words: () => 'a sort that tosses a coin', make: () => sortByCoin },
  'never-stays': { words: () => 'the swap of place i with an earlier one', make: () => neverStays },
  'off-by-one': { words: () => 'an index that never reaches the last card', make: () => offByOne },
  'random-pairs': { words: (n) => `${n} swaps of any two places`, make: randomPairs, takes: [52, 1, 10_000] },
  riffle: { words: (n) => `${n} riffles`, make: riffles, takes: [7, 1, 50] },
  overhand: { words: (n) => `${n} overhand shuffles`, make: overhands, takes: [20, 1, 1_000] },
  'short-keys': { words: (n) => `a sort by keys of ${n} bits`, make: shortKeys, takes: [8, 1, 32] },
  modulo: { words: (n) => `the remainder of a number of ${n} bits`, make: modulo, takes: [8, 1, 32] },
  'weak-seed': { words: (n) => `a seed of ${n} bits`, make: weakSeed, takes: [16, 1, 32] },
};

/** The names of known shuffles, as they are written. */
export const SHUFFLE_NAMES: readonly string[] = [
  ...Object.entries(KINDS).map(([name, { takes }]) => (takes ? `${name}:${takes[0]}` : name)),
  'old-cards',
];

function kindOf(name: string): { readonly kind: Kind; readonly n: number } {
  const [word = '', given, ...more] = name.split(':');
  const kind = Object.hasOwn(KINDS, word) ? KINDS[word] : undefined;
  if (!kind || more.length > 0)
    throw new ShuffleError(
      `There is no known shuffle "${name}". There are ${SHUFFLE_NAMES.join(', ')}, and goes-on: before any of them.`,
    );
  if (!kind.takes) {
    if (given !== undefined) throw new ShuffleError(`"${word}" takes no number.`);
    return { kind, n: 0 };
  }
  const [usual, from, to] = kind.takes;
  const n = given === undefined ? usual : Number(given);
  if (!Number.isInteger(n) || n < from || n > to)
    throw new ShuffleError(`"${word}" takes a whole number from ${from} to ${to}, as in ${word}:${usual}.`);
  return { kind, n };
}

/** A known shuffle, done once to an order where it lies. @throws ShuffleError where nothing is known by this name */
export function shuffleNamed(name: string): Shuffle {
  const { kind, n } = kindOf(name);
  return kind.make(n);
}

/**
 * A known shuffle by its name: each order is made from the deck's own, or, with `goes-on:` before the name, from the one
 * before it.
 * @param seed the same text gives the same shuffles
 * @throws ShuffleError where nothing is known by this name
 */
export function namedShuffle(name: string, cards: number, seed: string): NamedShuffle {
  const goesOn = name.startsWith('goes-on:');
  const inner = goesOn ? name.slice('goes-on:'.length) : name;
  const isOld = inner === 'old-cards';
  const { kind, n } = isOld ? { kind: KINDS.ours as Kind, n: 0 } : kindOf(inner);
  const shuffle = kind.make(n);
  const generator = chachaChance(seedFrom(seed)).stream(`audit ${inner}`, 0);
  const own = Uint16Array.from({ length: cards }, (_, i) => i);
  const order = own.slice();
  const words = isOld ? 'fair, but one time in a hundred the cards stay as they lie' : kind.words(n);
  return {
    name,
    words: goesOn ? `${words}, from the order before` : words,
    next() {
      if (isOld && below(generator, 100) === 0) return order;
      if (!goesOn) order.set(own);
      shuffle(order, generator);
      return order;
    },
  };
}
