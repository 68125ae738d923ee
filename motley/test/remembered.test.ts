import {
  countWays,
  meaningOf,
  quickChance,
  RandomPolicy,
  REGULARS,
  redeal,
  Simulator,
  type State,
  type Table,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, choose, openTable, programOf, script, sheetText } from './support.js';

const CHOICES = 120;

/** Plays the same random games of a sheet, and hands over each state with the operations that led there. */
function playThrough(simulator: Simulator, each: (state: State, operations: number) => void): void {
  const { game } = simulator;
  const policies = game.layout.seats.map(() => new RandomPolicy());
  let left = CHOICES;
  for (let seed = 1; left > 0; seed++) {
    const before = (state: State): void => each(state, game.code.spent());
    left -= 1 + simulator.open(seed).play({ policies, most: left, before }).steps;
    each(simulator.state, game.code.spent());
  }
}

const simulatorOf = (file: string, quiet = false): Simulator => {
  const program = programOf(sheetText(file));
  return Simulator.of(program, { seats: REGULARS.slice(0, program.seats[0]), quiet });
};

describe.each(bundledSheets())('%s', (file) => {
  it('stamps a pile anew whenever its cards, or their order, change', () => {
    const simulator = simulatorOf(file);
    const { game } = simulator;
    const held = new Map<string, string>();
    const look = (state: State): void => {
      for (let p = 0; p < game.layout.piles.length; p++) {
        const name = `${p} ${state.stamp[p]}`;
        const cards = game.rt.pileCards(state, p).join(' ');
        expect(held.get(name) ?? cards, game.layout.piles[p]?.path).toBe(cards);
        held.set(name, cards);
      }
    };
    playThrough(simulator, (state) => {
      look(state);
      const other = game.copy(state);
      redeal(game, other, quickChance(state.f.length).stream('redeal', 0), () => true);
      look(other);
    });
    expect(held.size).toBeGreaterThan(game.layout.piles.length);
  });

  it('comes to the same states at the same cost with values remembered, and when nobody is told', () => {
    const simulator = simulatorOf(file);
    const { game } = simulator;
    const first: string[] = [];
    playThrough(simulator, (state, cost) => first.push(`${meaningOf(game, state)}\ncost ${cost}`));
    const again: string[] = [];
    playThrough(simulator, (state, cost) => again.push(`${meaningOf(game, state)}\ncost ${cost}`));
    const quiet = simulatorOf(file, true);
    const unheard: string[] = [];
    playThrough(quiet, (state) => unheard.push(meaningOf(quiet.game, state)));
    expect(new Set(first).size).toBeGreaterThan(5);
    expect(again).toEqual(first);
    expect(unheard).toEqual(first.map((state) => state.replace(/\ncost \d+$/, '')));
    expect(quiet.game.trace.numbers()).toEqual([]);
  });
});

describe('what a seat may not see', () => {
  const TOTAL = 'def total(cs: cards) = sum(sorted(cs, c => c.rank), c => c.pips) layout { note total on row }';
  const noted = (table: Table, viewer: number): unknown => table.view(viewer).notes.row?.[0]?.value;

  it('is told to none but those who see it, and to them as long as they do', () => {
    const table = openTable(
      script(
        'deal 2 from pack to row face down repeat { ask seats[1] { option open { turn up row } option close { turn down row } option wink { turn row to seats[2] } option stop { finish } } }',
        TOTAL,
      ),
      { seats: ['Wren', 'Otter'] },
    );
    const all = () => [0, 1, -1, -2].map((viewer) => noted(table, viewer));
    expect(all()).toEqual([undefined, undefined, undefined, 25]);
    choose(table, 0, 'open');
    expect(all()).toEqual([25, 25, 25, 25]);
    choose(table, 0, 'close');
    expect(all()).toEqual([undefined, undefined, undefined, 25]);
    choose(table, 0, 'wink');
    expect(all()).toEqual([undefined, 25, undefined, 25]);
  });

  it('is a fault to read, though the same cards were read while they lay open', () => {
    const table = openTable(
      script(
        'deal 2 from pack to row kept = row repeat { ask seats[1] { option count needs total(kept) == 25 else "No." { } option close { turn down row } option stop { finish } } }',
        `var kept: cards ${TOTAL}`,
      ),
    );
    choose(table, 0, 'count');
    expect(() => choose(table, 0, 'close')).toThrow('This reads a card that the seat may not see.');
  });
});

describe('a set of cards', () => {
  it('is worked out once for all clauses that ask for it, and counted each time', () => {
    const sheet = (needs: string): string =>
      script(
        `deal 12 from pack to row ask seats[1] { option lay(cs: 3 cards in row) ${needs} { move cs to stock } option rest { } } finish`,
        'def worth(cs: cards) = sum(sorted(cs, c => c.rank), c => c.pips)',
      );
    const spent = (needs: string): number => {
      const { game, state } = openTable(sheet(needs));
      game.code.begin();
      expect(countWays(game, state, 0, 0, 0)).toBe(220);
      return game.code.spent();
    };
    const [none, once, twice] = ['', 'needs worth(cs) > 0', 'needs worth(cs) > 0 needs worth(cs) < 99'].map(spent) as [
      number,
      number,
      number,
    ];
    expect(once).toBeGreaterThan(none);
    expect(twice - once).toBe(once - none);
  });
});
