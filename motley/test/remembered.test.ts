import { Game, meaningOf, quickChance, REGULARS, redeal, type State, sampleChoice } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, programOf, sheetText } from './support.js';

const CHOICES = 120;

/** Plays the same random games of a sheet, and hands over each state with the operations that led there. */
function playThrough(game: Game, seed: number, each: (state: State, operations: number) => void): void {
  const generator = quickChance(seed).stream('player', 0);
  let state = game.open();
  for (let i = 0; i < CHOICES; i++) {
    each(state, game.code.spent());
    if (game.isOver(state)) state = game.open();
    else if (game.isPaused(state)) state = game.resume(state);
    else {
      const seat = game.asked(state)[0] as number;
      const answer = sampleChoice(game, state, seat, generator, false);
      if (!answer) throw new Error('nothing may be chosen');
      state = game.answer(state, seat, answer);
    }
  }
}

const gameOf = (file: string, seed: number, quiet = false): Game => {
  const program = programOf(sheetText(file));
  return new Game(program, {
    seats: REGULARS.slice(0, program.seats[0]),
    chance: quickChance(seed),
    quiet,
  });
};

describe.each(bundledSheets())('%s', (file) => {
  it('stamps a pile anew whenever its cards, or their order, change', () => {
    const game = gameOf(file, 3);
    const held = new Map<string, string>();
    const look = (state: State): void => {
      for (let p = 0; p < game.shape.piles.length; p++) {
        const name = `${p} ${state.stamp[p]}`;
        const cards = game.rt.pileCards(state, p).join(' ');
        expect(held.get(name) ?? cards, game.shape.piles[p]?.path).toBe(cards);
        held.set(name, cards);
      }
    };
    playThrough(game, 5, (state) => {
      look(state);
      const other = game.copy(state);
      redeal(game, other, quickChance(state.f.length).stream('redeal', 0), () => true);
      look(other);
    });
    expect(held.size).toBeGreaterThan(game.shape.piles.length);
  });

  it('comes to the same states at the same cost with values remembered, and when nobody is told', () => {
    const game = gameOf(file, 4);
    const first: string[] = [];
    playThrough(game, 6, (state, cost) => first.push(`${meaningOf(game, state)}\ncost ${cost}`));
    const again: string[] = [];
    playThrough(game, 6, (state, cost) => again.push(`${meaningOf(game, state)}\ncost ${cost}`));
    const quiet = gameOf(file, 4, true);
    const unheard: string[] = [];
    playThrough(quiet, 6, (state) => unheard.push(meaningOf(quiet, state)));
    expect(new Set(first).size).toBeGreaterThan(5);
    expect(again).toEqual(first);
    expect(unheard).toEqual(first.map((state) => state.replace(/\ncost \d+$/, '')));
    expect(quiet.trace.numbers()).toEqual([]);
  });
});
