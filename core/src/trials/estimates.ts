/**
 * What sums say, with their errors. Everything before the last step is exact; intervals hold games, not rounds, for
 * independent. Sources: the delta method for ratios (Cochran 1977, 6.3), Wilson 1927 and Clopper and Pearson 1934 for
 * shares, the jackknife for quantiles (Tukey 1958), the normal mixture of Robbins 1970 where one looks often.
 */

import { sequenceRadius, shareInterval } from '../simulate/statistics.js';
import { betaQuantile, normalTails, studentQuantile, Z } from '../statistics/distributions.js';
import { type Cell, PARTS, type Quantity } from './counted.js';
import type { Exact } from './exact.js';

/** A figure with its interval. */
export interface Estimate {
  readonly value: number;
  /** Where it is with 95 %; `null` where there are too few games to say. */
  readonly interval: readonly [number, number] | null;
  /** How little it stands on, where that is so. */
  readonly doubt: 'few games' | 'too few' | null;
}

/** How intervals are made: for all games together, or for a look among many (wider). */
export interface Look {
  readonly games: number;
  /** How much is outside of an interval: 0.05, or less where several are judged together. */
  readonly outside?: number;
  /** The games that were planned, where the trial was ended before them. */
  readonly endedBefore?: number;
}

/** From so many games on a ratio has an interval, and from so many on Student's quantile is the normal one. */
const LEAST_GAMES = 30;
const MANY_GAMES = 1_000;
/** Shares of fewer cases are found exactly. */
const FEW = 10;

const big = (sum: Exact): bigint => BigInt(sum);

/** How many standard errors there are on either side of an estimate. */
export function widthOf({ games, outside = 0.05, endedBefore }: Look): number {
  if (endedBefore !== undefined)
    return sequenceRadius({ count: games, deviation: 1 }, endedBefore, outside) * Math.sqrt(games);
  // Past a thousand games Student's quantile is that of the normal distribution, in two digits and more.
  return games < MANY_GAMES || outside !== 0.05 ? studentQuantile(Math.max(1, games - 1), outside) : Z;
}

/** Sums of a numerator and of what it is held against, over games. */
export interface RatioSums {
  readonly x: Exact;
  readonly y: Exact;
  readonly xx: Exact;
  readonly yy: Exact;
  readonly xy: Exact;
}

/** The variance of Σx / Σy over so many games, by the delta method. */
export function ratioVariance({ x, y, xx, yy, xy }: RatioSums, games: number): number {
  const [bx, by] = [big(x), big(y)];
  if (by === 0n || games < 2) return Number.POSITIVE_INFINITY;
  // Σ(x − r·y)², times y² so that it is whole.
  const squares = by * by * big(xx) - 2n * bx * by * big(xy) + bx * bx * big(yy);
  const meanBase = Number(by) / games;
  return Number(squares) / Number(by * by) / games / (games - 1) / meanBase ** 2;
}

/** The mean of all times that something was counted, a return, or any other ratio. @param games in which it was counted */
export function ratioOf(sums: RatioSums, counted: number, look: Look): Estimate {
  const y = Number(sums.y);
  if (y === 0) return { value: 0, interval: null, doubt: 'too few' };
  const value = Number(sums.x) / y;
  if (counted < 2 || look.games < 2) return { value, interval: null, doubt: 'too few' };
  if (counted < LEAST_GAMES && look.games >= LEAST_GAMES) return { value, interval: null, doubt: 'too few' };
  const half = widthOf(look) * Math.sqrt(Math.max(0, ratioVariance(sums, look.games)));
  return { value, interval: [value - half, value + half], doubt: look.games < LEAST_GAMES ? 'few games' : null };
}

/**
 * The interval of a share (Wilson; Clopper and Pearson where there are few on either side).
 * @param times how often it was so, of `of` cases; either need not be whole
 */
export function shareAt(times: number, of: number, z: number, outside: number): readonly [number, number] {
  if (of === 0) return [0, 1];
  if (times < FEW || of - times < FEW)
    return [
      times <= 0 ? 0 : betaQuantile(outside / 2, times, of - times + 1),
      times >= of ? 1 : betaQuantile(1 - outside / 2, times + 1, of - times),
    ];
  return shareInterval(times, of, z);
}

/** A share: of games where each counts it once, else of all times, whose games are then what is independent. */
export function shareOf(sums: RatioSums, counted: number, look: Look): Estimate {
  const { x, y, yy } = sums;
  const [times, of] = [Number(x), Number(y)];
  if (of === 0) return { value: 0, interval: null, doubt: 'too few' };
  const value = times / of;
  const { outside = 0.05 } = look;
  const width = widthOf(look);
  const doubt = counted < LEAST_GAMES ? 'few games' : null;
  if (big(y) === big(yy)) return { value, interval: shareAt(times, of, width, outside), doubt };
  if (counted < 2) return { value, interval: null, doubt: 'too few' };
  const variance = ratioVariance(sums, look.games);
  if (variance <= 0 && value > 0 && value < 1) return { value, interval: [value, value], doubt };
  if (value === 0 || value === 1) {
    // None or all: what can be said is said of games.
    const most = 1 - (outside / 2) ** (1 / counted);
    return { value, interval: value === 1 ? [1 - most, 1] : [0, Math.min(1, most)], doubt };
  }
  const effective = Math.min(of, ((value * (1 - value)) / variance) * (Z / width) ** 2);
  return { value, interval: shareAt(value * effective, effective, Z, outside), doubt };
}

/** The sums of one thing that was counted in a cell. */
export const sumsOf = (cell: Cell, quantity: Quantity): RatioSums => ({
  x: quantity.x,
  xx: quantity.xx,
  xy: quantity.xy,
  y: cell.y,
  yy: cell.yy,
});

/** The standard deviation of single values, from their distribution where it is kept. */
export function spreadOf(quantity: Quantity): number | null {
  const { mean, count } = distributionOf(quantity).summary;
  if (count < 2) return null;
  let squares = 0;
  for (const [value, times] of distributionOf(quantity).counts) squares += times * (value - mean) ** 2;
  return Math.sqrt(squares / (count - 1));
}

/** All values that were counted, the least first, each with how often. */
export function distributionOf(quantity: Quantity): {
  readonly counts: readonly (readonly [number, number])[];
  readonly summary: { readonly count: number; readonly mean: number };
} {
  const all = new Map<number, number>();
  for (const part of quantity.values)
    for (const [value, count] of part ?? []) all.set(value, (all.get(value) ?? 0) + count);
  const counts = [...all].sort(([a], [b]) => a - b);
  const count = counts.reduce((sum, [, n]) => sum + n, 0);
  const total = counts.reduce((sum, [value, n]) => sum + value * n, 0);
  return { counts, summary: { count, mean: count === 0 ? 0 : total / count } };
}

/** The smallest value of which at least such a share of all is no greater. */
export function quantileOf(counts: readonly (readonly [number, number])[], share: number): number {
  const all = counts.reduce((sum, [, n]) => sum + n, 0);
  let below = 0;
  for (const [value, n] of counts) {
    below += n;
    // A share that falls on a whole number of values is not missed for its last digit.
    if (below >= share * all - 1e-9 * all) return value;
  }
  return counts.at(-1)?.[0] ?? 0;
}

/** A quantile with its interval: the error of the share below it is found by leaving out each of 32 parts in turn. */
export function quantileEstimate(quantity: Quantity, share: number): Estimate {
  const { counts, summary } = distributionOf(quantity);
  const value = quantileOf(counts, share);
  const parts = quantity.values.filter((part) => part !== undefined && part.size > 0);
  if (parts.length < PARTS) return { value, interval: null, doubt: 'too few' };
  const below = parts.map((part) => {
    let [within, all] = [0, 0];
    for (const [v, n] of part) {
      all += n;
      if (v <= value) within += n;
    }
    return { within, all };
  });
  const within = below.reduce((sum, part) => sum + part.within, 0);
  const leftOut = below.map((part) => (within - part.within) / (summary.count - part.all));
  const mean = leftOut.reduce((sum, one) => sum + one, 0) / leftOut.length;
  const n = leftOut.length;
  const error = Math.sqrt(((n - 1) / n) * leftOut.reduce((sum, one) => sum + (one - mean) ** 2, 0));
  const half = studentQuantile(n - 1) * error;
  return {
    value,
    interval: [quantileOf(counts, Math.max(0, share - half)), quantileOf(counts, Math.min(1, share + half))],
    doubt: null,
  };
}

/** How two settings differ in one figure, game by game with the same chance. */
export interface Difference extends Estimate {
  /** How likely so large a difference is by chance alone, before any correction. */
  readonly p: number;
  /** How many times fewer games were needed because both had the same cards. */
  readonly pairing: number;
}

/**
 * The difference of two ratios, `b` less `a`, whose games share their chance.
 * @param cross Σxb·xa, Σxb·ya, Σyb·xa, Σyb·ya over games
 */
export function differenceOf(
  a: RatioSums,
  b: RatioSums,
  cross: readonly [xx: Exact, xy: Exact, yx: Exact, yy: Exact],
  look: Look,
): Difference {
  const { games } = look;
  const nothing = { value: 0, interval: null, doubt: 'too few', p: 1, pairing: 1 } as const;
  const [ya, yb] = [Number(a.y), Number(b.y)];
  if (ya === 0 || yb === 0 || games < LEAST_GAMES) return nothing;
  const [ra, rb] = [Number(a.x) / ya, Number(b.x) / yb];
  const [xx, xy, yx, yy] = cross.map(Number) as [number, number, number, number];
  const apart = ratioVariance(a, games) + ratioVariance(b, games);
  // Σ(xb − rb·yb)(xa − ra·ya), over the mean bases.
  const together = (xx - ra * xy - rb * yx + ra * rb * yy) / ((ya / games) * (yb / games));
  const variance = Math.max(0, apart - (2 * together) / (games * (games - 1)));
  const value = rb - ra;
  const error = Math.sqrt(variance);
  const half = widthOf(look) * error;
  return {
    value,
    interval: [value - half, value + half],
    doubt: null,
    p: error === 0 ? (value === 0 ? 1 : 0) : normalTails(value / error),
    pairing: variance === 0 ? 1 : apart / variance,
  };
}
