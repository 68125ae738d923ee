import { plannedSettings, planOf, readSettings } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { openTable, programOf, said } from './support.js';

const sheet = (settings: string, body = 'finish'): string =>
  `game "Tolls" for 1 to 4 seats {\n  ${settings}\n  deck standard\n  pile hand of each seat private\n  play { ${body} }\n}`;
const TOLLS = sheet(
  'setting stake: 2..1000 = 200 "chips"\n  setting high: 2..stake = stake / 2 "largest"\n  setting low: 1..high = 10 "smallest"',
  'say "{stake} {high} {low}" finish',
);
const opened = (settings: Record<string, number>): string[] => said(openTable(TOLLS, { settings }));
const messages = (settings: string): string[] => compileSheet(sheet(settings)).problems.map((p) => p.message);

describe('a setting that follows from others', () => {
  it('takes its limits and its standard value from those before it', () => {
    expect(opened({})).toEqual(['200 100 10']);
    expect(opened({ stake: 60 })).toEqual(['60 30 10']);
    expect(opened({ stake: 60, high: 60, low: 60 })).toEqual(['60 60 60']);
  });

  it('stays within its limits where others moved them', () => {
    expect(opened({ stake: 8 })).toEqual(['8 4 4']);
    expect(opened({ stake: 3 })).toEqual(['3 2 2']);
  });

  it('refuses what these settings do not allow, with the limits as they are now', () => {
    const program = programOf(TOLLS);
    expect(() => readSettings(program, { stake: 50, high: 51 })).toThrow(
      'high is a whole number from 2 to 50, not 51.',
    );
    expect(() => readSettings(program, { high: 20, low: 21 })).toThrow('low is a whole number from 1 to 20, not 21.');
  });

  it('says where other settings leave it no value', () => {
    const program = programOf(sheet('setting a: 1..9 = 5 "a"\n  setting b: 4..a = 4 "b"'));
    expect(() => readSettings(program, { a: 3 })).toThrow('leave nothing for b: it would be from 4 to 3');
  });

  it('is told to clients with its limits for the standard values, and with what it follows', () => {
    expect(planOf(programOf(TOLLS)).settings).toEqual([
      { name: 'stake', help: 'chips', type: 'int', standard: 200, from: 2, to: 1000 },
      { name: 'high', help: 'largest', type: 'int', standard: 100, from: 2, to: 200, follows: ['stake'] },
      { name: 'low', help: 'smallest', type: 'int', standard: 10, from: 1, to: 100, follows: ['high'] },
    ]);
  });

  it('is told anew for other values of those before it', () => {
    const program = programOf(TOLLS);
    const limits = (given: Record<string, number>) =>
      plannedSettings(program, given).map(({ from, to, standard }) => [from, to, standard]);
    expect(limits({})).toEqual(planOf(program).settings.map(({ from, to, standard }) => [from, to, standard]));
    expect(limits({ stake: 60 })).toEqual([
      [2, 1000, 200],
      [2, 60, 30],
      [1, 30, 10],
    ]);
    expect(limits({ stake: 60, high: 4 })[2]).toEqual([1, 4, 4]);
    expect(() => limits({ stake: 50, high: 51 })).toThrow('high is a whole number from 2 to 50, not 51.');
    expect(() => limits({ stakes: 50 })).toThrow('has no setting "stakes"');
  });

  it('reckons with least and greatest, differences and remainders', () => {
    const source = sheet(
      'setting a: 1..99 = 17 "a"\n  setting b: min(a, 4)..max(a, 40) - 1 = a - a % 5 "b"',
      'say "{b}" finish',
    );
    expect(said(openTable(source))).toEqual(['15']);
    expect(planOf(programOf(source)).settings[1]).toMatchObject({ from: 4, to: 39, standard: 15 });
  });

  it.each([
    ['setting a: 1..b = 3 "a"\n  setting b: 1..9 = 2 "b"', '"b" is declared below'],
    ['setting a: 1..a = 3 "a"', '"a" is declared below'],
    ['setting a: 1..size(seats) = 1 "a"', 'Only numbers, settings and what is reckoned from them'],
    ['setting a: 1..9 = 3 "a"\n  setting b: 1..a = 5 "b"', 'The standard value of "b" is 5, which is not from 1 to 3.'],
    ['setting a: 1..9 = 3 "a"\n  setting b: 5..a = 5 "b"', 'The range of this setting is empty.'],
    ['setting a: flag = no "a"\n  setting b: 1..a = 1 "b"', 'A setting must be a number, and this is yes or no.'],
  ])('is refused where it cannot be known: %s', (settings, message) => {
    const said = messages(settings);
    expect(said.filter((text) => text.includes(message))).toHaveLength(1);
  });
});
