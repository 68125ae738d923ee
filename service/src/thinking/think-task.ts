import { type Budget, type Header, type Program, type Row, replayRow, review, Table } from '@wily-jester/core';
import { LRUCache } from 'lru-cache';
import type { ReviewAnswer, ReviewTask, ThinkAnswer, ThinkTask } from './thinking.js';

/** So many tables are kept in step here; of others all rows are sent again. */
const MOST_TABLES = 16;

/** The tables for which this thread thought lately, each with the program that it was opened on. */
const tables = new LRUCache<string, Table>({ max: MOST_TABLES });

function opened(program: Program, header: Header): Table {
  return new Table(program, header, { thinking: [...header.seats.keys()] });
}

/** Ends after so many milliseconds, and after twice as many for good; 0 counts playouts alone. */
function budgetOf(milliseconds: number, playouts: number): Budget {
  if (milliseconds === 0) return { playouts };
  const until = performance.now() + milliseconds;
  return { playouts, isOver: () => performance.now() > until, isLate: () => performance.now() > until + milliseconds };
}

/** What a thread does: it thinks for a seat of a table, or looks back at a choice. */
export default function work(task: ThinkTask | ReviewTask): ThinkAnswer | ReviewAnswer {
  return 'seat' in task ? think(task) : lookBack(task);
}

/** Nothing of it is kept: another choice begins at the opening again. */
function lookBack({ program, header, rows, number, milliseconds, playouts }: ReviewTask): ReviewAnswer {
  return review(opened(program, header), rows, number, budgetOf(milliseconds, playouts));
}

/** Brings a table in step with its record and thinks for one seat there. Rows were judged and kept: their digests are not looked at. */
function think(task: ThinkTask): ThinkAnswer {
  const { id, opening, rows, seat, milliseconds, playouts } = task;
  const table = opening ? opened(opening.program, opening.header) : tables.get(id);
  if (!table || table.number !== task.from) return { kind: 'unknown' };
  tables.delete(id);
  for (const row of rows) replayRow(table, row as Row, false);
  tables.set(id, table);
  if (!table.asked.includes(seat)) return { kind: 'nothing' };
  const thought = table.think(seat, budgetOf(milliseconds, playouts));
  if (!thought) return { kind: 'nothing' };
  const described = (answer: typeof thought.answer) => ({
    ...table.wireOf(answer),
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
  };
}
