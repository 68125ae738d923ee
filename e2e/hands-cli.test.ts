import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { converse, newFolder, type Ran, wily } from './setup/programs.js';
import { ROOT, until } from './setup/service.js';

const json = <T>(ran: Ran): T => JSON.parse(ran.out) as T;

describe('holding cards', () => {
  it('says which pay most, for a table of pays of one’s own', async () => {
    const { out, code } = await wily(['holds', 'KS QS JS 10S 9D']);
    expect(code).toBe(0);
    expect(out).toMatch(/pays {2}hold\n +19\.5957 {2}K♠ Q♠ J♠ 10♠\n +4\.0000 {2}K♠ Q♠ J♠ 10♠ 9♦/);
    const flat = ['holds', 'KS QS JS 10S 9D', '--pays', '1,2,3,4,5,6,7,8,9', '--json'];
    expect(json<{ hold: string[] }[]>(await wily(flat))[0]?.hold).toEqual(['K♠', 'Q♠', 'J♠', '10♠', '9♦']);
    const wrong = await wily(['holds', 'KS QS JS 10S 9D', '--pays', '1,2']);
    expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('--pays takes 9 numbers')]);
    expect((await wily(['holds', 'KS QS'])).err).toContain('A hand that draws has 5 cards, not 2.');
  });
});

describe('ranking hands', () => {
  it('names the best five', async () => {
    const { out, code } = await wily(['rank', 'AS KS QS JS 10S 2C 2D']);
    expect([code, out.trim()]).toEqual([0, 'A♠ K♠ Q♠ J♠ 10♠  royal flush']);
  });

  it('says which of several hands is best', async () => {
    const { out } = await wily(['rank', 'AS AH 7C 7D 2H', 'KD KC KH 4S 9D']);
    expect(out).toMatch(/^ {2}A♠ A♥ 7♦ 7♣ 2♥ {2}two pair/);
    expect(out).toContain('✓ K♥ K♦ K♣ 9♦ 4♠  three of a kind, kings, nine and four kickers');
    expect((await wily(['rank', 'AS KS', 'AD KD'])).out.match(/= /g)).toHaveLength(2);
  });

  it('ranks lows, and answers machines', async () => {
    const low = json<{ name: string; five: string[] }[]>(
      await wily(['rank', '--low', 'ace-to-five', '--json', 'AS 2D 3H 7C 8S KD KH']),
    );
    expect(low).toMatchObject([
      { name: 'eight low: eight, seven, three, two, ace', five: ['8♠', '7♣', '3♥', '2♦', 'A♠'] },
    ]);
    const [high] = json<object[]>(await wily(['rank', '--json', 'QS QD 7H 7C AS']));
    expect(high).toMatchObject({ category: 'twoPair', ranks: [12, 7, 14], best: true });
  });

  it.each([
    [['rank', 'AS 1X'], '"1X" is not a card'],
    [['rank', 'AS AS'], 'A♠ stands there twice'],
    [['rank', '--low', 'middle', 'AS'], 'It is ace-to-five or deuce-to-seven.'],
    [['odds', 'AS AH'], 'between 2 and 10 hands'],
    [['odds', 'AS AH', 'AS KD'], 'A♠ stands there twice'],
    [['odds', 'AS AH', 'KS KD', '--samples', '3'], '--samples'],
    [['hands', '--cards', '9'], '--cards'],
  ])('refuses %j', async (args, words) => {
    const { code, err } = await wily(args);
    expect(code).toBe(2);
    expect(err).toContain(words);
  });
});

describe('odds and the census', () => {
  it('counts all boards of two known hands', async () => {
    const { out } = await wily(['odds', 'AS AH', 'KD KC']);
    expect(out).toMatch(/A♠ A♥ +81\.06 % +0\.38 % +81\.26 %/);
    expect(out).toContain('All 1,712,304 deals counted.');
  });

  it('goes on from a board, and draws deals against unknown cards, the same for the same word', async () => {
    const board = json<{ exact: boolean; deals: number; hands: { win: number }[] }>(
      await wily(['odds', 'AS AH', 'KD KC', '--board', '2C 7D 9H 3S KH', '--json']),
    );
    expect(board).toMatchObject({ exact: true, deals: 1, hands: [{ win: 0 }, { win: 1 }] });
    const drawn = async () => (await wily(['odds', 'QH QD', 'any', '--samples', '5000', '--seed', 'reed'])).out;
    expect(await drawn()).toContain('5,000 deals drawn');
    expect(await drawn()).toBe(await drawn());
  });

  it('prints how many hands there are of each category', async () => {
    expect((await wily(['hands'])).out).toMatch(/full house +3,744 +0\.1441 % +693 to 1/);
    const seven = json<{ hands: number; categories: { category: string; hands: number }[] }>(
      await wily(['hands', '--cards', '7', '--json']),
    );
    expect(seven.hands).toBe(133_784_560);
    expect(seven.categories[0]).toMatchObject({ category: 'straightFlush', hands: 41_584 });
  });
});

describe('writing sheets', () => {
  const eights = join(ROOT, 'sheets/eights-aside.motley');

  it('says what rehearsals reach, and what they do not', async () => {
    const folder = newFolder();
    const file = join(folder, 'eights.motley');
    writeFileSync(file, readFileSync(eights));
    const one =
      'rehearse "one card" {\n  seats Wren, Otter\n  waste gets "K♠"\n  Otter.hand gets "K♦"\n  Otter: lay("K♦")\n}\n';
    writeFileSync(join(folder, 'eights.rehearsal.motley'), one);
    const { out, code } = await wily(['rehearse', '--coverage', file]);
    expect(code).toBe(0);
    expect(out).toMatch(/eights\.motley:\d+:\d+ is never chosen {2}option wild/);
    expect(out).toMatch(
      /statements \d+ of \d+ · options 1 of 5 · guards \d of 3 · refusals 0 of 2: \d+\.\d % reached\./,
    );
    const { coverage } = json<{ coverage: { share: number; missed: object[] } }>(
      await wily(['rehearse', '--coverage', '--json', file]),
    );
    expect(coverage.share).toBeLessThan(0.9);
    expect(coverage.missed.length).toBeGreaterThan(10);
  });

  it('says what a sheet reveals', async () => {
    const { out } = await wily(['check', '--reveals', eights]);
    expect(out).toContain('That "draw" may be chosen depends on "hand"');
    expect((await wily(['check', '--reveals', join(ROOT, 'sheets/towpath-row.motley')])).out).toContain(
      'It reveals nothing',
    );
    const { reveals } = json<{ reveals: { line: number }[] }>(await wily(['check', '--reveals', '--json', eights]));
    expect(reveals.length).toBeGreaterThan(1);
  });

  it('serves editors only where it is told how', async () => {
    const { code, err } = await wily(['lsp']);
    expect(code).toBe(2);
    expect(err).toContain('add --stdio');
  });

  it('plays a game whose choices are several cards', async () => {
    const talk = converse(['play', join(ROOT, 'sheets/five-coin-machine.motley'), '--seed', 'reed'], ROOT);
    await until(async () => talk.said().includes('insert'), 'the first question');
    talk.say('insert 2');
    await until(async () => /held: 0 to 5 of/.test(talk.said()), 'the cards');
    const faces = /held: 0 to 5 of (\S+) (\S+)/.exec(talk.said()) ?? [];
    talk.say(`keep ${faces[1]} ${faces[2]}`);
    await until(async () => /pays|Nothing/.test(talk.said()), 'the pay');
    talk.say('quit');
    expect(await talk.ended).toBe(0);
  });

  it('charts what starting hands are worth, exactly', async () => {
    const { out } = await wily(['starts']);
    const rows = out.split('\n');
    expect(rows).toHaveLength(17);
    expect(rows[1]).toMatch(/^ {2}A 85\.2 67\.0 66\.2/);
    expect(rows[2]).toMatch(/^ {2}K 65\.3 82\.4/);
    expect(rows[13]).toMatch(/ 34\.3 33\.2 32\.3 50\.3$/);
  });
});
