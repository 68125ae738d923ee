import {
  answerWith,
  type Game,
  HiddenPlaces,
  quickChance,
  type State,
  shufflePlaces,
  Thinker,
  unseenBy,
  Views,
  Worlds,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { knowledgeOf, played, type Step } from './played.js';
import { bundledSheets, inLong } from './support.js';

/** So many positions of each sheet are held against others with the same look. */
const POSITIONS = inLong(200, 5);

/** Insists that whoever is asked before the last step chooses the same where the cards that it cannot see lie otherwise; gives whether anybody is asked. */
function choosesTheSameInALie(game: Game, steps: readonly Step[], seed: number): boolean {
  const { before: state } = steps.at(-1) as Step;
  const [seat] = game.asked(state);
  if (seat === undefined) return false;
  const cards = unseenBy(game, state, seat);
  const order = Uint16Array.from(cards);
  shufflePlaces(order, 0, order.length, quickChance(seed).stream('permute', steps.length));
  const instead = (card: number): number => order[cards.indexOf(card)] ?? card;
  const other = (true_: State): State => {
    const copy = true_.copy();
    new HiddenPlaces(game, true_, cards).lay(copy, order);
    return copy;
  };
  const [truth, lie] = [new Thinker(game, seat, 4), new Thinker(game, seat, 4)];
  for (const { before, after, seat: chooser, answer } of steps.slice(0, -1)) {
    truth.note(before, after, chooser, answer);
    lie.note(other(before), other(after), chooser, answerWith(game, before, answer, instead));
  }
  const [found, same] = [truth.think(state, { playouts: 40 }), lie.think(other(state), { playouts: 40 })];
  const words = `game ${seed}, choice ${steps.length}`;
  expect(same?.answer, words).toEqual(found?.answer);
  expect(
    same?.choices.map(({ mean }) => mean),
    words,
  ).toEqual(found?.choices.map(({ mean }) => mean));
  return true;
}

describe.each(bundledSheets())('a world that a seat holds possible in %s', (sheet) => {
  it('looks the same to it: view, notes and offers, byte for byte', () => {
    const { game, steps } = played(sheet, 11);
    const views = new Views(game);
    const generator = quickChance(5).stream('worlds', 0);
    for (const [i, { after }] of steps.entries()) {
      if (i % 7 !== 0) continue;
      for (const seat of game.rt.seats.slice(0, 3)) {
        const worlds = new Worlds(game, after, knowledgeOf(game, seat, steps.slice(0, i + 1)));
        const world = after.copy();
        worlds.draw(world, generator);
        expect(JSON.stringify(views.snapshot(world).view(seat))).toBe(JSON.stringify(views.snapshot(after).view(seat)));
      }
    }
  });

  it('says nothing of the truth: with other hidden cards and the same chance the same is chosen', () => {
    let looked = 0;
    for (let seed = 12; looked < POSITIONS && seed < 1_000; seed++) {
      const { game, steps } = played(sheet, seed, 30);
      for (const i of steps.keys())
        if (
          (i % 6 === 3 || steps.length < 4) &&
          looked < POSITIONS &&
          choosesTheSameInALie(game, steps.slice(0, i + 1), seed)
        )
          looked++;
    }
    expect(looked).toBe(POSITIONS);
  });
});

describe('what others choose', () => {
  it.each(['thorn-and-lady.motley', 'standing-trump.motley'])('tells which suits they do not hold in %s', (sheet) => {
    let drawn = 0;
    let contradicted = 0;
    let told = 0;
    for (const seed of [1, 2, 3]) {
      const { game, steps } = played(sheet, seed, 48);
      const generator = quickChance(seed).stream('worlds', 0);
      const last = steps.at(-1)?.after as State;
      for (const seat of game.rt.seats) {
        const knowledge = knowledgeOf(game, seat, steps);
        told += knowledge.witnessed.length;
        const worlds = new Worlds(game, last, knowledge);
        for (let i = 0; i < 50; i++) {
          drawn++;
          if (!worlds.draw(last.copy(), generator)) contradicted++;
        }
      }
    }
    expect(told).toBeGreaterThan(10);
    expect(contradicted / drawn).toBeLessThan(0.005);
  });
});
