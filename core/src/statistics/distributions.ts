/// <reference path="./jstat.d.ts" />
import library from 'jstat';

const { jStat } = library;

/** The 0.975 quantile of the normal distribution. */
export const Z = 1.959963984540054;

/** The quantile of Student's distribution that leaves so much on either side together. */
export const studentQuantile = (degrees: number, outside = 0.05): number =>
  degrees < 1 ? Number.POSITIVE_INFINITY : jStat.studentt.inv(1 - outside / 2, degrees);

/** The quantile of a beta distribution. */
export const betaQuantile = (p: number, a: number, b: number): number => jStat.beta.inv(p, a, b);

const TERMS = 100_000;
const ENOUGH = 1e-16;

/** ln Γ(x), x > 0 (Lanczos 1964, with g = 7 and nine terms: some 15 digits). */
export function logGamma(x: number): number {
  const terms = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
    12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ];
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x);
  const z = x - 1;
  let sum = terms[0] as number;
  for (let i = 1; i < terms.length; i++) sum += (terms[i] as number) / (z + i);
  const t = z + 7.5;
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum);
}

/**
 * The upper regularised incomplete gamma function Q(a, x): by its series below a + 1, by its continued fraction above
 * (Abramowitz and Stegun 6.5.29 and 6.5.31; Lentz's method).
 */
export function gammaQ(a: number, x: number): number {
  if (x <= 0) return 1;
  const scale = Math.exp(a * Math.log(x) - x - logGamma(a));
  if (x < a + 1) {
    let term = 1 / a;
    let sum = term;
    for (let n = 1; n < TERMS && term > sum * ENOUGH; n++) {
      term *= x / (a + n);
      sum += term;
    }
    return Math.max(0, 1 - sum * scale);
  }
  const tiny = 1e-300;
  let b = x + 1 - a;
  let c = 1 / tiny;
  let d = 1 / b;
  let h = d;
  for (let i = 1; i < TERMS; i++) {
    const an = -i * (i - a);
    b += 2;
    d = 1 / (an * d + b || tiny);
    c = b + an / c || tiny;
    const factor = d * c;
    h *= factor;
    if (Math.abs(factor - 1) < ENOUGH) break;
  }
  return scale * h;
}

/** What is above a value in a χ² distribution. */
export const chiSquareTail = (value: number, degrees: number): number => gammaQ(degrees / 2, value / 2);

/** What is further from the middle than so many deviations, on both sides of a normal distribution. */
export const normalTails = (deviations: number): number => gammaQ(0.5, deviations ** 2 / 2);

/** Twice the smaller tail, the value itself counted in both; at most 1. */
const twoSided = (below: number, above: number): number => Math.min(1, 2 * Math.min(below, above));

/** Both tails of a Poisson distribution: how likely it is to be as far off as `count`, or further. */
export function poissonTails(count: number, mean: number): number {
  if (mean <= 0) return count === 0 ? 1 : 0;
  const below = gammaQ(count + 1, mean);
  const above = count === 0 ? 1 : lowerGamma(count, mean);
  return twoSided(below, above);
}

/** P(a, x) = 1 − Q(a, x), without losing what is small. */
export function lowerGamma(a: number, x: number): number {
  if (x <= 0) return 0;
  if (x >= a + 1) return 1 - gammaQ(a, x);
  let term = 1 / a;
  let sum = term;
  for (let n = 1; n < TERMS && term > sum * ENOUGH; n++) {
    term *= x / (a + n);
    sum += term;
  }
  return sum * Math.exp(a * Math.log(x) - x - logGamma(a));
}

/** At least so many of `of`, each with this chance. */
export const binomialAbove = (count: number, of: number, chance: number): number =>
  count <= 0 ? 1 : count > of ? 0 : jStat.ibeta(chance, count, of - count + 1);

/** At most so many of `of`, each with this chance. */
export const binomialBelow = (count: number, of: number, chance: number): number =>
  count >= of ? 1 : count < 0 ? 0 : jStat.ibeta(1 - chance, of - count, count + 1);

/** Both tails of a binomial distribution. */
export const binomialTails = (count: number, of: number, chance: number): number =>
  twoSided(binomialBelow(count, of, chance), binomialAbove(count, of, chance));

/**
 * Holm's correction (1979): p-values of several tests, so that taking each below 0.05 for true is wrong once in twenty
 * for all of them together.
 */
export function holm(values: readonly number[]): number[] {
  const order = values.map((_, i) => i).sort((a, b) => (values[a] as number) - (values[b] as number));
  const corrected = new Array<number>(values.length).fill(1);
  let least = 0;
  for (const [rank, i] of order.entries()) {
    least = Math.max(least, Math.min(1, (values[i] as number) * (values.length - rank)));
    corrected[i] = least;
  }
  return corrected;
}
