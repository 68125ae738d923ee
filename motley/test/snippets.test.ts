import { describe, expect, it } from 'vitest';
import { SNIPPETS, snippetsAt } from '../src/editing/snippets.js';
import { format } from '../src/format/format.js';
import { compileSheet } from '../src/index.js';

/** A snippet as somebody leaves it who fills in nothing. */
const filled = (body: string): string => {
  let text = body;
  for (let before = ''; before !== text; ) {
    before = text;
    text = text.replace(/\$\{\d+:([^${}]*(?:\{[^${}]*\}[^${}]*)*)\}/g, '$1').replace(/\$0/g, '');
  }
  return text;
};
const DECLARED = ['setting', 'pile hand', 'pile', 'var', 'def'];

describe('the forms that an editor fills in', () => {
  it.each(SNIPPETS.map((snippet) => [snippet.label, snippet] as const))(
    '"%s" is good Motley as it stands',
    (_, snippet) => {
      const own = filled(snippet.body);
      const isPlay = snippet.label === 'play';
      const declared = SNIPPETS.filter((s) => DECLARED.includes(s.label) && s !== snippet).map((s) => filled(s.body));
      const inside = snippet.label === 'option' ? `ask s {\n${own}\n}` : own;
      const text = [
        'game "Forms" for 2 seats {',
        'deck standard',
        ...declared,
        ...(snippet.isDeclaration && !isPlay ? [own] : []),
        isPlay ? own : `play {\nfor n in 1..1 { for each t in seats { step(t) } }\n}`,
        ...(isPlay
          ? []
          : [
              `routine step(s: seat) {\nfor n in 1..1 {\n${snippet.isDeclaration ? 'ask s { option pass { } }' : inside}\n}\n}`,
            ]),
        '}',
      ].join('\n');
      const { problems } = compileSheet(format(text), () => undefined);
      expect(problems.filter(({ severity }) => severity === 'error').map(({ message }) => message)).toEqual([]);
    },
  );

  it('offers declarations at the top of a sheet, statements inside, and none within a line or a text', () => {
    const labels = (text: string): string[] => snippetsAt(text, text.length).map(({ label }) => label);
    expect(labels('game "A" {\n  pi')).toContain('pile hand');
    expect(labels('game "A { {" { // { {\n  pi')).toContain('pile hand');
    expect(labels('game "A" {\n  play {\n    as')).toContain('ask');
    expect(labels('game "A" {\n  play {\n    as')).not.toContain('pile hand');
    expect(labels('game "A" {\n  play {\n    a = as')).toEqual([]);
    expect(labels('ga')).toEqual([]);
  });
});
