import { spawn } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { namedShuffle, type TrialFigures } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { newFolder, wily } from './setup/programs.js';
import { ROOT } from './setup/service.js';
import { xmlFault } from './setup/xml.js';

const sheet = (name: string): string => join(ROOT, 'sheets', `${name}.motley`);
const CHART = ['--bots', 'chart', '--set', 'rounds=1', 'stake=100000', 'insures=no', 'surrenders=no'];

describe('wily trial', () => {
  it('tells what a game is like, with errors, in lines that can be read', async () => {
    const { out, code } = await wily(['trial', sheet('five-coin-machine'), '--games', '300', '--set', 'deals=10']);
    expect(code).toBe(0);
    expect(out).toContain('Five-Coin Machine: one seat, played by plain');
    expect(out).toMatch(/return {2}[\d.]+ ± [\d.]+ in 100/);
    expect(out).toMatch(/two pair +1[\d.]+ ± [\d.]+ %/);
    expect(out).toContain('300 games');
    expect(out).toContain('95 % interval');
  });

  it('holds settings against each other, and says which figures may be told apart', async () => {
    const { out } = await wily([
      'trial',
      sheet('quayside-twenty-one'),
      ...CHART,
      '--compare',
      'pays=threeToTwo,sixToFive',
      '--games',
      '6000',
    ]);
    expect(out).toMatch(/With pays sixToFive, “house keeps” is 1\.\d+ in a hundred more than with pays threeToTwo/);
    expect(out).toContain('The same cards for both saved');
  });

  it('gives the same figures for any number of threads, as JSON with what was tried', async () => {
    const run = async (jobs: string): Promise<{ header: { seed: string; hash: string }; figures: TrialFigures }> =>
      JSON.parse(
        (await wily(['trial', sheet('long-war'), '--games', '1000', '--seed', 'heron', '--jobs', jobs, '--json'])).out,
      ) as never;
    const [one, two] = [await run('1'), await run('2')];
    expect(JSON.stringify(two.figures)).toBe(JSON.stringify(one.figures));
    expect(one.header).toMatchObject({ format: 'wily-jester-trial/1', seed: 'heron', asked: 1000, played: 1000 });
    expect(one.header.hash).toMatch(/^[0-9a-f]{64}$/);
  });

  it('writes CSV, pictures and a report', async () => {
    const folder = newFolder();
    const trial = ['trial', sheet('quayside-twenty-one'), ...CHART, '--compare', 'softHit=no,yes', '--games', '1500'];
    const csv = (await wily([...trial, '--csv', '--svg', join(folder, 'svg'), '--report', join(folder, 'r.html')])).out;
    const [head, ...rows] = csv.trimEnd().split('\r\n');
    expect(head).toBe('setting,tally,form,first,second,category,value,from,to,doubt,times,games,deviation,byChance');
    expect(rows.some((row) => row.startsWith('softHit yes less softHit no,house keeps,difference'))).toBe(true);
    const pictures = readdirSync(join(folder, 'svg'));
    expect(pictures).toEqual(expect.arrayContaining(['against.svg', 'difference.svg', 'table-gain.svg', 'way.svg']));
    for (const file of pictures) {
      const svg = readFileSync(join(folder, 'svg', file), 'utf8');
      expect(svg).toMatch(/^<svg role="img" aria-label="[^"]{20,}/);
      expect(svg).not.toContain('NaN');
      expect(xmlFault(svg)).toBeNull();
    }
    const page = readFileSync(join(folder, 'r.html'), 'utf8');
    expect(page).toContain('house keeps');
    expect(page).not.toMatch(/<script|https?:\/\/(?!www\.w3\.org)/);
  });

  it('tells in which cells of a table a rule makes a difference, and draws them', async () => {
    const folder = newFolder();
    const file = join(folder, 'odd.motley');
    const rules = `game "Odd & <even>" for 1 seat {
      deck standard
      setting more: flag = no "<more> & \\"most\\""
      pile row face up
      play {
        shuffle pack
        deal 1 from pack to row
        let hit = if more and row[1].rank == K then 1 else 0
        tally "worth & <so>" row[1].pips + hit by row[1].rank, row[1].suit
        finish
      }
    }`;
    writeFileSync(file, rules);
    const { out } = await wily(['trial', file, '--games', '12000', '--compare', 'more=no,yes', '--svg', folder]);
    expect(out).toContain('worth & <so>: more yes less more no  4 of 52 cells surely differ');
    expect(out).toMatch(/K · hearts +\+1/);
    expect(out).toMatch(/\n +A +1\.0[\s\S]*\n +10 +10\.0[^\n]*\n +J +11\.0[^\n]*\n +Q +12\.0[^\n]*\n +K +13\.0/);
    const svg = readFileSync(join(folder, 'table-change-worth-so-more-yes.svg'), 'utf8');
    expect(xmlFault(svg)).toBeNull();
    expect(svg).toContain('aria-label="4 of 52 cells surely differ');
    for (const name of readdirSync(folder).filter((one) => one.endsWith('.svg')))
      expect(xmlFault(readFileSync(join(folder, name), 'utf8')), name).toBeNull();
  });

  it('stops when it knows enough, and says so', async () => {
    const { out } = await wily(['trial', sheet('long-war'), '--games', '50000', '--until', 'battles', '10']);
    expect(out).toContain('It is known as exactly as was asked.');
  });

  it('tells what is known so far when it is interrupted', async () => {
    const trial = spawn(process.execPath, [join(ROOT, 'wily'), 'trial', sheet('long-war'), '--games', '100000000']);
    let out = '';
    trial.stdout.on('data', (chunk: Buffer) => {
      out += chunk.toString();
    });
    const ended = new Promise<number | null>((resolve) => trial.once('close', resolve));
    // Its first line of progress says that there is something to tell.
    trial.stderr.once('data', () => trial.kill('SIGINT'));
    const code = await ended;
    expect(code).toBe(0);
    expect(out).toContain('Stopped early: intervals are the wider ones');
  });

  it.each([
    [['--compare', 'softHit'], 'compares nothing'],
    [['--compare', 'speed=1,2'], 'has no setting "speed"'],
    [['--bots', 'thinking:50ms'], 'thinking is counted there'],
    [['--bots', 'nobody'], 'has no bot "nobody"'],
    [['--until', 'luck', '0.1'], 'There is no figure "luck"'],
    [['--until', 'house keeps'], '--until takes a figure'],
    [['--games', '0'], 'a whole number from 1'],
  ])('refuses %j, and says what there is', async (options, message) => {
    const { err, code } = await wily(['trial', sheet('quayside-twenty-one'), ...options]);
    expect(code).toBe(2);
    expect(err).toContain(message);
  });

  it('stops at a fault of the sheet, with its line', async () => {
    const file = join(newFolder(), 'wrong.motley');
    writeFileSync(
      file,
      'game "Wrong" for 1 seat {\n  deck standard\n  play {\n    tally "t" 1 / (size(pack) - 52)\n    finish\n  }\n}\n',
    );
    const { err, code } = await wily(['trial', file, '--games', '10']);
    expect(code).toBe(1);
    expect(err).toContain('Game 1 stopped: This divides by zero. (line 4 of the sheet)');
  });
});

describe('wily audit', () => {
  const orders = (name: string, many: number): string => {
    const faces = ['♠', '♥', '♦', '♣'].flatMap((suit) =>
      ['A', ...'23456789', '10', 'J', 'Q', 'K'].map((rank) => rank + suit),
    );
    const shuffle = namedShuffle(name, 52, 'lines');
    return Array.from({ length: many }, () => [...shuffle.next()].map((card) => faces[card]).join(' ')).join('\n');
  };

  it('reads the shuffles of any program, and says what is wrong with it', async () => {
    const { out, code } = await wily(['audit', '-'], { input: orders('swap-anywhere', 400) });
    expect(out).toContain(
      'Not fair: most likely, each swap draws from the whole deck, not from the cards not yet settled.',
    );
    expect(out).toContain('how far cards go');
    expect(code).toBe(1);
  });

  it('finds nothing in a fair one, and says what would have shown', async () => {
    const file = join(newFolder(), 'fair.txt');
    writeFileSync(file, orders('ours', 500));
    const { out, code } = await wily(['audit', file]);
    expect(code).toBe(0);
    expect(out).toContain('Nothing wrong found');
    expect(out).toMatch(/one place that is off by 223\.\d in a hundred/);
  });

  it('knows shuffles by name, and writes JSON, CSV, a picture and a page', async () => {
    const folder = newFolder();
    const files = ['--svg', join(folder, 'a.svg'), '--report', join(folder, 'a.html')];
    const { out, code } = await wily(['audit', '--of', 'riffle:7', '--shuffles', '300', '--json', ...files]);
    const report = JSON.parse(out) as { verdict: string; sentence: string; heat: number[][]; orders: number };
    expect(report).toMatchObject({ verdict: 'not fair', orders: 300 });
    expect(report.sentence).toContain('like about 7 riffles');
    expect(report.heat).toHaveLength(52);
    expect(code).toBe(1);
    expect(readFileSync(join(folder, 'a.svg'), 'utf8')).toMatch(/^<svg role="img"/);
    expect(xmlFault(readFileSync(join(folder, 'a.svg'), 'utf8'))).toBeNull();
    expect(readFileSync(join(folder, 'a.html'), 'utf8')).toContain('like about 7 riffles');
    const csv = (await wily(['audit', '--of', 'ours', '--shuffles', '100', '--csv'])).out;
    expect(csv.split('\r\n')[0]).toBe('test,eye,p,corrected,effect,mean,fair');
  });

  it('names the line that cannot be read, and what it lacks', async () => {
    const { err, code } = await wily(['audit', '-'], { input: '4S 9S\n4S 4S\n' });
    expect(code).toBe(1);
    expect(err).toContain('Line 2: It has 4♠ too often and no 9♠: cards are copied, not moved.');
    expect((await wily(['audit'])).err).toContain('Name a file with shuffles');
    expect((await wily(['audit', '--of', 'rifle'])).err).toContain('There is no known shuffle "rifle"');
    expect((await wily(['audit', '-'], { input: '' })).err).toContain('There is no shuffle here');
  });
});
