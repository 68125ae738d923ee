import { below, quickChance } from '@wily-jester/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Counts, coarse } from '../src/trials/counted.js';
import { countsFrom, countsJson } from '../src/trials/counted-json.js';
import { quantileEstimate, ratioOf, ratioVariance, shareAt, shareOf, sumsOf } from '../src/trials/estimates.js';
import { exactFrom, exactJson, plus, times } from '../src/trials/exact.js';

const uniform = (seed: number) => {
  const generator = quickChance(seed).stream('estimates', 0);
  return (): number => (below(generator, 2 ** 30) + 0.5) / 2 ** 30;
};
/** Counts games: each is a list of values and bases. */
function counting(games: readonly (readonly (readonly [number, number])[])[], part = 0): Counts {
  const counts = new Counts(0);
  for (const game of games) {
    for (const [x, y] of game) counts.count(0, 0, null, x, y, part);
    counts.fold(null);
    counts.clear();
  }
  return counts;
}
const only = (counts: Counts) => {
  const [cell] = counts.cells;
  const quantity = cell?.quantities.get(null);
  if (!cell || !quantity) throw new Error('nothing was counted');
  return { cell, quantity, sums: sumsOf(cell, quantity) };
};

describe('exact sums', () => {
  it('are those of big whole numbers, however they are added', () => {
    const number = fc.integer({ min: Number.MIN_SAFE_INTEGER, max: Number.MAX_SAFE_INTEGER });
    fc.assert(
      fc.property(fc.array(number, { maxLength: 20 }), (values) => {
        const sum = values.reduce((a, b) => plus(a, b), 0 as number | bigint);
        const turned = [...values].reverse().reduce((a, b) => plus(b, a), 0 as number | bigint);
        expect(BigInt(sum)).toBe(values.reduce((a, b) => a + BigInt(b), 0n));
        expect(turned).toBe(sum);
        expect(exactFrom(exactJson(sum))).toBe(sum);
        const squares = values.reduce((a, b) => plus(a, times(b, b)), 0 as number | bigint);
        expect(BigInt(squares)).toBe(values.reduce((a, b) => a + BigInt(b) ** 2n, 0n));
      }),
    );
  });

  it('come back from JSON as they were, and merge as if all had been counted together', () => {
    const draw = uniform(2);
    const games = Array.from({ length: 200 }, () =>
      Array.from({ length: 1 + Math.floor(draw() * 3) }, () => [Math.floor(draw() * 2 ** 40), 2] as const),
    );
    const whole = counting(games);
    const merged = counting(games.slice(0, 90));
    merged.add(countsFrom(countsJson(counting(games.slice(90)))));
    expect(countsJson(merged)).toEqual(countsJson(whole));
  });

  it('keep values in cells that are off by a thousandth at most', () => {
    fc.assert(
      fc.property(fc.integer({ min: -4e7, max: 6e7 }), (value) => {
        expect(Math.abs(coarse(value) - value)).toBeLessThanOrEqual(Math.abs(value) / 1024);
        if (Math.abs(value) < 1024) expect(coarse(value)).toBe(value);
      }),
    );
  });
});

describe('intervals', () => {
  /** How many of so many intervals hold the truth. */
  const coverage = (
    runs: number,
    seed: number,
    once: (draw: () => number) => readonly [number, number] | null,
    truth: number,
  ): number => {
    const draw = uniform(seed);
    let held = 0;
    for (let run = 0; run < runs; run++) {
      const interval = once(draw);
      if (interval && interval[0] <= truth && truth <= interval[1]) held++;
    }
    return held / runs;
  };

  it('of ratios hold them 95 times in a hundred, though games differ in length and both parts hang together', () => {
    for (const games of [30, 200]) {
      const held = coverage(
        1_500,
        games,
        (draw) => {
          const counts = counting(
            Array.from({ length: games }, () => {
              const rounds = 1 + Math.floor(draw() * 8);
              return Array.from({ length: rounds }, () => [Math.floor(draw() * 5) * 2, 2] as const);
            }),
          );
          return ratioOf(only(counts).sums, games, { games }).interval;
        },
        2,
      );
      expect(held).toBeGreaterThan(0.925);
      expect(held).toBeLessThan(0.97);
    }
  });

  it('of shares hold them also where a case comes once in thousands', () => {
    for (const share of [0.00002, 0.0003, 0.01, 0.5]) {
      const held = coverage(
        1_000,
        7,
        (draw) => {
          // A binomial count, by its gaps.
          let times = 0;
          for (let at = Math.floor(Math.log(draw()) / Math.log(1 - share)); at < 10_000; times++)
            at += 1 + Math.floor(Math.log(draw()) / Math.log(1 - share));
          return shareAt(times, 10_000, 1.959964, 0.05);
        },
        share,
      );
      expect(held).toBeGreaterThan(0.93);
    }
  });

  it('of shares take games for the unit, where a game counts several times', () => {
    const draw = uniform(11);
    // All ten times of a game are alike: a thousand times tell no more than a hundred games.
    const games = Array.from({ length: 400 }, () => {
      const value = draw() < 0.3 ? 1 : 0;
      return Array.from({ length: 10 }, () => [value, 1] as const);
    });
    const { sums } = only(counting(games, -1));
    const [from, to] = shareOf(sums, 400, { games: 400 }).interval ?? [0, 0];
    expect((to - from) / 2).toBeGreaterThan(0.035);
    expect((to - from) / 2).toBeLessThan(0.055);
    const once = only(
      counting(
        games.map(([first]) => [first as readonly [number, number]]),
        -1,
      ),
    ).sums;
    const [a, b] = shareOf(once, 400, { games: 400 }).interval ?? [0, 0];
    expect((b - a) / (to - from)).toBeCloseTo(1, 1);
  });

  it('say nothing where there is too little to say', () => {
    const few = only(
      counting(
        Array.from({ length: 5 }, () => [[1, 1]] as const),
        -1,
      ),
    ).sums;
    expect(ratioOf(few, 5, { games: 1_000 })).toMatchObject({ interval: null, doubt: 'too few' });
    expect(ratioOf(few, 5, { games: 5 }).doubt).toBe('few games');
    const none = only(
      counting(
        Array.from(
          { length: 50 },
          () =>
            [
              [0, 1],
              [0, 1],
            ] as const,
        ),
        -1,
      ),
    ).sums;
    // None of fifty games: fewer than 7 in a hundred have one.
    expect(shareOf(none, 50, { games: 50 }).interval?.[1]).toBeCloseTo(1 - 0.025 ** (1 / 50), 9);
    const even = only(
      counting(
        Array.from(
          { length: 50 },
          () =>
            [
              [1, 1],
              [0, 1],
            ] as const,
        ),
        -1,
      ),
    ).sums;
    expect(shareOf(even, 50, { games: 50 })).toMatchObject({ value: 0.5, interval: [0.5, 0.5] });
  });

  it('are wider for whoever looks often: hardly one of many looks is ever off', () => {
    const draw = uniform(5);
    let [missed, plainMissed] = [0, 0];
    for (let run = 0; run < 150; run++) {
      const counts = new Counts(0);
      let [was, plain] = [false, false];
      for (let game = 1; game <= 4_000; game++) {
        counts.count(0, 0, null, Math.floor(draw() * 3), 1, -1);
        counts.fold(null);
        counts.clear();
        if (game < 1_000 || game % 50 !== 0) continue;
        const { sums } = only(counts);
        const outside = ({ interval }: ReturnType<typeof ratioOf>): boolean =>
          interval !== null && (interval[0] > 1 || interval[1] < 1);
        was ||= outside(ratioOf(sums, game, { games: game, endedBefore: 4_000 }));
        plain ||= outside(ratioOf(sums, game, { games: game }));
      }
      if (was) missed++;
      if (plain) plainMissed++;
    }
    expect(missed / 150).toBeLessThan(0.05);
    expect(plainMissed / 150).toBeGreaterThan(0.06);
  });

  it('of quantiles hold them', () => {
    const draw = uniform(9);
    let held = 0;
    for (let run = 0; run < 200; run++) {
      const counts = new Counts(0);
      for (let game = 0; game < 1_600; game++) {
        counts.count(0, 0, null, Math.floor(draw() * 1000), 1, Math.floor(game / 50) % 32);
        counts.fold(null);
        counts.clear();
      }
      const { interval } = quantileEstimate(only(counts).quantity, 0.75);
      if (interval && interval[0] <= 749 && interval[1] >= 749) held++;
    }
    expect(held / 200).toBeGreaterThan(0.9);
  });

  it('have the variance of the mean where the base is one', () => {
    const values = [3, 1, 4, 1, 5, 9, 2, 6];
    const { sums } = only(counting(values.map((value) => [[value, 1]] as const)));
    const mean = values.reduce((a, b) => a + b, 0) / 8;
    const squares = values.reduce((sum, value) => sum + (value - mean) ** 2, 0);
    expect(ratioVariance(sums, 8)).toBeCloseTo(squares / 7 / 8, 12);
  });
});
