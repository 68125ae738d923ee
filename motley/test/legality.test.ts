import { allows, drawChoice, Game, isRefusal, judge, quickChance, REGULARS } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, programOf, sheetText } from './support.js';

/** Slots at the head of a state: the open ask, and the number at which it opened. */
const [ASK, OPENED] = [2, 7];
const CHOICES = 60;

describe.each(bundledSheets())('%s', (file) => {
  it('takes of a bot or a simulation what it takes of a client, number by number', () => {
    const program = programOf(sheetText(file));
    const game = new Game(program, { seats: REGULARS.slice(0, program.seats[0]), chance: quickChance(2) });
    const generator = quickChance(3).stream('player', 0);
    let state = game.open();
    for (let i = 0; i < CHOICES; i++) {
      if (game.isOver(state)) state = game.open();
      if (game.isPaused(state)) {
        state = game.resume(state);
        continue;
      }
      const seat = game.asked(state)[0] as number;
      const options = program.asks[state.f[ASK] as number]?.options ?? [];
      for (const [index, option] of options.entries()) {
        if (option.params.some((param) => param.domain.k !== 'range')) continue;
        for (const value of [-1, 0, 1, 2, 3, 5, 10, 11, 12, 20, 199, 200, 201, 1e9]) {
          const args = option.params.map(() => value);
          const named = Object.fromEntries(option.params.map((param) => [param.name, value]));
          const judged = judge(game, state, seat, { ask: state.f[OPENED] as number, option: option.name, args: named });
          expect([option.name, value, allows(game, state, seat, { option: index, args })]).toEqual([
            option.name,
            value,
            !isRefusal(judged),
          ]);
        }
        // Neither fewer values than it has, nor lists that look like numbers.
        expect(allows(game, state, seat, { option: index, args: [...option.params.map(() => 1), 1] })).toBe(false);
        if (option.params.length > 0)
          expect(allows(game, state, seat, { option: index, args: option.params.map(() => [10]) })).toBe(false);
      }
      const answer = drawChoice(game, state, seat, generator, false);
      if (!answer) throw new Error('nothing may be chosen');
      expect(allows(game, state, seat, answer)).toBe(true);
      state = game.answer(state, seat, answer);
    }
  });
});
