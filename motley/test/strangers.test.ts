import { Table } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { DEEPEST_CALLS } from '../src/check/depth.js';
import { compileSheet } from '../src/index.js';

const sheet = (declarations: string, play = 'finish'): string =>
  `game "Odd Names" for 1 seat { deck standard ${declarations} play { ${play} } }`;
const script = (code: string): string => sheet('', `${code} finish`);
const errorsOf = (text: string): string[] =>
  compileSheet(text)
    .problems.filter(({ severity }) => severity === 'error')
    .map(({ line, message }) => `${line}: ${message}`);

/** Each place of the grammar where a sheet writes a name. */
const PLACES: [string, (name: string) => string][] = [
  ['a member', (n) => sheet(`kind Mood = ${n} | glad`, `var mood = ${n} say "{mood}" finish`)],
  ['a kind', (n) => sheet(`kind ${n} = sad | glad`)],
  ['a property', (n) => sheet('pile row face up', `deal 1 from pack to row say "{top(row).${n}}" finish`)],
  ['a variable', (n) => sheet(`var ${n} = 1 "odd"`, `say "{${n}}" finish`)],
  ['a variable of a seat', (n) => sheet(`var ${n} of each seat = 1`, `say "{seats[1].${n}}" finish`)],
  ['a local', (n) => script(`let ${n} = 1 say "{${n}}"`)],
  ['a type', (n) => sheet(`def f(a: ${n}) = 1`, 'say "{f(1)}" finish')],
  ['a def', (n) => sheet(`def ${n}(a: int) = a`, `say "{${n}(1)}" finish`)],
  ['a parameter', (n) => sheet(`def f(${n}: int) = ${n}`, 'say "{f(1)}" finish')],
  ['a function', (n) => script(`say "{${n}(1)}"`)],
  ['a pile', (n) => sheet(`pile ${n} face up`, `deal 1 from pack to ${n} finish`)],
  ['a form of a pile', (n) => sheet(`pile row face up as ${n}`, 'deal 1 from pack to row finish')],
  ['a setting', (n) => sheet(`setting ${n}: 1..3 = 1 "odd"`, `say "{${n}}" finish`)],
  ['a word of a setting', (n) => sheet(`setting style: ${n} | plain = plain`, 'say "{style}" finish')],
  ['an option', (n) => script(`ask seats[1] { option ${n} { } option go { } }`)],
  ['a parameter of an option', (n) => script(`ask seats[1] { option go(${n}: 1..2) { say "{${n}}" } }`)],
  ['a bot', (n) => `${script('ask seats[1] { option go { } }').slice(0, -1)} bot ${n} { go } }`],
  ['a routine', (n) => sheet(`routine ${n}(a: int) { say "{a}" }`, `${n}(1) finish`)],
  ['a rank', (n) => sheet('pile row face up', `deal 1 from pack to row say "{top(row).rank == ${n}}" finish`)],
  ['an option that is asked for', (n) => script(`ask seats[1] { option go when can ${n} { } option rest { } }`)],
];

describe('names that every object has', () => {
  it.each(PLACES)('are refused in words, as %s', (_, write) => {
    for (const name of Object.getOwnPropertyNames(Object.prototype)) {
      const errors = errorsOf(write(name));
      expect(errors.length, name).toBeGreaterThan(0);
      expect(errors.join(' ')).not.toContain('could not be read');
    }
  });

  it('would do as any other word: the places are those of names', () => {
    const fine = PLACES.filter(([, write]) => errorsOf(write('oddment')).length === 0).map(([place]) => place);
    for (const place of ['a variable', 'a def', 'a pile', 'a setting', 'an option', 'a bot', 'a routine', 'a local'])
      expect(fine).toContain(place);
  });
});

describe('sheets that nest too deep', () => {
  const CHAINS: [string, string][] = [
    ['a sum', script(`let n = 1${' + 1'.repeat(300)} say "{n}"`)],
    ['not', script(`let n = ${'not '.repeat(70)}yes say "{n}"`)],
    ['minus', script(`let n = ${'-'.repeat(70)}1 say "{n}"`)],
    ['items of items', script(`let n = seats${'[1]'.repeat(70)}`)],
    ['else if', script(`${'if yes { } else '.repeat(70)} { }`)],
    ['far too many', script(`let n = 1${' + 1'.repeat(9_000)}`)],
    ['far too many in brackets', script(`let n = ${'not '.repeat(9_000)}yes`)],
  ];
  it.each(CHAINS)('are refused with their line: %s', (_, text) => {
    expect(errorsOf(`\n\n${text}`).join()).toMatch(/^3: .*nest/);
  });

  it('are taken where a chain is long and flat', () => {
    expect(errorsOf(script(`let n = 1${' + 1'.repeat(200)} say "{n}"`))).toEqual([]);
    const table = compileSheet(script(`let n = 1${' + 1'.repeat(200)} say "{n}"`)).program;
    expect(table && new Table(table, { seats: ['Wren'], seed: 'x', settings: {} }).isOver).toBe(true);
  });

  const chained = (many: number, order: (i: number) => number): string =>
    sheet(
      Array.from({ length: many }, (_, k) => order(k))
        .map((i) => `def d${i}(n: int) = ${i === 0 ? 'n' : `d${i - 1}(n)`} + 1`)
        .join('\n'),
      `say "{d${many - 1}(1)}" finish`,
    );
  it('are refused where defs call each other so deep, in whatever order they stand', () => {
    for (const order of [(i: number) => i, (i: number) => DEEPEST_CALLS - i]) {
      expect(errorsOf(chained(DEEPEST_CALLS + 1, order)).join()).toContain('deep');
      expect(errorsOf(chained(DEEPEST_CALLS, (i) => order(i) - (order(0) === 0 ? 0 : 1)))).toEqual([]);
    }
  });
});

describe('long words', () => {
  it('are refused by their length, and not repeated whole', () => {
    const [wrong] = errorsOf(script(`let ${'a'.repeat(5_000)} = 1`));
    expect(wrong).toContain('5000 characters');
    expect(wrong?.length).toBeLessThan(120);
  });
  it('do not hold up whoever reads them: slashes, blank lines, digits', () => {
    expect(errorsOf(`${'/'.repeat(2_000)}\n${script('')}`)).toEqual([]);
    expect(errorsOf('// // //\n'.repeat(6_000))).not.toEqual([]);
    expect(errorsOf(script(`let n = ${'1'.repeat(60_000)}a`))).not.toEqual([]);
  });
});
