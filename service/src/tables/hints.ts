import type { Hint } from '@wily-jester/protocol';
import { Problem } from '../problems.js';
import type { Wish } from '../thinking/wish.js';
import type { Mind } from './own-steps.js';

/** So many choices are told at most, the best first. */
const MOST_TOLD = 12;

/** What thinking for a while comes to, for a seat that is asked. @throws Problem where nothing is found, or too many think */
export async function hintFor({ thinking, table }: Mind, seat: number, wish: Wish): Promise<Hint> {
  const answer = await thinking.think(table, seat, wish).catch(() => {
    throw new Problem('unavailable', 'Too many think at once, or it took too long: ask for the hint again later.');
  });
  if (answer.kind !== 'thought')
    throw new Problem('turn', `Nothing was found to hint at: ${table.header.seats[seat]} is not asked any more.`);
  const { ask, choice, choices, playouts, isAlone } = answer;
  const told = choices.slice(0, MOST_TOLD).map(({ option, args, words, mean, error }) => ({
    option,
    args: { ...args },
    words,
    mean,
    // One playout says nothing of its error.
    error: Number.isFinite(error) ? error : 0,
  }));
  const best = { option: choice.option, args: { ...choice.args }, words: choice.words, mean: null, error: null };
  return {
    ask,
    seat: seat + 1,
    choices: (told.length > 0 ? told : [best]) as Hint['choices'],
    playouts: told.length > 0 ? playouts : 0,
    alone: isAlone,
  };
}
