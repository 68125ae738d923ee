import { setPriority } from 'node:os';
import {
  type Budget,
  budgetOf,
  type Program,
  type Row,
  replayRow,
  review,
  SolvedPolicy,
  solvedChoice,
  Table,
} from '@wily-jester/core';
import { LRUCache } from 'lru-cache';
import type { Opened } from './opened.js';
import type { ReviewAnswer, ReviewTask, SolvedAnswer, SolvedTask, ThinkAnswer, ThinkTask } from './thinking.js';
import { type Wish, withinClock } from './wish.js';

/** So many tables are kept in step here; of others all rows are sent again. */
const MOST_TABLES = 16;

/** Tables come first, and bots before trials: on Linux this is the priority of this thread alone. */
const BEHIND = 10;
try {
  setPriority(0, BEHIND);
} catch {
  // Where that may not be set, thinking shares the processor as the system likes.
}

/** The tables for which this thread thought lately, each with the program that it was opened on. */
const tables = new LRUCache<string, Table>({ max: MOST_TABLES });

/** Programs by the hash of their sheet: the code of its games is made once. */
const programs = new LRUCache<string, Program>({ max: MOST_TABLES });

function shared({ sheet, program }: Opened): Program {
  const found = programs.get(sheet) ?? program;
  programs.set(sheet, found);
  return found;
}

const opened = (opening: Opened): Table =>
  new Table(shared(opening), opening.header, { thinking: [...opening.header.seats.keys()] });

function budgetFor(wish: Wish): Budget {
  const { milliseconds, playouts, latest } = withinClock(wish, Date.now());
  return budgetOf(milliseconds, playouts, () => performance.now(), latest);
}

/** What a thread does: it thinks for a seat of a table, finds what a solution has it choose, or looks back at a choice. */
export default function work(task: ThinkTask | SolvedTask | ReviewTask): ThinkAnswer | SolvedAnswer | ReviewAnswer {
  if ('decisions' in task) return bySolution(task);
  return 'seat' in task ? think(task) : lookBack(task);
}

/** @throws UnknownPlace where the solution says nothing of what the seat is asked */
function bySolution({ opening, rows, asked, decisions }: SolvedTask): SolvedAnswer {
  const program = shared(opening);
  const choice = solvedChoice(program, opening.header, rows, asked, new SolvedPolicy(decisions));
  return choice ? { kind: 'solved', ask: choice.ask, choice } : { kind: 'nothing' };
}

/** Nothing of it is kept: another choice begins at the opening again. */
function lookBack({ opening, rows, number, wish }: ReviewTask): ReviewAnswer {
  return review(opened(opening), rows, number, () => budgetFor(wish));
}

/** Brings a table in step with its record and thinks for one seat there. Rows were judged and kept: their digests are not looked at. */
function think(task: ThinkTask): ThinkAnswer {
  const { id, opening, rows, seat, wish } = task;
  const table = opening ? opened(opening) : tables.get(id);
  if (!table || table.number !== task.from) return { kind: 'unknown' };
  tables.delete(id);
  for (const row of rows) replayRow(table, row as Row, false);
  tables.set(id, table);
  if (!table.asked.includes(seat)) return { kind: 'nothing' };
  const thought = table.think(seat, budgetFor(wish));
  if (!thought) return { kind: 'nothing' };
  const described = (answer: typeof thought.answer) => ({
    ...table.wireOf(seat, answer),
    words: table.wordsFor(seat, answer),
  });
  return {
    kind: 'thought',
    ask: table.openAsk,
    choice: described(thought.answer),
    choices: thought.choices
      .filter((choice) => choice.playouts > 1)
      .map(({ answer, mean, error, playouts: count }) => ({ ...described(answer), mean, error, playouts: count })),
    playouts: thought.playouts,
    isAlone: thought.choices.length === 0,
  };
}
