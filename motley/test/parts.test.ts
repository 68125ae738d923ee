import { readFileSync } from 'node:fs';
import { ownLine, soak, Table } from '@wily-jester/core';
import { bundledPartNames, bundledParts, compileRehearsals, compileSheet, format } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { script } from './support.js';

/** A part that scores the seats that hold a card of some worth, as the sheet says. */
const PRIZES = `// Prizes for good cards.
part "prizes" {
  needs def good(c: card): flag

  var won of each seat: int = 0
  def prize = 5

  routine award {
    for each s in seats where any(s.hand, good) {
      s.won += prize
      score s += prize
    }
  }
}
`;
const SHEET = script('deal 1 each from pack to hand award() finish', 'use "prizes"\n  def good(c: card) = c.rank == A');
const partsOf = (part: string) => (name: string) => (name === 'prizes' ? part : undefined);
const said = (sheet: string, part: string = PRIZES): string[] =>
  compileSheet(sheet, partsOf(part)).problems.map((p) => `${p.line}:${p.column} ${p.message}`);
/** Where the sheet says that it uses the part. */
const USE = `${SHEET.split('\n').findIndex((line) => line.includes('use')) + 1}:${(SHEET.split('\n').find((line) => line.includes('use')) ?? '').indexOf('use') + 1}`;

describe('a sheet that uses a part', () => {
  it('is the same game as one that says it all itself, and keeps the part in its text', () => {
    const { program, problems, text } = compileSheet(SHEET, partsOf(PRIZES));
    expect(problems.filter((p) => p.severity === 'error')).toEqual([]);
    expect(text).not.toContain('use "');
    expect(text).toContain('part "prizes"');
    const alone = compileSheet(text);
    expect(alone.problems.filter((p) => p.severity === 'error')).toEqual([]);
    expect({ ...alone.program, blurb: '' }).toEqual({ ...program, blurb: '', parts: undefined });
    expect(program && soak(program, { games: 20, seed: 1 }).failures).toEqual([]);
  });

  it('keeps the places of its own lines', () => {
    const before = SHEET.replace('award()', 'awrad()');
    const line = before.split('\n').findIndex((text) => text.includes('awrad')) + 1;
    expect(said(before)).toEqual([expect.stringContaining(`${line}:`)]);
    const lines = SHEET.split('\n').length;
    const behind = `${SHEET.trimEnd()}\n\nplay`;
    expect(said(behind)[0]).toMatch(new RegExp(`^${lines + (SHEET.endsWith('\n') ? 1 : 2)}:`));
  });

  it('is told what is wrong in the part at the line that uses it, with the line of the part', () => {
    expect(said(SHEET, PRIZES.replace('s.won += prize', 's.won += price'))).toEqual([
      `${USE} Part "prizes", line 10: There is no name "price" here. Did you mean "prize"?`,
    ]);
    expect(said(SHEET, PRIZES.replace('for each', 'for evry'))[0]).toMatch(
      new RegExp(`^${USE} Part "prizes", line 9: `),
    );
  });

  it('knows which of its lines came out of the part', () => {
    const { program, text } = compileSheet(SHEET, partsOf(PRIZES));
    if (!program) throw new Error('the sheet does not compile');
    const written = (words: string, where: string): number => where.split('\n').findIndex((l) => l.includes(words)) + 1;
    for (const words of ['var won', 's.won += prize', 'routine award'])
      expect(ownLine(program, written(words, text))).toEqual({ part: 'prizes', line: written(words, PRIZES) });
    for (const words of ['def good(c: card) =', 'award() finish'])
      expect(ownLine(program, written(words, text))).toEqual({ part: null, line: written(words, SHEET) });
    expect(ownLine({}, 12)).toEqual({ part: null, line: 12 });
  });

  it('must have what the part leaves to it', () => {
    const without = SHEET.replace('def good(c: card) = c.rank == A', '');
    expect(said(without)[0]).toBe(
      `${USE} Part "prizes", line 3: This needs def good(c: card): flag, and the sheet has no def "good".`,
    );
    const other = SHEET.replace('def good(c: card) = c.rank == A', 'def good(s: seat) = yes');
    expect(said(other)).toContain(
      `${USE} Part "prizes", line 3: This needs def good(c: card): flag; the sheet's "good" is another one.`,
    );
  });

  it('may not declare again what the part declares', () => {
    const twice = SHEET.replace('use "prizes"', 'use "prizes"\n  var won = 0');
    expect(said(twice).join()).toContain('"won" is declared already');
  });

  it.each([
    ['an unknown part', SHEET.replace('"prizes"', '"prizs"'), PRIZES, /There is no part "prizs"\. These come/],
    ['a part whose name is misspelt', SHEET.replace('"prizes"', '"side-pot"'), PRIZES, /Did you mean "side-pots"\?/],
    ['a part twice', SHEET.replace('use "prizes"', 'use "prizes" use "prizes"'), PRIZES, /is used already/],
    ['a part that uses parts', SHEET, PRIZES.replace('needs def', 'use "side-pots" needs def'), /uses no other parts/],
    ['a part with a script', SHEET, PRIZES.replace('def prize', 'play { finish } def prize'), /has no "play"/],
    ['a part with a deck', SHEET, PRIZES.replace('def prize', 'deck standard def prize'), /has no deck/],
    ['a sheet as a part', SHEET, script('finish'), /is no part/],
  ])('says what is wrong with %s', (_, sheet, part, message) => {
    const problems = compileSheet(sheet, partsOf(part)).problems;
    expect(problems.map((p) => p.message).join('\n')).toMatch(message);
    expect(compileSheet(sheet, partsOf(part)).program).toBeUndefined();
  });

  it('is rehearsed with its part', () => {
    const { problems, rehearsals } = compileRehearsals(
      'rehearse "an ace wins a prize" { seats Wren  Wren.hand gets "A♠"  expect Wren.won == 5 }',
      SHEET,
      partsOf(PRIZES),
    );
    expect(problems.map((p) => p.message)).toEqual([]);
    expect(rehearsals.length).toBe(1);
  });

  it('cannot be a part itself', () => {
    expect(compileSheet(PRIZES).problems[0]?.message).toBe(
      'This is a part, and no sheet: a sheet pastes it in with use "its-name".',
    );
  });
});

describe('the bundled parts', () => {
  it.each(bundledPartNames())('are laid out well, say what they are, and are used: %s', (name) => {
    const text = bundledParts(name) ?? '';
    expect(text).toMatch(/^\/\/ [A-Z]/);
    expect(text).toMatch(new RegExp(`^part "${name}" .*\\{$`, 'm'));
    expect(format(text)).toBe(text);
    const sheet = readFileSync(new URL('../../sheets/long-pot.motley', import.meta.url), 'utf8');
    expect(sheet).toContain(`use "${name}"`);
  });
});

describe('the names of a part', () => {
  const GIVING = PRIZES.replace('part "prizes" {', 'part "prizes" gives award {');
  const withPrize = SHEET.replace('use "prizes"', 'use "prizes"\n  def prize = 3\n  var won = 0');

  it('are its own where it says what it gives: what it keeps clashes with nothing', () => {
    expect(said(withPrize)[0]).toContain('prize');
    expect(said(withPrize, GIVING).filter((problem) => !problem.includes('never'))).toEqual([]);
    const { text, program } = compileSheet(withPrize, partsOf(GIVING));
    expect(text).toContain('s.prizesWon += prizesPrize');
    expect(program && soak(program, { games: 5, seed: 1 }).failures).toEqual([]);
  });

  it('are called otherwise where the sheet says so: a hole that is filled, and what it gives', () => {
    const sheet = SHEET.replace('use "prizes"', 'use "prizes" with good = fine, award = handOut')
      .replace('def good', 'def fine')
      .replace('award()', 'handOut()');
    const { problems, text } = compileSheet(sheet, partsOf(PRIZES));
    expect(problems.filter((p) => p.severity === 'error')).toEqual([]);
    expect(text).toContain('routine handOut {');
    expect(text).toContain('where any(s.hand, fine)');
    expect(said(sheet.replace('fine,', 'fine, prze = mine,'))[0]).toContain('Part "prizes" has no "prze": it has');
  });

  it('in words and notes stay as they are', () => {
    const part = PRIZES.replace('s.won += prize', 's.won += prize   // prize\n      say "a prize of {prize}"');
    const { text } = compileSheet(SHEET.replace('use "prizes"', 'use "prizes" with prize = bounty'), partsOf(part));
    expect(text).toContain('s.won += bounty   // prize\n      say "a prize of {bounty}"');
  });

  it('are said to be missing where it gives what it has not', () => {
    expect(said(SHEET, PRIZES.replace('part "prizes" {', 'part "prizes" gives awrad {'))[0]).toContain(
      'This part gives "awrad", and declares nothing of that name.',
    );
    expect(said(SHEET, PRIZES.replace('part "prizes" {', 'part "prizes" has award {'))[0]).toContain('stands "gives"');
  });
});

describe('what a part leaves to its sheet', () => {
  const PURSE = `part "purse" gives payAll {
  needs var chips of each seat: int
  needs def due(s: seat): int = 2
  routine payAll { for each s in seats { let sum = due(s)  s.chips += sum  score s += sum } }
}
`;
  const purse = (name: string): string | undefined => (name === 'purse' ? PURSE : undefined);
  const sheet = (top: string): string => script('payAll() finish', `use "purse"\n  ${top}`);
  const scoreIn = (top: string): number => {
    const { program, problems } = compileSheet(sheet(top), purse);
    if (!program) throw new Error(problems.map((problem) => problem.message).join('\n'));
    return new Table(program, { seats: ['Wren'], seed: 'x' }).scores()[0] ?? 0;
  };
  const wrong = (top: string): string =>
    compileSheet(sheet(top), purse)
      .problems.map((problem) => problem.message)
      .join('\n');

  it('may have a standard, which holds where the sheet says nothing', () => {
    expect(scoreIn('var chips of each seat: int = 0')).toBe(2);
    expect(scoreIn('var chips of each seat: int = 0 def due(s: seat) = 5')).toBe(5);
  });

  it('may be a variable, which must be there and of its kind', () => {
    expect(wrong('')).toContain('This needs var chips of each seat: int, and the sheet has no var "chips".');
    expect(wrong('var chips: int = 0')).toContain('the sheet\'s "chips" is another one');
    expect(wrong('var chips of each seat: flag = no')).toContain('the sheet\'s "chips" is another one');
    expect(wrong('var chips of each seat: int = 0 def due(s: seat) = yes')).toContain(
      'the sheet\'s "due" is another one',
    );
  });

  it('never clashes in the values inside of it', () => {
    expect(scoreIn('var chips of each seat: int = 0 def sum(n: int) = n + 1'.replace('sum', 'total'))).toBe(2);
    const clash = PURSE.replaceAll('let sum', 'let amount').replaceAll('sum', 'amount');
    const source = sheet('var chips of each seat: int = 0 var amount = 0');
    expect(compileSheet(source, () => clash).problems.filter(({ severity }) => severity === 'error')).toEqual([]);
  });
});
