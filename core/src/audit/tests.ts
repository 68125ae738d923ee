/**
 * The tests of an audit. Under a fair shuffle each statistic has a distribution that is known; sources: Knuth, The Art of
 * Computer Programming, 3.3.2 and 5.1; Bayer and Diaconis 1992 for rising sequences.
 */
import {
  binomialAbove,
  binomialBelow,
  binomialTails,
  chiSquareTail,
  normalTails,
  poissonTails,
} from '../statistics/distributions.js';
import type { PermutationCounts, RepeatCounter } from './tallied.js';

/** What is looked at: where cards lie, or where they lay in the order before. */
export type Eye = 'places' | 'from the last';

/** What tests are called, in words. */
export const TEST_WORDS = {
  places: 'place of each card',
  firstPlace: 'what lies first',
  lastPlace: 'what lies last',
  firstCard: 'where the first card goes',
  lastCard: 'where the last card goes',
  firstStays: 'the first card stays',
  lastStays: 'the last card stays',
  onePlace: 'one card at one place',
  profile: 'how far cards go',
  fixed: 'cards that stay',
  together: 'neighbours that stay',
  backwards: 'neighbours turned round',
  rising: 'rising sequences',
  descents: 'descents',
  inversions: 'pairs out of order',
  cycles: 'cycles',
  parity: 'even or odd',
  orders: 'each whole order',
  repeats: 'the same order twice',
} as const;
export type TestName = keyof typeof TEST_WORDS;

/** One test's outcome. */
export interface TestResult {
  readonly name: TestName;
  readonly eye: Eye;
  /** How likely a fair shuffle is to be so far off, or further: alone, and corrected for all tests (Holm). */
  readonly p: number;
  /** How large the effect is: relative to fair, or, for tests of many counts together, as the root of their mean square. */
  readonly effect: number;
  /** What was found for each order, and what is fair; `null` where many counts are tested together. */
  readonly mean: number | null;
  readonly fair: number | null;
}

/** Fewest orders for a test of all cells, of one row, of the profile, and of single cells. */
const LEAST = { places: 20, profile: 5, onePlace: 5 } as const;
/** From so many expected on a normal distribution stands for Poisson's where its variance is not the mean. */
const FEW_CARDS = 20;

const harmonic = (n: number, power = 1): number => {
  let sum = 0;
  for (let k = 1; k <= n; k++) sum += 1 / k ** power;
  return sum;
};

/** The mean of a statistic over orders, and its variance in one fair order. */
interface Moments {
  readonly mean: number;
  readonly variance: number;
}

/** Mean and variance of what is counted in one fair order of `n` cards. */
export const FAIR: Readonly<
  Record<'descents' | 'rising' | 'inversions' | 'cycles' | 'together', (n: number) => Moments>
> = {
  descents: (n) => ({ mean: (n - 1) / 2, variance: (n + 1) / 12 }),
  rising: (n) => ({ mean: (n - 1) / 2, variance: (n + 1) / 12 }),
  inversions: (n) => ({ mean: (n * (n - 1)) / 4, variance: (n * (n - 1) * (2 * n + 5)) / 72 }),
  cycles: (n) => ({ mean: harmonic(n), variance: harmonic(n) - harmonic(n, 2) }),
  together: (n) => ({ mean: (n - 1) / n, variance: 1 - 1 / n - 1 / n ** 2 }),
};

/** Orders of few cards are counted one by one. */
const MOST_WHOLE = 5;

/** All tests of one eye. */
export function testsOf(counts: PermutationCounts, eye: Eye, whole: ReadonlyMap<number, number> | null): TestResult[] {
  const { n, orders } = counts;
  if (orders === 0 || n < 2) return [];
  const found: TestResult[] = [];
  const expected = orders / n;
  const add = (name: TestName, p: number, effect: number, mean: number | null, fair: number | null): void => {
    found.push({ name, eye, p: Math.min(1, Math.max(0, p)), effect, mean, fair });
  };
  const chi = (name: TestName, value: number, degrees: number, cells: number): void =>
    add(name, chiSquareTail(value, degrees), Math.sqrt(Math.max(0, value - degrees) / (cells * orders)), null, null);
  const row = (name: TestName, of: (i: number) => number): void => {
    let squares = 0;
    for (let i = 0; i < n; i++) squares += (of(i) - expected) ** 2;
    chi(name, (n / orders) * squares, n - 1, 1);
  };
  if (orders >= LEAST.places) {
    let squares = 0;
    for (const count of counts.at) squares += (count - expected) ** 2;
    chi('places', ((n - 1) / orders) * squares, (n - 1) ** 2, n - 1);
  }
  if (orders >= n) {
    row('firstPlace', (card) => counts.count(0, card));
    row('lastPlace', (card) => counts.count(n - 1, card));
    row('firstCard', (place) => counts.count(place, 0));
    row('lastCard', (place) => counts.count(place, n - 1));
  }
  for (const [name, count] of [
    ['firstStays', counts.count(0, 0)],
    ['lastStays', counts.count(n - 1, n - 1)],
  ] as const)
    add(name, binomialTails(count, orders, 1 / n), (count - expected) / expected, count / orders, 1 / n);
  if (orders >= LEAST.onePlace * n) {
    const most = counts.at.reduce((a, b) => Math.max(a, b), 0);
    const least = counts.at.reduce((a, b) => Math.min(a, b), orders);
    const tail = Math.min(binomialAbove(most, orders, 1 / n), binomialBelow(least, orders, 1 / n));
    const far = most - expected > expected - least ? most : least;
    add('onePlace', 2 * tail * n * n, (far - expected) / expected, far / orders, 1 / n);
  }
  if (orders >= LEAST.profile) {
    let squares = 0;
    for (const count of counts.shift) squares += (count - orders) ** 2;
    chi('profile', ((n - 1) / (n * orders)) * squares, n - 1, 1);
  }
  const stays = counts.shift[0] as number;
  add('fixed', poissonTails(stays, orders), stays / orders - 1, stays / orders, 1);
  const pairs = (name: 'together' | 'backwards', count: number): void => {
    const { mean, variance } = FAIR.together(n);
    const p =
      n >= FEW_CARDS
        ? poissonTails(count, orders * mean)
        : normalTails((count - orders * mean) / Math.sqrt(orders * Math.max(1e-9, variance)));
    add(name, p, count / orders / mean - 1, count / orders, mean);
  };
  if (n > 2) {
    pairs('together', counts.together);
    pairs('backwards', counts.backwards);
  }
  const normal = (name: 'descents' | 'rising' | 'inversions' | 'cycles', sum: number, shown = 0): void => {
    const { mean, variance } = FAIR[name](n);
    const off = (sum - orders * mean) / Math.sqrt(orders * variance);
    add(name, normalTails(off), sum / orders / mean - 1, sum / orders + shown, mean + shown);
  };
  normal('rising', counts.rises, 1);
  normal('descents', counts.descents);
  normal('inversions', counts.inversions);
  normal('cycles', counts.cycles);
  add('parity', binomialTails(counts.odd, orders, 0.5), (2 * counts.odd) / orders - 1, counts.odd / orders, 0.5);
  if (whole && n <= MOST_WHOLE) {
    const all = factorial(n);
    if (orders >= 5 * all) {
      let squares = (all - whole.size) * (orders / all) ** 2;
      for (const count of whole.values()) squares += (count - orders / all) ** 2;
      chi('orders', (squares * all) / orders, all - 1, 1);
    }
  }
  return found;
}

export const factorial = (n: number): number => (n < 2 ? 1 : n * factorial(n - 1));

/** How many pairs of equal orders there would be, by fair chance. @param copies how many equal cards each face has */
export function repeatsExpected(orders: number, n: number, copies: readonly number[]): number {
  let ways = 0;
  for (let k = 2; k <= n; k++) ways += Math.log(k);
  for (const many of copies) for (let k = 2; k <= many; k++) ways -= Math.log(k);
  return ((orders * (orders - 1)) / 2) * Math.exp(-ways);
}

/** Whether orders come again too often, or too seldom. */
export function repeatTest(counter: RepeatCounter, orders: number, n: number, copies: readonly number[]): TestResult {
  const fair = repeatsExpected(orders, n, copies) * counter.kept;
  const { pairs } = counter;
  return { name: 'repeats', eye: 'places', p: poissonTails(pairs, fair), effect: pairs, mean: pairs, fair };
}
