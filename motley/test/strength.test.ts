import {
  Match,
  RandomPolicy,
  RunningSummary,
  ScriptedPolicy,
  SoloMatch,
  sequenceRadius,
  strengthOf,
  strengthWords,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, programOf, sheetText } from './support.js';

describe('a strength', () => {
  it.each(['thinking', 'thinking 50ms', 'thinking 2s', 'thinking 400 playouts', 'random', 'tidy'])(
    'is read and written alike: %s',
    (words) => {
      expect(strengthWords(strengthOf(words))).toBe(words);
    },
  );
  it('may be written with a colon', () => {
    expect(strengthOf('thinking:200ms')).toMatchObject({ milliseconds: 200 });
    expect(strengthOf('thinking:400p')).toMatchObject({ milliseconds: 0, playouts: 400 });
  });
  it.each([
    ['thinking hard', 'cannot be read'],
    ['thinking 0ms', 'Thinking takes 1ms to 60s'],
    ['thinking 90s', 'Thinking takes 1ms to 60s'],
    ['thinking 9999999 playouts', 'Thinking takes 1 to 200,000 playouts'],
  ])('is refused: %s', (words, message) => {
    expect(() => strengthOf(words)).toThrow(message);
  });
});

describe('a match', () => {
  const eights = programOf(sheetText('eights-aside.motley'));
  const played = (seed: number, deals: number) => {
    const bot = new ScriptedPolicy({ program: eights }, 'tidy');
    const match = new Match(eights, { seed, policies: [bot, new RandomPolicy()], settings: { mostDeals: 1 } });
    for (let deal = 0; deal < deals; deal++) match.playDeal();
    return match.result;
  };

  it('takes margins deal by deal, and the two sides of a deal against each other', () => {
    const { deals, games, standings } = played(4, 40);
    expect({ deals, games }).toEqual({ deals: 40, games: 80 });
    const [first, second] = standings;
    expect(first?.margin.count).toBe(40);
    expect(first?.margin.mean).toBeCloseTo(-(second?.margin.mean ?? 0), 9);
    expect(first?.margin.mean).toBeCloseTo((first?.scores.mean ?? 0) - (second?.scores.mean ?? 0), 9);
    expect(first?.bySeat.map(({ count }) => count)).toEqual([40, 40]);
  });

  it('turns margins round where the lowest score wins', () => {
    const thorn = programOf(sheetText('thorn-and-lady.motley'));
    const bot = new ScriptedPolicy({ program: thorn }, 'plain');
    const random = new RandomPolicy();
    const match = new Match(thorn, { seed: 1, policies: [bot, random, random, random], settings: { target: 20 } });
    for (let deal = 0; deal < 15; deal++) match.playDeal();
    const [first, second] = match.result.standings;
    expect(first?.scores.mean).toBeLessThan(second?.scores.mean ?? 0);
    expect(first?.margin.mean).toBeGreaterThan(0);
  });
});

describe('an interval that may be looked at often', () => {
  it('misses the truth in no more than one run in twenty, however often one looks', () => {
    // Coins, ±1: the mean is 0. A linear congruence is chance enough, and gives the same runs always.
    let state = 12_345;
    const coin = (): number => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      return state >>> 31 === 1 ? 1 : -1;
    };
    let missed = 0;
    const runs = 200;
    for (let run = 0; run < runs; run++) {
      const sums = new RunningSummary();
      let isMissed = false;
      for (let i = 0; i < 400; i++) {
        sums.add(coin());
        if (i >= 30 && Math.abs(sums.summary.mean) > sequenceRadius(sums.summary, 400)) isMissed = true;
      }
      if (isMissed) missed++;
    }
    expect(missed / runs).toBeLessThan(0.05);
    const wide = sequenceRadius({ count: 400, deviation: 1 }, 400);
    expect(wide).toBeGreaterThan(1.96 / 20);
    expect(wide).toBeLessThan((2 * 1.96) / 20);
  });
});

describe('the bots of the bundled sheets', () => {
  /** A machine that keeps a share of every coin is won by whoever puts in least. */
  const HOUSE_WINS = ['five-coin-machine.motley'];
  const sheets = bundledSheets().filter(
    (name) => programOf(sheetText(name)).bots.length > 0 && !HOUSE_WINS.includes(name),
  );

  it.each(sheets)('of %s are no worse than chance', (name) => {
    const program = programOf(sheetText(name));
    const seats = program.seats.includes(2) ? 2 : Math.min(...program.seats);
    const own = new ScriptedPolicy({ program }, program.bots[0]?.name ?? '');
    const random = new RandomPolicy();
    const options = {
      seed: 3,
      policies: Array.from({ length: Math.max(2, seats) }, (_, i) => (i % 2 === 0 ? own : random)),
    };
    const match = seats === 1 ? new SoloMatch(program, options) : new Match(program, options);
    for (let deal = 0; deal < 40; deal++) match.playDeal();
    expect(match.result.standings[0]?.margin.interval[1]).toBeGreaterThanOrEqual(0);
  });

  it('of partners win together: nearly all games against chance, not half of them', () => {
    const program = programOf(sheetText('silent-partner.motley'));
    const [own, random] = [new ScriptedPolicy({ program }, 'plain'), new RandomPolicy()];
    const match = new Match(program, { seed: 1, policies: [own, random, own, random] });
    for (let deal = 0; deal < 20; deal++) match.playDeal();
    expect(match.result.standings[0]?.wins).toBeGreaterThan(0.8);
  });
});
