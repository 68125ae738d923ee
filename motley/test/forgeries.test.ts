import {
  FairFormError,
  type FairLine,
  type Row,
  readFairness,
  verifyFairness,
  verifyRecord,
  type WholeRecord,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bound, forgeries, promisedGame } from './forgeries.js';
import { inLong } from './support.js';

const game = promisedGame();
const sheet = 'a'.repeat(64);
const wrongIn = (lines: readonly FairLine[]): string => {
  const { checks } = verifyFairness(lines);
  return checks.flatMap(({ wrong }) => wrong ?? []).join(' · ');
};
const wrongOf = (record: Partial<WholeRecord>, lines = game.told(true)): string =>
  verifyRecord({ sheet, header: game.header, rows: game.rows, ...record }, game.program, sheet, lines)
    .flatMap(({ wrong }) => wrong ?? [])
    .join(' · ');

/** Other values for one that stands in a line. */
const othersOf = (value: unknown): unknown[] => {
  if (typeof value === 'number') return [value + 1, value - 1, 0, 99_999];
  if (typeof value !== 'string') return Array.isArray(value) ? [[], value.slice(1), [...value].reverse()] : [null];
  const turned = value.replace(/[0-9a-z]/, (sign) => (sign === '0' ? '1' : '0'));
  return [turned, value.slice(1), '', `${value}0`];
};

describe('what was made up of the shuffles of a table', () => {
  it('is told from what is honest', () => {
    for (const isShown of [true, false]) {
      expect(wrongIn(game.told(isShown))).toBe('');
      // Whoever binds the very same lines anew comes to the very same.
      expect(bound(game.told(isShown))).toEqual(game.told(isShown));
    }
  });

  it.each(forgeries().map((forgery) => [forgery.name, forgery] as const))(
    'is refused, with its reason: %s',
    (_, { lines, wrong }) => {
      expect(wrongIn(lines)).toMatch(wrong);
    },
  );

  it('is refused where any value of any line is another one, or says nothing that is checked', () => {
    const honest = game.told(true);
    const harmless = new Set<string>();
    for (const [i, line] of honest.entries())
      for (const [name, value] of Object.entries(line))
        for (const other of othersOf(value)) {
          if (JSON.stringify(other) === JSON.stringify(value)) continue;
          const lines = honest.map((one, k) => (k === i ? ({ ...one, [name]: other } as FairLine) : one));
          let wrong: string;
          try {
            wrong = wrongIn(readFairness(lines.map((one) => JSON.stringify(one)).join('\n')));
          } catch (error) {
            if (!(error instanceof FairFormError)) throw error;
            // Its form is not that of a line: readFairness says so before.
            continue;
          }
          if (wrong === '') harmless.add(`${line.fair}.${name}`);
        }
    // How many cards were seen and not opened is told, and nothing is said of it.
    expect([...harmless]).toEqual(['seen.cards']);
  });

  it('says nothing of who could choose the cards where that was not checked', () => {
    const { isWhole, took, agrees } = verifyFairness(game.told(false));
    expect({ isWhole, took, agrees }).toEqual({ isWhole: false, took: [1, 2], agrees: true });
  });
});

describe('what was made up of a record', () => {
  it('is told from what is honest, also where more was played since', () => {
    expect(wrongOf({})).toBe('');
    const early = game.told(true);
    const checks = verifyRecord({ sheet, header: game.header, rows: game.rows }, game.program, sheet, early);
    expect(checks.map(({ what }) => what)).toContain(
      `choice by choice what all were told of: ${game.rows.length} choices`,
    );
  });

  it('is refused without its last choice, or any other', () => {
    const many = game.rows.length;
    expect(wrongOf({ rows: game.rows.slice(0, -1) })).toContain(
      `the record ends after choice ${many - 1}, and choice ${many} was told of`,
    );
    for (let i = 0; i < many; i += 5)
      expect(
        wrongOf({ rows: game.rows.filter((_, k) => k !== i).map((row, k) => ({ ...row, number: k + 1 })) }),
      ).not.toBe('');
  });

  it('is refused with another choice that leads to the same', () => {
    const bot = game.rows.map((row, i) =>
      i === 2 ? { ...row, by: 'bot' === row.by ? 'person' : 'bot' } : row,
    ) as Row[];
    expect(wrongOf({ rows: bot })).toContain('other choices than those that were told of');
  });

  it('is refused where any value of it is another one, and nothing is thrown', () => {
    for (const [i, row] of game.rows.entries()) {
      if (i % inLong(3, 29) !== 0) continue;
      for (const [name, value] of Object.entries(row))
        for (const other of othersOf(value)) {
          if (JSON.stringify(other) === JSON.stringify(value)) continue;
          const rows = game.rows.map((one, k) => (k === i ? ({ ...one, [name]: other } as Row) : one));
          expect(wrongOf({ rows }), `${name} of choice ${i + 1}: ${JSON.stringify(other)}`).not.toBe('');
        }
    }
    const headers: object[] = [
      { seats: ['Wren'] },
      { seats: [] },
      { seats: 7 },
      { seats: ['Wren', 'Pike'] },
      { seed: '60'.repeat(32) },
      { seed: 5 },
      { settings: { rounds: 2 } },
      { settings: { nothing: 1 } },
      { settings: null },
      { gets: { top: 'AS' } },
      { gets: { top: 'no card' } },
      { fair: { ...game.header.fair, gave: { promises: [], shown: [] } } },
      { fair: { ...game.header.fair, gave: 7 } },
      { fair: null },
      { branches: [{ number: 1, redeal: 'x' }] },
      { branches: 'x' },
    ];
    for (const header of headers)
      expect(wrongOf({ header: { ...game.header, ...header } as never }), JSON.stringify(header)).not.toBe('');
  });
});
