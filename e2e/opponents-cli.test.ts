import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { converse, newFolder, wily } from './setup/programs.js';
import { ROOT, until } from './setup/service.js';

const sheet = (name: string): string => join(ROOT, `sheets/${name}.motley`);

describe('./wily match', () => {
  it('plays the same deals from every seat, and gives margin and wins with their intervals', async () => {
    const { code, out } = await wily([
      ...['match', sheet('eights-aside'), '--bots', 'tidy,random', '--games', '80', '--set', 'mostDeals=1', '--json'],
    ]);
    expect(code).toBe(0);
    const found = JSON.parse(out);
    expect(found).toMatchObject({ bots: ['tidy', 'random'], undecided: 0 });
    expect(found.margin.interval[0]).toBeGreaterThan(0);
    expect(found.wins.share).toBeGreaterThan(0.5);
    expect(found.bySeat).toHaveLength(2);
  });

  it('fails where the margin that was asked for is not surely reached', async () => {
    const { code, out, err } = await wily([
      ...['match', sheet('three-card-duel'), '--bots', 'balanced,balanced', '--games', '60', '--least', '1', '--junit'],
    ]);
    expect(code).toBe(1);
    expect(out).toContain('<failure');
    expect(err).toContain('1 was asked for');
  });

  it('lets two play a patience, each alone with the same cards', async () => {
    const { out } = await wily([
      ...['match', sheet('nine-greens'), '--bots', 'thinking:60p,random', '--games', '8', '--whole'],
    ]);
    expect(out).toMatch(/scores {2}[\d.]+ and [\d.]+ on average/);
    expect(out).toMatch(/margin {2}\+/);
  });

  it('plays a solved strategy, found or read, and ranks all against all', async () => {
    const strategy = join(newFolder(), 'strategy.json');
    const duel = sheet('three-card-duel');
    expect((await wily(['solve', duel, '--out', strategy])).code).toBe(0);
    const read = await wily(['match', duel, '--bots', `solved:${strategy},random`, '--games', '4000', '--least', '0']);
    expect([read.code, read.out]).toEqual([0, expect.stringContaining('solved against random')]);
    const other = await wily(['match', sheet('four-rank-duel'), '--bots', `solved:${strategy},random`]);
    expect([other.code, other.err]).toEqual([1, expect.stringContaining('made for another game')]);
    const none = await wily(['match', duel, '--bots', 'solved:nowhere.json,random']);
    expect([none.code, none.err]).toEqual([2, expect.stringContaining('There is no file nowhere.json')]);
    const keen = ['match', sheet('hearth-sums'), '--bots', 'random,keen', '--set', 'goal=5', '--games', '60'];
    const ladder = JSON.parse((await wily([...keen, '--ladder', '--json'])).out) as {
      players: { name: string; interval: [number, number]; wins: { games: number }[] }[];
    };
    expect(ladder.players.map(({ name }) => name)).toEqual(['keen', 'random']);
    expect(ladder.players[0]?.interval[0]).toBeGreaterThan(0);
    expect(ladder.players[0]?.wins).toMatchObject([{ games: 60 }]);
    const least = await wily(['match', duel, '--bots', 'balanced,random', '--ladder', '--least', '1']);
    expect([least.code, least.err]).toEqual([2, expect.stringContaining('about two bots')]);
    expect((await wily(['match', duel, '--bots', 'solved,balanced,random', '--ladder', '--games', '200'])).out).toMatch(
      /all against all\n.*95 % from/,
    );
  });

  it('says what it cannot read', async () => {
    expect((await wily(['match', sheet('long-pot'), '--bots', 'patient'])).err).toContain('--bots takes two');
    expect((await wily(['match', sheet('long-pot'), '--bots', 'patient,thinking:soon'])).err).toContain(
      'cannot be read',
    );
    expect((await wily(['match', sheet('long-pot'), '--bots', 'patient,wild'])).err).toContain('has no bot "wild"');
  });
});

describe('./wily solve', () => {
  it('solves the three-card duel, and writes the strategy', async () => {
    const file = join(newFolder(), 'strategy.json');
    const { code, out } = await wily(['solve', sheet('three-card-duel'), '--until', '0.0002', '--out', file]);
    expect(code).toBe(0);
    expect(out).toContain('Worth −0.0555');
    expect(out).toContain('Otter  J♠, after Wren bet → fold');
    const { decisions } = JSON.parse(readFileSync(file, 'utf8'));
    expect(decisions).toHaveLength(12);
  });

  it('measures a bot, and refuses what is too large', async () => {
    expect((await wily(['solve', sheet('three-card-duel'), '--bot', 'balanced'])).out).toContain(
      'nothing to be gained',
    );
    const { code, err } = await wily(['solve', sheet('eights-aside')]);
    expect(code).toBe(1);
    expect(err).toContain('too large to be solved');
  });
});

describe('./wily bots', () => {
  it('tells of each line how often it fired', async () => {
    const { out } = await wily([
      ...['bots', sheet('eights-aside'), '--games', '3', '--set', 'mostDeals=1', '--playouts', '40'],
    ]);
    expect(out).toContain('bot tidy');
    expect(out).toMatch(/fired \d+ times/);
  });
});

describe('./wily play', () => {
  it('has opponents that think, and hints', async () => {
    const { out } = await wily(
      ['play', sheet('three-card-duel'), '--seats', 'Wren,Otter:thinking 40 playouts', '--seed', 'lantern'],
      { input: 'hint\n1\nquit\n' },
    );
    expect(out).toMatch(/points by the end of the chapter/);
    expect(out).toMatch(/Otter (bets|checks|calls|folds)/);
    const { err } = await wily(['play', sheet('three-card-duel'), '--seats', 'Wren,Otter:wild'], { input: '' });
    expect(err).toContain('It has balanced, thinking, random, solved.');
  });

  it('has opponents that play by a solution where the game is small, and says why not where it is large', async () => {
    const { out, code } = await wily(
      ['play', sheet('three-card-duel'), '--seats', 'Ada,Otter:solved', '--set', 'rounds=1', '--seed', 'x'],
      { input: 'check\ncall\nquit\n' },
    );
    expect(code).toBe(0);
    expect(out).toMatch(/Otter (bets|checks)/);
    expect(out).toContain('The game is over.');
    const refused = await wily(['play', sheet('long-pot'), '--seats', 'Wren,Otter:solved'], { input: '' });
    expect([refused.code, refused.err]).toEqual([1, expect.stringContaining('too large to be solved')]);
  });

  it('solves a game anew where its text is changed under play', async () => {
    const cwd = newFolder();
    const file = join(cwd, 'fork.motley');
    const fork = (good: string, bad: string, other = 'score next(s) -= 1') =>
      `game "Fork" for 2 seats { deck standard play { for n in 1..4 { for each s in seats { ask s {
        option ${good} { score s += 1 ${other} } option ${bad} { score s -= 1 score next(s) += 1 } } } } finish } }`;
    writeFileSync(file, fork('right', 'left'));
    const game = converse(['play', file, '--seats', 'Ada,Otter:solved', '--watch'], cwd);
    await until(() => game.said().includes('Ada is asked'), 'the first question');
    game.say('left');
    await until(() => game.said().includes('Otter rights'), 'the answer that pays');
    writeFileSync(file, fork('left', 'right'));
    await until(() => game.said().includes('all 2 choices so far fit it'), 'the new text to be tried');
    game.say('left');
    await until(() => game.said().includes('Otter lefts'), 'the answer that pays now');
    writeFileSync(file, fork('left', 'right', 'score next(s) += 1'));
    await until(() => game.said().includes('the new text has none. In this game both may win'), 'the reason');
    game.say('again');
    await until(() => game.said().split('number 0').length === 3, 'a new game with the text before');
    game.say('left');
    await until(() => game.said().split('Otter lefts').length === 3, 'the answer of its solution');
    game.say('quit');
    expect(await game.ended).toBe(0);
  });

  it('lets the person be first in a race, or wait', async () => {
    const { out } = await wily(['play', sheet('ford-dash'), '--seats', 'Wren,Otter:nimble', '--seed', 'x'], {
      input: 'wait\nquit\n',
    });
    expect(out).toContain('may be first (or wait)');
    expect(out).toMatch(/Otter lays|Nobody goes on/);
  });
});

describe('wily weigh', () => {
  const weigh = [
    'weigh',
    sheet('quayside-twenty-one'),
    '--bot',
    'chart',
    '--set',
    'rounds=1',
    'stake=1000',
    'insures=no',
  ];

  it("holds a bot's choice against the others that it had, from the same cards", async () => {
    const cards = ['--at', 'hit', '--cards', 'hand/1/1=6S 5H', 'house=6C', '--deals', '1500'];
    const { out, code } = await wily([...weigh, ...cards]);
    expect(code).toBe(0);
    expect(out).toMatch(/double +0\.000 +what chart does/);
    expect(out).toMatch(/stand +−[3-9]\.\d{3} +± 0\.\d{3}/);
    expect(out).toContain('asked in 1,500 of 1,500 deals');
    const again = JSON.parse((await wily([...weigh, ...cards, '--json'])).out) as { options: { words: string }[] };
    expect(again.options[0]?.words).toBe('double');
  });

  it('says what it cannot weigh', async () => {
    for (const [args, words] of [
      [['--at', 'hop'], 'This sheet has no option "hop".'],
      [['--at', 'hit', '--cards', 'house'], '"house" promises no cards.'],
      [['--at', 'hit', '--cards', 'nowhere=10C'], 'There is no pile "nowhere" at this table.'],
      [['--at', 'hit', '--cards', 'house=1X'], '"1X" is not a card'],
      [
        ['--at', 'hit', '--cards', 'hand/1/1=AS KH', '--deals', '100'],
        'In none of 100 deals seat 1 was asked for "hit".',
      ],
    ] as const) {
      const { err, code } = await wily([...weigh, ...args]);
      expect(err).toContain(words);
      expect(code).toBeGreaterThan(0);
    }
  });
});
