import { readFileSync } from 'node:fs';
import { rehearse } from '@wily-jester/core';
import { compileRehearsals, compileSheet, KEYWORDS } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { script } from './support.js';

const page = (name: string): string => readFileSync(new URL(`../../${name}`, import.meta.url), 'utf8');
const MOTLEY = page('docs/motley.md');

/** The examples of a page, by what they are parts of. */
const examples = [...MOTLEY.matchAll(/```motley (\w+)\n([\s\S]*?)```/g)].map(([, part = '', text = '']) => ({
  part,
  text,
}));
const sheet = examples.find((e) => e.part === 'sheet')?.text ?? '';

const partExample = examples.find((e) => e.part === 'part')?.text;

/** A whole sheet around an example. */
function whole(part: string, text: string): string {
  switch (part) {
    case 'sheet':
      return text;
    case 'top':
    case 'uses':
      return script('finish', text);
    case 'deck':
      return script('finish').replace('  deck standard\n', text);
    case 'script':
      return script(text, 'pile lock[3] face up');
    default:
      return script(
        'repeat { ask seats[1] { option lay(c: card in seats[1].hand) { move c to row } option rest { finish } } }',
        text,
      );
  }
}

describe('the language page', () => {
  it('has an example of every part', () => {
    expect(new Set(examples.map((e) => e.part))).toEqual(
      new Set(['sheet', 'top', 'deck', 'script', 'bot', 'rehearsal', 'part', 'uses']),
    );
    expect(examples.length).toBeGreaterThanOrEqual(10);
  });

  it.each(
    examples.filter((e) => e.part !== 'rehearsal' && e.part !== 'part').map((e) => [e.text.split('\n')[0], e] as const),
  )('compiles: %s', (_, { part, text }) => {
    expect(compileSheet(whole(part, text), () => partExample).problems.filter((p) => p.severity === 'error')).toEqual(
      [],
    );
  });

  it('rehearses its own sheet', () => {
    const compiled = compileRehearsals(examples.find((e) => e.part === 'rehearsal')?.text ?? '', sheet);
    expect(compiled.problems).toEqual([]);
    for (const rehearsal of compiled.rehearsals)
      expect(compiled.program && rehearse(compiled.program, rehearsal).failure).toBeNull();
    expect(compiled.rehearsals).toHaveLength(1);
  });

  it('lists the reserved words', () => {
    const listed = MOTLEY.slice(MOTLEY.indexOf('## Reserved words')).match(/`\w+`/g) ?? [];
    expect(listed.map((word) => word.slice(1, -1))).toEqual(KEYWORDS);
  });
});

describe('the README', () => {
  it('begins with the script that a new sheet has', () => {
    const text = /```\n( {2}play \{[\s\S]*?)```/.exec(page('README.md'))?.[1] ?? '';
    expect(text.split('\n').length).toBeGreaterThan(10);
    expect(page('sheets/starters/high-heron.motley')).toContain(text.trimEnd());
  });
});
