import { readFileSync } from 'node:fs';
import { KEYWORDS } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { callAround, foldsOf, indentOf, TOKEN_KINDS, tokensOf } from '../src/editing/shape.js';
import { WORDS } from '../src/editing/words.js';

describe('the words that an editor explains', () => {
  it('are all words of the language, and some that stand beside them', () => {
    expect(KEYWORDS.filter((word) => WORDS[word] === undefined)).toEqual([]);
  });
});

describe('what can be folded', () => {
  const TEXT = `// One line,
// and another.
game "Fold" for 1 seat {
  // alone
  play {
    say "a brace { in a text }"
    finish
  }
  def one = 1
}
`;
  it('is a block from its head, and several lines of notes', () => {
    expect(foldsOf(TEXT)).toEqual([
      { from: 0, to: 1, kind: 'comment' },
      { from: 2, to: 8, kind: 'block' },
      { from: 4, to: 6, kind: 'block' },
    ]);
  });
  it('is found in a text that cannot be read, too', () => {
    expect(foldsOf('game {\n\n  play {\n')).toEqual([]);
    expect(foldsOf('}\n}\n')).toEqual([]);
  });

  it('is set in line by line as it is written: deeper in a block, back at its end, however the text is broken', () => {
    const at = (before: string, after = ''): number => indentOf(before.split('\n'), after);
    expect(at('')).toBe(0);
    expect(at('game "Two" for 2 seats {')).toBe(2);
    expect(at('game "Two" for 2 seats {\n  deck standard\n')).toBe(2);
    expect(at('game "Two" for 2 seats {\n  play {\n    finish', '}')).toBe(2);
    expect(at('game "Two" for 2 seats {\n  play {\n    finish\n  }', '}')).toBe(0);
    expect(at('  option lay(c: card in s.hand) {', '}')).toBe(2);
    // What is opened and closed in one line, in a text or in a note opens nothing.
    expect(at('  option rest { }')).toBe(2);
    expect(at('  say "{n} {"  // {')).toBe(2);
    expect(at('  } else {')).toBe(4);
    expect(at('', '}')).toBe(0);
  });
});

describe('coloured words', () => {
  it('lie where they stand, each with its kind', () => {
    const tokens = tokensOf('pile stock face down // note\n  say "x"');
    expect(tokens.map(({ line, column, length, kind }) => [line, column, length, TOKEN_KINDS[kind]])).toEqual([
      [0, 0, 4, 'keyword'],
      [0, 5, 5, 'variable'],
      [0, 11, 4, 'keyword'],
      [0, 16, 4, 'keyword'],
      [0, 21, 7, 'comment'],
      [1, 2, 3, 'keyword'],
      [1, 6, 3, 'string'],
    ]);
  });
});

describe('the call around a place', () => {
  const call = (text: string) => callAround(text.replace('|', ''), text.indexOf('|'));
  it.each([
    ['sum(|', { name: 'sum', index: 0 }],
    ['sum(hand, |', { name: 'sum', index: 1 }],
    ['max(sum(hand, worth), |', { name: 'max', index: 1 }],
    ['max(sum(hand, |', { name: 'sum', index: 1 }],
    ['without(list, [a, b], |', { name: 'without', index: 2 }],
    ['(a + |', undefined],
    ['sum(hand) |', undefined],
    ['option lay(c: card in s.hand, |', { name: 'lay', index: 1 }],
  ])('%s', (text, found) => {
    expect(call(text)).toEqual(found);
  });
});

describe('the TextMate grammar', () => {
  it('knows every word of the language; node motley/scripts/textmate.mjs writes it anew', () => {
    const grammar = readFileSync(new URL('../../docs/editors/motley.tmLanguage.json', import.meta.url), 'utf8');
    const { repository } = JSON.parse(grammar) as {
      repository: { code: { patterns: { name?: string; match?: string }[] } };
    };
    const words = repository.code.patterns.find(({ name }) => name === 'keyword.other.motley')?.match ?? '';
    expect(words).toBe(`\\b(?:${KEYWORDS.join('|')})\\b`);
    for (const { match } of repository.code.patterns) if (match) expect(() => new RegExp(match)).not.toThrow();
  });
});
