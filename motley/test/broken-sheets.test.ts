import { readFileSync } from 'node:fs';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { BROKEN, WORKING } from './broken.js';

const golden = JSON.parse(readFileSync(new URL('./broken.golden.json', import.meta.url), 'utf8')) as Record<
  string,
  string[]
>;

describe('a broken sheet', () => {
  it('is the working one with one thing changed', () => {
    expect(compileSheet(WORKING).problems.filter((p) => p.severity === 'error')).toEqual([]);
    expect(BROKEN.length).toBeGreaterThanOrEqual(120);
    expect(Object.keys(golden).sort()).toEqual(BROKEN.map((b) => b.name).sort());
  });

  it.each(BROKEN.map((broken) => [broken.name, broken] as const))('says what is wrong: %s', (name, broken) => {
    expect(WORKING).toContain(broken.from);
    const { problems } = compileSheet(WORKING.replace(broken.from, () => broken.to));
    const said = problems.map((p) => `${p.line}:${p.column} ${p.severity}: ${p.message}`);
    expect(said).toEqual(golden[name]);
    expect(problems.length).toBeGreaterThan(0);
    for (const problem of problems) expect(problem.endColumn).toBeGreaterThan(problem.column);
  });

  it.each([[''], ['\n\n'], ['// Only a note.'], ['// A note\n\n// and another\n']])(
    'says where to begin, and at its first line, while there are no rules: %j',
    (text) => {
      expect(compileSheet(text).problems).toEqual([
        expect.objectContaining({
          line: 1,
          column: 1,
          endColumn: 2,
          message: expect.stringMatching(/^There are no rules/),
        }),
      ]);
    },
  );

  it('never makes the checker throw, or name a place that is not there, whatever is cut out of it', () => {
    for (let at = 0; at < WORKING.length; at += 7) {
      const cut = WORKING.slice(0, at) + WORKING.slice(at + 5);
      const lines = cut.split('\n').length;
      for (const { line, column } of compileSheet(cut).problems) {
        expect(line >= 1 && line <= lines).toBe(true);
        expect(column).toBeGreaterThanOrEqual(1);
      }
    }
  });

  it('is refused before it is read when it is too long or nests too deep', () => {
    expect(compileSheet(`// ${'x'.repeat(70_000)}`).problems[0]?.message).toContain('at most 65536');
    const deep = WORKING.replace('min(c.pips, 10)', `${'('.repeat(40)}1${')'.repeat(40)}`);
    expect(compileSheet(deep).problems[0]?.message).toContain('32 deep');
  });
});
