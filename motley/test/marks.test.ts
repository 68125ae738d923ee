import { drawChoice, type Header, isPlayed, quickChance, type Row, replayRow, Table } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { programOf, sheetText } from './support.js';

const CHOICES = 60;
const UNDO = 'undo';

/** What a table says of itself: its digest, and what each of its viewers sees. */
const lookOf = (table: Table): unknown => [
  table.digest(),
  table.waiting,
  [-1, -2, ...table.game.rt.seats].map((viewer) => table.view(viewer)),
];

/** One more choice at random, now and then one that is taken back. */
function playOn(table: Table, generator: { next(): number }): Row | null {
  if (table.isOver) return null;
  if (table.isPaused) return table.resume().row;
  const { game, state } = table;
  const seats = table.asked;
  const seat = seats[generator.next() % seats.length] as number;
  const undoes = game.rt.seats.find((other) => table.mayUndo(other));
  if (undoes !== undefined && generator.next() % 3 === 0) {
    const undone = table.choose(undoes, { ask: table.openAsk, option: UNDO, args: {} });
    if (isPlayed(undone)) return undone.row;
  }
  const answer = drawChoice(game, state, seat, generator, false);
  if (!answer) throw new Error('nothing may be chosen');
  return table.carryOut(seat, answer, 'person').row;
}

describe('a table that goes back to where it stood', () => {
  it.each([
    ['lantern-twenty-one.motley', ['Wren', 'Otter', 'Heron'], {}],
    ['weir-patience.motley', ['Wren'], {}],
    ['long-pot.motley', ['Wren', 'Otter', 'Heron'], { branches: [{ number: 11, redeal: 'anew' }] }],
    ['mirror-twenty-one.motley', ['Wren', 'Otter'], {}],
  ] as const)('is the same as it was, and goes on the same way: %s', (file, seats, more: Partial<Header>) => {
    const table = new Table(programOf(sheetText(file)), { seats, seed: 'marks', ...more });
    const generator = quickChance(7).stream('player', 0);
    const marks = [table.mark()];
    const looks = [lookOf(table)];
    const rows: Row[] = [];
    for (let i = 0; i < CHOICES; i++) {
      const row = playOn(table, generator);
      if (!row) break;
      rows.push(row);
      looks.push(lookOf(table));
      marks.push(table.mark());
    }
    expect(rows.length).toBeGreaterThan(20);
    for (let i = 0; i < 25; i++) {
      const from = generator.next() % marks.length;
      const mark = marks[from];
      if (!mark) continue;
      expect(mark.number).toBe(from);
      table.goTo(mark);
      expect(lookOf(table)).toEqual(looks[from]);
      for (const [j, row] of rows.slice(from, from + 6).entries()) {
        replayRow(table, row);
        expect(lookOf(table)).toEqual(looks[from + j + 1]);
      }
    }
    if (file.startsWith('weir')) expect(rows.some((row) => row.option === UNDO)).toBe(true);
  });
});
