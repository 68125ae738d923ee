import { readFileSync } from 'node:fs';
import { rehearse, soak } from '@wily-jester/core';
import { compileRehearsals, compileSheet, format } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { openTable, programOf, said } from './support.js';

const page = (name: string): string => readFileSync(new URL(`../../docs/${name}.md`, import.meta.url), 'utf8');
const examples = (name: string, part: string): string[] =>
  [...page(name).matchAll(new RegExp(`\`\`\`motley ${part}\\n([\\s\\S]*?)\`\`\``, 'g'))].map(([, text = '']) => text);

describe.each(['tutorial', 'how-it-works'])('the page %s', (name) => {
  const sheets = examples(name, 'sheet').map((text, i): [number, string] => [i + 1, text]);

  it.each(sheets)('has a sheet %i that checks, is laid out well and runs', (_, text) => {
    expect(compileSheet(text).problems).toEqual([]);
    expect(format(text)).toBe(text);
    const report = soak(programOf(text), { games: 30, seed: 2 });
    expect(report.failures).toEqual([]);
    expect(report.endless).toEqual([]);
  });
});

describe('the tutorial', () => {
  const sheets = examples('tutorial', 'sheet');
  it('goes from cards to money in six sheets, each longer than the one before', () => {
    expect(sheets).toHaveLength(6);
    expect(sheets.map((text) => text.length)).toEqual(sheets.map((text) => text.length).sort((a, b) => a - b));
  });

  it('tells nobody which card lies face down', () => {
    const table = openTable(sheets[0] ?? '', { seats: ['Wren', 'Otter'] });
    const text = table.opening.for(0).flatMap((event) => (event.kind === 'said' ? [event.text] : []));
    expect(text).toEqual(['52 cards, and a card lies on top.']);
    expect(said(table)[0]).not.toContain('a card lies');
  });

  it('refuses in the words of its sheet', () => {
    const table = openTable(sheets[3] ?? '', { seats: ['Wren', 'Otter'], gets: { 'hand/1': 'A♠ K♠ 2♣' } });
    const refused = table.choose(0, { ask: 0, option: 'swap', args: { cs: ['A♠', '2♣'] } });
    expect(refused).toMatchObject({ reason: 'Aces stay in the hand.' });
  });

  it('ends with rehearsals that pass on its last sheet', () => {
    const compiled = compileRehearsals(examples('tutorial', 'rehearsal')[0] ?? '', sheets.at(-1) ?? '');
    expect(compiled.problems).toEqual([]);
    expect(compiled.rehearsals.length).toBeGreaterThan(3);
    for (const rehearsal of compiled.rehearsals)
      expect([rehearsal.title, compiled.program && rehearse(compiled.program, rehearsal).failure]).toEqual([
        rehearsal.title,
        null,
      ]);
  });
});
