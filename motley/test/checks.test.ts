import { Fault } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { openTable, said, script } from './support.js';

const warned = (body: string, top = ''): string[] =>
  compileSheet(script(body, top)).problems.flatMap((p) => (p.message.includes('never used') ? [] : [p.message]));

describe('what may be nothing', () => {
  it.each([
    ['a card that was found', 'let ace = find(row, c => c.rank == A) say "{ace.suit}"'],
    ['a seat that was found', 'let best = find(seats, s => empty(s.hand)) deal 1 from pack to best.hand'],
    ['a card that was found for its pile', 'let ace = find(row, c => c.rank == A) move all from ace.pile to stock'],
    ['what was found at once', 'say "{find(row, c => c.rank == A).suit}"'],
    ['a score', 'let best = find(seats, s => empty(s.hand)) score best += 1'],
  ])('is told where it is used unasked: %s', (_, body) => {
    expect(warned(`${body} finish`).filter((text) => text.includes('nothing where nothing fits')).length).toBe(1);
  });

  it.each([
    ['asked before', 'let ace = find(row, c => c.rank == A) if ace != nothing { say "{ace.suit}" }'],
    [
      'asked the other way round',
      'let ace = find(row, c => c.rank == A) if ace == nothing { finish } say "{ace.suit}"',
    ],
    ['looked for in a list', 'let ace = find(row, c => c.rank == A) if ace in row { say "{ace.suit}" }'],
    ['only said', 'let ace = find(row, c => c.rank == A) say "{ace}"'],
    ['never used', 'let ace = find(row, c => c.rank == A) say "{size(row)}"'],
  ])('is no matter where it is %s', (_, body) => {
    expect(warned(`${body} finish`).filter((text) => text.includes('nothing where nothing fits'))).toEqual([]);
  });
});

describe('a break in an option', () => {
  const loop = (after: string): string =>
    `repeat { ask seats[1] { option more { } option out { break } } ${after} } finish`;
  it('is told where something stands behind the ask in its loop', () => {
    expect(warned(loop('say "after"'))).toEqual([
      expect.stringMatching(/This "break" leaves the loop, and what stands behind the ask .* is skipped after "out"/),
    ]);
  });
  it('is no matter where nothing does', () => {
    expect(warned(loop(''))).toEqual([]);
    expect(warned(`say "before" ${loop('')}`)).toEqual([]);
  });
});

describe('looking into hidden hands', () => {
  const TOP = 'def strong(s: seat) = any(s.hand, c => c.rank == A)  def twice(s: seat) = strong(s) and strong(s)';
  const ask = (condition: string): string => `ask seats[2] { option go when ${condition} { } option rest { } } finish`;
  const peeks = (body: string, top = TOP): number =>
    warned(body, top).filter((text) => text.includes('looks into "hand"')).length;

  it.each(['strong(seats[1])', 'twice(next(seats[2]))', 'any(seats[3].hand, c => c.rank == A)'])(
    'is found through defs: %s',
    (condition) => {
      expect(peeks(ask(condition))).toBe(1);
    },
  );
  it.each(['strong(seats[2])', 'twice(seats[2])', 'size(seats[1].hand) > 3'])(
    'is no matter where a seat looks into its own, or at sizes alone: %s',
    (condition) => {
      expect(peeks(ask(condition))).toBe(0);
    },
  );
  it('is found in bots, which may look into the hand of their own seat', () => {
    const bot = (seat: string) => `${TOP}  bot plain { rest when strong(${seat})  rest }`;
    const body = 'ask seats[1] { option rest { } } finish';
    expect(peeks(body, bot('me'))).toBe(0);
    expect(peeks(body, bot('next(me)'))).toBe(1);
  });
});

describe('the operations of a step', () => {
  const chain = (length: number): string =>
    Array.from(
      { length },
      (_, i) => `def d${i}(n: int) = ${i === 0 ? 'n + 1' : `d${i - 1}(n) + d${i - 1}(n + 1)`}`,
    ).join('  ');

  it('stop defs that double by calling each other twice', () => {
    expect(() => openTable(script('say "{d40(1)}" finish', chain(41)))).toThrow(Fault);
    expect(() => openTable(script('say "{d40(1)}" finish', chain(41)))).toThrow(/without waiting for anybody/);
  });

  it('let defs that call each other be, however short they are', () => {
    // 2^6 · (1 + 1), and 6 · 2^5 for the calls with a greater number.
    expect(said(openTable(script('say "{d6(1)}" finish', chain(7))))).toEqual(['320']);
  });

  it('stop loops that run on, though what they call is short', () => {
    const source = script('while plus(size(pack)) > 0 { } finish', 'def plus(n: int) = n + 1');
    expect(() => openTable(source)).toThrow(/What stands here runs on/);
  });
});
