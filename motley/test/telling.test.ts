import { Table } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { choose, openTable, script } from './support.js';

const problemsOf = (source: string): string[] => compileSheet(source).problems.map(({ message }) => message);

/** Turns a row of cards to and fro so often in one step. */
const turning = (times: number, label: string): string =>
  script(
    `move all from pack to row
     ask seats[1] { option go { for i in 1..${times} { for each c in row { turn down c  turn up c } } } option rest { } }
     finish`,
  ).replace('pile row face up', `pile row "${label}" face up`);

describe('what a step tells', () => {
  it('has a limit in bytes, for each who looks on: past it the step is a fault, and the table stays', () => {
    const table = openTable(turning(36, 'w'.repeat(200)));
    expect(() => choose(table, 0, 'go')).toThrow(/What this step tells is more than 1024 KiB for each who looks on/);
    expect(table.number).toBe(0);
    choose(table, 0, 'rest');
    expect(table.isOver).toBe(true);
  });

  it('may be as many events as ever where they are short', () => {
    const table = openTable(turning(36, 'the row'));
    const { stepEvents } = choose(table, 0, 'go');
    expect(stepEvents.for(0).length).toBeGreaterThan(3_700);
    // What was told before there was a limit is played again all the same.
    expect(JSON.stringify(table.lines(stepEvents, 1, 0)).length).toBeLessThan(1_048_576);
  });

  it('is not weighed again for what was kept before', () => {
    const long = new Table(openTable(turning(36, 'w'.repeat(200))).game.program, { seats: ['Wren'], seed: 'test' });
    expect(long.replaying(() => long.choose(0, { ask: 0, option: 'go' }))).toHaveProperty('row');
  });

  it('cannot be blown up by a label: those of piles, variables and kinds are short', () => {
    const long = 'w'.repeat(201);
    for (const top of [`pile keel "${long}" face up`, `var lock = 0 "${long}"`, `kind Pace = fast "${long}" | slow`]) {
      const found = problemsOf(script('finish', top)).join();
      expect(found, top).toContain('A label has at most 200 bytes, and this one has 201.');
    }
    expect(problemsOf(script('finish', `pile keel "${'w'.repeat(200)}" face up`)).join()).not.toContain('A label has');
  });
});

describe('a sign that steers a terminal or the direction of a line', () => {
  const SIGNS = ['\u001b', '\u0007', '\u009b', '\u007f', '\u202e', '\u2066', '\u200f', '\u061c', '\r'];

  it.each(SIGNS.map((sign) => [sign.charCodeAt(0).toString(16), sign]))(
    'is refused in a sheet, wherever it stands: %s',
    (code, sign) => {
      for (const source of [
        script(`say "all ${sign}[2J clear" finish`),
        script('finish', `pile keel "over ${sign} there"`),
        script('finish', `// a comment ${sign} too`),
        script(`say "a \\${sign} b" finish`),
      ]) {
        const { program, problems } = compileSheet(source);
        expect(program).toBeUndefined();
        expect(problems[0]?.message).toContain(`The sign \\u${code.padStart(4, '0')} stands here`);
        const { line, column } = problems[0] as { line: number; column: number };
        expect(source.split('\n')[line - 1]?.[column - 1]).toBe(sign);
      }
    },
  );

  it('is none at the end of a line of another system', () => {
    expect(compileSheet(script('finish').replaceAll('\n', '\r\n')).program).toBeDefined();
  });
});
