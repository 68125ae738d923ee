import {
  kindAt,
  startingHands,
  startWords,
  type TrialFigures,
  type TrialPlan,
  TrialPlayer,
  TrialTotals,
  trialFigures,
  waysTo,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { inLong, programOf, sheetText } from './support.js';

const RANK_ORDER = ['2', '3', '4', '5', '6', '7', '8', '9', '10', 'J', 'Q', 'K', 'A'];
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
      inLong(16_000, 8_000),
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
      figure(
        tried('long-war.motley', inLong(3_000, 1_000), [{ limit: 100_000, byHand: 'no' }], ['random', 'random']),
        'battles',
      ),
      281.3,
      467.7,
    );
    agrees(
      figure(
        tried('long-war.motley', inLong(4_000, 1_500), [{ byHand: 'no' }], ['random', 'random']),
        'cut off by the limit',
      ),
      0.222,
      0.3,
    );
  }, 60_000);

  it('hold’em: what each of the 169 kinds of starting hands is worth against one that nobody knows', () => {
    const exact = startingHands();
    const share = (words: string): number => exact.find((one) => startWords(one) === words)?.share ?? Number.NaN;
    // Published, by full enumeration.
    const published: readonly (readonly [string, number])[] = [
      ['AA', 0.852],
      ['KK', 0.824],
      ['QQ', 0.7993],
      ['JJ', 0.7747],
      ['1010', 0.7501],
      ['AK suited', 0.6704],
      ['AK', 0.6532],
      ['22', 0.5033],
      ['72', 0.3458],
      ['32', 0.323],
    ];
    for (const [words, known] of published) expect(Math.abs(share(words) - known), words).toBeLessThan(0.000_06);
    // What one wins another loses.
    expect(exact.reduce((sum, one) => sum + waysTo(one) * one.share, 0) / 1_326).toBeCloseTo(0.5, 9);

    // The same out of a sheet: all in before the cards, so that every hand goes to its end. Cells are judged together (Bonferroni).
    const allIn = { stake: 2, bigBlind: 2, smallBlind: 2, handLimit: 1 };
    const cells = tried(
      'long-pot.motley',
      inLong(40_000, 15_000),
      [allIn],
      ['patient', 'patient'],
    ).arms[0]?.tallies.find(({ name }) => name === 'share of the pot')?.cells;
    expect(cells).toHaveLength(169);
    const all = (cells ?? []).reduce((sum, { times }) => sum + times, 0);
    for (const { marks, value, interval, times } of cells ?? []) {
      const [row, column] = marks.map((mark) => RANK_ORDER.indexOf(mark) + 2) as [number, number];
      const kind = kindAt(row, column);
      // As often as there are ways to be dealt it: whoever charts hands wrongly mixes those of one suit with others.
      const often = (waysTo(kind) / 1_326) * all;
      expect(Math.abs(times - often), marks.join()).toBeLessThan(4.5 * Math.sqrt(4 * often));
      const error = ((interval?.[1] ?? 0) - (interval?.[0] ?? 0)) / 2 / OF_95;
      expect(error, marks.join()).toBeGreaterThan(0);
      expect(Math.abs(value - share(startWords(kind))), marks.join()).toBeLessThan(4.5 * error);
    }
  }, 180_000);
});
