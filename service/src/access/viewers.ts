import { OPEN, WATCHER } from '@wily-jester/core';
import { Problem } from '../problems.js';

/** The viewer that a word or a seat's number stands for: seats are counted from 1 outside. */
export function viewerOf(word: string | number, seats: number): number {
  if (word === 'watch') return WATCHER;
  if (word === 'open') return OPEN;
  const seat = Number(word);
  if (!Number.isInteger(seat) || seat < 1 || seat > seats)
    throw new Problem('malformed', `"${word}" is no viewer: a seat from 1 to ${seats}, "watch" or "open".`);
  return seat - 1;
}
