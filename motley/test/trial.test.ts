import {
  BLOCK,
  type BlockResult,
  blocksTogether,
  TrialFault,
  type TrialFigures,
  type TrialPlan,
  TrialPlayer,
  TrialTotals,
  trialFigures,
  type Until,
  UntilError,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { programOf, script, sheetText } from './support.js';

const QUAYSIDE = { rounds: 1, stake: 100_000, insures: 'no', surrenders: 'no' };

function planFor(source: string, more: Partial<TrialPlan> = {}, settings: object = {}, bot = 'random'): TrialPlan {
  const program = programOf(source);
  const arm = { label: program.name, program, settings: settings as Record<string, number>, bots: [bot] };
  return { arms: [arm], seed: '1', games: 2_000, longest: 10_000, ...more };
}
function tried(plan: TrialPlan, until: Until | null = null): TrialFigures {
  const [player, totals] = [new TrialPlayer(plan), new TrialTotals(plan, until)];
  for (let block = 0; !totals.isDone; block++) totals.offer(player.playBlock(block));
  return trialFigures(totals, plan);
}
const figure = (figures: TrialFigures, name: string, arm = 0) =>
  figures.arms[arm]?.tallies.find((tally) => tally.name === name)?.cells[0];

const dice = (body: string): string =>
  script(`shuffle pack  let c = deal 1 from pack to row  ${body} score seats[1] = c.pips finish`);

describe('a trial', () => {
  it('finds shares, means, ratios and categories where they are', () => {
    const figures = tried(
      planFor(
        dice(`tally "red" c.suit.color == red  tally "pips" c.pips  tally "return" c.pips per 2
          tally "suit" c.suit  tally "by colour" c.pips by c.suit.color, c.rank >= J`),
        { games: 4_000 },
      ),
    );
    const near = (name: string, truth: number): void => {
      const found = figure(figures, name);
      const [from, to] = found?.interval ?? [0, 0];
      expect(from).toBeLessThan(truth);
      expect(to).toBeGreaterThan(truth);
      expect(found?.value).toBeCloseTo(truth, 0);
    };
    near('red', 0.5);
    near('pips', 7);
    near('return', 3.5);
    near('score', 7);
    const suits = figures.arms[0]?.tallies.find(({ name }) => name === 'suit')?.cells ?? [];
    expect(suits.map(({ category }) => category).sort()).toEqual(['clubs', 'diamonds', 'hearts', 'spades']);
    expect(suits.reduce((sum, { value }) => sum + value, 0)).toBeCloseTo(1, 12);
    const cells = figures.arms[0]?.tallies.find(({ name }) => name === 'by colour')?.cells ?? [];
    expect(cells.map(({ marks }) => marks.join(' '))).toEqual(['black no', 'black yes', 'red no', 'red yes']);
    expect(figure(figures, 'pips')).toMatchObject({ least: 1, most: 13, times: 4_000 });
    expect(figure(figures, 'pips')?.deviation).toBeCloseTo(Math.sqrt((169 - 1) / 12), 1);
    expect(figure(figures, 'pips')?.quantiles?.find(({ share }) => share === 0.5)?.value).toBe(7);
  });

  it('comes to the same, bit by bit, in whatever order its blocks come', () => {
    const plan = planFor(sheetText('quayside-twenty-one.motley'), { games: 12 * BLOCK }, QUAYSIDE, 'chart');
    const straight = tried(plan);
    // Two players of the same plan, their blocks turned round.
    const blocks: BlockResult[] = [];
    const players = [new TrialPlayer(plan), new TrialPlayer(plan)];
    for (let block = 0; block < 12; block++) blocks.push((players[block % 2] as TrialPlayer).playBlock(block));
    const totals = new TrialTotals(plan);
    for (const block of [...blocks].reverse()) totals.offer(JSON.parse(JSON.stringify(block)) as BlockResult);
    expect(JSON.stringify(trialFigures(totals, plan))).toBe(JSON.stringify(straight));
  });

  it('comes to the same, its way included, however many blocks come together', () => {
    const plan = planFor(dice('tally "pips" c.pips'), { games: 250 * BLOCK });
    const together = blocksTogether(plan, null);
    expect(together).toBe(2);
    const [player, totals] = [new TrialPlayer(plan), new TrialTotals(plan)];
    for (let block = 0; block < 250; block += together) totals.offer(player.playBlock(block, together));
    expect(JSON.stringify(trialFigures(totals, plan))).toBe(JSON.stringify(tried(plan)));
    // Where a figure may end it, each block is looked at.
    expect(blocksTogether(plan, { tally: 'pips', within: 0.2 })).toBe(1);
  });

  it('gives settings the same cards, so that a rule costs few games', () => {
    const plan = planFor(sheetText('quayside-twenty-one.motley'), { games: 8_000 }, QUAYSIDE, 'chart');
    const [arm] = plan.arms;
    if (!arm) throw new Error('no arm');
    const arms = ['no', 'yes'].map((softHit) => ({ ...arm, label: softHit, settings: { ...QUAYSIDE, softHit } }));
    const figures = tried({ ...plan, arms });
    const keeps = figures.differences.find(({ tally }) => tally === 'house keeps');
    expect(keeps?.pairing).toBeGreaterThan(20);
    expect(keeps?.interval?.[0]).toBeLessThan(0.0021);
    expect(keeps?.interval?.[1]).toBeGreaterThan(0.0021);
    expect(figures.differences.find(({ tally }) => tally === 'options taken')?.isClear).toBe(true);
    // Played alone, each setting comes to what it came to beside the other.
    const alone = tried({ ...plan, arms: arms.slice(1) });
    expect(figure(alone, 'house keeps')?.value).toBe(figure(figures, 'house keeps', 1)?.value);
  });

  it('holds two sheets against each other by the names of what they count', () => {
    const one = planFor(dice('tally "pips" c.pips tally "own" 1'), { games: 1_500 });
    const two = planFor(dice('tally "other" 1 tally "pips" c.pips + 1'));
    const figures = tried({ ...one, arms: [...one.arms, ...two.arms] });
    const found = figures.differences.filter(({ tally }) => tally === 'pips' || tally === 'own' || tally === 'other');
    expect(found).toHaveLength(1);
    // The same cards: the difference is exactly one.
    expect(found[0]).toMatchObject({ value: 1, interval: [1, 1], isClear: true });
  });

  it('stops when a figure is known as exactly as was asked, or surely differs', () => {
    const plan = planFor(dice('tally "pips" c.pips'), { games: 100_000 });
    const enough = tried(plan, { tally: 'pips', within: 0.2 });
    expect(enough.ended).toBe('known well enough');
    const [from, to] = figure(enough, 'pips')?.interval ?? [0, 1];
    expect((to - from) / 2).toBeLessThanOrEqual(0.2);
    expect(enough.games).toBeLessThan(1.2 * ((1.96 * 3.742) / 0.2) ** 2 + BLOCK);
    const other = planFor(dice('tally "pips" max(c.pips, 2)'));
    const differ = tried({ ...plan, arms: [...plan.arms, ...other.arms] }, { tally: 'pips', differs: true });
    expect(differ.ended).toBe('surely different');
    expect(differ.games).toBeLessThan(5_000);
  });

  it('gives wider intervals where it was stopped by hand', () => {
    const plan = planFor(dice('tally "pips" c.pips'), { games: 8 * BLOCK });
    const half = new TrialTotals(plan);
    const player = new TrialPlayer(plan);
    for (let block = 0; block < 4; block++) half.offer(player.playBlock(block));
    const stopped = trialFigures(half, plan);
    expect(stopped.ended).toBe('stopped early');
    const width = (of: TrialFigures): number => {
      const [from, to] = figure(of, 'pips')?.interval ?? [0, 0];
      return to - from;
    };
    expect(width(stopped) / width(tried({ ...plan, games: 4 * BLOCK }))).toBeGreaterThan(1.4);
  });

  it('says which figures there are, where it is to go by another', () => {
    const plan = planFor(dice('tally "pips" c.pips'));
    expect(() => new TrialTotals(plan, { tally: 'chips', within: 1 })).toThrow(UntilError);
    expect(() => new TrialTotals(plan, { tally: 'chips', within: 1 })).toThrow('"pips"');
    expect(() => new TrialTotals(plan, { tally: 'pips', differs: true })).toThrow('holds two settings');
  });

  it('stops at a fault with the game that made it', () => {
    const plan = planFor(dice('tally "share" 1 / (c.pips - 13)'));
    expect(() => tried(plan)).toThrow(TrialFault);
    expect(() => tried(plan)).toThrow(/Game \d+ stopped: This divides by zero/);
  });

  it('tells of games that never ended, and counts no score of them', () => {
    const figures = tried(
      planFor(script('repeat { ask seats[1] { option go { } } } until no finish'), { games: 50, longest: 20 }),
    );
    expect(figures.arms[0]?.endless).toBe(50);
    expect(figure(figures, 'score')).toBeUndefined();
  });

  it('keeps no more than so many marks and categories apart', () => {
    const many = dice('for i in 1..400 { tally "marks" 1 by i  tally "kinds" "{c.pips} {i}" }');
    const figures = tried(planFor(many, { games: 300 }));
    const of = (name: string) => figures.arms[0]?.tallies.find((tally) => tally.name === name)?.cells ?? [];
    expect(of('marks')).toHaveLength(257);
    expect(of('marks').at(-1)?.marks).toEqual(['others']);
    expect(of('kinds').find(({ category }) => category === 'others')).toBeDefined();
    expect(of('kinds').reduce((sum, { value }) => sum + value, 0)).toBeCloseTo(1, 9);
  });
});
