import { below, quantilesOf, quickChance, RunningSummary, shareInterval, summaryOf } from '@wily-jester/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

describe('a summary', () => {
  it('is what its words say, however large the values are', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 2, maxLength: 50 }),
        fc.constantFrom(0, 1e12),
        (small, offset) => {
          const values = small.map((value) => value + offset);
          const { count, mean, deviation, least, most } = summaryOf(values);
          const exact = small.reduce((a, b) => a + b, 0) / small.length;
          const squares = small.reduce((sum, value) => sum + (value - exact) ** 2, 0);
          expect(count).toBe(values.length);
          expect(mean - offset).toBeCloseTo(exact, 3);
          expect(deviation).toBeCloseTo(Math.sqrt(squares / (small.length - 1)), 2);
          expect([least, most]).toEqual([Math.min(...values), Math.max(...values)]);
        },
      ),
    );
  });

  it('has an interval that holds the true mean 95 times in a hundred', () => {
    const generator = quickChance(1).stream('samples', 0);
    let held = 0;
    for (let sample = 0; sample < 2000; sample++) {
      const running = new RunningSummary();
      for (let i = 0; i < 60; i++) running.add(1 + below(generator, 6));
      const [from, to] = running.summary.interval;
      if (from <= 3.5 && 3.5 <= to) held++;
    }
    expect(held / 2000).toBeGreaterThan(0.935);
    expect(held / 2000).toBeLessThan(0.965);
  });

  it('of no values, and of one, says what there is to say', () => {
    expect(summaryOf([])).toMatchObject({ count: 0, mean: 0, deviation: 0 });
    expect(summaryOf([7])).toEqual({ count: 1, mean: 7, deviation: 0, least: 7, most: 7, interval: [7, 7] });
  });
});

describe('the interval of a share', () => {
  it('is that of the literature', () => {
    // 81 of 263: Newcombe, "Two-sided confidence intervals for the single proportion" (1998), table I, method 3.
    const [from, to] = shareInterval(81, 263);
    expect([from.toFixed(4), to.toFixed(4)]).toEqual(['0.2553', '0.3662']);
    const [none, some] = shareInterval(0, 20);
    expect([none, some.toFixed(4)]).toEqual([0, '0.1611']);
  });

  it('of nothing is everything', () => {
    expect(shareInterval(0, 0)).toEqual([0, 1]);
  });
});

describe('quantiles', () => {
  it('are found whatever order the values are in', () => {
    expect(quantilesOf([9, 1, 5, 3, 7], [0, 0.5, 1])).toEqual([1, 5, 9]);
  });
});
