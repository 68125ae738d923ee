import {
  oddsOf,
  parseFaces,
  quickChance,
  type TrialFigures,
  type TrialPlan,
  TrialPlayer,
  TrialTotals,
  trialFigures,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { programOf, sheetText } from './support.js';

/** Standard errors that a figure may be away from what is known: 99.9 in a hundred are nearer. */
const ERRORS = 3.29;
/** Half the width of an interval of 95 % in standard errors. */
const OF_95 = 1.96;

type Figure = { readonly value: number; readonly interval?: readonly [number, number] | null };
type Settings = TrialPlan['arms'][number]['settings'];

function tried(sheet: string, games: number, arms: readonly Settings[], bots: readonly string[]): TrialFigures {
  const program = programOf(sheetText(sheet));
  const plan: TrialPlan = {
    arms: arms.map((settings, i) => ({ label: `arm ${i}`, program, settings, bots })),
    seed: 'truths',
    games,
    longest: 1_000_000,
  };
  const [player, totals] = [new TrialPlayer(plan), new TrialTotals(plan)];
  for (let block = 0; !totals.isDone; block++) totals.offer(player.playBlock(block));
  return trialFigures(totals, plan);
}
const figure = (figures: TrialFigures, name: string): Figure | undefined =>
  figures.arms[0]?.tallies.find((tally) => tally.name === name)?.cells[0];
/** That a figure agrees with what is known, and is known well enough to tell that from something else. */
function agrees(found: Figure | undefined, known: number, other: number): void {
  const [from, to] = found?.interval ?? [Number.NaN, Number.NaN];
  const error = (to - from) / 2 / OF_95;
  expect(Math.abs((found?.value ?? Number.NaN) - known)).toBeLessThan(ERRORS * error);
  expect(Math.abs((found?.value ?? Number.NaN) - other)).toBeGreaterThan(ERRORS * error);
}

describe('what anybody can look up or work out', () => {
  const round = { rounds: 1, stake: 100_000, insures: 'no', surrenders: 'no' };

  it('twenty-one: what 6 to 5 costs, and that the house keeps little', () => {
    const figures = tried(
      'quayside-twenty-one.motley',
      16_000,
      [
        { ...round, pays: 'threeToTwo' },
        { ...round, pays: 'sixToFive' },
      ],
      ['chart'],
    );
    // By an exact sum; and by loops of 456 million rounds. Whoever plays like the house loses 5.7 in a hundred.
    agrees(
      figures.differences.find(({ tally }) => tally === 'house keeps'),
      0.013597,
      0.02,
    );
    agrees(figure(figures, 'house keeps'), 0.00398, 0.057);
  }, 60_000);

  it('war: how long it takes, and how often the limit cuts it off', () => {
    // By the same rules, written by hand (`npm run truths`): 281.3 battles with three staked, 467.7 with one.
    agrees(
      figure(tried('long-war.motley', 3_000, [{ limit: 100_000, byHand: 'no' }], ['random', 'random']), 'battles'),
      281.3,
      467.7,
    );
    agrees(
      figure(tried('long-war.motley', 4_000, [{ byHand: 'no' }], ['random', 'random']), 'cut off by the limit'),
      0.222,
      0.3,
    );
  }, 60_000);

  it('hold’em: what a starting hand is worth against one that nobody knows', () => {
    // Published for all 169 kinds by full enumeration; here ten of them, judged together (Bonferroni).
    const known: readonly (readonly [string, number])[] = [
      ['AS AH', 0.852],
      ['KS KH', 0.824],
      ['QS QH', 0.7993],
      ['JS JH', 0.7747],
      ['10S 10H', 0.7501],
      ['AS KS', 0.6704],
      ['AS KH', 0.6532],
      ['2S 2H', 0.5033],
      ['7S 2H', 0.3458],
      ['3S 2H', 0.323],
    ];
    for (const [hand, share] of known) {
      const chance = quickChance(1).stream(hand, 0);
      const [found] = oddsOf({ hands: [parseFaces(hand), null], board: [] }, chance, 60_000).hands;
      expect(Math.abs((found?.share ?? 0) - share), hand).toBeLessThan(4 * (found?.error ?? 0));
      expect(found?.error).toBeLessThan(0.0021);
    }
  });
});
