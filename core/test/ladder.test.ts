import { describe, expect, it } from 'vitest';
import { quickChance, ratingsOf } from '../src/index.js';

describe('ratings', () => {
  it('are 400 apart at odds of ten to one, as the games grow many', () => {
    const [strong, weak] = ratingsOf([
      [0, 100_000],
      [10_000, 0],
    ]);
    expect((strong?.rating ?? 0) - (weak?.rating ?? 0)).toBeCloseTo(400, 0);
    expect((strong?.rating ?? 0) + (weak?.rating ?? 0)).toBeCloseTo(0, 6);
    // By hand: the error of the log odds of n games is 1 / sqrt(n p q), and each is half of the difference.
    const byHand = 400 / Math.LN10 / Math.sqrt(110_000 * (10 / 11) * (1 / 11)) / 2;
    expect(strong?.error).toBeCloseTo(byHand, 2);
  });

  it('are found also for whoever lost everything, and are alike for those who are', () => {
    const [a, b, c] = ratingsOf([
      [0, 50, 100],
      [50, 0, 100],
      [0, 0, 0],
    ]);
    expect(a?.rating).toBeCloseTo(b?.rating ?? Number.NaN, 6);
    expect(c?.rating).toBeLessThan(-300);
    expect(Number.isFinite(c?.error)).toBe(true);
  });

  it('lie within their intervals in 95 of 100 ladders', () => {
    const true_ = [120, 0, -120];
    const generator = quickChance(7).stream('ladder', 0);
    const games = 200;
    let within = 0;
    const ladders = 300;
    for (let n = 0; n < ladders; n++) {
      const wins = true_.map(() => true_.map(() => 0));
      for (let i = 0; i < 3; i++)
        for (let j = i + 1; j < 3; j++)
          for (let game = 0; game < games; game++) {
            const odds = 1 / (1 + 10 ** (((true_[j] as number) - (true_[i] as number)) / 400));
            const [winner, loser] = generator.next() / 2 ** 32 < odds ? [i, j] : [j, i];
            (wins[winner] as number[])[loser] = (wins[winner]?.[loser] ?? 0) + 1;
          }
      const rated = ratingsOf(wins);
      within += rated.filter(({ rating, error }, i) => Math.abs(rating - (true_[i] as number)) < 1.96 * error).length;
    }
    const share = within / (3 * ladders);
    expect(share).toBeGreaterThan(0.925);
    expect(share).toBeLessThan(0.975);
  });
});
