import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { Client, ServiceError } from '@wily-jester/client';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { newFolder, serviceProcess } from '../setup/programs.js';
import { freshDatabase, openTwo, seatKey } from '../setup/service.js';

let service: Awaited<ReturnType<typeof serviceProcess>>;
let client: Client;
let key: string;
beforeAll(async () => {
  const env = {
    WILY_DB_URL: await freshDatabase(),
    WILY_DATA: newFolder(),
    WILY_PORT: '0',
    WILY_RATE: '4000',
    WILY_PROXY: '127.0.0.1',
    WILY_CONSOLE: join(process.cwd(), 'console/dist'),
  };
  service = await serviceProcess(env);
  key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
  client = new Client({ address: service.address, key });
});
afterAll(() => service?.kill());

/** The network of whoever knocks: another one for each test, also where one is tried once more. */
let network = 0;
beforeEach(() => {
  network++;
});
const place = (last: number): string => `198.51.${network}.${last}`;
const place6 = (last: string): string => `2001:db8:1:${network}:${last}`;

/** A request as a trusted proxy hands it on, from an address of its own. */
const from = (address: string, path: string, headers: Record<string, string> = {}): Promise<Response> =>
  fetch(`${service.address}${path}`, { headers: { 'x-forwarded-for': address, ...headers } });

/** What the service answers to bytes on a bare line. */
function answerTo(bytes: string, more = ''): Promise<string> {
  const { port } = new URL(service.address);
  return new Promise((done, failed) => {
    const socket = connect(Number(port), '127.0.0.1');
    let heard = '';
    socket.on('data', (data) => {
      heard += String(data);
      if (/\r\n\r\n[\s\S]*\}\s*$/.test(heard)) socket.end();
    });
    socket.on('close', () => done(heard));
    socket.on('error', failed);
    socket.write(bytes);
    if (more) setImmediate(() => socket.write(more));
  });
}

describe('a page of somebody else', () => {
  it('does not shut its visitor out: a cookie that it sends along is no guess', async () => {
    const { word } = await client.makeLogin();
    const response = await fetch(`${service.address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: service.address },
      body: JSON.stringify({ word }),
    });
    const cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? '';
    const here = place(77);
    for (let i = 0; i < 30; i++) {
      const foreign = await from(here, '/api/tables', { cookie, origin: 'http://elsewhere.test' });
      expect(foreign.status).toBe(401);
    }
    // An unknown key from there would be refused without a look, had these been guesses.
    expect((await from(here, '/api/tables', { authorization: 'Bearer nobody' })).status).toBe(401);
    expect((await from(here, '/api/tables', { cookie })).status).toBe(200);
  });
});

describe('nobody has a right', () => {
  it('for being near: the console gives no cookie, and a request without a key is a stranger', async () => {
    for (const path of ['/', '/games', '/index.html']) {
      const page = await fetch(`${service.address}${path}`);
      expect(page.status).toBe(200);
      expect(page.headers.get('set-cookie')).toBeNull();
    }
    expect((await fetch(`${service.address}/api/tables`)).status).toBe(401);
    expect(await new Client({ address: service.address }).session()).toEqual({ role: 'nobody' });
  });

  it('to more than its key is for: a seat reads its table and its plan, not the sheets', async () => {
    const opened = await openTwo(client);
    for (const mine of [seatKey(opened, 1), opened.keys.watch, opened.keys.host]) {
      const it = client.withKey(mine);
      const works = [
        () => it.sheets(),
        () => it.sheet('Lantern Twenty-One'),
        () => it.tables(),
        () => it.looks(opened.table.id),
      ];
      for (const work of works) await expect(work()).rejects.toMatchObject({ status: 403 });
      expect((await it.plan(opened.table.id)).name).toBe('Lantern Twenty-One');
      expect((await it.table(opened.table.id)).id).toBe(opened.table.id);
    }
  });

  it('for ever: keys to watch end for all who hold one', async () => {
    const opened = await openTwo(client);
    const { id } = opened.table;
    const watcher = client.withKey(opened.keys.watch);
    expect((await watcher.view(id)).viewer).toBe('watch');
    await expect(watcher.endWatchKeys(id)).rejects.toMatchObject({ status: 403 });
    await client.withKey(opened.keys.host).endWatchKeys(id);
    await expect(watcher.view(id)).rejects.toMatchObject({ status: 401 });
    expect((await client.withKey(seatKey(opened, 1)).view(id)).viewer).toBe(1);
  });
});

describe('whoever guesses keys', () => {
  it('waits, and nobody else does', async () => {
    const guess = (address: string, i: number): Promise<Response> =>
      from(address, '/api/session', { authorization: `Bearer developer_guess${i}` });
    const statuses: number[] = [];
    for (let i = 0; i < 24; i++) statuses.push((await guess(place(7), i)).status);
    expect(statuses.slice(0, 20)).not.toContain(429);
    expect(statuses.slice(21)).toEqual([429, 429, 429]);
    // The same network of IPv6 is one; another address is not.
    for (let i = 0; i < 22; i++) await guess(place6(`:${i + 1}`), i);
    expect((await guess(place6('ffff::1'), 99)).status).toBe(429);
    expect((await guess(place(8), 99)).status).toBe(200);
    expect((await from(place(7), '/api/session')).status).toBe(200);
    // Whoever came with a good key before is no stranger, wherever it comes from.
    expect((await from(place(7), '/api/sheets', { authorization: `Bearer ${key}` })).status).toBe(200);
    // What a stranger writes in front of its own address counts for nothing.
    expect((await guess(`${place(9)}, ${place(7)}`, 99)).status).toBe(429);
  });

  it('without a key spends its own allowance, and those with one have theirs', async () => {
    const answers = await Promise.all(Array.from({ length: 1_010 }, () => from(place(20), '/api/session')));
    const refused = answers.filter(({ status }) => status === 429);
    expect(refused.length).toBeGreaterThan(0);
    expect(refused[0]?.headers.get('retry-after')).toMatch(/^\d+$/);
    expect((await from(place(20), '/api/session', { authorization: `Bearer ${key}` })).status).toBe(200);
  });

  it('is refused before its body is read', async () => {
    const response = await fetch(`${service.address}/api/sheets`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"source": '.padEnd(200_000, ' '),
    });
    expect(response.status).toBe(401);
  });
});

describe('answers', () => {
  it('stay in no cache', async () => {
    const opened = await openTwo(client);
    for (const path of ['/api/session', `/api/tables/${opened.table.id}/view`, '/api/sheets', '/api/nothing'])
      expect(
        (await fetch(`${service.address}${path}`, { headers: { authorization: `Bearer ${key}` } })).headers.get(
          'cache-control',
        ),
      ).toBe('no-store');
  });

  it('come to whoever would rather speak another protocol', async () => {
    const ask = 'Connection: Upgrade, HTTP2-Settings\r\nUpgrade: h2c\r\nHTTP2-Settings: AAMAAABkAAQBAAAAAAIAAAAA\r\n';
    const get = await answerTo(`GET /health HTTP/1.1\r\nHost: 127.0.0.1\r\n${ask}\r\n`);
    expect(get).toMatch(/^HTTP\/1.1 200 /);
    const body = JSON.stringify({ source: 'game "H2" for 1 seat { deck standard play { finish } }' });
    const post = await answerTo(
      `POST /api/sheets/check HTTP/1.1\r\nHost: 127.0.0.1\r\nAuthorization: Bearer ${key}\r\nContent-Type: application/json\r\nContent-Length: ${body.length}\r\n${ask}\r\n${body.slice(0, 20)}`,
      body.slice(20),
    );
    expect(post).toMatch(/^HTTP\/1.1 200 /);
    expect(post).toContain('"lines":1');
  });
});

describe('sockets', () => {
  it('that do not say who they are are few from one address, and others still come in', async () => {
    const opened = await openTwo(client);
    const address = `${service.address.replace('http', 'ws')}/api/tables/${opened.table.id}/live`;
    const open = (forwarded: string): Promise<WebSocket | number> =>
      new Promise((done) => {
        const socket = new WebSocket(address, { headers: { 'x-forwarded-for': forwarded } });
        socket.once('open', () => done(socket));
        socket.once('unexpected-response', (_request, response) => done(response.statusCode ?? 0));
        socket.on('error', () => undefined);
      });
    const silent = await Promise.all(Array.from({ length: 70 }, () => open(place(40))));
    expect(silent.filter((one) => one === 429).length).toBe(6);
    const other = await open(place(41));
    expect(other).toBeInstanceOf(WebSocket);
    // Whoever says who it is makes room for others.
    const [first] = silent;
    const heard = new Promise((done) => (first as WebSocket).once('message', done));
    (first as WebSocket).send(JSON.stringify({ type: 'hello', key: seatKey(opened, 1) }));
    await heard;
    expect(await open(place(40))).toBeInstanceOf(WebSocket);
    for (const one of [...silent, other]) if (one instanceof WebSocket) one.terminate();
  });
});

describe('looks with a right that others do not have', () => {
  it('are written down, and read by developers', async () => {
    const opened = await openTwo(client);
    const { id } = opened.table;
    await client.view(id, 1);
    await client.view(id, 'open');
    await client.view(id, 'watch');
    await client.steps(id, undefined, 2);
    await client.past(id, 0, 'watch');
    await client.record(id);
    await client.newKey(id, { role: 'watch' });
    await client.withKey(seatKey(opened, 1)).view(id);
    const whats = (await client.looks(id)).map(({ what }) => what);
    expect(whats).toEqual([
      'new watch key',
      'whole record',
      'past',
      'events as seat 2',
      'open hands',
      'hands as seat 1',
      'opened with cards or a seed known',
    ]);
    await expect(client.withKey(opened.keys.host).looks(id)).rejects.toBeInstanceOf(ServiceError);
  });
});
