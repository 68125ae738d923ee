import { BUDGETS, Fault, type Game, isPlayed, soak, Table } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { NASTY, type NastySheet } from '../../bench/dist/nasty/sheets.js';
import { bundledSheets, programOf, sheetText } from './support.js';

const WORDS: Readonly<Record<NastySheet['outcome'], RegExp>> = {
  dear: /more than [23],000,000 operations/,
  events: /More than 4,000 things/,
  text: /at most 4,096 bytes/,
  said: /says at most 64 KiB/,
  texts: /remembers are longer than 64 KiB/,
  asks: /^$/,
};

/** Carries out the one choice of a nasty sheet, and gives its table and the fault, if there was one. */
function carriedOut(source: string): { table: Table; fault: Fault | null } {
  const table = new Table(programOf(source), { seats: ['Wren'], seed: 'nasty', settings: {} }, { live: true });
  try {
    const played = table.choose(0, { ask: 0, option: 'go' });
    if (!isPlayed(played)) throw new Error(played.reason);
    return { table, fault: null };
  } catch (error) {
    if (error instanceof Fault) return { table, fault: error };
    throw error;
  }
}

describe('a step that asks for too much', () => {
  it.each(NASTY.map((sheet) => [sheet.name, sheet] as const))('ends: %s', (_, { source, outcome }) => {
    const { table, fault } = carriedOut(source);
    expect(fault?.message ?? '').toMatch(WORDS[outcome]);
    if (outcome === 'asks') {
      expect(table.number).toBe(1);
      expect(isPlayed(table.choose(0, { ask: 1, option: 'no' }))).toBe(true);
      return;
    }
    // The sheet is to blame, in a line of its script or of what that calls; the table stands where it stood.
    expect(fault?.line).toBeGreaterThan(6);
    expect(table.number).toBe(0);
    expect(table.view(0).offers).toHaveLength(1);
  });

  it('ends at the same place each time, whoever follows and whatever was cached', () => {
    for (const { source } of NASTY.filter(({ outcome }) => outcome === 'dear').slice(0, 12)) {
      const spent = [true, false].map((looked) => {
        const table = new Table(programOf(source), { seats: ['Wren'], seed: 'nasty', settings: {} }, { live: looked });
        const { game }: { game: Game } = table;
        if (looked) for (const viewer of [-2, -1, 0]) table.view(viewer);
        return [0, 1].map(() => {
          expect(() => table.choose(0, { ask: 0, option: 'go' })).toThrow(Fault);
          return game.code.spent();
        });
      });
      expect(new Set(spent.flat()).size).toBe(1);
    }
  });
});

describe('an honest step', () => {
  it.each(bundledSheets().map((file) => [file] as const))('costs a quarter of what it may at most: %s', (file) => {
    const { heaviest, failures } = soak(programOf(sheetText(file)), { games: 4, seed: 5 });
    expect(failures).toEqual([]);
    expect(heaviest.operations).toBeGreaterThan(0);
    expect(heaviest.operations).toBeLessThan(BUDGETS.step / 4);
  });
});
