import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { clientMessageSchema, openapi } from '@wily-jester/protocol';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { acknowledgedBy, crowd, FULL, figure } from '../setup/crowd.js';
import { dice, Fuzz } from '../setup/fuzz.js';
import { newFolder, serviceProcess } from '../setup/programs.js';
import { freshDatabase, openTwo, seatKey, until } from '../setup/service.js';

const REQUESTS = FULL ? 50_000 : 1_500;
const FRAMES = FULL ? 10_000 : 500;
/** How much the service's memory may grow between the first fifth and the end, in bytes. */
const MOST_GROWTH = 150 * 1024 * 1024;

let service: Awaited<ReturnType<typeof serviceProcess>>;
let client: Client;
beforeAll(async () => {
  const env = {
    WILY_DB_URL: await freshDatabase(),
    WILY_DATA: newFolder(),
    WILY_PORT: '0',
    WILY_RATE: '10000000',
    WILY_GUESSES: '1000000',
  };
  service = await serviceProcess(env);
  client = new Client({
    address: service.address,
    key: readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim(),
  });
});
afterAll(() => service?.kill());

async function memory(): Promise<number> {
  const text = await (await fetch(`${service.address}/metrics`)).text();
  return Number(/^process_resident_memory_bytes (\S+)/m.exec(text)?.[1]);
}

interface Operation {
  readonly method: string;
  readonly path: string;
  readonly schema: Record<string, unknown> | null;
}

/** Every operation of the interface with the schema of its body. */
const operations: Operation[] = Object.entries(openapi.paths).flatMap(([path, methods]) =>
  Object.entries(
    methods as Record<string, { requestBody?: { content: Record<string, { schema: { $ref: string } }> } }>,
  ).map(([method, { requestBody }]) => {
    const ref = requestBody?.content['application/json']?.schema.$ref.split('/').at(-1);
    const schemas = openapi.components.schemas as Record<string, Record<string, unknown>>;
    return { method: method.toUpperCase(), path, schema: ref === undefined ? null : (schemas[ref] ?? null) };
  }),
);

/** What lies beside the interface: the console's page and files, and what is none of them. */
const PAGES = [
  '',
  'cards',
  'index.html',
  'favicon.ico',
  'assets/none.js',
  '%00.css',
  '%zz',
  '.git/config',
  '..%2f..%2fpackage.json',
  `${'x'.repeat(3_000)}.js`,
  'a%5cb.txt',
  'assets/%2e%2e/index.html',
];
operations.push({ method: 'GET', path: '/{page}', schema: null }, { method: 'POST', path: '/{page}', schema: null });

/** Waits until a line has been read so far, or has ended. */
const caughtUp = (socket: WebSocket): Promise<void> =>
  new Promise((done) => {
    if (socket.readyState !== WebSocket.OPEN) return done();
    for (const event of ['pong', 'close']) socket.once(event, () => done());
    socket.ping();
  });

describe('hostile requests', () => {
  it(`are answered, never with a failure of the service's own: ${REQUESTS} of them`, async () => {
    const seed = Math.floor(Math.random() * 2 ** 31);
    const fuzz = new Fuzz(dice(seed));
    const opened = await openTwo(client);
    const keys = [client.options.key ?? '', seatKey(opened, 1), opened.keys.watch, opened.keys.host, 'x', ''];
    const failures: string[] = [];
    const statuses = new Map<number, number>();
    let early = 0;
    let sent = 0;
    const send = async (): Promise<void> => {
      const { method, path, schema } = fuzz.pick(operations);
      if (path.endsWith('/feed')) return;
      const address = path
        .replace('{table}', () => fuzz.pick([opened.table.id, opened.table.id, 'aaaaaaaaaaaa', '%00', '..%2f..']))
        .replace('{page}', () => fuzz.pick(PAGES))
        .replace('{sheet}', () => encodeURIComponent(fuzz.pick(['Lantern Twenty-One', 'x'.repeat(300), '%', '\u0000'])))
        .replace('{seat}', () => fuzz.pick(['1', '2', '0', '-1', '99999999999', 'x']))
        .replace('{number}', () => fuzz.pick(['0', '1', '-1', '1e9', '99999999999999999999']));
      const query =
        fuzz.random() < 0.4
          ? `?as=${fuzz.pick(['1', 'open', 'watch', '99', '%F0%9F', 'x'])}&from=${fuzz.pick(['0', '-1', '1e9', ''])}&as=2`
          : '';
      const body = method === 'GET' ? undefined : fuzz.broken(JSON.stringify(fuzz.value(schema ?? {})));
      const key = fuzz.pick(keys);
      const response = await fetch(`${service.address}${address}${query}`, {
        method,
        headers: {
          ...(key === '' ? {} : { authorization: `Bearer ${key}` }),
          ...(body === undefined
            ? {}
            : {
                'content-type': fuzz.pick([
                  'application/json',
                  'application/json',
                  'text/plain',
                  'application/json; charset=x',
                ]),
              }),
        },
        ...(body === undefined ? {} : { body }),
      });
      await response.arrayBuffer();
      statuses.set(response.status, (statuses.get(response.status) ?? 0) + 1);
      if (response.status >= 500)
        failures.push(`seed ${seed}: ${method} ${address}${query} ${body?.slice(0, 300)} → ${response.status}`);
    };
    const worker = async (): Promise<void> => {
      while (sent < REQUESTS) {
        sent++;
        await send();
        if (sent === Math.floor(REQUESTS / 5)) early = await memory();
      }
    };
    await Promise.all(Array.from({ length: 8 }, worker));
    expect(failures).toEqual([]);
    expect(statuses.get(422)).toBeGreaterThan(REQUESTS / 50);
    expect((await client.health()).status).toBe('ok');
    const growth = (await memory()) - early;
    expect(growth).toBeLessThan(MOST_GROWTH);
    figure(
      `${REQUESTS} hostile requests: no 5xx; memory ${Math.round(growth / 1024 / 1024)} MiB more at the end than after a fifth of them. ${JSON.stringify(Object.fromEntries([...statuses].sort()))}`,
    );
  }, 600_000);

  it(`are answered over WebSockets too: ${FRAMES} frames`, async () => {
    const seed = Math.floor(Math.random() * 2 ** 31);
    const fuzz = new Fuzz(dice(seed));
    const opened = await openTwo(client);
    const { id } = opened.table;
    const internal: string[] = [];
    let heard = 0;
    const open = async (): Promise<WebSocket> => {
      const socket = new WebSocket(`${service.address.replace('http', 'ws')}/api/tables/${id}/live`);
      socket.on('error', () => undefined);
      socket.on('message', (data) => {
        heard++;
        if (String(data).includes('problem:internal')) internal.push(`seed ${seed}: ${String(data)}`);
      });
      await new Promise((done) => socket.once('open', done));
      if (fuzz.random() < 0.8) socket.send(JSON.stringify({ type: 'hello', key: seatKey(opened, 1) }));
      return socket;
    };
    let socket = await open();
    for (let i = 0; i < FRAMES; i++) {
      if (socket.readyState !== WebSocket.OPEN) socket = await open();
      const way = fuzz.random();
      if (way < 0.7) socket.send(fuzz.broken(JSON.stringify(fuzz.value(clientMessageSchema))));
      else if (way < 0.8) socket.send(Buffer.from([0xff, 0xfe, i & 255, 0]));
      else if (way < 0.82) socket.send('x'.repeat(20_000));
      else if (way < 0.85) socket.terminate();
      else
        socket.send(
          JSON.stringify({ type: 'choose', choice: { ask: 0, option: 'bet', args: fuzz.anything(), once: `f${i}` } }),
        );
      await new Promise((done) => setImmediate(done));
      // Now and then the service comes after: what a broken line had not read yet is answered to nobody.
      if (i % 20 === 0) await caughtUp(socket);
    }
    socket.terminate();
    expect(internal).toEqual([]);
    expect(heard).toBeGreaterThan(FRAMES / 4);
    expect((await client.health()).status).toBe('ok');
    expect((await client.view(id, 1)).viewer).toBe(1);
  }, 600_000);
});

/** Sheets that would take for ever, or far too much. */
const HOSTILE: [string, string][] = [
  ['an endless loop', 'deck standard play { var n = 0 while n >= 0 { n += 1 } finish }'],
  ['loops within loops', 'deck standard play { for a in 1..100000 { for b in 1..100000 { shuffle pack } } finish }'],
  [
    'a choice with more ways than atoms',
    'deck standard copies 8 pile row face up play { move all from pack to row ask seats[1] { option take(cs: 0..400 cards in row while sum(cs, c => c.pips) > 100000) { } option go { } } finish }',
  ],
  [
    'a great list, doubled again and again',
    'deck standard play { var l = [1, 2] for n in 1..60 { l = l + l } finish }',
  ],
  ['a word that never ends', `deck standard play { say "${'a'.repeat(100_000)}" finish }`],
  ['deep nesting', `deck standard play { var n = ${'('.repeat(3_000)}1${')'.repeat(3_000)} finish }`],
  ['deep blocks', `deck standard play { ${'if yes { '.repeat(2_000)} ${'}'.repeat(2_000)} finish }`],
  [
    'defs that double',
    `deck standard ${Array.from({ length: 60 }, (_, i) => `def f${i + 1}(n: int) = f${i}(n) + f${i}(n + 1)`).join(' ')} def f0(n: int) = n play { say "{f60(1)}" finish }`,
  ],
];

describe('hostile sheets', () => {
  it.each(HOSTILE)(
    'are refused or stopped, and other tables play on: %s',
    async (name, body) => {
      const players = await crowd(client, 2);
      await until(() => acknowledgedBy(players) > 4, 'play');
      const before = acknowledgedBy(players);
      const source = `game "Hostile ${name}" for 1 seat { ${body} }`;
      const outcome = await (async () => {
        const sheet = await client.addSheet({ source });
        const opened = await client.openTable({ sheet: sheet.hash, seats: [{ name: 'Wren' }] });
        return client.view(opened.table.id, 1);
      })().catch((error: Error) => error);
      if (outcome instanceof Error) expect(outcome.message.length).toBeGreaterThan(10);
      else expect(outcome.viewer).toBe(1);
      await until(() => acknowledgedBy(players) > before + 10, 'play to go on');
      expect((await client.health()).status).toBe('ok');
      for (const player of players) {
        await player.rest();
        player.follow.stop();
      }
    },
    120_000,
  );
});
