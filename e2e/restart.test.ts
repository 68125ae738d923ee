import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { afterAll, describe, expect, it } from 'vitest';
import { newFolder, serviceProcess } from './setup/programs.js';
import { freshDatabase, openTwo, until } from './setup/service.js';

const running: { kill(): Promise<void> }[] = [];
afterAll(async () => {
  for (const service of running) await service.kill();
});

describe('a service that is killed in the middle of play', () => {
  it('has every acknowledged choice when it is back, applies none twice, and its clients go on', async () => {
    const env = { WILY_DB_URL: await freshDatabase(), WILY_DATA: newFolder(), WILY_PORT: '0' };
    let service = await serviceProcess(env);
    running.push(service);
    const port = new URL(service.address).port;
    const key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
    const client = new Client({ address: service.address, key });
    const { table } = await openTwo(client, { settings: { rounds: 40 } });
    const follow = client.follow(table.id, { as: 1 });
    const acknowledged = new Map<number, string>();
    let ended = false;
    // One client that plays for both seats, and asks again under the same word until it is answered.
    const play = async (): Promise<void> => {
      while (!ended) {
        const view = follow.view;
        const { waiting } = view ?? {};
        if (waiting?.kind === 'over') return;
        const seat = waiting?.kind === 'ask' ? waiting.seats?.[0] : undefined;
        if (!view || seat === undefined) {
          await new Promise((done) => setImmediate(done));
          continue;
        }
        const first = waiting?.together === true;
        const choice = {
          ask: waiting?.ask ?? 0,
          option: first ? 'bet' : 'stand',
          args: first ? { amount: 10 } : {},
          once: randomUUID(),
          seat,
        };
        const done = await follow.choose(choice).catch((error: { kind?: string }) => error);
        if ('number' in done) acknowledged.set(done.number, done.option);
        else expect(['stale', 'turn']).toContain(done.kind);
        await until(
          () => ended || (follow.view?.number ?? 0) >= ('number' in done ? done.number : 0),
          'the view to follow',
        );
      }
    };
    const playing = play();
    for (let kill = 0; kill < 3; kill++) {
      const before = acknowledged.size;
      await until(() => acknowledged.size >= before + 7, 'some choices');
      await service.kill();
      service = await serviceProcess({ ...env, WILY_PORT: port });
      running.push(service);
    }
    const before = acknowledged.size;
    await until(() => acknowledged.size >= before + 5, 'play to go on');
    ended = true;
    await playing;
    const rows = (await client.record(table.id))
      .trim()
      .split('\n')
      .slice(1)
      .map((line) => JSON.parse(line) as { number: number; option: string });
    expect(rows.map((row) => row.number)).toEqual(rows.map((_, i) => i + 1));
    for (const [number, option] of acknowledged) expect(rows[number - 1]?.option).toBe(option);
    expect(acknowledged.size).toBeGreaterThanOrEqual(26);
    await until(
      async () => JSON.stringify(follow.view) === JSON.stringify(await client.view(table.id, 1)),
      'both to see the same',
    );
    follow.stop();
  });

  it('says plainly what is missing when it cannot start', async () => {
    const { spawnSync } = await import('node:child_process');
    const start = (env: Record<string, string>) =>
      spawnSync(process.execPath, ['service/dist/main.js'], {
        env: { PATH: process.env.PATH ?? '', ...env },
        encoding: 'utf8',
      });
    const none = start({});
    expect([none.status, none.stderr]).toEqual([2, expect.stringContaining('WILY_DB_URL is not set')]);
    const wrong = start({ WILY_DB_URL: 'mariadb://wily:x@127.0.0.1:9/wily', WILY_PORT: 'a' });
    expect([wrong.status, wrong.stderr]).toEqual([2, expect.stringContaining('WILY_PORT')]);
  });
});
