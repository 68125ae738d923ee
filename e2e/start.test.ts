import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { type AddressInfo, createServer } from 'node:net';
import { join } from 'node:path';
import { Client, ServiceError } from '@wily-jester/client';
import { type Service, startService } from '@wily-jester/service';
import { afterEach, describe, expect, it } from 'vitest';
import { newFolder } from './setup/programs.js';
import { bareConfig, openTwo, ROOT, until } from './setup/service.js';

interface PrivateDatabase {
  readonly url: string;
  readonly pid: number;
  stop(): Promise<void>;
}
const { startDatabase } = (await import('../scripts/lib/database.mjs' as string)) as {
  startDatabase(folder: string): Promise<PrivateDatabase>;
};

/** The last line that it prints: the address, with a word that opens the console once. */
const LINK = /(http:\/\/127\.0\.0\.1:\d+)\/#open=[\w-]{43}\n$/;

const children: ChildProcess[] = [];
const databases: PrivateDatabase[] = [];
afterEach(async () => {
  for (const child of children.splice(0)) if (child.exitCode === null) child.kill('SIGKILL');
  for (const database of databases.splice(0)) await database.stop();
});

/** Runs the start command, and waits for the address that it prints last. */
async function start(
  data: string,
  args: string[] = [],
): Promise<{ address: string; child: ChildProcess; said: () => string; ended: Promise<number | null> }> {
  const child = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), '--port', '0', '--data', data, ...args], {
    cwd: ROOT,
    env: { ...process.env, WILY_DB_URL: '', WILY_PREPARED: '1' },
  });
  children.push(child);
  let said = '';
  child.stdout.on('data', (text) => {
    said += String(text);
  });
  child.stderr.on('data', (text) => {
    said += String(text);
  });
  const ended = new Promise<number | null>((done) => child.once('exit', done));
  await until(() => LINK.test(said) || child.exitCode !== null, `the address to be printed: ${said}`);
  return { address: LINK.exec(said)?.[1] ?? '', child, said: () => said, ended };
}

const databaseOf = (data: string): { pid: number; port: number } =>
  JSON.parse(readFileSync(join(data, 'mariadb.json'), 'utf8'));
const isAlive = (pid: number): boolean =>
  existsSync(`/proc/${pid}/cmdline`) && readFileSync(`/proc/${pid}/cmdline`, 'utf8') !== '';

const commandOf = (pid: number): string => readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ');
/** The processes that a process started. */
const childrenOf = (parent: number): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        return / [A-Z] (\d+) /.exec(readFileSync(`/proc/${pid}/stat`, 'utf8'))?.[1] === String(parent);
      } catch {
        return false;
      }
    });
const freePort = (): Promise<number> =>
  new Promise((done) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => done(port));
    });
  });

/** A data folder in which a service ran before: what the first start makes is copied. */
async function usedFolder(): Promise<string> {
  used ??= (async () => {
    const data = newFolder();
    const { child, ended } = await start(data);
    child.kill('SIGTERM');
    await ended;
    return data;
  })();
  const copy = newFolder();
  cpSync(await used, copy, { recursive: true });
  return copy;
}
let used: Promise<string> | undefined;

describe('the start command', () => {
  it('starts a private database and the service, prints the address last, and stops both cleanly', async () => {
    const data = newFolder();
    const first = await start(data);
    const key = readFileSync(join(data, 'developer.key'), 'utf8').trim();
    expect(statSync(join(data, 'developer.key')).mode & 0o777).toBe(0o600);
    const client = new Client({ address: first.address, key });
    expect(await client.health()).toMatchObject({ status: 'ok' });
    expect((await client.sheets()).map((sheet) => sheet.name)).toContain('Lantern Twenty-One');
    expect((await client.tables()).map((table) => table.game)).toEqual(["Long Pot Hold'em", 'Lantern Twenty-One']);
    const { pid, port } = databaseOf(data);
    expect(port).not.toBe(3306);
    const { table } = await openTwo(client);
    await client.choose(table.id, { ask: 0, option: 'bet', args: { amount: 20 }, once: 'a', seat: 1 });
    first.child.kill('SIGTERM');
    expect(await first.ended).toBe(0);
    expect(isAlive(pid)).toBe(false);

    const second = await start(data);
    const again = new Client({ address: second.address, key });
    expect(await again.table(table.id)).toMatchObject({ number: 1, status: 'open' });
    await again.choose(table.id, { ask: 0, option: 'bet', args: { amount: 20 }, once: 'a', seat: 2 });
    second.child.kill('SIGINT');
    expect(await second.ended).toBe(0);
  });

  it('adopts a database that a crash left running', async () => {
    const data = await usedFolder();
    const left = await startDatabase(data);
    const { child, ended } = await start(data);
    expect(databaseOf(data).pid).toBe(left.pid);
    child.kill('SIGTERM');
    expect(await ended).toBe(0);
    expect(isAlive(left.pid)).toBe(false);
  });

  it('leaves a folder alone that another one holds, and says which one', async () => {
    const data = await usedFolder();
    const first = await start(data);
    const database = databaseOf(data).pid;
    const second = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), '--port', '0', '--data', data], {
      env: { ...process.env, WILY_DB_URL: '', WILY_PREPARED: '1' },
    });
    let words = '';
    second.stderr.on('data', (text) => {
      words += String(text);
    });
    expect(await new Promise((done) => second.once('exit', done))).toBe(3);
    expect(words).toContain(`process ${first.child.pid}`);
    expect(words).toContain(`on port ${new URL(first.address).port}`);
    expect(isAlive(database)).toBe(true);
    expect(await new Client({ address: first.address }).health()).toMatchObject({ status: 'ok' });
    first.child.kill('SIGTERM');
    expect(await first.ended).toBe(0);
  });

  it('starts again what ended by itself, the service and the database', async () => {
    const data = await usedFolder();
    const { child, said, ended, address } = await start(data, ['--port', String(await freePort())]);
    const key = readFileSync(join(data, 'developer.key'), 'utf8').trim();
    const client = new Client({ address, key });
    const { table } = await openTwo(client);
    const service =
      childrenOf(child.pid ?? 0).find((pid) => commandOf(pid).includes('service/dist/bundled/main.js')) ?? 0;
    process.kill(service, 'SIGKILL');
    await until(() => said().includes('is back on'), 'the service to be back');
    expect(await client.table(table.id)).toMatchObject({ number: 0 });
    const database = databaseOf(data).pid;
    process.kill(database, 'SIGKILL');
    await until(() => databaseOf(data).pid !== database, 'the database to be started again');
    await until(
      () =>
        client.choose(table.id, { ask: 0, option: 'bet', args: { amount: 20 }, once: 'a', seat: 1 }).then(
          () => true,
          () => false,
        ),
      'play to go on',
    );
    child.kill('SIGTERM');
    expect(await ended).toBe(0);
    expect(isAlive(databaseOf(data).pid)).toBe(false);
  });

  it('takes both with it, however it ends, and lets go of the folder', async () => {
    const data = await usedFolder();
    const first = await start(data);
    const pids = [databaseOf(data).pid, ...childrenOf(first.child.pid ?? 0)];
    first.child.stdout?.destroy();
    first.child.kill('SIGKILL');
    await until(() => pids.every((pid) => !isAlive(pid)), 'both to end');
    const second = await start(data);
    second.child.kill('SIGTERM');
    expect(await second.ended).toBe(0);
  });

  it('explains itself, and refuses what it does not know', async () => {
    const help = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), '--help']);
    let text = '';
    help.stdout.on('data', (data) => {
      text += String(data);
    });
    expect(await new Promise((done) => help.once('exit', done))).toBe(0);
    expect(text).toContain('--db-url');
    const wrong = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), '--prot', '1']);
    expect(await new Promise((done) => wrong.once('exit', done))).toBe(2);
  });
});

describe('a service whose database goes away', () => {
  it('answers 503 with nothing half done, and goes on when it is back', async () => {
    const data = newFolder();
    let database = await startDatabase(data);
    const service: Service = await startService(bareConfig(data, database.url));
    try {
      const client = new Client({ address: service.address, key: service.developerKey });
      const { table } = await openTwo(client);
      const bet = (seat: number, once: string) =>
        client.choose(table.id, { ask: 0, option: 'bet', args: { amount: 10 }, once, seat });
      await bet(1, 'a');
      await database.stop();
      const error = await bet(2, 'a').catch((e: unknown) => e);
      expect(error).toBeInstanceOf(ServiceError);
      expect((error as ServiceError).problem).toMatchObject({
        status: 503,
        type: 'urn:wily-jester:problem:unavailable',
      });
      expect((await client.health().catch(() => ({ status: 'down' }))).status).toBe('down');
      database = await startDatabase(data);
      databases.push(database);
      await until(async () => (await client.health()).status === 'ok', 'the database to be back');
      expect(await client.table(table.id)).toMatchObject({ number: 1 });
      expect((await bet(2, 'a')).number).toBe(2);
      expect((await client.record(table.id)).trim().split('\n')).toHaveLength(3);
    } finally {
      await service.stop();
    }
  });
});
