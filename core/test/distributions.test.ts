import { describe, expect, it } from 'vitest';
import {
  betaQuantile,
  binomialTails,
  chiSquareTail,
  gammaQ,
  holm,
  logGamma,
  normalTails,
  poissonTails,
  studentQuantile,
} from '../src/statistics/distributions.js';

/** Equal in so many leading digits. */
const digits = (found: number, wanted: number, many: number): void =>
  expect(Math.abs(found / wanted - 1)).toBeLessThan(10 ** -many);

describe('distributions', () => {
  it('have upper tails that are right far out, and for large parameters', () => {
    digits(gammaQ(1300.5, 1400.5), 0.00332274622321, 10);
    digits(gammaQ(25.5, 100), 1.58964236e-19, 8);
    digits(gammaQ(1300, 1300), 0.4963117615785, 10);
    digits(chiSquareTail(3.841458820694124, 1), 0.05, 10);
    digits(normalTails(1.959963984540054), 0.05, 10);
    digits(normalTails(10), 1.5239706048320995e-23, 9);
    expect(chiSquareTail(0, 3)).toBe(1);
  });

  it('have quantiles as tables print them', () => {
    expect(studentQuantile(9)).toBeCloseTo(2.2622, 4);
    expect(studentQuantile(1)).toBeCloseTo(12.706, 3);
    // Exact limits for 5 of 100,000,000 (Clopper and Pearson).
    digits(betaQuantile(0.025, 5, 1e8 - 4), 1.6234864e-8, 6);
  });

  it('count both tails of what is counted', () => {
    expect(binomialTails(0, 10, 0.5)).toBeCloseTo(2 / 1024, 12);
    expect(binomialTails(5, 10, 0.5)).toBe(1);
    expect(binomialTails(10, 10, 0.5)).toBeCloseTo(2 / 1024, 12);
    // At most 0, and at least 3, of a mean of 1.
    expect(poissonTails(0, 1)).toBeCloseTo(2 * Math.exp(-1), 12);
    expect(poissonTails(3, 1)).toBeCloseTo(2 * (1 - 2.5 * Math.exp(-1)), 12);
    expect(poissonTails(0, 0)).toBe(1);
    digits(poissonTails(40, 1e-3) / 2, (1e-3 ** 40 / Math.exp(logGamma(41))) * Math.exp(-1e-3), 3);
  });

  it('are corrected for being many: the smallest counts most', () => {
    expect(holm([0.01, 0.04, 0.03])).toEqual([0.03, 0.06, 0.06]);
    expect(holm([0.9, 0.8])).toEqual([1, 1]);
    expect(holm([])).toEqual([]);
  });
});
