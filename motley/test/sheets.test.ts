import { readdirSync } from 'node:fs';
import { Coverage, isPlayed, rehearse, soak, Table } from '@wily-jester/core';
import { compileRehearsals, compileSheet, format } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { choose, exprValue, openTable, programOf, script, sheetText } from './support.js';

const FOLDER = new URL('../../sheets/', import.meta.url);
const SHEETS = readdirSync(FOLDER).filter((file) => file.endsWith('.motley') && !file.endsWith('.rehearsal.motley'));
const GAMES = 10;

describe.each(SHEETS)('the bundled sheet %s', (file) => {
  const source = sheetText(file);
  const rehearsals = sheetText(file.replace('.motley', '.rehearsal.motley'));

  it('has nothing wrong, is laid out well, and says what it is', () => {
    const { program, problems } = compileSheet(source);
    expect(problems).toEqual([]);
    expect(format(source)).toBe(source);
    expect(format(rehearsals)).toBe(rehearsals);
    expect(program?.blurb).toMatch(/^[A-Z].{20,}\.$/);
    expect(program?.bots.length).toBeGreaterThan(0);
  });

  it('passes its rehearsals, which reach nine tenths of it', () => {
    const compiled = compileRehearsals(rehearsals, source);
    expect(compiled.problems).toEqual([]);
    const { program } = compiled;
    if (!program) throw new Error('it does not compile');
    expect(compiled.rehearsals.length).toBeGreaterThanOrEqual(3);
    const coverage = new Coverage(program);
    for (const rehearsal of compiled.rehearsals)
      expect([rehearsal.title, rehearse(program, rehearsal, coverage).failure]).toEqual([rehearsal.title, null]);
    expect(coverage.share).toBeGreaterThanOrEqual(0.9);
  });

  it('stands a soak: random games and wrong choices, without a fault', () => {
    const report = soak(programOf(source), { games: GAMES, seed: 5 });
    expect(report.failures).toEqual([]);
    expect(report.endless).toEqual([]);
    expect(report.choices).toBeGreaterThan(GAMES);
    expect(report.refused).toBeGreaterThan(GAMES);
  });

  it('is played to its end by its own bot', () => {
    const program = programOf(source);
    const report = soak(program, { games: 6, seed: 3, bot: 0 });
    expect(report.failures).toEqual([]);
    expect(report.endless).toEqual([]);
  });
});

describe('soaking', () => {
  const faulty = programOf(
    script(
      'repeat { ask seats[1] { option go { deal 1 from pack to row } option rest aside { finish } } }',
      'always "a short row" size(row) < 9',
    ),
  );

  it('finds a fault, and the same game shows it again', () => {
    const report = soak(faulty, { games: 30, seed: 1 });
    const [failure] = report.failures;
    expect(failure).toMatchObject({ what: '"a short row" does not hold any more.', line: 6, choice: 8 });
    const again = soak(faulty, { games: 1, seed: 1, from: failure?.game ?? 0 });
    expect(again.failures).toEqual([failure]);
  });

  it('finds games that do not end, and options that are never taken', () => {
    const program = programOf(
      script('repeat { ask seats[1] { option more { } option off when size(row) > 3 { finish } } }'),
    );
    const report = soak(program, { games: 2, seed: 1 });
    expect(report.endless).toEqual([0, 1]);
    expect(report.taken).toEqual({ more: 8000, off: 0 });
  });

  it('adds up the final scores', () => {
    const program = programOf(script('ask seats[1] { option win { score seats[1] = 7 } option lose { } } finish'));
    const { scores } = soak(program, { games: 200, seed: 1, seats: 1 });
    expect(scores).toMatchObject({ least: 0, best: 7 });
    expect(scores.games).toBeGreaterThan(60);
    expect(scores.mean).toBeCloseTo((7 * scores.games) / 200);
  });
});

describe('the tail of a pile', () => {
  const TAIL = script(
    'deal 4 from pack to lock[1]  ask seats[1] { option shift(run: tail in lock, p: pile in lock) needs size(run) < 4 else "Not all {size(run)}." needs p != first(run).pile { move run to p  say "{size(run)} to {first(run)}" } } finish',
    'pile lock[2] face up as cascade',
  );

  it('is a card and all above it, named by the card', () => {
    const table = openTable(TAIL);
    const [offer] = table.view(0).offers;
    expect(offer?.ways).toEqual([
      ['lock/1#2', 'lock/2'],
      ['lock/1#3', 'lock/2'],
      ['lock/1#4', 'lock/2'],
    ]);
    const played = choose(table, 0, 'shift', { run: 'Q♣', p: 'lock/2' });
    expect(played.stepEvents.for(-1)).toContainEqual({ kind: 'said', text: '3 to Q♣' });
    expect(table.view(-1).piles).toMatchObject({ lock: { 1: { cards: ['K♣'] }, 2: { cards: ['Q♣', 'J♣', '10♣'] } } });
  });

  it('is refused in words that may count it', () => {
    const result = openTable(TAIL).choose(0, { ask: 0, option: 'shift', args: { run: 'lock/1#1', p: 'lock/2' } });
    expect(isPlayed(result)).toBe(false);
    expect(result).toMatchObject({ kind: 'illegal', reason: 'Not all 4.' });
  });

  it('may be chosen by a bot that prefers some', () => {
    const table = openTable(TAIL.replace('play {', 'bot neat { shift(run, p) prefer size(run) }\n  play {'));
    expect(table.playBot(0, 0).row.args).toEqual({ run: 'lock/1#2', p: 'lock/2' });
  });
});

describe('neighbours', () => {
  it.each([
    ['all(pairs(row), (below, above) => below.suit == above.suit)', 'yes'],
    ['all(pairs(row), (below, above) => below.rank == next(above.rank))', 'yes'],
    ['count(pairs([1, 2, 2, 5]), (a, b) => a == b)', '1'],
    ['any(pairs([4]), (a, b) => a != b)', 'no'],
    ['sum(pairs([1, 4, 9]), (a, b) => b - a)', '8'],
    ['all(row, faceUp)', 'yes'],
  ])('%s is %s', (expression, value) => {
    expect(exprValue(expression, 'deal 5 from pack to row')).toBe(value);
  });

  it('need a short function of two values', () => {
    const wrong = (expression: string): string =>
      compileSheet(script(`say "{${expression}}" finish`)).problems[0]?.message ?? '';
    expect(wrong('all(pairs(row), c => c.rank == A)')).toContain('takes two values');
    expect(wrong('all(row, (a, b) => a.rank == b.rank)')).toContain('takes one value');
    expect(wrong('size(pairs(row))')).toContain('goes with a short function of two values');
  });
});

describe('a table of a patience', () => {
  it('replays to the same digest with tails in its record', () => {
    const program = programOf(sheetText('weir-patience.motley'));
    const header = { seats: ['Wren'], seed: 'weir' };
    const table = new Table(program, header);
    const rows = [];
    while (!table.isOver && rows.length < 80) rows.push(table.playBot(0, 0).row);
    expect(rows.some((row) => row.option === 'shift')).toBe(true);
    const again = new Table(program, header);
    for (const row of rows)
      expect(again.choose(0, { ask: row.ask, option: row.option, args: row.args })).toMatchObject({
        row: { digest: row.digest },
      });
  });
});
