import {
  kindAt,
  quickChance,
  ScriptedPolicy,
  Simulator,
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
import { QuaysideByHand } from '../../bench/dist/by-hand/quayside.js';
import { weighChart } from '../../bench/dist/by-hand/quayside-chart.js';
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
    // By an exact sum; and by rounds by hand (`npm run truths`). Whoever plays like the house loses 5.7 in a hundred.
    agrees(
      figures.differences.find(({ tally }) => tally === 'house keeps'),
      0.013597,
      0.02,
    );
    agrees(figure(figures, 'house keeps'), 0.00398, 0.057);
  }, 60_000);

  it.each([
    ['stands on soft 17, naturals pay 3 to 2', {}, { softHit: false, natural: 1.5 }],
    ['draws on soft 17, naturals pay 6 to 5', { softHit: 'yes', pays: 'sixToFive' }, { softHit: true, natural: 1.2 }],
  ])('twenty-one: the sheet and a round by hand play the same cards alike where the house %s', (_, settings, rules) => {
    const program = programOf(sheetText('quayside-twenty-one.motley'));
    const simulator = Simulator.of(program, { seats: ['Wren'], settings: { ...round, ...settings } });
    const [policies, byHand] = [[new ScriptedPolicy({ program }, 'chart')], new QuaysideByHand(rules)];
    const won = new Set<number>();
    for (let seed = 0; seed < 4_000; seed++) {
      simulator.open(seed).play({ policies });
      const bets = byHand.play(quickChance(seed).stream('shuffle', 0));
      won.add(bets);
      // The sheet's bot bets ten.
      expect(simulator.scores()[0], `seed ${seed}`).toBeCloseTo(10 * bets, 6);
    }
    // Splits, doubles and naturals were among them.
    expect([...won]).toEqual(expect.arrayContaining([-4, -3, -2, -1, 0, 1, rules.natural, 2, 3, 4]));
  });

  it('twenty-one: no cell of the chart has an alternative that is better by more than two in a hundred', () => {
    // Five standard errors: 760 alternatives, each looked at ten times at most, are judged together with more than 99 %.
    const alternatives = weighChart({ softHit: false, natural: 1.5 }, 0.02, 5, 1);
    expect(new Set(alternatives.map(({ cell }) => cell)).size).toBe(330);
    expect(alternatives).toHaveLength(760);
    expect(alternatives.filter(({ gain, error }) => gain + 5 * error >= 0.02)).toEqual([]);
    // By exact sums doubling eleven against a six wins 0.67 bets and hitting 0.34, and standing loses 0.15.
    const eleven = Object.fromEntries(
      alternatives.flatMap(({ cell, instead, gain }) => (cell === 'hard 11 against 6' ? [[instead, gain]] : [])),
    );
    expect(eleven.hit).toBeCloseTo(0.34 - 0.67, 1);
    expect(eleven.stand).toBeCloseTo(-0.15 - 0.67, 1);
  });

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
