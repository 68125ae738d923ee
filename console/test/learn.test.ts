import { rehearse } from '@wily-jester/core';
import { compileRehearsals, compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import type { DraftTexts } from '../src/workshop/files';
import { SECTIONS, sectionsWith } from '../src/workshop/learn/reference';
import { FIRST, missingLines, STEPS, toWrite, written } from '../src/workshop/learn/tour';
import { STARTERS } from '../src/workshop/starters';

/** What is wrong with a draft, in its sheet or rehearsals; a rehearsal that fails is wrong too. */
function wrongIn({ sheet, rehearsals, parts }: DraftTexts): string[] {
  const find = (name: string): string | undefined => parts[name];
  const compiled = compileSheet(sheet, find);
  const tests = rehearsals === '' ? null : compileRehearsals(rehearsals, sheet, find);
  const failed = (tests?.rehearsals ?? []).flatMap((one) =>
    tests?.program ? (rehearse(tests.program, one).failure?.message ?? []) : [],
  );
  return [
    ...[...compiled.problems, ...(tests?.problems ?? [])]
      .filter(({ severity }) => severity === 'error')
      .map(({ line, message }) => `${line}: ${message}`),
    ...failed,
  ];
}

describe('the reference in the workshop', () => {
  const tried = SECTIONS.flatMap(({ title, pieces }) =>
    pieces.flatMap(({ texts }) => (texts ? [[title, texts] as const] : [])),
  );

  it('has every example of the page as a draft', () => expect(tried.length).toBeGreaterThanOrEqual(10));
  it.each(tried)('has an example under "%s" that works as it is', (_, texts) => expect(wrongIn(texts)).toEqual([]));

  it('is found by its words', () => {
    expect(sectionsWith('ask every').map(({ title }) => title)).toContain('Asking');
    expect(sectionsWith('rehearse gets').map(({ title }) => title)).toContain('Rehearsals');
    expect(sectionsWith('zeppelin')).toEqual([]);
    expect(SECTIONS.flatMap(({ pieces }) => pieces.map(({ html }) => html)).join('')).not.toMatch(/<(script|a|img)\b/);
  });
});

describe('the tour', () => {
  it('goes through the tutorial, from a game that only shuffles to one on the shelf', () => {
    expect(STEPS.map(({ title }) => title)).toEqual([
      'Cards',
      'Deal',
      'Show',
      'Choose',
      'Compare',
      'Turns, Money',
      'Keep: rehearsals',
      'Share',
    ]);
    for (const { words } of STEPS) expect(words).not.toMatch(/\.\/wily|```/);
  });

  it('says at each step what is still to be written, and nothing once it is', () => {
    let texts = FIRST;
    expect(wrongIn(texts)).toEqual([]);
    for (const step of STEPS) {
      const missing = toWrite(step, texts);
      if (step.sheet !== null || step.rehearsals !== null) expect(missing.length).toBeGreaterThan(0);
      texts = written(step, texts);
      expect(toWrite(step, texts)).toEqual([]);
      expect(wrongIn(texts)).toEqual([]);
    }
    expect(missingLines('  a  b\n  c', 'a b\n')).toEqual(['  c']);
  });
});

describe('the games to begin with', () => {
  it.each(STARTERS.map((starter) => [starter.name, starter] as const))(
    '%s checks, and its rehearsals pass',
    (_, { sheet, rehearsals }) => {
      expect(wrongIn({ sheet, rehearsals, parts: {} })).toEqual([]);
    },
  );
});
