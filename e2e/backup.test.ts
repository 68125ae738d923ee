import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { type Service, startService } from '@wily-jester/service';
import { afterEach, expect, it } from 'vitest';
import { acknowledgedBy, crowd, Player } from './setup/crowd.js';
import { bareConfig, ROOT, until } from './setup/service.js';

const { startDatabase } = (await import('../scripts/lib/database.mjs' as string)) as {
  startDatabase(folder: string): Promise<{ url: string; stop(): Promise<void> }>;
};

const ends: (() => Promise<void>)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

async function serve(data: string): Promise<{ service: Service; client: Client }> {
  const database = await startDatabase(data);
  ends.push(() => database.stop());
  const service = await startService(bareConfig(data, database.url));
  ends.push(() => service.stop());
  return { service, client: new Client({ address: service.address, key: service.developerKey }) };
}

function run(what: string, ...args: string[]): Promise<{ code: number | null; said: string }> {
  const child = spawn(process.execPath, [join(ROOT, 'scripts/backup.mjs'), what, ...args]);
  let said = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (text) => {
      said += String(text);
    });
  return new Promise((done) => child.once('close', (code) => done({ code, said })));
}

const folder = (): string => mkdtempSync(join(tmpdir(), 'wily-copy-'));

it('a copy taken under play holds every acknowledged choice up to its moment, and its tables go on elsewhere', async () => {
  const data = folder();
  const { client } = await serve(data);
  const players = await crowd(client, 3);
  await until(() => players.every(({ acknowledged }) => acknowledged.length > 10), 'play');
  const before = players.map(({ acknowledged }) => [...acknowledged]);
  const to = join(folder(), 'copy');
  const copied = await run('backup', '--data', data, '--to', to);
  expect(copied).toMatchObject({ code: 0, said: expect.stringContaining('Everything acknowledged before') });
  const after = players.map(({ acknowledged }) => acknowledged.length);
  await until(() => players.some(({ acknowledged }, i) => acknowledged.length > (after[i] ?? 0)), 'play to go on');
  await Promise.all(players.map((player) => player.rest()));
  for (const { follow } of players) follow.stop();
  expect((await run('backup', '--data', data, '--to', to)).said).toContain('There is a copy in');

  const other = join(folder(), 'data');
  expect(await run('restore', '--from', to, '--data', other)).toMatchObject({ code: 0 });
  expect((await run('restore', '--from', to, '--data', other)).said).toContain('holds a database already');
  expect(readFileSync(join(other, 'developer.key'), 'utf8')).toBe(readFileSync(join(data, 'developer.key'), 'utf8'));
  const { client: there } = await serve(other);
  for (const [i, { opened, seat }] of players.entries()) {
    const rows = (await there.record(opened.table.id))
      .trim()
      .split('\n')
      .slice(1)
      .map((line) => JSON.parse(line) as { number: number; seat: number; option: string });
    for (const [at, row] of rows.entries()) expect(row.number).toBe(at + 1);
    for (const { number, option } of before[i] ?? []) expect(rows[number - 1]).toMatchObject({ seat, option });
  }
  // Keys of the copy are those of the original, and play goes on from where it stood.
  const [one] = players;
  const id = one?.opened.table.id ?? '';
  const { number } = await there.table(id);
  const again = [1, 2].map((seat) => new Player(there, (one as Player).opened, seat));
  await until(() => acknowledgedBy(again) > 3, 'play to go on in the copy');
  await Promise.all(again.map((player) => player.rest()));
  for (const { follow } of again) follow.stop();
  expect((await there.table(id)).number).toBeGreaterThan(number);
});
