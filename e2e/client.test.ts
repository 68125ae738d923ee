import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Client, type ServiceError, Unreachable } from '@wily-jester/client';
import type { ClientMessage, ServerMessage, TableView } from '@wily-jester/protocol';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { type WebSocket, WebSocketServer } from 'ws';
import { until } from './setup/service.js';

const view = (number: number, chapter = ''): TableView =>
  ({
    number,
    viewer: 1,
    chapter: { count: 0, title: chapter },
    seats: [],
    values: {},
    piles: {},
    notes: {},
    waiting: { kind: 'over' },
    offers: [],
    result: null,
  }) as unknown as TableView;

/** A server that says only what a test tells it to, to see what the client does with it. */
describe('the client', () => {
  let server: WebSocketServer;
  let client: Client;
  let heard: ClientMessage[];
  let sockets: WebSocket[];
  beforeEach(async () => {
    server = new WebSocketServer({ port: 0, host: '127.0.0.1' });
    await new Promise((done) => server.once('listening', done));
    client = new Client({ address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, key: 'seat_one' });
    heard = [];
    sockets = [];
    server.on('connection', (socket) => {
      sockets.push(socket);
      socket.on('message', (data) => heard.push(JSON.parse(String(data))));
    });
  });
  afterEach(() => {
    for (const socket of sockets) socket.terminate();
    server.close();
  });
  const say = (message: ServerMessage): void => sockets.at(-1)?.send(JSON.stringify(message));

  it('says hello first, with its key and eyes, and keeps its view true by patches', async () => {
    const seen: [number, boolean][] = [];
    const follow = client.follow('abcdefghijkm', { as: 1, onView: (now, _, fresh) => seen.push([now.number, fresh]) });
    await until(() => heard.length === 1, 'hello');
    expect(heard[0]).toEqual({ type: 'hello', key: 'seat_one', as: 1 });
    say({ type: 'view', number: 4, view: view(4), steps: [] });
    await until(() => seen.length === 1, 'the view');
    const before = follow.view;
    say({
      type: 'step',
      number: 5,
      events: [],
      lines: [],
      scores: [],
      patch: [
        { op: 'replace', path: '/number', value: 5 },
        { op: 'replace', path: '/chapter/title', value: 'Two' },
      ],
    });
    await until(() => seen.length === 2, 'the step');
    expect(follow.view).toEqual(view(5, 'Two'));
    expect(before).toEqual(view(4));
    expect(seen).toEqual([
      [4, true],
      [5, false],
    ]);
    follow.stop();
  });

  it('comes back from its number, and sends unanswered choices again under their word', async () => {
    const states: string[] = [];
    const follow = client.follow('abcdefghijkm', { onConnection: (state) => states.push(state) });
    await until(() => heard.length === 1, 'hello');
    say({ type: 'view', number: 7, view: view(7) });
    await until(() => states.includes('open'), 'the view');
    const choice = { ask: 7, option: 'hit', once: 'word' };
    const answer = follow.choose(choice);
    await until(() => heard.length === 2, 'the choice');
    sockets[0]?.terminate();
    await until(() => heard.length === 4, 'to be back');
    expect(heard[2]).toEqual({ type: 'hello', key: 'seat_one', from: 7 });
    expect(heard[3]).toEqual({ type: 'choose', choice });
    say({ type: 'chosen', once: 'word', chosen: { number: 8, seat: 1, option: 'hit', args: {}, repeated: true } });
    expect(await answer).toMatchObject({ number: 8, repeated: true });
    expect(states).toEqual(['open', 'lost']);
    follow.stop();
  });

  it('makes a new line at once where it is told to, from its number on, and listens no more to the old one', async () => {
    const states: string[] = [];
    const numbers: number[] = [];
    const follow = client.follow('abcdefghijkm', {
      onConnection: (state) => states.push(state),
      onView: ({ number }) => numbers.push(number),
    });
    await until(() => heard.length === 1, 'hello');
    say({ type: 'view', number: 7, view: view(7) });
    await until(() => numbers.length === 1, 'the view');
    const [old] = sockets;
    follow.renew();
    // What the old line says before it is closed comes too late.
    old?.send(JSON.stringify({ type: 'view', number: 8, view: view(8) }));
    await until(() => heard.length === 2, 'the second hello');
    expect(heard[1]).toEqual({ type: 'hello', key: 'seat_one', from: 7 });
    say({ type: 'view', number: 9, view: view(9) });
    await until(() => numbers.length === 2, 'the new view');
    expect(numbers).toEqual([7, 9]);
    await until(() => old?.readyState === 3, 'the old line to be closed');
    expect(states).toEqual(['open', 'open']);
    expect(sockets).toHaveLength(2);
    follow.stop();
    follow.renew();
    expect(sockets).toHaveLength(2);
  });

  it('says hello on one line alone, where it is told to make a new one while the first is being made', async () => {
    const follow = client.follow('abcdefghijkm', {});
    follow.renew();
    await until(() => heard.length === 1, 'hello');
    say({ type: 'view', number: 3, view: view(3) });
    await until(() => follow.view?.number === 3, 'the view');
    expect(heard).toHaveLength(1);
    expect(sockets.filter((socket) => socket.readyState === socket.OPEN)).toHaveLength(1);
    follow.stop();
  });

  it('gives a refusal to the choice that it is for, and others to whoever listens', async () => {
    const problems: ServiceError[] = [];
    const follow = client.follow('abcdefghijkm', { onProblem: (problem) => problems.push(problem) });
    const answer = follow.choose({ ask: 0, option: 'fly', once: 'a' }).catch((error: ServiceError) => error);
    await until(() => heard.length === 2, 'hello and the choice that waited for it');
    const problem = { type: 'urn:wily-jester:problem:refused', title: 'No', status: 422, detail: 'Birds only.' };
    say({ type: 'problem', once: 'a', problem });
    expect(await answer).toMatchObject({ message: 'Birds only.', kind: 'refused', status: 422 });
    say({ type: 'problem', problem });
    await until(() => problems.length === 1, 'the other problem');
    follow.stop();
  });

  it('stops for good where it is turned away, and when it is told to', async () => {
    const follow = client.follow('abcdefghijkm', {});
    await until(() => heard.length === 1, 'hello');
    const waiting = follow.choose({ ask: 0, option: 'hit', once: 'a' }).catch((error: unknown) => error);
    sockets[0]?.close(4003, 'not yours');
    expect(await waiting).toBeInstanceOf(Unreachable);
    await expect(follow.choose({ ask: 0, option: 'hit', once: 'b' })).rejects.toThrow(Unreachable);
    expect(sockets).toHaveLength(1);
  });

  it('asks once more where a line was closed, if it only reads', async () => {
    const asked: string[] = [];
    const dropping = createServer((request, response) => {
      asked.push(request.method ?? '');
      // The first request on each way is dropped without a word.
      if (asked.filter((method) => method === request.method).length === 1) request.socket.destroy();
      else response.setHeader('content-type', 'application/json').end('{"drafts":[]}');
    });
    await new Promise<void>((done) => dropping.listen(0, '127.0.0.1', done));
    const { port } = dropping.address() as AddressInfo;
    const dropped = new Client({ address: `http://127.0.0.1:${port}` });
    expect(await dropped.drafts()).toEqual([]);
    await expect(dropped.addDraft({ sheet: '' })).rejects.toThrow(Unreachable);
    expect(asked).toEqual(['GET', 'GET', 'POST']);
    dropping.closeAllConnections();
    dropping.close();
  });

  it('asks without a key where it has none, and says who does not answer', async () => {
    const keyless = new Client({ address: client.options.address });
    const follow = keyless.follow('abcdefghijkm', { as: 'watch' });
    await until(() => heard.length === 1, 'hello');
    expect(heard[0]).toEqual({ type: 'hello', as: 'watch' });
    follow.stop();
    await expect(new Client({ address: 'http://127.0.0.1:9' }).tables()).rejects.toThrow('Is it running?');
  });
});
