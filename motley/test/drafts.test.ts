import { Fault, OPEN, Playback, type Program, quickChance, REGULARS, soak, Values } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { expectationsAt, keptAs } from '@wily-jester/motley/analysis';
import { describe, expect, it } from 'vitest';
import { choiceWords, pileWords, quoted } from '../src/editing/rehearsing.js';
import { bundledSheets, programOf, sheetText } from './support.js';

const BANKS = `game "Small Banks" for 2 to 3 seats {
  setting fare: 1..9 = 2
  deck standard
  pile stock face down
  pile hand of each seat private as fan
  var pot = 0 "pot"
  var chips of each seat = 20 "chips"
  private var secret of each seat: int = 3
  def richest = best(seats, s => s.chips)
  def held(s: seat) = size(s.hand)
  play {
    move all from pack to stock
    shuffle stock
    deal 2 each from stock to hand
    repeat { for each s in seats { turnOf(s) } } until pot > 40
    finish
  }
  routine turnOf(s: seat) {
    ask s {
      option pay { s.chips -= fare pot += fare }
      option lay(c: card in s.hand) needs c.rank != A else "Aces stay." { move c to stock }
      option pass { say "{s} passes." }
    }
  }
  bot plain { pass }
}`;
const header = (seats = 2) => ({ seats: REGULARS.slice(0, seats), seed: 'drafts' });

/** A game of a sheet after so many choices at random. */
function played(program: Program, choices: number): Playback {
  const seats = program.seats.includes(2) ? 2 : (program.seats[0] ?? 1);
  const at = new Playback(program, { ...header(seats), seed: `drafts ${choices}` });
  for (let i = 0; i < choices && at.now.asked.length > 0; i++)
    if (!at.letPlay(at.now.asked[0] as number, 'random')) at.endRace();
  return at;
}

describe('a draft’s table', () => {
  it('plays its choices again on other rules, and stands where they lead', () => {
    const at = new Playback(programOf(BANKS), header());
    at.choose(0, { option: 'pay' });
    at.choose(1, { option: 'pass' });
    expect(at.now.view(OPEN).values).toEqual({ pot: 2 });
    const again = new Playback(programOf(BANKS.replace('= 2', '= 5')), header(), at.made);
    expect(again.broken).toBeNull();
    expect(again.at).toBe(2);
    expect(again.now.view(OPEN).values).toEqual({ pot: 5 });
  });

  it('says at which choice new rules refuse, and keeps what was chosen', () => {
    const at = new Playback(programOf(BANKS), header());
    at.choose(0, { option: 'pay' });
    at.choose(1, { option: 'pass' });
    at.choose(0, { option: 'pay' });
    const dearer = BANKS.replace('option pass {', 'option pass needs pot == 0 else "Pay first." {');
    const stopped = new Playback(programOf(dearer), header(), at.made);
    expect(stopped.broken).toMatchObject({ choice: 2, words: 'Otter: pass', reason: 'Pay first.', isFault: false });
    expect(dearer.split('\n')[(stopped.broken?.line ?? 0) - 1]).toContain('Pay first.');
    expect([stopped.last, stopped.made.length]).toEqual([1, 3]);
    expect(new Playback(programOf(BANKS), header(), stopped.made).last).toBe(3);
  });

  it('stands as it stood where a choice makes a fault, and names its line', () => {
    const source = BANKS.replace('s.chips -= fare', 's.chips -= 10 / (2 - fare)');
    const at = new Playback(programOf(source), header());
    expect(() => at.choose(0, { option: 'pay' })).toThrow(Fault);
    expect([at.at, at.now.asked]).toEqual([0, [0]]);
    const old = new Playback(programOf(BANKS), header());
    old.choose(0, { option: 'pay' });
    const stopped = new Playback(programOf(source), header(), old.made);
    expect(stopped.broken).toMatchObject({ choice: 1, isFault: true });
    expect(source.split('\n')[(stopped.broken?.line ?? 0) - 1]).toContain('10 / (2 - fare)');
  });

  it('goes back and forward, and forgets what was to come once another choice is made', () => {
    const at = played(programOf(BANKS), 6);
    const digests = Array.from({ length: 7 }, (_, i) => {
      at.goTo(i);
      return at.now.digest();
    });
    expect(new Set(digests).size).toBe(7);
    at.goTo(3);
    expect(at.now.digest()).toBe(digests[3]);
    at.choose(at.now.asked[0] as number, { option: 'pass' });
    expect([at.at, at.last, at.made.length]).toEqual([4, 4, 4]);
  });

  it('knows which lines ran for a choice, and at which it waits', () => {
    const at = new Playback(programOf(BANKS), header());
    at.choose(0, { option: 'pay' });
    const lines = BANKS.split('\n');
    expect(at.lines.map((line) => lines[line - 1]?.trim().split(' ')[0])).toContain('option');
    expect(lines[(at.waits ?? 0) - 1]).toContain('ask s');
    expect(at.lines.every((line) => line >= 1 && line <= lines.length)).toBe(true);
  });

  it('means the same card where it lies elsewhere on the new rules', () => {
    const at = new Playback(programOf(BANKS), header());
    const offer = at.now.view(0).offers.find(({ option }) => option === 'lay');
    const way = offer?.ways?.[0]?.[0];
    at.choose(0, { option: 'lay', args: { c: way } });
    const face = at.made[0]?.args.c;
    const turned = BANKS.replace('deal 2 each', 'deal 3 each');
    const again = new Playback(programOf(turned), header(), at.made);
    expect(again.broken === null || again.broken.reason.includes(String(face))).toBe(true);
  });

  it('plays a soaked game up to its fault', () => {
    const source = BANKS.replace('pot += fare', 'pot += fare + 0 * (1 / (pot - 6))');
    const { failures } = soak(programOf(source), { games: 60, seed: 1, seats: 2 });
    const [failure] = failures.filter(({ line }) => line !== null);
    if (!failure) throw new Error('no game found the fault');
    const made = failure.way.choices.map(({ seat, choice }) => {
      const args = (choice?.args ?? {}) as Playback['made'][number]['args'];
      return { seat, by: 'person' as const, option: choice?.option ?? 'time', args, places: args, words: '' };
    });
    const at = new Playback(programOf(source), header(), made, { chance: quickChance(failure.way.seed) });
    expect(at.broken).toMatchObject({ isFault: true, line: failure.line });
    expect(at.last).toBe(made.length - 1);
  });
});

describe('what a name is worth', () => {
  const at = played(programOf(BANKS), 2);
  const values = new Values(at.now.game);
  const of = (name: string, viewer: number) => values.of(at.now.state, name, viewer);

  it('is told of variables, settings, piles and defs', () => {
    expect(of('fare', OPEN)).toEqual({ kind: 'setting', values: [{ of: null, words: '2' }] });
    expect(of('chips', OPEN)?.values.map(({ of: whose }) => whose)).toEqual(['Wren', 'Otter']);
    expect(of('stock', OPEN)?.values[0]?.words).toMatch(/^\d+ cards: /);
    expect(of('richest', OPEN)).toMatchObject({ kind: 'def', values: [{ of: null }] });
    expect(of('held', OPEN)?.values).toHaveLength(2);
    expect(of('nothingSo', OPEN)).toBeNull();
  });

  it('leaves out what these eyes may not see', () => {
    expect(of('secret', 0)?.values).toEqual([{ of: 'Wren', words: '3' }]);
    expect(of('hand', 0)?.values.map(({ words }) => words.includes(':'))).toEqual([true, false]);
    expect(of('stock', 1)?.values[0]?.words).not.toContain(':');
  });
});

describe('keeping what was played as a rehearsal', () => {
  it('promises the cards that came, so that it passes with another shuffle', () => {
    const at = played(programOf(BANKS), 5);
    const { text, failure } = keptAs(at, BANKS, 'a few turns', expectationsAt(at, null));
    expect(failure).toBeNull();
    expect(text).toMatch(/^rehearse "a few turns" \{\n {2}seats Wren, Otter\n/);
    expect(text).toMatch(/ {2}Wren\.hand gets "[^"]+" "[^"]+"\n/);
  });

  it('expects a refusal that was met, with its reason', () => {
    const at = new Playback(programOf(BANKS), header());
    const refused = { seat: 1, option: 'pass', args: {}, reason: "It is not Otter's turn: Wren is asked." };
    expect(keptAs(at, BANKS, 'not yet', expectationsAt(at, refused)).failure).toBeNull();
  });

  it('names a card by where it lies where its face does not say which, and lets the clock play', () => {
    const source = `game "Two Packs" for 2 seats { deck ranks 7 suits hearts copies 4
      pile hand of each seat face up  pile row face up
      play { deal 2 each from pack to hand
        ask seats[1] { option give(c: card in seats[1].hand + seats[2].hand) { move c to row } }
        ask any s in seats within 5s else stuck { option grab { } } stuck { say "Nobody." }
        ask seats[1] { option done { finish } } } }`;
    const at = new Playback(programOf(source), header());
    at.choose(0, { option: 'give', args: { c: 'hand/2#1' } });
    at.endRace();
    const { text, failure } = keptAs(at, source, 'which one', expectationsAt(at, null));
    expect(failure).toBeNull();
    expect(text).toContain('  Wren: give(Otter.hand[1])\n  clock plays\n');
  });

  const sheets = bundledSheets().filter((file) => !file.startsWith('long-war'));
  it.each(sheets)('passes for %s', (file) => {
    const { program, text } = compileSheet(sheetText(file));
    if (!program) throw new Error('a bundled sheet has errors');
    for (const choices of [3, 12]) {
      const at = played(program, choices);
      expect(keptAs(at, text, 'as it was played', expectationsAt(at, null)).failure).toBeNull();
      expect(new Playback(program, at.header, at.made).now.digest()).toBe(at.now.digest());
    }
  });

  it('writes choices, piles and texts as the language has them', () => {
    const program = programOf(sheetText('weir-patience.motley'));
    expect(pileWords(program, ['Wren'], 'column/3')).toBe('column[3]');
    expect(pileWords(program, ['Wren'], 'home/2')).toBe('home[hearts]');
    expect(choiceWords(program, ['Wren'], { seat: 0, option: 'build', args: { c: '9♦', p: 'column/2' } })).toMatch(
      /^Wren: build\(/,
    );
    expect(quoted('a {b} "c"')).toBe('"a \\{b\\} \\"c\\""');
  });
});
