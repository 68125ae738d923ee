import { CHAPTERS } from '../machine/layout.js';
import type { Budget } from '../opponents/budget.js';
import { standingOf } from '../opponents/standing.js';
import { keptAnswer } from '../rules/bots.js';
import { openly } from '../rules/handles.js';
import { isRefusal, judge } from '../rules/judge.js';
import type { Row } from './record.js';
import { replayRow } from './replay.js';
import type { Table } from './table.js';

/** A choice that a seat had, as clients word it and in words, and what it was worth. */
export interface ReviewedChoice {
  readonly option: string;
  readonly args: Row['args'];
  readonly words: string;
  /** Points that it brings until the end of the chapter, beside the others, on average; and the standard error of that. */
  readonly mean: number;
  readonly error: number;
  /** How much more it brings than the choice that was made, in the same worlds, and the standard error of that. */
  readonly gain: number;
  readonly gainError: number;
  readonly isTaken: boolean;
}

/** A choice that was made, looked at with what its seat could know. */
export interface Review {
  /** Points that the seat was ahead of the others by: when the chapter began, before the choice, and when the chapter ended. */
  readonly begun: number;
  readonly ahead: number;
  readonly ended: number;
  /** What thinking would have played comes first, or the choice itself where the first answer counts. Empty where there was nothing else to choose. */
  readonly choices: readonly ReviewedChoice[];
  readonly playouts: number;
}

/**
 * Looks back at one choice of a record: plays it up to there, thinks about that choice beside the others, and plays on to
 * the end of its chapter.
 * @param table at its opening, with the seat of the choice among those that think
 * @param rows of the record, from the first on; those after the end of the chapter are not needed
 * @param begin gives how long is thought, once that choice is reached
 * @returns `null` where no seat chose, or took something back
 */
export function review(table: Table, rows: readonly Row[], number: number, begin: () => Budget): Review | null {
  const row = rows.find((each) => each.number === number);
  if (!row || row.seat === null) return null;
  const seat = row.seat - 1;
  const stands = (): number => standingOf(table.game, table.state, seat);
  const chapter = (): number => table.state.f[CHAPTERS] as number;
  let begun = stands();
  for (const before of rows.filter((each) => each.number < number)) {
    const here = chapter();
    replayRow(table, before, false);
    if (chapter() !== here) begun = stands();
  }
  const ahead = stands();
  const { state } = table;
  const judged = judge(table.game, state, seat, row, openly(table.game, state));
  if (isRefusal(judged)) return null;
  const taken = keptAnswer(judged);
  const thought = table.thinkerOf(seat).review(state, taken, begin());
  const choices = (thought?.choices ?? [])
    .filter(({ answer, playouts }) => playouts > 1 || answer === taken)
    .map(({ answer, mean, error, gain, gainError }) => ({
      ...table.wireOf(seat, answer),
      words: table.wordsFor(seat, answer),
      mean,
      error,
      gain,
      gainError,
      isTaken: answer === taken,
    }));
  return {
    begun,
    ahead,
    ended: endOf(table, rows, number, stands, chapter),
    choices,
    playouts: thought?.playouts ?? 0,
  };
}

/** Plays on to the end of the chapter; scores that come as the next one begins belong to it. */
function endOf(
  table: Table,
  rows: readonly Row[],
  number: number,
  stands: () => number,
  chapter: () => number,
): number {
  const here = chapter();
  for (const row of rows.filter((each) => each.number >= number)) {
    replayRow(table, row, false);
    if (chapter() !== here) break;
  }
  return stands();
}
