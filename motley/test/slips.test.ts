import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { compileSheet } from '../src/index.js';

/** A working sheet with one statement, or one declaration, of a reader's own in it. */
const sheet = (play: string, top = ''): string => `game "Slips" for 2 seats {
  deck standard
  pile hand of each seat private as fan
  pile row face up
  var pot = 0
  var chips of each seat = 10
  kind Mood = calm | keen
  ${top}
  routine pay(s: seat) { s.chips += 1 }
  play {
    shuffle pack
    ${play}
  }
}`;

const said = (text: string): string[] =>
  compileSheet(text)
    .problems.filter(({ severity }) => severity === 'error')
    .map(({ line, column, message }) => `${line}:${column} ${message}`);

/** What people write who know other languages, and what they are told: statements, then declarations. */
const golden = JSON.parse(readFileSync(new URL('./slips.golden.json', import.meta.url), 'utf8')) as {
  readonly statements: Readonly<Record<string, string>>;
  readonly declarations: Readonly<Record<string, string>>;
};

describe('a slip of another language', () => {
  it('the sheet around them has no mistake', () => {
    expect(said(sheet('pot = 1'))).toEqual([]);
    expect(Object.keys(golden.statements).length + Object.keys(golden.declarations).length).toBeGreaterThanOrEqual(60);
  });

  it.each(Object.entries(golden.statements))('is told in one message: %s', (play, message) => {
    expect(said(sheet(play))).toEqual([message]);
  });

  it.each(Object.entries(golden.declarations))('is told in one message: %s', (top, message) => {
    expect(said(sheet('pot = 1', top))).toEqual([message]);
  });

  it('a name that is declared is never taken for another word', () => {
    for (const play of ['pot 3', 'if pot = 3 { }', 'pot++', 'if s.chips = 3 { }', 'chips + + 3'])
      expect(said(sheet(play)).join()).not.toMatch(/Did you mean "?(bot|wins|stops|chip)/);
  });
});

describe('the words with which things begin', () => {
  it('are known of every form of the grammar, those that came last too', () => {
    const meant = (source: string): string =>
      compileSheet(source)
        .problems.map(({ message }) => message)
        .join();
    expect(meant(sheet('taly "all" 1 finish'))).toContain('Did you mean "tally"?');
    expect(meant(sheet('finish', 'shwo seed'))).toContain('Did you mean "show"?');
  });
});
