import { compileRehearsals, compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { sheetText } from './support.js';

const told = (source: string): string[] => compileSheet(source).problems.map((p) => `${p.line} ${p.message}`);

const SHEET = `// Several mistakes.
game "Trial" for 2 seats {
  setting a: 1.. = 3 "x"
  deck standard
  pile hand of every seat private
  pille other face up
  def total(h: cards) = sum(h, c => c.pips)
    + 3 3
  def fine(h: cards) = 3
  play {
    say "a brace \\{ in a text, and {"another" + 1}"
    deal 2 each form pack to hand
    finish
  }
  // a comment with a brace {
  bot y { hit wen 3 }
}
`;

describe('a sheet with several mistakes of form', () => {
  it('is told the first of each declaration, at its own place', () => {
    expect(told(SHEET)).toEqual([
      expect.stringMatching(/^3 There is "=" after "\.\."/),
      expect.stringMatching(/^5 There is "every" after "of"/),
      expect.stringMatching(/^6 "pille" is not a word .*Did you mean "pile"/),
      expect.stringMatching(/^8 There is "3" after "3"/),
      expect.stringMatching(/^12 "form" is not a word .*Did you mean "from"/),
      expect.stringMatching(/^16 "wen" is not a word .*Did you mean "when"/),
    ]);
  });

  it('is told once where a declaration lacks its end, however many come after it', () => {
    const source = `game "Trial" for 2 seats {
  deck standard
  pile hand of each seat private sorted
  pile row face up
  var a = 0
  def b = 3
  play { finish }
}`;
    expect(told(source)).toEqual([expect.stringMatching(/^4 There is "pile" after "sorted", where "by" should be/)]);
  });

  it('tells nothing of names while its form is wrong, since they may stand in what could not be read', () => {
    const source = SHEET.replace('say "a', 'say "{nobodyKnows} a');
    expect(told(source).join()).not.toContain('nobodyKnows');
  });

  it('tells signs that no sheet has, each in its declaration', () => {
    const source = SHEET.replace('deck standard', 'deck standard ;').replace(
      'def fine(h: cards) = 3',
      'def fine = 3 ?',
    );
    expect(told(source).filter((line) => /^(4|9) /.test(line))).toEqual([
      expect.stringMatching(/^4 Nothing ends a statement/),
      expect.stringMatching(/^9 Write "if … then … else …"/),
    ]);
  });

  it('goes on after ten at most', () => {
    const many = Array.from({ length: 40 }, (_, i) => `  def d${i} = = 1`).join('\n');
    expect(told(`game "Trial" for 2 seats {\n${many}\n}`)).toHaveLength(11);
  });

  it.each(['lantern-twenty-one.motley', 'long-pot.motley', 'quay-stairs.motley'])(
    'has one mistake where one word of %s is spoilt, wherever it is',
    (name) => {
      const text = sheetText(name);
      const lines = text.split('\n');
      for (const [i, line] of lines.entries()) {
        if (!/^ {2}(setting|pile|var|def|routine) \w/.test(line)) continue;
        const spoilt = lines.with(i, line.replace(/ (\w+)/, ' $1 = ) (')).join('\n');
        expect(told(spoilt).length, `${name}:${i + 1}`).toBe(1);
      }
    },
  );
});

describe('rehearsals with several mistakes of form', () => {
  it('are told the first of each', () => {
    const rehearsals =
      'rehearse "one" {\n  seats Wren\n  Wren: bet 10\n}\nrehearse "two" {\n  seats Wren\n  expct asked Wren\n}\n';
    const { problems } = compileRehearsals(rehearsals, sheetText('lantern-twenty-one.motley'));
    expect(problems.map((p) => p.line)).toEqual([4, 7]);
  });
});
