import { mkdtempSync } from 'node:fs';
import { BlockList } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import type { Opened, OpenTable } from '@wily-jester/protocol';
import { type Service, startService } from '@wily-jester/service';
import { Sequelize } from 'sequelize';
import { inject } from 'vitest';

export const ROOT = new URL('../../', import.meta.url).pathname;

/** A new, empty database on the tests' own server. */
export async function freshDatabase(): Promise<string> {
  const base = inject('databaseUrl');
  const name = `wily_${Math.random().toString(36).slice(2, 12)}`;
  // A machine that stands still for a second is no database that is away.
  const dialectOptions = { connectTimeout: 20_000 };
  const root = new Sequelize(base, { dialect: 'mariadb', logging: false, dialectOptions });
  await root.getQueryInterface().createDatabase(name);
  await root.close();
  return base.replace(/\/wily$/, `/${name}`);
}

/** How a test runs a service without a console: a free port, every answer checked, and nobody in its way. */
export const bareConfig = (data: string, database: string): Parameters<typeof startService>[0] => ({
  host: '127.0.0.1',
  port: 0,
  data,
  database,
  console: null,
  sheets: join(ROOT, 'sheets'),
  keepClosed: null,
  logLevel: 'silent',
  rate: 1_000_000,
  guesses: 100_000,
  proxies: new BlockList(),
  checkAnswers: true,
});

/** A service of a test's own: a free port, every answer checked; new database and data folder, or another service's. */
export async function startTestService(beside?: { readonly data: string; readonly database: string }): Promise<{
  service: Service;
  client: Client;
  data: string;
  database: string;
}> {
  const data = beside?.data ?? mkdtempSync(join(tmpdir(), 'wily-data-'));
  const database = beside?.database ?? (await freshDatabase());
  const service = await startService({ ...bareConfig(data, database), console: join(ROOT, 'console/dist') });
  return { service, data, database, client: new Client({ address: service.address, key: service.developerKey }) };
}

/** A small table: Wren and Otter, both people, with a fixed seed and no clocks. */
export const openTwo = (client: Client, wish: Partial<OpenTable> = {}): Promise<Opened> =>
  client.openTable({
    sheet: 'Lantern Twenty-One',
    seats: [{ name: 'Wren' }, { name: 'Otter' }],
    settings: { rounds: 3 },
    seed: 'two by two',
    clocks: false,
    pace: 0,
    ...wish,
  });

/** Between two looks at what is waited for, in milliseconds, at first and at last: who looks all the time takes the processor from what it waits for. */
const LOOKED_AGAIN = { first: 4, last: 100 };

/** So long something is waited for, in milliseconds: it only ends tests that wait in vain, also where a machine stands still for a minute. */
export const PATIENCE = 120_000;

/** Waits until something holds, looking less and less often. */
export async function until(holds: () => boolean | Promise<boolean>, what: string, patience = PATIENCE): Promise<void> {
  const end = Date.now() + patience;
  for (let pause = LOOKED_AGAIN.first; !(await holds()); pause = Math.min(pause * 1.4, LOOKED_AGAIN.last)) {
    if (Date.now() > end) throw new Error(`waited in vain: ${what}`);
    await new Promise((done) => setTimeout(done, pause));
  }
}

/** A developer whom nobody had before: names are taken once for all, and a test may be tried once more. */
export async function newDeveloper(client: Client, name: string): Promise<Client> {
  const taken = new Set((await client.developers()).map((one) => one.name));
  let free = name;
  for (let i = 2; taken.has(free); i++) free = `${name}-${i}`;
  return client.withKey((await client.addDeveloper(free)).key);
}

export const seatKey = (opened: Opened, seat: number): string =>
  opened.keys.seats.find((s) => s.seat === seat)?.key ?? '';
