import {
  Game,
  match,
  meaningOf,
  type Policy,
  parseFaces,
  quickChance,
  RandomPolicy,
  REGULARS,
  ScriptedPolicy,
  SetupError,
  Simulator,
  StateFormError,
  Table,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, programOf, script, sheetText } from './support.js';

const RANDOM: readonly Policy[] = new Array(12).fill(new RandomPolicy());
const eights = programOf(sheetText('eights-aside.motley'));
const pot = programOf(sheetText('long-pot.motley'));

describe.each(bundledSheets())('%s without a table', (sheet) => {
  const program = programOf(sheetText(sheet));
  const seats = REGULARS.slice(0, program.seats.at(-1));

  it('goes step for step as the game that is told, and from any of its states', () => {
    const told = Simulator.of(program, { seats, quiet: false });
    const quiet = Simulator.twinOf(told.game);
    const states: string[] = [];
    const after = (simulator: Simulator) => ({
      policies: RANDOM,
      most: 60,
      after: () => void states.push(meaningOf(simulator.game, simulator.state)),
    });
    told.open(9).play(after(told));
    const once = states.splice(0);
    quiet.open(9).play(after(quiet));
    expect(states.splice(0)).toEqual(once);
    // From a state in the middle, each goes on as the other does.
    const middle = told.open(4).play({ policies: RANDOM, most: 20 });
    if (middle.isOver) return;
    quiet.take(told.state, 5).play(after(quiet));
    const on = states.splice(0);
    const [copy] = [told.game.copy(told.state)];
    told.take(copy, 5).play(after(told));
    expect(states).toEqual(on);
  });
});

describe('a simulator', () => {
  it('does the same for a seed, and something else for another', () => {
    const simulator = Simulator.of(eights, { seats: REGULARS.slice(0, 4) });
    const played = (seed: number): string => {
      simulator.open(seed).play({ policies: RANDOM, most: 40 });
      return meaningOf(simulator.game, simulator.state);
    };
    const first = played(1);
    expect(played(2)).not.toBe(first);
    expect(played(1)).toBe(first);
  });

  it('takes the state of a live table, with the table left as it is', () => {
    const table = new Table(pot, { seats: ['Wren', 'Otter'], seed: 'handed over' });
    const before = table.digest();
    const simulator = Simulator.twinOf(table.game);
    const { choices, isOver } = simulator.take(table.state, 1).play({ policies: RANDOM, most: 5_000 });
    expect([choices > 3, isOver]).toEqual([true, true]);
    expect(table.digest()).toBe(before);
    expect(simulator.scores().reduce((a, b) => a + b, 0)).toBe(table.scores().reduce((a, b) => a + b, 0));
  });

  it('plays to the next chapter, to the end, or for as many choices as it may', () => {
    const thorn = programOf(sheetText('thorn-and-lady.motley'));
    const simulator = Simulator.of(thorn, { seats: REGULARS.slice(0, 4) }).open(3);
    const title = (): string => simulator.game.rt.chapterTitle(simulator.state);
    expect(title()).toBe('Deal 1');
    simulator.play({ policies: RANDOM, until: 'chapter' });
    expect(title()).toBe('Deal 2');
    expect(simulator.play({ policies: RANDOM, most: 2 }).steps).toBe(2);
    expect(simulator.play({ policies: RANDOM }).isOver).toBe(true);
  });

  it('says so where it stands nowhere yet', () => {
    expect(() => Simulator.of(pot, { seats: ['Wren', 'Otter'] }).state).toThrow(/open a game, or take a state/);
  });

  it("plays a sheet's bot, which must be one of its own", () => {
    const simulator = Simulator.of(eights, { seats: ['Wren', 'Otter'] }).open(1);
    const bot = new ScriptedPolicy(simulator.game, eights.bots[0]?.name ?? '');
    expect(simulator.play({ policies: [bot, bot], most: 10_000 }).isOver).toBe(true);
    expect(() => new ScriptedPolicy(simulator.game, 'nobody')).toThrow(SetupError);
    expect(() => new ScriptedPolicy(simulator.game, 'nobody')).toThrow(/has no bot "nobody". It has \w+/);
  });

  it('stops with a fault of the sheet where its bot has nothing to play', () => {
    const source = script(
      'ask seats[1] { option go { } option rest { } } finish',
      'bot idle { go when size(me.hand) > 0 }',
    );
    const simulator = Simulator.of(programOf(source), { seats: ['Wren'] }).open(1);
    const idle = new ScriptedPolicy(simulator.game, 'idle');
    expect(() => simulator.play({ policies: [idle] })).toThrow(/"idle" has no line that fits/);
  });
});

describe('a state that is handed over', () => {
  const opening = { seats: ['Wren', 'Otter'], chance: quickChance(1) };
  const plain = new Game(pot, opening);

  it('is taken by a game of the same program, settings and seats', () => {
    const other = new Game(pot, { ...opening, quiet: true });
    expect(meaningOf(other, other.copy(plain.open()))).toBe(meaningOf(plain, plain.open()));
  });

  it.each([
    ['with promised cards', { promised: { 'hand/1': parseFaces('A♠') } }],
    ['with other settings', { settings: { handLimit: 7 } }],
    ['with more seats', { seats: ['Wren', 'Otter', 'Teal'] }],
    ['that keeps what seats have seen', { tracking: true }],
  ])('is refused, with a reason, by a game %s; and the other way round', (_, more) => {
    const other = new Game(pot, { ...opening, ...more });
    for (const [from, to] of [
      [plain, other],
      [other, plain],
    ] as const) {
      expect(() => to.copy(from.open())).toThrow(StateFormError);
      expect(() => to.copy(from.open())).toThrow(/belongs to another kind of table: it is of "Long Pot Hold'em" for/);
    }
  });

  it('is refused by a game of another program', () => {
    expect(() => new Game(eights, opening).copy(plain.open())).toThrow(/one of "Eights Aside" for 2 seats/);
  });

  it('is taken by a twin, promised cards and all', () => {
    const stacked = new Game(pot, { ...opening, promised: { 'hand/1': parseFaces('A♠ K♥') } });
    const twin = stacked.twin(quickChance(1));
    const state = twin.copy(stacked.open());
    const pile = stacked.layout.piles.findIndex((p) => p.path === 'hand/1');
    expect(twin.rt.pileCards(state, pile).map((c) => twin.layout.faces[c])).toEqual(parseFaces('A♠ K♥'));
    expect(meaningOf(twin, state)).toBe(meaningOf(stacked, stacked.open()));
    expect(() => plain.copy(state)).toThrow(StateFormError);
  });
});

describe('a match', () => {
  const bot = new ScriptedPolicy({ program: eights }, eights.bots[0]?.name ?? '');
  const random = new RandomPolicy();
  const settings = { goal: 20, mostDeals: 1 };

  it('shows that a bot plays better than chance, from all seats alike', () => {
    const result = match(eights, { deals: 400, seed: 1, policies: [bot, random], settings });
    expect(result.games).toBe(800);
    const [good, bad] = result.standings;
    expect(good?.policy).toBe(bot);
    expect(good?.winsInterval[0]).toBeGreaterThan(0.5);
    expect((good?.wins ?? 0) + (bad?.wins ?? 0)).toBeCloseTo(1);
    expect([good?.scores.count, bad?.scores.count]).toEqual([800, 800]);
  });

  it('comes out even between two that play alike, since every deal is played from every seat', () => {
    // Neither draws by chance: both get the same games, turned about.
    const first: Policy = {
      name: 'first',
      choose: ({ program, code }, state, seat) => {
        const ask = state.f[2] as number;
        for (const option of (program.asks[ask]?.options ?? []).keys()) {
          const args: (number | readonly number[])[] = [];
          if ((code.options[ask]?.[option]?.ways.list(state, seat, args, 1) ?? 0) > 0) return { option, args };
        }
        throw new Error('nothing is legal');
      },
    };
    const { standings } = match(eights, { deals: 10, seed: 3, policies: [first, { ...first }], settings });
    expect(standings[0]?.scores.mean).toBe(standings[1]?.scores.mean);
    expect(standings[0]?.wins).toBe(standings[1]?.wins);
  });

  it('counts games that do not end, and refuses as many policies as no table has seats', () => {
    expect(match(eights, { deals: 2, seed: 1, policies: [random, random], most: 3 })).toMatchObject({
      games: 0,
      endless: 4,
    });
    expect(() => match(eights, { deals: 1, seed: 1, policies: [random] })).toThrow(/is not for 1 seats/);
  });
});

describe('a bot with very many ways before it', () => {
  it('has something left for its last line, where the first ones looked through all that they may', () => {
    const program = programOf(`game "Full Hand" for 1 seat {
      deck standard
      pile hand of each seat private
      pile laid face down
      play {
        deal 45 each from pack to hand
        ask seats[1] { option lay(cs: 1..4 cards in seats[1].hand) { move cs to laid } }
        score seats[1] = size(laid)
        finish
      }
      bot picky {
        lay(cs) when sum(cs, c => c.pips) > 99 prefer size(cs)
        lay(cs) when sum(cs, c => c.pips) > 98 prefer size(cs)
        lay(cs) prefer -size(cs)
      }
    }`);
    const simulator = Simulator.of(program, { seats: ['Wren'] });
    const policies = [new ScriptedPolicy({ program }, 'picky')];
    expect(simulator.open(1).play({ policies }).isOver).toBe(true);
    expect(simulator.scores()).toEqual([1]);
  });
});
