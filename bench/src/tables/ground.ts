/** What the figures of live tables stand on: a database and a service of their own, and clients without a library. */
import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ServerMessage } from '@wily-jester/protocol';
import { createPool, type Pool } from 'mariadb';
import { WebSocket } from 'ws';

const ROOT = new URL('../../../', import.meta.url).pathname;

/** The least game that can be played for ever: each choice moves a card. */
export const SHEET = `game "Treadmill" for 1 to 4 seats {
  deck standard
  pile row face up
  play { repeat { for each s in seats { ask s { option draw {
    if empty(pack) { move all from row to pack face down }
    deal 1 from pack to row
  } option stop { finish } } } } }
}`;

/** How many connections the baselines have. */
export const CONNECTIONS = 10;

export interface Ground {
  readonly database: string;
  readonly address: string;
  readonly key: string;
  /** The service's process. */
  readonly pid: number;
  /** Opens a table with so many seats, and gives its id and its seats' keys. */
  open(seats: number, seed?: string): Promise<{ id: string; keys: string[] }>;
  /** Ends the service, and leaves the database. */
  halt(): Promise<void>;
  /** Starts it again; done once it listens. */
  resume(): Promise<void>;
  stop(): Promise<void>;
}

/** The address that a service says when it is ready. */
export function addressOf(child: ChildProcess): Promise<string> {
  return new Promise((done, failed) => {
    child.stdout?.on('data', (data) => {
      const found = /serves on (\S+)/.exec(String(data))?.[1];
      if (found) done(found);
    });
    child.once('exit', (code) => failed(new Error(`the service ended with ${code}`)));
  });
}

/** @param rate requests a minute that each key may make; no limit, unless that is measured */
export async function startGround(rate = 100_000_000): Promise<Ground> {
  const folder = mkdtempSync(join(tmpdir(), 'wily-bench-'));
  const { startDatabase } = (await import(join(ROOT, 'scripts/lib/database.mjs'))) as {
    startDatabase(folder: string): Promise<{ url: string; stop(): Promise<void> }>;
  };
  const database = await startDatabase(folder);
  const { SERVICE } = (await import(join(ROOT, 'scripts/lib/service.mjs'))) as { SERVICE: readonly string[] };
  const flags = process.env.WILY_BENCH_FLAGS?.split(' ').filter(Boolean) ?? [];
  const serve = async (): Promise<[ChildProcess, string]> => {
    const child = spawn(process.execPath, [...flags, ...SERVICE], {
      env: {
        ...process.env,
        WILY_DB_URL: database.url,
        WILY_DATA: folder,
        WILY_PORT: '0',
        WILY_LOG: 'silent',
        WILY_CONSOLE: join(ROOT, 'console/dist'),
        WILY_RATE: String(rate),
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    return [child, await addressOf(child)];
  };
  let [child, address] = await serve().catch(async (error: unknown) => {
    await database.stop();
    throw error;
  });
  // Whatever ends a measurement ends what it stood on.
  process.once('uncaughtException', (error) => {
    process.stderr.write(`${error.stack}\n`);
    child.kill('SIGKILL');
    void database.stop().finally(() => process.exit(1));
  });
  const halt = async (): Promise<void> => {
    const gone = new Promise((done) => child.once('exit', done));
    child.kill('SIGTERM');
    await gone;
  };
  const key = readFileSync(join(folder, 'developer.key'), 'utf8').trim();
  const post = async (path: string, body: unknown): Promise<unknown> => {
    const response = await fetch(`${address}${path}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${key}`, 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (!response.ok) throw new Error(await response.text());
    return response.json();
  };
  await post('/api/sheets', { source: SHEET });
  return {
    database: database.url,
    get address() {
      return address;
    },
    key,
    get pid() {
      return child.pid ?? 0;
    },
    halt,
    resume: async () => {
      [child, address] = await serve();
    },
    open: async (seats, seed) => {
      const opened = (await post('/api/tables', {
        sheet: 'Treadmill',
        seats: Array.from({ length: seats }, (_, i) => ({ name: `Seat ${i + 1}` })),
        ...(seed === undefined ? {} : { seed }),
      })) as { table: { id: string }; keys: { seats: { key: string }[] } };
      return { id: opened.table.id, keys: opened.keys.seats.map((seat) => seat.key) };
    },
    stop: async () => {
      await halt();
      await database.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** A client at a table: says hello, and hears. */
export async function takeSeat(
  address: string,
  table: string,
  key: string,
  heard: (message: ServerMessage) => void,
): Promise<WebSocket> {
  const socket = new WebSocket(`${address.replace('http', 'ws')}/api/tables/${table}/live`);
  await new Promise((done, failed) => {
    socket.once('open', done);
    socket.once('error', failed);
  });
  const first = new Promise<void>((done) => {
    socket.on('message', (data) => {
      const message = JSON.parse(String(data)) as ServerMessage;
      // Nothing that is measured is refused: a figure with refusals in it is none.
      if (message.type === 'problem') throw new Error(message.problem?.detail);
      if (message.type === 'view') done();
      heard(message);
    });
  });
  socket.send(JSON.stringify({ type: 'hello', key }));
  await first;
  return socket;
}

/** Ten connections to the database, with nothing of ours between. */
export function bareConnections({ database }: Pick<Ground, 'database'>): Pool {
  return createPool(`${database}?connectionLimit=${CONNECTIONS}`);
}

let word = 0;
/** Draws a card; each choice of the game opens the next ask under its own number. */
export function draw(socket: WebSocket, ask: number): void {
  socket.send(JSON.stringify({ type: 'choose', choice: { ask, option: 'draw', args: {}, once: `w${word++}` } }));
}

export const pause = (milliseconds: number): Promise<void> => new Promise((done) => setTimeout(done, milliseconds));
export const percentile = (values: readonly number[], part: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * part))] ?? Number.NaN;
