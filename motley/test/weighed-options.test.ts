import { parseFaces, type WeighedOptions, weighOptions } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { weighChart } from '../../bench/dist/by-hand/quayside-chart.js';
import { programOf, sheetText } from './support.js';

const QUAYSIDE = programOf(sheetText('quayside-twenty-one.motley'));
const ROUND = { rounds: 1, stake: 100_000, insures: 'no', surrenders: 'no' };
/** The lowest bet of the sheet, which its bot places. */
const BET = 10;
/** The same to a round by hand. */
const AS_DEALT = { softHit: false, natural: 1.5 };
/** So many standard errors are allowed where a dozen alternatives are judged together, with 99 %. */
const TOGETHER = 3.4;

const weighed = (hand: string, shown: string, deals: number): WeighedOptions =>
  weighOptions({
    program: QUAYSIDE,
    seats: ['Wren'],
    settings: ROUND,
    promised: { 'hand/1/1': parseFaces(hand), house: parseFaces(shown) },
    bot: 'chart',
    seat: 0,
    at: 'hit',
    deals,
    seed: 'weighed',
  });

describe('choices that are held against those of a bot', () => {
  it('tell what the same moves win in a round by hand', () => {
    const known = new Map(weighChart(AS_DEALT, 0.02, 5, 11).map((one) => [`${one.cell}: ${one.instead}`, one]));
    const cells: readonly (readonly [hand: string, shown: string, cell: string, does: string])[] = [
      ['10S 9H', '6C', 'hard 19 against 6', 'stand'],
      ['AS 6H', '3C', 'soft 17 against 3', 'double'],
      ['AS 7H', '9C', 'soft 18 against 9', 'hit'],
      ['8S 8H', '10C', 'pair of 8s against 10', 'split'],
    ];
    for (const [hand, shown, cell, does] of cells) {
      const { options } = weighed(hand, shown, 900);
      const own = options.find(({ chosen }) => chosen > 0);
      expect(own?.words, cell).toContain(does);
      expect(own).toMatchObject({ gain: 0, error: 0 });
      expect(options.length).toBeGreaterThan(2);
      for (const { words, gain, error } of options) {
        if (words === own?.words) continue;
        const byHand = known.get(`${cell}: ${words}`);
        // Nineteen is nine and ten alone; the other cells hold two cards of one kind each.
        expect(Math.abs(gain / BET - (byHand?.gain ?? Number.NaN)), `${cell} ${words}`).toBeLessThan(
          TOGETHER * Math.hypot(error / BET, byHand?.error ?? 0),
        );
      }
    }
  }, 120_000);

  it('tell what is surely worse', () => {
    const gains = Object.fromEntries(
      weighed('6S 5H', '6C', 800).options.map(({ words, gain, error }) => [words, (gain + 4 * error) / BET]),
    );
    // Known by exact sums: doubling eleven against a six brings 0.67 bets, hitting 0.34, standing loses 0.15.
    expect(gains.hit).toBeLessThan(-0.1);
    expect(gains.stand).toBeLessThan(gains.hit as number);
  });

  it('come to nothing where the seat is never asked', () => {
    expect(weighed('AS KH', '6C', 100)).toEqual({ asked: 0, isCut: false, options: [] });
  });

  it('leave all other cards as likely as they are, also where a promised one has copies', () => {
    // A promised six of hearts out of six packs: sixes that come next are no rarer than others.
    const program = programOf(`game "Next Six" for 1 seat {
      deck standard copies 6
      pile hand of each seat face up  pile after face up
      play { shuffle pack  deal 1 each from pack to hand  deal 1 from pack to after
        ask seats[1] { option six { if after[1].rank == 6 { score seats[1] += 1 } } option none { } } finish }
      bot plain { none }
    }`);
    const found = weighOptions({
      program,
      seats: ['Wren'],
      settings: {},
      promised: { 'hand/1': parseFaces('6H') },
      bot: 'plain',
      seat: 0,
      at: 'six',
      deals: 12_000,
      seed: 'weighed',
    });
    const six = found.options.find(({ words }) => words === 'six');
    expect(Math.abs((six?.gain ?? 0) - 23 / 311)).toBeLessThan(4 * (six?.error ?? 0));
    expect(six?.error).toBeLessThan(0.003);
  });
});
