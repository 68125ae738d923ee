import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { startService } from '@wily-jester/service';
import { Sequelize } from 'sequelize';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { bareConfig, freshDatabase, openTwo, ROOT, startTestService, until } from '../setup/service.js';

afterEach(() => vi.useRealTimers());

const HOUR = 60 * 60_000;

describe('what a service was left with', () => {
  it('deletes tables that were closed long ago, and no others', async () => {
    vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval'] });
    const data = mkdtempSync(join(tmpdir(), 'wily-data-'));
    const database = await freshDatabase();
    const service = await startService({ ...bareConfig(data, database), keepClosed: 30 });
    const client = new Client({ address: service.address, key: service.developerKey });
    const [old, late, open] = [await openTwo(client), await openTwo(client), await openTwo(client)];
    for (const { table } of [old, late]) await client.closeTable(table.id);
    const sql = new Sequelize(database, { dialect: 'mariadb', logging: false });
    await sql.query('UPDATE tables SET changedAt = NOW() - INTERVAL 31 DAY WHERE id IN (?, ?)', {
      replacements: [old.table.id, open.table.id],
    });
    await sql.close();
    await vi.advanceTimersByTimeAsync(HOUR);
    const isGone = (): Promise<boolean> =>
      client.table(old.table.id).then(
        () => false,
        (error: { status: number }) => error.status === 404,
      );
    await until(isGone, 'the old table to be deleted');
    expect((await client.table(late.table.id)).status).toBe('closed');
    expect((await client.table(open.table.id)).status).toBe('open');
    await service.stop();
  });

  it('compiles a sheet anew that an earlier release compiled, and plays it', async () => {
    const first = await startTestService();
    const source = 'game "Left Behind" for 1 seat { deck standard play { ask seats[1] { option rest { } } } }';
    await first.client.addSheet({ source });
    await first.service.stop();
    const sql = new Sequelize(first.database, { dialect: 'mariadb', logging: false });
    await sql.query(`UPDATE sheets SET semantics = 1, program = '{"name":"Left Behind"}' WHERE name = 'Left Behind'`);
    await sql.close();
    const { service, client } = await startTestService(first);
    const { table } = await client.openTable({ sheet: 'Left Behind', seats: [{ name: 'Wren' }] });
    const choice = { seat: 1, ask: 0, option: 'rest', once: 'now' };
    expect(await client.choose(table.id, choice)).toMatchObject({ number: 1 });
    await service.stop();
  });
});

it('a service in which nobody catches an error says which, and ends in order', async () => {
  const data = mkdtempSync(join(tmpdir(), 'wily-data-'));
  const late =
    'process.stdout.write = ((write) => (text, ...more) => { if (String(text).includes("serves on")) setTimeout(() => { throw new Error("nobody caught this"); }); return write.call(process.stdout, text, ...more); })(process.stdout.write)';
  const service = spawn(
    process.execPath,
    ['--import', `data:text/javascript,${encodeURIComponent(late)}`, join(ROOT, 'service/dist/bundled/main.js')],
    {
      env: { ...process.env, WILY_DB_URL: await freshDatabase(), WILY_DATA: data, WILY_PORT: '0', WILY_LOG: 'info' },
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  );
  let said = '';
  for (const stream of [service.stdout, service.stderr]) stream.on('data', (text) => (said += String(text)));
  const code = await new Promise((done) => service.once('close', done));
  expect(said).toContain('nobody caught this');
  expect(code).toBe(70);
});
