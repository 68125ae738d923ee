import { type Counting, Game, meaningOf, quickChance, REGULARS, rehearse, soak } from '@wily-jester/core';
import { compileRehearsals, compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { programOf, script, sheetText } from './support.js';

/** What the opening of a sheet counts: which tally, value, base, keys. */
function counted(source: string, seats = 1): { name: string; value: unknown; per: number; by: unknown[] }[] {
  const program = programOf(source);
  const found: { name: string; value: unknown; per: number; by: unknown[] }[] = [];
  const counting: Counting = (tally, value, per, first, second) => {
    const { name = '', by = [] } = program.tallies?.[tally] ?? {};
    found.push({ name, value, per, by: [first, second].slice(0, by.length) });
  };
  new Game(program, { seats: REGULARS.slice(0, seats), chance: quickChance(1), counting }).open();
  return found;
}
const problems = (source: string): string[] => compileSheet(source).problems.map(({ message }) => message);

describe('tally', () => {
  it('counts flags, numbers, ratios and categories, by one thing or two', () => {
    const body = `
      tally "big" 3 > 2
      tally "size" size(pack)
      tally "return" 5 per 2
      tally "colour" red
      tally "words" "a {1 + 1}" by seats[1], hearts
      finish`;
    expect(counted(script(body))).toEqual([
      { name: 'big', value: 1, per: 0, by: [] },
      { name: 'size', value: 52, per: 0, by: [] },
      { name: 'return', value: 5, per: 2, by: [] },
      { name: 'colour', value: 1, per: 0, by: [] },
      { name: 'words', value: ['a ', 2], per: 0, by: [0, 1] },
    ]);
    expect(programOf(script(body)).tallies?.map(({ form }) => form)).toEqual([
      'share',
      'number',
      'ratio',
      'category',
      'category',
    ]);
  });

  it('stands before a bracket, a minus, and in blocks that wait', () => {
    const found = counted(
      script(
        'tally "a" (1 + 2) * 2 by (1) for each s in seats { tally "b" -1 by s  } pause 1s tally "later" yes finish',
      ),
      2,
    );
    expect(found.map(({ value, by }) => [value, ...by])).toEqual([
      [6, 1],
      [-1, 0],
      [-1, 1],
    ]);
  });

  it('is one where two have one name, and must count the same then', () => {
    expect(programOf(script('tally "a" 1 tally "a" 2 finish')).tallies).toHaveLength(1);
    expect(problems(script('tally "a" 1 tally "a" yes finish'))[0]).toContain('is counted otherwise in line');
    expect(problems(script('tally "a" 1 tally "a" 1 by 2 finish'))[0]).toContain('by the same');
  });

  it.each([
    ['tally "h" pokerHigh(row)', 'is not counted. Count its .category.'],
    ['tally "h" top(row)', 'A card is not counted. Count its .rank or its .suit.'],
    ['tally "h" row', 'is not counted. Count its cards: size(…).'],
    ['tally "h" 1 by row', 'A tally goes by numbers'],
    ['tally "h" 1 by 1, 2, 3', 'at most 2 things'],
    ['tally "h" yes per 2', 'counted per something is a number'],
    ['tally "h" 1 per yes', 'What it is counted per must be a number'],
    ['tally "" 1', 'a name of 1 to 60 characters'],
    ['tally "{1}" 1', 'Only plain text'],
    ['tally "t" "{top(row)}"', 'holds no cards'],
  ])('refuses %s', (body, message) => {
    expect(problems(script(`${body} finish`)).join('\n')).toContain(message);
  });

  it('changes no state, and costs no step anything', () => {
    const body = 'for i in 1..20 { tally "t" sum(1..50, n => n * i) by i } deal 5 each from pack to hand finish';
    const program = programOf(script(body));
    const open = (counting?: Counting) => {
      const game = new Game(program, {
        seats: ['Wren'],
        chance: quickChance(1),
        ...(counting ? { counting } : {}),
      });
      const state = game.open();
      return { meaning: meaningOf(game, state), spent: game.code.spent(), source: game.parts.source };
    };
    const [plain, heard] = [open(), open(() => {})];
    expect(heard.meaning).toBe(plain.meaning);
    expect(heard.spent).toBe(plain.spent);
    // Where nobody counts, not a byte of it is written.
    expect(plain.source).not.toContain('count(');
    expect(heard.source).toContain('count(');
  });

  it('has a budget of its own, past which it is a fault where somebody counts', () => {
    const heavy = `tally "t" sum(1..500, a => sum(1..500, b => sum(1..500, c => a * b + c))) finish`;
    const program = programOf(script(heavy));
    const open = (counting?: Counting) =>
      new Game(program, { seats: ['Wren'], chance: quickChance(1), ...(counting ? { counting } : {}) }).open();
    expect(() => open()).not.toThrow();
    expect(() => open(() => {})).toThrow('operations without waiting');
  });

  it('is run by soaks and rehearsals, so that a fault in it is found', () => {
    const sheet = script('ask seats[1] { option go { tally "t" 1 / (size(row) - size(row)) } } finish');
    expect(soak(programOf(sheet), { games: 3, seed: 1, seats: 1 }).failures[0]?.what).toContain('divides by zero');
    const { program, rehearsals } = compileRehearsals('rehearse "goes" { seats Wren Wren: go expect finished }', sheet);
    if (!program) throw new Error('the sheet has errors');
    expect(rehearse(program, rehearsals[0] as never).failure?.message).toContain('divides by zero');
  });

  it('stands in the bundled sheets where people would ask', () => {
    const names = (file: string) => programOf(sheetText(file)).tallies?.map(({ name }) => name);
    expect(names('quayside-twenty-one.motley')).toContain('house keeps');
    expect(names('long-war.motley')).toContain('battles');
    expect(names('five-coin-machine.motley')).toContain('return');
  });
});
