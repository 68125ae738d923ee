import { figuresOfRecord, type Header, isPlayed, type Row, Table } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { programOf } from './support.js';

const SOURCE = `game "Counted" for 1 seat { deck standard undo free
  pile row face up
  play {
    tally "begun" 1
    repeat {
      ask seats[1] {
        option take(n: 1..9) { score seats[1] += n  tally "taken" n  tally "much" n > 5 by n % 2 == 0 }
        option stop { finish }
      }
      pause 1s
    }
  }
}`;

describe('what a sheet counts in one game', () => {
  const header: Header = { seats: ['Bittern'], seed: 'counted' };
  const program = programOf(SOURCE);
  /** The rows of a game: amounts to take, to take back, or to stop. */
  function rowsOf(choices: readonly (number | 'undo' | 'stop')[]): Row[] {
    const table = new Table(program, header);
    const rows: Row[] = [];
    for (const choice of choices) {
      const wire = typeof choice === 'number' ? { option: 'take', args: { n: choice } } : { option: choice, args: {} };
      const played = table.choose(0, { ask: table.openAsk, ...wire });
      if (!isPlayed(played)) throw new Error(played.reason);
      rows.push(played.row);
      while (table.isPaused) rows.push(table.resume().row);
    }
    return rows;
  }
  const told = (choices: Parameters<typeof rowsOf>[0]): Record<string, string> =>
    Object.fromEntries(
      (figuresOfRecord(program, header, rowsOf(choices)).arms[0]?.tallies ?? []).map(({ name, cells }) => [
        name,
        cells
          .map(({ marks, category, value, times }) =>
            [...marks, category, value, `×${times}`].filter(Boolean).join(' '),
          )
          .join(', '),
      ]),
    );

  it('is counted as a trial of that game alone would', () => {
    expect(told([2, 6, 'stop'])).toMatchObject({
      begun: '1 ×1',
      taken: '4 ×2',
      score: 'Bittern 8 ×1',
      'choices of a game': '3 ×1',
    });
  });

  it('leaves out what was taken back, and what the table did after it', () => {
    expect(told([2, 9, 'undo', 6, 'stop'])).toEqual(told([2, 6, 'stop']));
    expect(told([2, 9, 'undo', 'undo', 2, 6, 'stop'])).toEqual(told([2, 6, 'stop']));
  });

  it('has no end where the game has none', () => {
    const { endless, tallies } = figuresOfRecord(program, header, rowsOf([3])).arms[0] ?? { endless: 0, tallies: [] };
    expect(endless).toBe(1);
    expect(tallies.find(({ name }) => name === 'taken')?.cells[0]?.value).toBe(3);
  });

  it('is of a record that holds', () => {
    const rows = rowsOf([2, 6, 'stop']);
    const other = rows.map((row) => (row.option === 'take' ? { ...row, args: { n: 4 } } : row));
    expect(() => figuresOfRecord(program, header, other)).toThrow('another one than the record says');
  });
});
