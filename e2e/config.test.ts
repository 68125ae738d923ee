import { spawn, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { describe, expect, it } from 'vitest';
import { newFolder } from './setup/programs.js';
import { freshDatabase, openTwo, seatKey, until } from './setup/service.js';

describe('a service without what it needs', () => {
  it('says plainly what is missing when it cannot start', () => {
    const start = (env: Record<string, string>) =>
      spawnSync(process.execPath, ['service/dist/bundled/main.js'], {
        env: { PATH: process.env.PATH ?? '', ...env },
        encoding: 'utf8',
      });
    const none = start({});
    expect([none.status, none.stderr]).toEqual([2, expect.stringContaining('WILY_DB_URL is not set')]);
    const wrong = start({ WILY_DB_URL: 'mariadb://wily:x@127.0.0.1:9/wily', WILY_PORT: 'a' });
    expect([wrong.status, wrong.stderr]).toEqual([2, expect.stringContaining('WILY_PORT')]);
  });
});

describe('what a service writes into its log', () => {
  it('holds no key, however keys are sent, and says what was asked', async () => {
    const data = newFolder();
    const env = { WILY_DB_URL: await freshDatabase(), WILY_DATA: data, WILY_PORT: '0', WILY_LOG: 'trace' };
    const child = spawn(process.execPath, ['service/dist/bundled/main.js'], { env: { ...process.env, ...env } });
    let log = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (text) => {
        log += String(text);
      });
    try {
      await until(() => /serves on \S+/.test(log), 'the service');
      const address = /serves on (\S+)/.exec(log)?.[1] ?? '';
      const key = readFileSync(join(data, 'developer.key'), 'utf8').trim();
      const client = new Client({ address, key });
      await client.addSheet({ source: readFileSync('sheets/lantern-twenty-one.motley', 'utf8') });
      const opened = await openTwo(client);
      const { id } = opened.table;
      const seat = seatKey(opened, 1);
      await client.withKey(seat).view(id);
      const follow = client.withKey(seat).follow(id, {});
      await until(() => follow.view !== null, 'the view');
      follow.stop();
      // By mistake, where keys do not belong.
      await fetch(`${address}/api/tables/${id}/view?key=${seat}`);
      await fetch(`${address}/api/tables/${id}/feed?key=${seat}`, { headers: { authorization: `Bearer ${seat}x` } });
      await until(() => log.includes('/feed'), 'the requests to be logged');
      expect(log).toContain(`/api/tables/${id}/view`);
      for (const secret of [key, seat, opened.keys.watch, opened.keys.host]) expect(log).not.toContain(secret);
    } finally {
      child.kill('SIGKILL');
    }
  });
});
