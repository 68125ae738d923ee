import { readFileSync } from 'node:fs';
import { connect, type Socket } from 'node:net';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { FULL } from '../setup/crowd.js';
import { newFolder, serviceProcess } from '../setup/programs.js';
import { freshDatabase, openTwo, seatKey, until } from '../setup/service.js';

/** So often each line is broken in each way: whether an error comes of it hangs on the moment. */
const TIMES = FULL ? 200 : 6;

let service: Awaited<ReturnType<typeof serviceProcess>>;
let client: Client;
let key: string;
let table: string;
let seat: string;
let watch: string;
beforeAll(async () => {
  const env = { WILY_DB_URL: await freshDatabase(), WILY_DATA: newFolder(), WILY_PORT: '0', WILY_RATE: '4000000' };
  service = await serviceProcess(env);
  key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
  client = new Client({ address: service.address, key });
  const opened = await openTwo(client);
  table = opened.table.id;
  seat = seatKey(opened, 1);
  watch = opened.keys.watch;
});
afterAll(() => service?.kill());

const upgrade = (path: string, more = ''): string =>
  `GET ${path} HTTP/1.1\r\nHost: ${new URL(service.address).host}\r\nConnection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n${more}\r\n`;
const get = (path: string): string =>
  `GET ${path} HTTP/1.1\r\nHost: ${new URL(service.address).host}\r\nAuthorization: Bearer ${key}\r\n\r\n`;
/** A frame of a client, masked with zeros. */
const frame = (text: string): Buffer =>
  Buffer.concat([Buffer.from([0x81, 0x80 | text.length, 0, 0, 0, 0]), Buffer.from(text)]);

/** What is sent on a line before it is broken. */
const STATES: Readonly<Record<string, () => readonly (string | Buffer)[]>> = {
  'nothing at all': () => [],
  'half of a head': () => [get('/api/tables').slice(0, 40)],
  'a request': () => [get('/api/tables')],
  'many requests at once': () => [get('/api/tables').repeat(30)],
  'half of a body': () => [
    `POST /api/tables HTTP/1.1\r\nHost: x\r\nAuthorization: Bearer ${key}\r\nContent-Type: application/json\r\nContent-Length: 5000\r\n\r\n{"sheet":`,
  ],
  'a record that is being read': () => [get(`/api/tables/${table}/record`)],
  'events of a table': () => [get(`/api/tables/${table}/feed`)],
  'an upgrade at no such path': () => [upgrade('/nowhere')],
  'an upgrade from another page': () => [upgrade(`/api/tables/${table}/live`, 'Origin: http://elsewhere.test\r\n')],
  'an upgrade with no version': () => [upgrade(`/api/tables/${table}/live`).replace(/Sec-WebSocket-Version.*\r\n/, '')],
  'an upgrade to another protocol': () => [
    upgrade('/health')
      .replace('Upgrade: websocket', 'Upgrade: h2c')
      .replace('Connection: Upgrade', 'Connection: Upgrade, HTTP2-Settings'),
  ],
  'an upgrade that is granted': () => [upgrade(`/api/tables/${table}/live`)],
  'a hello': () => [upgrade(`/api/tables/${table}/live`), frame(`{"type":"hello","key":"${seat}"}`)],
  'half of a frame': () => [
    upgrade(`/api/tables/${table}/live`),
    frame(`{"type":"hello","key":"${seat}"}`).subarray(0, 20),
  ],
  'what is no frame': () => [upgrade(`/api/tables/${table}/live`), Buffer.alloc(64, 0xff)],
};

const ENDS: Readonly<Record<string, (socket: Socket) => void>> = {
  'is reset': (socket) => socket.resetAndDestroy(),
  'is closed by half': (socket) => socket.end(),
  'is closed': (socket) => socket.destroy(),
  'is not read any more': (socket) => void socket.pause(),
};

/** Opens a line, sends what it is to have sent, and breaks it: at once, or when an answer begins. */
function broken(
  sent: readonly (string | Buffer)[],
  end: (socket: Socket) => void,
  when: 'at once' | 'at the answer',
): Promise<void> {
  const { port } = new URL(service.address);
  return new Promise((done) => {
    const socket = connect(Number(port), '127.0.0.1', () => {
      for (const part of sent) socket.write(part);
      if (when === 'at once') end(socket);
      else socket.once('data', () => end(socket));
      // Where nothing is answered, the other end is not waited for.
      if (sent.length === 0 || when === 'at once') setImmediate(() => socket.destroy());
      else setTimeout(() => socket.destroy(), 60);
    });
    socket.on('error', () => undefined);
    socket.on('close', () => done());
  });
}

const stillServes = async (): Promise<void> => {
  expect(service.child.exitCode).toBeNull();
  expect((await fetch(`${service.address}/health`)).status).toBe(200);
};

describe('a line that breaks', () => {
  it.each(Object.keys(STATES))('after %s ends nothing but itself, however it ends', async (state) => {
    for (const end of Object.values(ENDS))
      for (const when of ['at once', 'at the answer'] as const)
        await Promise.all(Array.from({ length: TIMES }, () => broken(STATES[state]?.() ?? [], end, when)));
    await stillServes();
  });

  it('is closed once its upgrade is refused, though the other end never closes it', async () => {
    const { port } = new URL(service.address);
    const ended = (): Promise<void> =>
      new Promise((done) => {
        const socket = connect({ port: Number(port), host: '127.0.0.1', allowHalfOpen: true }, () =>
          socket.write(upgrade('/nowhere')),
        );
        // Whoever keeps its own half open learns that both are gone when it goes on sending.
        socket.on('end', () => {
          const sending = setInterval(() => socket.write('still here'), 20);
          socket.once('close', () => clearInterval(sending));
        });
        socket.on('error', () => undefined);
        socket.on('data', () => undefined);
        socket.on('close', () => done());
      });
    await Promise.all(Array.from({ length: 20 }, ended));
    await stillServes();
  });
});

describe('streams of events', () => {
  it('are limited as sockets are: one key has no two hundred', async () => {
    const ends = new AbortController();
    const feed = (): Promise<Response> =>
      fetch(`${service.address}/api/tables/${table}/feed`, {
        headers: { authorization: `Bearer ${watch}` },
        signal: ends.signal,
      });
    const answers = await Promise.all(Array.from({ length: 80 }, feed));
    const many = (status: number): number => answers.filter((answer) => answer.status === status).length;
    expect([many(200), many(429)]).toEqual([64, 16]);
    // Sockets and streams count together.
    const socket = new WebSocket(`${service.address.replace('http', 'ws')}/api/tables/${table}/live`);
    const heard: string[] = [];
    socket.on('message', (data) => heard.push(String(data)));
    await new Promise((done) => socket.once('open', done));
    socket.send(JSON.stringify({ type: 'hello', key: watch }));
    await until(() => heard.length > 0, 'an answer');
    expect(heard[0]).toContain('too many lines');
    ends.abort();
    await until(async () => {
      const again = new AbortController();
      const { status } = await fetch(`${service.address}/api/tables/${table}/feed`, {
        headers: { authorization: `Bearer ${watch}` },
        signal: again.signal,
      });
      again.abort();
      return status === 200;
    }, 'room again');
  });
});
