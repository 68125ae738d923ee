import { rifflesLike } from './riffles.js';
import type { PermutationCounts, RepeatCounter } from './tallied.js';
import { type Eye, FAIR, TEST_WORDS, type TestName, type TestResult } from './tests.js';

/** What an audit comes to. */
export type Verdict = 'not fair' | 'suspicious' | 'nothing found';

/** Below these, corrected for all tests, a shuffle is not fair, or suspicious. */
const SURE = 0.01;
const DOUBTFUL = 0.05;

/** A test with its corrected p. */
export interface Judged extends TestResult {
  readonly corrected: number;
}

export const verdictOf = (least: number): Verdict =>
  least < SURE ? 'not fair' : least < DOUBTFUL ? 'suspicious' : 'nothing found';

/** Most cards for which riffles are counted exactly. */
const MOST_RIFFLED = 104;

/** All that the likely cause is read from. */
export interface Evidence {
  readonly tests: readonly Judged[];
  readonly counts: PermutationCounts;
  /** The same from the order before. */
  readonly next: PermutationCounts;
  readonly repeats: RepeatCounter;
  readonly orders: number;
}

/** The evidence as questions about it. */
class Reading {
  readonly n: number;
  constructor(readonly of: Evidence) {
    this.n = of.counts.n;
  }
  private test(name: TestName, eye: Eye): Judged | undefined {
    return this.of.tests.find((one) => one.name === name && one.eye === eye);
  }
  /** Whether a test failed. */
  failed(name: TestName, eye: Eye = 'places'): boolean {
    return (this.test(name, eye)?.corrected ?? 1) < DOUBTFUL;
  }
  /** Whether it failed from the last order alone. */
  failedOnlyNext(name: TestName): boolean {
    return this.failed(name, 'from the last') && !this.failed(name);
  }
  effect(name: TestName, eye: Eye = 'places'): number {
    return this.test(name, eye)?.effect ?? 0;
  }
  /** How often cards lay so many places after their own, for each order. */
  shift(d: number, eye: Eye = 'places'): number {
    const { shift, orders } = eye === 'places' ? this.of.counts : this.of.next;
    return (shift[(d + this.n) % this.n] as number) / Math.max(1, orders);
  }
  /** The mean of the shifts near to none, on both sides. */
  get near(): number {
    return [-3, -2, -1, 1, 2, 3].reduce((sum, d) => sum + this.shift(d), 0) / 6;
  }
  /** How often a card lay at a place, relative to fair. */
  at(place: number, card: number): number {
    const { counts } = this.of;
    return (counts.count(place, card) * this.n) / Math.max(1, counts.orders);
  }
}

/** A pattern that a wrong program leaves, and what is then most likely wrong with it; `null` where it does not fit. */
type Cause = (r: Reading) => string | null;

const onlyCuts: Cause = ({ of, n }) =>
  of.counts.orders > 0 && of.counts.together / of.counts.orders > n - 3 ? 'it only cuts' : null;

const comesAgain: Cause = (r) => {
  if (!r.failed('repeats')) return null;
  const { repeats, orders } = r.of;
  if (repeats.neighbours * 2 > repeats.pairs / repeats.kept) return 'the shuffle is sometimes skipped';
  const pairs = repeats.pairs / repeats.kept;
  if (pairs === 0) return 'orders come again less often than by chance: they are dealt out in turn';
  const starts = orders ** 2 / (2 * pairs);
  const rounded = Number(starts.toPrecision(2)).toLocaleString('en');
  return `only about ${rounded} starts: the seed is too small (give or take ${Math.round(100 / Math.sqrt(repeats.pairs))} %)`;
};

const neverMoves: Cause = ({ of, n }) => {
  const { counts } = of;
  if (counts.orders < 3) return null;
  if (counts.count(n - 1, n - 1) === counts.orders)
    return 'the last card never moves: the random index ends one too early';
  return counts.count(0, 0) === counts.orders
    ? 'the first card never moves: the random index begins one too late'
    : null;
};

const mayNotStay: Cause = ({ of }) => {
  const { counts } = of;
  return counts.shift[0] === 0 && counts.whole === counts.orders && counts.orders > 0
    ? 'no card may keep its place: draw from 0..i, not 0..i−1'
    : null;
};

const riffled: Cause = (r) => {
  for (const eye of ['places', 'from the last'] as const) {
    const isHere = eye === 'places' ? r.failed('rising') : r.failedOnlyNext('rising');
    const counts = eye === 'places' ? r.of.counts : r.of.next;
    const fair = FAIR.rising(r.n).mean;
    const [rises, descents] = [fair - counts.rises / counts.orders, fair - counts.descents / counts.orders];
    if (!isHere || rises <= 0 || rises <= 2 * descents) continue;
    const k = r.n <= MOST_RIFFLED ? rifflesLike(r.n, counts.rises / counts.orders + 1) : 0;
    const words = k > 0 ? `it is like about ${k} ${k === 1 ? 'riffle' : 'riffles'}` : 'it is like a few riffles';
    return eye === 'places' ? words : `${words}, from the last order`;
  }
  return null;
};

const sortedByCoin: Cause = (r) =>
  r.failed('firstPlace') &&
  r.at(0, 0) >= 1.5 &&
  // Packets bring the first two cards to the first place alike.
  r.at(0, 0) >= 1.5 * r.at(0, 1) &&
  r.at(r.n - 1, 1) <= 0.5 &&
  r.shift(0) < 2
    ? 'sorting by a random comparison'
    : null;

const tooFewSwaps: Cause = (r) => {
  const stays = r.shift(0) - 1;
  if (!r.failed('fixed') || stays <= 0 || !r.failed('cycles') || r.near - 1 > 0.2 * stays) return null;
  const swaps = Math.round((-r.n / 2) * Math.log(Math.min(0.999, stays / (r.n - 1))));
  return `too few swaps: about ${swaps}`;
};

const oldOrderLeft: Cause = (r) =>
  r.failed('inversions') &&
  r.effect('inversions') < 0 &&
  ((r.failed('together') && r.effect('together') > 0) || r.near > 1.2)
    ? 'much of the old order is left: packets or insertion'
    : null;

const fromWholeDeck: Cause = (r) => {
  for (const eye of ['places', 'from the last'] as const) {
    const isHere = eye === 'places' ? r.failed('profile') : r.failedOnlyNext('profile');
    if (isHere && r.shift(0, eye) < 1 && r.shift(-1, eye) > 1.1)
      return 'each swap draws from the whole deck, not from the cards not yet settled';
  }
  return null;
};

const equalKeys: Cause = (r) => {
  const { counts } = r.of;
  const fair = FAIR.descents(r.n).mean;
  const [descents, rises] = [fair - counts.descents / counts.orders, fair - counts.rises / counts.orders];
  if (!r.failed('descents') || descents <= 0 || descents <= 5 * rises) return null;
  const keys = Math.round((r.n * (r.n - 1)) / (12 * descents));
  return `equal sort keys: only about ${keys.toLocaleString('en')} different ones`;
};

const smallNumbers: Cause = (r) =>
  r.failed('inversions') || r.failed('profile') || r.failed('places')
    ? 'numbers that favour small values (a remainder), or a little of the old order left'
    : null;

const hangsOnLast: Cause = ({ of }) => {
  const failed = of.tests.filter(({ corrected }) => corrected < DOUBTFUL);
  return failed.length > 0 && failed.every(({ eye }) => eye === 'from the last')
    ? 'what comes depends on the order before'
    : null;
};

/** The first pattern that fits is told. */
const CAUSES: readonly Cause[] = [
  onlyCuts,
  comesAgain,
  neverMoves,
  mayNotStay,
  riffled,
  sortedByCoin,
  tooFewSwaps,
  oldOrderLeft,
  fromWholeDeck,
  equalKeys,
  smallNumbers,
  hangsOnLast,
];

/** What is most likely wrong with the program, as the end of a sentence; `null` where nothing was found. */
export function likelyCause(evidence: Evidence): string | null {
  const least = evidence.tests.reduce((a, b) => (b.p < a.p ? b : a), evidence.tests[0] as Judged);
  if (!least || least.corrected >= DOUBTFUL) return null;
  const reading = new Reading(evidence);
  for (const cause of CAUSES) {
    const words = cause(reading);
    if (words !== null) return words;
  }
  return `this is not as it should be: ${TEST_WORDS[least.name]}`;
}
