import { deserialize, serialize } from 'node:v8';
import { drawChoice, type Header, isPlayed, quickChance, type Row, replayRow, Table } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, programOf, sheetText } from './support.js';

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

/** As another process reads it. */
const elsewhere = <T>(value: T): T => deserialize(serialize(value));

describe('a position that is kept for another process', () => {
  it.each(bundledSheets())('is the same there, goes on the same way, and takes back the same: %s', (file) => {
    const program = programOf(sheetText(file));
    const seats = ['Wren', 'Otter', 'Heron', 'Pike', 'Teal', 'Newt', 'Vole', 'Coot', 'Dace', 'Rook', 'Crake', 'Swift'];
    const header: Header = { seats: seats.slice(0, program.seats[0]), seed: 'kept' };
    const table = new Table(program, header);
    const generator = quickChance(11).stream('player', 0);
    for (let kept = 0; kept < 6; kept++) {
      for (let i = 0; i < 9; i++) if (!playOn(table, generator)) break;
      const other = new Table(program, header);
      expect(other.thaw(elsewhere(table.freeze()))).toBe(true);
      expect(lookOf(other)).toEqual(lookOf(table));
      for (let i = 0; i < 9; i++) {
        const row = playOn(table, generator);
        if (!row) break;
        replayRow(other, row);
        expect(lookOf(other)).toEqual(lookOf(table));
      }
    }
  });

  it('is not taken where it is another one: of fewer bytes, of another number, of another table', () => {
    const weir = programOf(sheetText('weir-patience.motley'));
    const table = new Table(weir, { seats: ['Wren'], seed: 'kept' });
    const frozen = table.freeze();
    const cut = { ...frozen, state: { ...frozen.state, bytes: frozen.state.bytes.slice(8) } };
    const before = lookOf(table);
    for (const changed of [cut, { ...frozen, digest: 'f'.repeat(32) }, { ...frozen, number: 7 }])
      expect(table.thaw(changed)).toBe(false);
    expect(lookOf(table)).toEqual(before);
    const other = new Table(weir, { seats: ['Wren'], seed: 'another' });
    expect(other.thaw(frozen)).toBe(false);
  });
});

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
