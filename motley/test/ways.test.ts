import {
  type Arg,
  BUDGETS,
  type Game,
  type Generator,
  quickChance,
  RandomPolicy,
  REGULARS,
  Simulator,
  type State,
  soak,
  Table,
} from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { optionsAsked, plainWays } from './plain-walk.js';
import { bundledSheets, programOf, script, sheetText } from './support.js';

const words = (way: readonly Arg[]): string => JSON.stringify(way);

/** The ways of an option as the generated list gives them. */
function listed(game: Game, s: State, seat: number, index: number): Arg[][] {
  const { option, code } = optionsAsked(game, s)[index] as ReturnType<typeof optionsAsked>[number];
  const values: Arg[] = [];
  game.code.begin();
  const count = code.ways.list(s, seat, values, 65_536);
  const many = option.params.length;
  expect(values).toHaveLength(count * many);
  return Array.from({ length: count }, (_, way) => values.slice(way * many, (way + 1) * many));
}

/** Insists that list, count, test and draw of an option find what the plain walk finds. */
function expectSame(game: Game, s: State, seat: number, index: number, generator: Generator): void {
  const { option, code } = optionsAsked(game, s)[index] as ReturnType<typeof optionsAsked>[number];
  const plain = plainWays(game, s, seat, index);
  const list = listed(game, s, seat, index);
  const shapes = option.params.some(({ domain }) => domain.k === 'cards' && domain.shapes);
  // Sets of shapes come in the order in which they are found; all else in the order of its domain.
  const inOrder = (ways: Arg[][]): string[] => (shapes ? ways.map(words).sort() : ways.map(words));
  expect([option.name, inOrder(list)]).toEqual([option.name, inOrder(plain)]);
  expect(code.ways.any(s, seat)).toBe(plain.length > 0);
  expect(code.ways.count(s, seat, 65_536)).toBe(plain.length);
  expect(code.ways.count(s, seat, 2)).toBe(Math.min(2, plain.length));
  expect(code.ways.list(s, seat, [], 3)).toBe(Math.min(3, plain.length));
  const legal = game.code.legal[s.f[2] as number];
  for (const way of plain.slice(0, 40)) expect([way, legal?.(s, seat, index, way)]).toEqual([way, true]);
  // With some values given and others free, as `can` asks.
  if (option.params.length > 1)
    for (const way of plain.slice(0, 8))
      for (const free of way.keys()) {
        const wanted = way.map((value, i) => (i === free ? null : value));
        expect([wanted, code.ways.agrees(s, seat, wanted)]).toEqual([wanted, true]);
        const wrong = way.map((value, i) => (i === free ? null : typeof value === 'number' ? -7 : []));
        expect(code.ways.agrees(s, seat, wrong)).toBe(false);
      }
  const all = new Set(plain.map(words));
  for (let draws = 0; draws < 4; draws++) {
    game.code.begin();
    const drawn = code.ways.draw(s, seat, generator);
    if (plain.length === 0) expect(drawn).toBeNull();
    else {
      expect(drawn?.option).toBe(index);
      expect(all.has(words(drawn?.args ?? []))).toBe(true);
    }
  }
}

describe.each(bundledSheets())('the ways of %s', (sheet) => {
  const program = programOf(sheetText(sheet));

  it('are the same to whoever lists, counts, tests or draws them, and to the plain walk', () => {
    const generator = quickChance(11).stream('draws', 0);
    const policies = new Array(12).fill(new RandomPolicy(30));
    for (const seats of program.seats.slice(-1)) {
      const simulator = Simulator.of(program, { seats: REGULARS.slice(0, seats) });
      const { game } = simulator;
      for (let seed = 1; seed <= 3; seed++) {
        let looked = 0;
        simulator.open(seed).play({
          policies,
          most: 120,
          order: 'any',
          before: (s) => {
            if (looked++ % 4 !== 0) return;
            for (const seat of game.asked(s))
              for (const index of optionsAsked(game, s).keys()) expectSame(game, s, seat, index, generator);
          },
        });
      }
    }
  });
});

/** A game that stands in the ask of a script, for one seat. */
function standing(body: string, top = ''): Simulator {
  return Simulator.of(programOf(script(body, top)), { seats: ['Wren'] }).open(1);
}

/** How often each way of the first option comes in many draws. */
function drawnOften({ game, state }: Simulator, times: number): Map<string, number> {
  const generator = quickChance(5).stream('draws', 0);
  const found = new Map<string, number>();
  for (let i = 0; i < times; i++) {
    game.code.begin();
    const way = words(game.code.options[0]?.[0]?.ways.draw(state, 0, generator)?.args ?? []);
    found.set(way, (found.get(way) ?? 0) + 1);
  }
  return found;
}

/** Insists that so many ways come about equally often: within five standard errors. */
function expectEven(found: ReadonlyMap<string, number>, ways: number): void {
  const times = [...found.values()].reduce((a, b) => a + b, 0);
  expect(found.size).toBe(ways);
  const error = 5 * Math.sqrt((times / ways) * (1 - 1 / ways));
  for (const [way, count] of found) expect([way, Math.abs(count - times / ways) < error]).toEqual([way, true]);
}

describe('a way that is drawn', () => {
  const ask = (option: string): string =>
    `deal 6 from pack to row  ask seats[1] { option go(${option} { } option stop { } } finish`;

  it.each([
    ['amounts in steps, with their top', 'n: 1..12 by 3) "go"', 5],
    ['amounts with a need', 'n: 1..20) needs n % 3 == 0', 6],
    ['cards with a need', 'c: card in row) needs c.place != 2', 5],
    ['pairs of amounts, the second within the first', 'n: 1..4, m: 1..n)', 10],
    ['cards with an amount each', 'c: card in row, n: 1..c.place) needs c.place < 4', 6],
    ['sets of a size', 'c: 2 cards in row)', 15],
    ['sets of several sizes', 'c: 0..6 cards in row)', 64],
    ['sets with a need', 'c: 1..6 cards in row) needs any(c, x => x.place == 1)', 32],
    ['sets that grow', 'c: 1..6 cards in row while all(c, x => x.place != 3))', 31],
  ])('is one of %s as often as any other', (_, option, ways) => {
    expectEven(drawnOften(standing(ask(option)), ways * 400), ways);
  });

  it('is never one of two piles that are alike and hold the same, but the first', () => {
    const body = `deal 1 from pack to cell[2]  ask seats[1] { option go(p: pile in cell) { } option stop { } } finish`;
    const pathsOf = (simulator: Simulator): string[] => {
      const { piles } = simulator.game.layout;
      return [...drawnOften(simulator, 300).keys()].map((way) => piles[JSON.parse(way)[0]]?.path ?? '').sort();
    };
    expect(pathsOf(standing(body, 'pile cell[4] face up alike'))).toEqual(['cell/1', 'cell/2']);
    expect(pathsOf(standing(body, 'pile cell[4] face up'))).toEqual(['cell/1', 'cell/2', 'cell/3', 'cell/4']);
  });

  it('is never one of two cards of one face in a pile that is alike, but the first', () => {
    const source = (
      alike: string,
    ): string => `game "Two Packs" for 1 seat { deck standard copies 2  pile held face up ${alike}
      play { move all from pack to held  ask seats[1] { option go(c: card in held) needs c.rank == A { } option stop { } } finish } }`;
    const many = (alike: string): number =>
      drawnOften(Simulator.of(programOf(source(alike)), { seats: ['Wren'] }).open(1), 400).size;
    expect([many('alike'), many('')]).toEqual([4, 8]);
  });

  it('counts an operation for each candidate, whoever looks for it', () => {
    const body = `ask seats[1] { option go(a: 1..250, b: 1..250) needs a + b > 9000 { } option stop { } } finish`;
    const { game, state } = standing(body);
    for (const ask of [
      () => game.code.options[0]?.[0]?.ways.any(state, 0),
      () => game.code.options[0]?.[0]?.ways.count(state, 0, 10),
      () => game.code.options[0]?.[0]?.ways.list(state, 0, [], 10),
      () => game.code.options[0]?.[0]?.ways.draw(state, 0, quickChance(1).stream('draws', 0)),
    ]) {
      game.code.begin(BUDGETS.offers);
      ask();
      expect(game.code.spent()).toBeGreaterThan(62_500);
    }
  });
});

describe('an option that is drawn', () => {
  it('is any that has a legal way as often as any other, however many ways it has', () => {
    const simulator = standing(
      `ask seats[1] { option alone { } option never needs 1 > 2 { } option amounts(n: 1..50) { } option giveUp aside { } } finish`,
    );
    const generator = quickChance(5).stream('draws', 0);
    const often = (asides: boolean): Map<string, number> => {
      const found = new Map<string, number>();
      for (let i = 0; i < 1200; i++) {
        const option = String(simulator.game.code.draw[0]?.(simulator.state, 0, generator, asides)?.option);
        found.set(option, (found.get(option) ?? 0) + 1);
      }
      return found;
    };
    expectEven(often(false), 2);
    expectEven(often(true), 3);
    expect([...often(true).keys()].sort()).toEqual(['0', '2', '3']);
  });
});

describe('a bot with many ways to choose', () => {
  const sheet = (cards: number, prefer: string): string => `game "Many Ways" for 1 seat { deck standard
    pile hand of each seat face up
    play { deal ${cards} from pack to seats[1].hand ask seats[1] { option lay(cs: 5 cards in seats[1].hand) { finish } } }
    bot keen { lay(cs) prefer ${prefer} } }`;
  const laid = (cards: number, prefer: string): number[] => {
    const table = new Table(programOf(sheet(cards, prefer)), { seats: ['Wren'], seed: 'many' });
    const { row } = table.playBot(0, 0);
    return (row.args.cs as string[]).map((handle) => Number(handle.split('#')[1]));
  };

  it('finds the most preferred of all, far beyond the first four thousand', () => {
    // The last five cards of twenty: the last of 15,504 ways.
    expect(laid(20, 'sum(cs, c => c.place)')).toEqual([16, 17, 18, 19, 20]);
    expect(laid(20, '-sum(cs, c => c.place)')).toEqual([1, 2, 3, 4, 5]);
  });

  it('finds the cards that come to the most or the least among however many', () => {
    // 658,008 ways.
    expect(laid(40, 'sum(cs, c => c.place)')).toEqual([36, 37, 38, 39, 40]);
    expect(laid(40, '-sum(cs, c => c.place)')).toEqual([1, 2, 3, 4, 5]);
    const some = sheet(40, 'sum(cs, c => c.place - 37)').replace('cs: 5 cards', 'cs: 1..8 cards');
    const table = new Table(programOf(some), { seats: ['Wren'], seed: 'many' });
    expect(table.playBot(0, 0).row.args.cs).toHaveLength(3);
  });

  it('finds the greatest or least amount that is legal, however many there are', () => {
    const amount = (line: string): unknown => {
      const source = `game "Amounts" for 1 seat { deck standard play { ask seats[1] {
        option bid(n: 1..1000000 by 3) needs n % 2 == 0 { finish } } } bot keen { bid(n) ${line} } }`;
      return new Table(programOf(source), { seats: ['Wren'], seed: 'many' }).playBot(0, 0).row.args.n;
    };
    expect(amount('prefer n')).toBe(1_000_000);
    expect(amount('prefer -n')).toBe(4);
    expect(amount('when n < 999000 prefer n')).toBe(998_998);
  });

  it('plays the best that it found where there are too many', () => {
    expect(laid(40, 'max(cs, c => c.place)')).toHaveLength(5);
  });

  it('is told so when its sheet is checked', () => {
    const told = (prefer: string): string[] =>
      compileSheet(sheet(40, prefer)).problems.map(({ line, message }) => `${line}: ${message}`);
    expect(told('max(cs, c => c.place)')).toEqual([
      expect.stringMatching(/^4: "lay" has 658,008 ways or more, and "keen" weighs 65,536 of them/),
    ]);
    expect(told('sum(cs, c => c.place)')).toEqual([]);
    expect(told('-sum(cs, c => c.place)')).toEqual([]);
  });
});

describe('a def without parameters', () => {
  /** In a need of a range, of values, of sets, beside another parameter, in a domain and in a list that is made of it. */
  const OPTIONS = [
    'bid(n: 18..264) needs n in ladder',
    'bid(n: 18..264) needs n in ladder + []',
    'bid(n: 1..30, m: 1..30) needs n in ladder and m in ladder',
    'bid(c: card in hand) needs c.pips in ladder',
    'bid(cs: 1..2 cards in hand) needs size(cs) in ladder + [1]',
    'bid(n: 1..size(ladder)) needs n < last(ladder, 1)[1]',
    'bid(n: 18..264 by 2) when size(ladder) == 3 needs n in ladder needs n in reversed(ladder)',
  ];

  it.each(OPTIONS)('stands for its value wherever one may stand: %s', (option) => {
    const source = `game "Ladder" for 1 seat {
      deck standard
      pile hand face up
      def ladder = [18, 20, 22]
      play {
        shuffle pack
        deal 5 from pack to hand
        repeat { ask seats[1] { option ${option} { } option stop { finish } } }
      }
    }`.replace('c.pips in ladder', 'c.pips + 17 in ladder');
    const { failures, taken } = soak(programOf(source), { games: 12, seed: 3 });
    expect(failures).toEqual([]);
    expect(taken.bid).toBeGreaterThan(0);
  });
});
