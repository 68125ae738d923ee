import { expect, it } from 'vitest';
import { hintFor } from '../src/tables/hints.js';
import type { Found } from '../src/thinking/thinking.js';
import { personWish } from '../src/thinking/wish.js';

const choice = { option: 'left', args: {}, words: 'left' };

/** The hint that comes of a thought. */
const hintOf = (found: Pick<Found, 'choices' | 'playouts' | 'isAlone'>) =>
  hintFor(
    { thinking: { think: async () => ({ kind: 'thought', ask: 3, choice, ...found }) }, table: {} } as never,
    0,
    personWish(100, null, 0),
  );

it('a hint without time says what would be played, and that it was not weighed; not that it is worth nothing', async () => {
  const hint = await hintOf({ choices: [], playouts: 2, isAlone: false });
  expect(hint).toEqual({
    ask: 3,
    seat: 1,
    choices: [{ ...choice, mean: null, error: null }],
    playouts: 0,
    alone: false,
  });
  expect((await hintOf({ choices: [], playouts: 0, isAlone: true })).alone).toBe(true);
  const weighed = { ...choice, mean: 2, error: 0.5, playouts: 9 };
  expect((await hintOf({ choices: [weighed], playouts: 9, isAlone: false })).choices).toEqual([
    { ...choice, mean: 2, error: 0.5 },
  ]);
});
