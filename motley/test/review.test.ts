import { isPlayed, type Program, type Row, review, Table } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, programOf, sheetText } from './support.js';

/** The record of a table whose seats choose anything, up to so many choices. */
function recordOf(program: Program, seats: number, most: number): { header: Table['header']; rows: Row[] } {
  const names = ['Wren', 'Otter', 'Heron', 'Vole', 'Pike', 'Teal', 'Crane', 'Stoat'].slice(0, seats);
  const table = new Table(program, { seats: names, settings: {}, seed: 'look back', gets: {} });
  const rows: Row[] = [];
  while (!table.isOver && rows.length < most) {
    const [seat] = table.asked;
    const played = table.isPaused ? table.resume() : seat === undefined ? null : table.playAny(seat);
    if (!played || !isPlayed(played)) break;
    rows.push(played.row);
  }
  return { header: table.header, rows };
}
const opened = (program: Program, header: Table['header']): Table =>
  new Table(program, header, { thinking: [...header.seats.keys()] });

const TOLLS = programOf(`game "Two Tolls" for 2 seats {
  deck standard
  pile row face up
  play {
    for n in 1..3 {
      chapter "Toll {n}"
      for each s in seats {
        ask s {
          option keep "keep the coin" { score s += 3 }
          option throw "throw it away" { score s -= 4 }
        }
      }
    }
    finish
  }
}`);

describe('a choice that is looked back at', () => {
  const header = { seats: ['Wren', 'Otter'], settings: {}, seed: 'x', gets: {} };
  const table = new Table(TOLLS, header);
  const rows = ['keep', 'keep', 'throw', 'keep', 'keep', 'keep'].map((option, i) => {
    const played = table.choose(i % 2, { ask: table.openAsk, option, args: {} });
    if (!isPlayed(played)) throw new Error(played.reason);
    return played.row;
  });
  const at = (number: number) => review(opened(TOLLS, header), rows, number, () => ({ playouts: 60 }));

  it('costs what the best one brings more, and says how the seat stood', () => {
    const found = at(3);
    expect(found).toMatchObject({ begun: 0, ahead: 0, ended: -7 });
    expect(found?.choices.map(({ words, isTaken }) => [words, isTaken])).toEqual([
      ['keep the coin', false],
      ['throw it away', true],
    ]);
    const [keep, thrown] = found?.choices ?? [];
    expect(keep).toMatchObject({ gain: 7, gainError: 0 });
    expect((keep?.mean ?? 0) - (thrown?.mean ?? 0)).toBe(7);
  });

  it('stands first where nothing was clearly better', () => {
    expect(at(5)).toMatchObject({ begun: -7, ahead: -7, ended: -7 });
    expect(at(5)?.choices[0]).toMatchObject({ option: 'keep', isTaken: true, gain: 0 });
  });

  it('has the whole time from when it is reached, and a few playouts where that is up at once', () => {
    const table = opened(TOLLS, header);
    const reached: number[] = [];
    const found = review(table, rows, 3, () => {
      reached.push(table.number);
      return { playouts: 60, isOver: () => true, isLate: () => false };
    });
    expect(reached).toEqual([2]);
    expect(found?.choices.map(({ words, gain }) => [words, gain])).toEqual([
      ['keep the coin', 7],
      ['throw it away', 0],
    ]);
    expect(found?.playouts).toBe(24);
  });

  it('is none where nobody chose, or the record ends before it', () => {
    expect(at(7)).toBeNull();
    expect(
      review(opened(TOLLS, header), [{ ...(rows[0] as Row), seat: null, by: 'table' }], 1, () => ({ playouts: 9 })),
    ).toBeNull();
  });
});

describe('in every bundled sheet', () => {
  it.each(bundledSheets())('a choice of %s is held against others, each once', (name) => {
    const program = programOf(sheetText(name));
    const seats = program.seats[Math.min(1, program.seats.length - 1)] ?? 1;
    const { header, rows } = recordOf(program, seats, 24);
    const last = rows.findLast((row) => row.seat !== null);
    const found = review(opened(program, header), rows, last?.number ?? 0, () => ({ playouts: 30 }));
    expect(found).not.toBeNull();
    const choices = found?.choices ?? [];
    const keys = choices.map(({ option, args }) => JSON.stringify([option, sorted(args)]));
    expect(new Set(keys).size).toBe(choices.length);
    expect(choices.filter(({ isTaken }) => isTaken)).toHaveLength(choices.length > 0 ? 1 : 0);
  });
});

/** Values whose order says nothing, such as those of several cards. */
const sorted = (args: Row['args']): unknown =>
  Object.values(args).map((value) => (Array.isArray(value) ? [...value].map(String).sort() : value));
