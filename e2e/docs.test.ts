import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import type { Program } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, ROOT, seatKey, startTestService } from './setup/service.js';

let service: Service;
beforeAll(async () => {
  ({ service } = await startTestService());
});
afterAll(() => service.stop());

/** An example as a process, until it ends. */
const EXAMPLES = ['play.mjs', 'play.py'] as const;
const example = (
  file: (typeof EXAMPLES)[number],
  args: readonly string[],
): Promise<{ code: number | null; out: string }> =>
  new Promise((done) => {
    const program = file === 'play.mjs' ? process.execPath : 'python3';
    const child = spawn(program, [`${ROOT}docs/examples/${file}`, ...args], { cwd: ROOT });
    let out = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (data) => {
        out += String(data);
      });
    child.on('close', (code) => done({ code, out }));
  });

/** Settings that end a game soon: how far behind one may fall, and the least of what counts rounds, deals, points and chips. */
const shortened = (program: Program): Record<string, number> =>
  Object.fromEntries(
    program.settings.flatMap(({ name, domain }): [string, number][] =>
      /^(rounds|deals|mostDeals|most|goal|target|handLimit|limit|greens|purse)$/.test(name) && domain.k === 'range'
        ? [[name, Math.max(Number(domain.from), 1)]]
        : name === 'floor'
          ? [[name, 60]]
          : [],
    ),
  );

describe('the protocol page', () => {
  it('plays a round with nothing but curl', async () => {
    const script = /```sh\n([\s\S]*?)```/.exec(readFileSync(`${ROOT}docs/protocol.md`, 'utf8'))?.[1] ?? '';
    const out = await new Promise<string>((done, failed) => {
      const shell = spawn('bash', ['-eu', '-c', script], {
        env: { ...process.env, WILY: service.address, KEY: service.developerKey },
      });
      let text = '';
      shell.stdout.on('data', (data) => {
        text += String(data);
      });
      shell.on('close', (code) =>
        code === 0 ? done(text) : failed(new Error(`the script ended with ${code}: ${text}`)),
      );
    });
    const lines = out
      .split('\n')
      .filter((line) => line.startsWith('{'))
      .map((line) => JSON.parse(line));
    expect(lines[0]).toMatchObject({ ask: 0, seat: 1, offers: [{ option: 'bet' }, { option: 'sitOut' }] });
    expect(lines[1]).toMatchObject({ option: 'bet', repeated: false });
    expect(lines[2]).toMatchObject({ option: 'bet', repeated: true });
    expect(lines[3]?.piles.house.cards).toHaveLength(2);
    expect(lines[3]?.piles.house.cards[1]).toBeNull();
    expect(lines[4]).toMatchObject({ type: 'urn:wily-jester:problem:unknown-option' });
    expect(lines[5]).toMatchObject({ option: 'stand', number: 3 });
    expect(JSON.stringify(lines[6])).toContain('You stand.');
    expect(lines[7]).toMatchObject({ form: 'wily-jester-record/1' });
  });

  it('has examples in two languages that play a whole game with each other, over WebSocket and server-sent events', async () => {
    const client = new Client({ address: service.address, key: service.developerKey });
    const opened = await openTwo(client, { settings: { rounds: 3 } });
    const { id } = opened.table;
    const run = (file: (typeof EXAMPLES)[number], seat: number) =>
      example(file, [service.address, id, seatKey(opened, seat)]);
    const [wren, otter] = await Promise.all([run('play.mjs', 1), run('play.py', 2)]);
    expect([wren.code, otter.code, (await client.table(id)).status]).toEqual([0, 0, 'over']);
    // It chooses at random, and may sit every round out.
    expect(wren.out).toMatch(/You (bet \d+|sit this round out)\./);
    expect(otter.out).toMatch(/Wren (bets \d+|sits this round out)\./);
    expect(otter.out).toContain('The house has');
    const { waiting, chapter } = await client.view(id, 'watch');
    expect(waiting.kind).toBe('over');
    // Who bets at random may have nothing left before the last round.
    expect([1, 2, 3]).toContain(chapter.count);
  });

  it('shows in the README commands that work as they stand', async () => {
    const readme = readFileSync(`${ROOT}README.md`, 'utf8');
    const blocks = [...readme.matchAll(/```sh\n([\s\S]*?)```/g)].map(([, block = '']) => block);
    expect(blocks).toHaveLength(2);
    const cwd = mkdtempSync(join(tmpdir(), 'wily-readme-'));
    symlinkSync(`${ROOT}wily`, join(cwd, 'wily'));
    // Playing in the terminal waits for somebody: what follows is typed at once.
    const script = blocks.join('\n').replace(/^(\.\/wily play.*)$/m, 'echo quit | $1');
    const { status, stdout, stderr } = await new Promise<{ status: number | null; stdout: string; stderr: string }>(
      (done) => {
        const child = spawn('bash', ['-e', '-c', script], {
          cwd,
          env: {
            ...process.env,
            WILY: service.address,
            KEY: service.developerKey,
            WILY_PORT: new URL(service.address).port,
            WILY_KEY: service.developerKey,
          },
        });
        let [out, err] = ['', ''];
        child.stdout.on('data', (data) => (out += String(data)));
        child.stderr.on('data', (data) => (err += String(data)));
        child.on('close', (status) => done({ status, stdout: out, stderr: err }));
      },
    );
    expect([status, stderr]).toEqual([0, '']);
    expect(stdout).toContain('Reed Draw: ');
    expect(stdout).toContain('reached.');
    expect(stdout).toContain('1,000 games');
    expect(stdout).toContain('"option":"draw"');
  });

  const sheets = readdirSync(`${ROOT}sheets`).filter((file) => /(?<!rehearsal)\.motley$/.test(file));
  it.concurrent.each(sheets)(
    'has examples that play every bundled sheet to its end: %s',
    async (file) => {
      const { program } = compileSheet(readFileSync(`${ROOT}sheets/${file}`, 'utf8'));
      if (!program) throw new Error('the sheet does not compile');
      const client = new Client({ address: service.address, key: service.developerKey });
      const many = program.seats[0] as number;
      const bot = program.bots[0]?.name;
      // One seat of many is played by an example, the others by a bot, where there is one.
      const people = bot === undefined || many <= 2 ? many : 1;
      const opened = await client.openTable({
        sheet: program.name,
        seats: ['Wren', 'Otter', 'Heron', 'Pike', 'Teal', 'Newt']
          .slice(0, many)
          .map((name, i) => (i < people ? { name } : { name, bot: bot ?? '' })),
        settings: shortened(program),
        pace: 0,
        clocks: false,
      });
      const runs = await Promise.all(
        Array.from({ length: people }, (_, i) =>
          example(EXAMPLES[(i + sheets.indexOf(file)) % 2] as 'play.mjs' | 'play.py', [
            service.address,
            opened.table.id,
            seatKey(opened, i + 1),
          ]),
        ),
      );
      expect(runs.map(({ code, out }) => [code, /Traceback|TypeError/.test(out)])).toEqual(runs.map(() => [0, false]));
      expect((await client.table(opened.table.id)).status).toBe('over');
      // A table has a twentieth of a processor: a long game takes its time where others play beside it.
    },
    240_000,
  );

  it('needs curl, which is here', () => {
    expect(spawnSync('curl', ['--version']).status).toBe(0);
  });
});
