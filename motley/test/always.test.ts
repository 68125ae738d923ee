import { Fault, Game, quickChance, type State } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { choose, openTable, programOf, script } from './support.js';

const BROKEN = '"sound" does not hold any more.';
/** Asks one seat again and again: one option breaks what is always so, the other leaves everything alone. */
const asking = (breaks: string, always: string, top = ''): string =>
  script(
    `${'deal 3 from pack to row'} repeat { ask seats[1] { option spoil { ${breaks} } option wait { side += 1 } option stop { finish } } }`,
    `var coins = 5 var side = 0 var purse of each seat: int = 2 var mood: Mood kind Mood = calm | keen ${top} always "sound" ${always}`,
  );

describe('what is always so', () => {
  it.each([
    ['a variable', 'coins = 9', 'coins <= 5'],
    ['a variable that is counted on', 'coins += 1', 'coins <= 5'],
    ['a variable of a seat', 'seats[2].purse -= 3', 'none(seats, s => s.purse < 0)'],
    ['what is picked', 'pick coins from [7, 8]', 'coins + sum(seats, s => s.purse) == 9'],
    ['a kind', 'mood = keen', 'mood == calm'],
    ['what a def reads of it', 'coins = 6', 'not rich', 'def rich = coins > 5'],
    ['a pile', 'move all from row to stock', 'size(row) == 3'],
    ['a score', 'score seats[1] = 4', 'seats[1].score == 0'],
    ['both', 'move all from row to stock', 'coins == size(row) + 2'],
  ])('is looked at where %s changes', (_, breaks, always, top = '') => {
    const table = openTable(asking(breaks, always, top), { seats: ['Wren', 'Otter'] });
    choose(table, 0, 'wait');
    choose(table, 0, 'wait');
    expect(() => choose(table, 0, 'spoil')).toThrow(BROKEN);
    expect(table.number).toBe(2);
    choose(table, 0, 'wait');
    expect(() => choose(table, 0, 'spoil')).toThrow(Fault);
  });

  it('is looked at where a variable goes back to its first value', () => {
    const source = asking('reset coins', 'coins + side > 6').replace('repeat {', 'coins = 9 repeat {');
    const table = openTable(source, { seats: ['Wren', 'Otter'] });
    expect(() => choose(table, 0, 'spoil')).toThrow(BROKEN);
  });

  it.each([
    ['the start does not fit it', 'coins > 5'],
    ['it reads nothing that could change', 'size(seats) == 3'],
  ])('is looked at before the first choice: %s', (_, always) => {
    expect(() => openTable(asking('side = 1', always), { seats: ['Wren', 'Otter'] })).toThrow(BROKEN);
  });

  it('is looked at where a rehearsal puts something into a variable', () => {
    const program = programOf(asking('side = 1', 'coins == 5'));
    const game = new Game(program, { seats: ['Wren', 'Otter'], chance: quickChance(1) });
    const coins = game.layout.varBase[program.vars.findIndex((v) => v.name === 'coins')] as number;
    const put = (value: number) => (state: State) => {
      state.f[coins] = value;
    };
    expect(() => game.openWith(put(6))).toThrow(BROKEN);
    expect(game.openWith(put(5)).f[coins]).toBe(5);
  });

  it('costs nothing where nothing that it reads was written', () => {
    const spent = (always: string, option: 'spoil' | 'wait'): number => {
      const { game, state } = openTable(asking('coins = 5', always), { seats: ['Wren', 'Otter'] });
      game.answer(state, 0, { option: option === 'spoil' ? 0 : 1, args: [] });
      return game.code.spent();
    };
    const [long, short] = ['sum(seats, s => s.purse + coins) < 99', 'coins < 99'];
    expect(spent(long, 'wait')).toBe(spent(short, 'wait'));
    expect(spent(long, 'spoil')).toBeGreaterThan(spent(short, 'spoil'));
  });
});
