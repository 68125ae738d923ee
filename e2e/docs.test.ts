import { spawn, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, ROOT, seatKey, startTestService } from './setup/service.js';

let service: Service;
beforeAll(async () => {
  ({ service } = await startTestService());
});
afterAll(() => service.stop());

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
    const run = (program: string, file: string, seat: number): Promise<{ code: number | null; out: string }> =>
      new Promise((done) => {
        const child = spawn(program, [`${ROOT}docs/examples/${file}`, service.address, id, seatKey(opened, seat)], {
          cwd: ROOT,
        });
        let out = '';
        for (const stream of [child.stdout, child.stderr])
          stream.on('data', (data) => {
            out += String(data);
          });
        child.on('close', (code) => done({ code, out }));
      });
    const [wren, otter] = await Promise.all([run(process.execPath, 'play.mjs', 1), run('python3', 'play.py', 2)]);
    expect([wren.code, otter.code, (await client.table(id)).status]).toEqual([0, 0, 'over']);
    expect(wren.out).toContain('You bet 10.');
    expect(otter.out).toContain('Wren bets 10.');
    expect(otter.out).toContain('The house has');
    expect(await client.view(id, 'watch')).toMatchObject({ waiting: { kind: 'over' }, chapter: { count: 3 } });
  });

  it('needs curl, which is here', () => {
    expect(spawnSync('curl', ['--version']).status).toBe(0);
  });
});
