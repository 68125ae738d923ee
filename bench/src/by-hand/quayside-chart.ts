/** Every cell of the chart of twenty-one, held against all that could be done there instead. */
import { type Generator, quickChance } from '@wily-jester/core';
import { DOUBLE, HIT, MOVES, QuaysideByHand, type QuaysideRules, SPLIT, STAND } from './quayside.js';

/** Cards of one worth in six packs. */
const manyOf = (worth: number): number => (worth === 10 ? 96 : 24);
const WORTHS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];

/** A row of the chart, such as "hard 16": two cards that it speaks of, each with how many ways there are to be dealt them. */
interface Row {
  readonly name: string;
  readonly twos: readonly { readonly two: readonly [number, number]; readonly ways: number }[];
}

function rows(): Row[] {
  const found = new Map<string, { two: readonly [number, number]; ways: number }[]>();
  for (const a of WORTHS)
    for (const b of WORTHS) {
      if (b < a || (a === 1 && b === 10)) continue;
      const name = a === b ? `pair of ${a === 1 ? 'aces' : `${a}s`}` : a === 1 ? `soft ${a + b + 10}` : `hard ${a + b}`;
      const ways = a === b ? (manyOf(a) * (manyOf(a) - 1)) / 2 : manyOf(a) * manyOf(b);
      found.set(name, [...(found.get(name) ?? []), { two: [a, b], ways }]);
    }
  return [...found].map(([name, twos]) => ({ name, twos }));
}

/** What a move other than the chart's wins more than that, in first bets. */
export interface Alternative {
  readonly cell: string;
  readonly chart: string;
  readonly instead: string;
  readonly deals: number;
  readonly gain: number;
  readonly error: number;
}

/**
 * Weighs all alternatives of all cells, on the same cards as the chart's move. Deals are doubled until each alternative
 * is shown to be better by no more than `most`, or by more.
 * @param most in first bets
 * @param sigmas standard errors that a gain may be away from what it is
 * @param looks so often it is looked whether a cell is clear, at most: then its deals are what they are
 */
export function weighChart(
  rules: QuaysideRules,
  most: number,
  sigmas: number,
  seed: number,
  looks = 10,
): Alternative[] {
  const game = new QuaysideByHand(rules);
  const generator = quickChance(seed).stream('chart', 0);
  return rows().flatMap((row) =>
    WORTHS.flatMap((shown) => {
      const chart = game.chartFirst((row.twos[0] as Row['twos'][number]).two, shown);
      const others = [HIT, STAND, DOUBLE, ...(row.name.startsWith('pair') ? [SPLIT] : [])].filter(
        (move) => move !== chart,
      );
      const sums = others.map(() => ({ gain: 0, squares: 0 }));
      let deals = 0;
      for (let look = 0, many = 4_000; look < looks; look++, many = deals) {
        deals += weighCell(game, row, shown, [chart, ...others], many, generator, sums);
        if (sums.every((sum) => isClear(sum, deals, most, sigmas))) break;
      }
      return others.map((move, i) => {
        const { gain, squares } = sums[i] as Sums;
        const mean = gain / deals;
        return {
          cell: `${row.name} against ${shown === 1 ? 'an ace' : shown}`,
          chart: MOVES[chart] as string,
          instead: MOVES[move] as string,
          deals,
          gain: mean,
          error: Math.sqrt((squares / deals - mean * mean) / deals),
        };
      });
    }),
  );
}

interface Sums {
  gain: number;
  squares: number;
}

function isClear({ gain, squares }: Sums, deals: number, most: number, sigmas: number): boolean {
  const mean = gain / deals;
  const reach = sigmas * Math.sqrt((squares / deals - mean * mean) / deals);
  return mean + reach < most || mean - reach > most;
}

/** Deals a cell, its pairs of cards as often as they are dealt. @returns how many deals had something to decide */
function weighCell(
  game: QuaysideByHand,
  row: Row,
  shown: number,
  moves: readonly number[],
  many: number,
  generator: Generator,
  sums: readonly Sums[],
): number {
  const all = row.twos.reduce((sum, { ways }) => sum + ways, 0);
  const won = new Float64Array(moves.length);
  let asked = 0;
  for (const { two, ways } of row.twos) {
    game.fill([...two, shown]);
    for (let deal = Math.round((many * ways) / all); deal > 0; deal--) {
      if (!game.weigh(two, shown, moves, generator, won)) continue;
      asked++;
      for (const [i, sum] of sums.entries()) {
        const gain = (won[i + 1] as number) - (won[0] as number);
        sum.gain += gain;
        sum.squares += gain * gain;
      }
    }
  }
  return asked;
}
