import { type Client, type Follow, ServiceError, Unreachable, type Viewer } from '@wily-jester/client';
import type { ServerMessage, Step, TableView } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { FULL } from './setup/crowd.js';
import { openTwo, seatKey, startTestService, until } from './setup/service.js';

let service: Service;
let developer: Client;
const following: Follow[] = [];
const sockets: WebSocket[] = [];
beforeAll(async () => {
  ({ service, client: developer } = await startTestService());
});
afterEach(() => {
  for (const follow of following.splice(0)) follow.stop();
  for (const socket of sockets.splice(0)) socket.terminate();
});
afterAll(() => service.stop());

interface Watched {
  readonly follow: Follow;
  readonly steps: Step[];
  readonly fresh: number[];
  readonly states: string[];
  readonly statuses: string[];
}

function follow(client: Client, id: string, as?: Viewer): Watched {
  const steps: Step[] = [];
  const fresh: number[] = [];
  const states: string[] = [];
  const statuses: string[] = [];
  const followed = client.follow(id, {
    as,
    onView: (view: TableView, came, isFresh) => {
      steps.push(...came);
      if (isFresh) fresh.push(view.number);
    },
    onConnection: (state) => states.push(state),
    onStatus: (table) => statuses.push(table.status),
  });
  following.push(followed);
  return { follow: followed, steps, fresh, states, statuses };
}

/** A bare socket, to send what the client never would. */
async function bare(
  id: string,
  headers: Record<string, string> = {},
  options: { autoPong?: boolean } = {},
): Promise<{ socket: WebSocket; heard: ServerMessage[]; closed: () => number | null }> {
  const socket = new WebSocket(`${service.address.replace('http', 'ws')}/api/tables/${id}/live`, {
    headers,
    ...options,
  });
  sockets.push(socket);
  const heard: ServerMessage[] = [];
  let code: number | null = null;
  socket.on('message', (data) => heard.push(JSON.parse(String(data))));
  socket.on('close', (closing) => {
    code = closing;
  });
  await new Promise((done, failed) => {
    socket.once('open', done);
    socket.once('error', failed);
  });
  return { socket, heard, closed: () => code };
}

describe('a live table', () => {
  it('keeps the views of all who follow true, each its own', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    const wren = follow(developer.withKey(seatKey(opened, 1)), id);
    const otter = follow(developer.withKey(seatKey(opened, 2)), id);
    const crowd = follow(developer.withKey(opened.keys.watch), id);
    const open = follow(developer, id, 'open');
    const all = [wren, otter, crowd, open];
    await until(() => all.every((w) => w.follow.view !== null), 'all to see the table');
    expect(all.map((w) => w.follow.view?.viewer)).toEqual([1, 2, 'watch', 'open']);
    await wren.follow.choose({ ask: 0, option: 'bet', args: { amount: 10 }, once: 'w1' });
    await otter.follow.choose({ ask: 0, option: 'bet', args: { amount: 20 }, once: 'o1' });
    await wren.follow.choose({ ask: 2, option: 'stand', once: 'w2' });
    await until(() => all.every((w) => w.follow.view?.number === 3), 'all to be at number 3');
    const eyes: Viewer[] = [1, 2, 'watch', 'open'];
    for (const [i, watched] of all.entries())
      expect(watched.follow.view).toEqual(await developer.view(id, eyes[i] as Viewer));
    expect(open.follow.view?.piles).toHaveProperty('shoe.cards');
    expect(crowd.follow.view?.piles).not.toHaveProperty('shoe.cards');
    expect(wren.steps.map((s) => s.number)).toEqual([0, 1, 2, 3]);
    expect(wren.steps[2]?.lines.map((l) => l.text)).toContain('You bet 10.');
    expect(crowd.steps[2]?.lines.map((l) => l.text)).toContain('Wren bets 10.');
    expect(wren.steps[1]?.events).toEqual([]);
    const shuffled = crowd.steps[2]?.events.find((e) => e.kind === 'shuffled');
    expect(shuffled?.commitment).toMatch(/^[0-9a-f]{64}$/);
  });

  it('tells what was missed when a client comes back, from its number on', async () => {
    const { table } = await openTwo(developer);
    const watched = follow(developer, table.id, 1);
    await until(() => watched.follow.view !== null, 'the first view');
    await developer.choose(table.id, { ask: 0, option: 'bet', args: { amount: 10 }, once: '1', seat: 1 });
    await until(() => watched.follow.view?.number === 1, 'number 1');
    watched.follow.drop();
    await until(() => watched.states.includes('lost'), 'the connection to be lost');
    await developer.choose(table.id, { ask: 0, option: 'bet', args: { amount: 10 }, once: '1', seat: 2 });
    await until(() => watched.follow.view?.number === 2, 'to be back');
    expect(watched.fresh).toEqual([0, 2]);
    expect(watched.steps.map((s) => s.number)).toEqual([0, 1, 2]);
    expect(watched.follow.view).toEqual(await developer.view(table.id, 1));
  });

  it('counts a choice once that was sent while the connection broke', async () => {
    const { table } = await openTwo(developer);
    const watched = follow(developer, table.id, 1);
    await until(() => watched.follow.view !== null, 'the first view');
    const chosen = watched.follow.choose({ ask: 0, option: 'bet', args: { amount: 10 }, once: 'same', seat: 1 });
    watched.follow.drop();
    expect((await chosen).number).toBe(1);
    expect((await developer.table(table.id)).number).toBe(1);
  });

  it('refuses over the socket as over HTTP, to its sender alone', async () => {
    const { table } = await openTwo(developer);
    const wren = follow(developer, table.id, 1);
    const otter = follow(developer, table.id, 2);
    await until(() => wren.follow.view !== null && otter.follow.view !== null, 'both views');
    const error = await wren.follow
      .choose({ ask: 0, option: 'bet', args: { amount: 7 }, once: 'x', seat: 1 })
      .catch((e: unknown) => e);
    expect(error).toBeInstanceOf(ServiceError);
    expect((error as ServiceError).message).toContain('from 10 to 200 in steps of 2');
    expect(otter.steps).toHaveLength(1);
  });

  it('tells how it stands when it is closed, and ends for whom it is not', async () => {
    const opened = await openTwo(developer);
    const other = await openTwo(developer);
    const watched = follow(developer.withKey(opened.keys.watch), opened.table.id);
    await until(() => watched.statuses.length > 0, 'the status');
    await developer.closeTable(opened.table.id);
    await until(() => watched.statuses.includes('closed'), 'the table to close');
    const problems: ServiceError[] = [];
    const stranger = developer
      .withKey(other.keys.watch)
      .follow(opened.table.id, { onProblem: (p) => problems.push(p) });
    following.push(stranger);
    await until(() => problems.length === 1, 'to be turned away');
    expect(problems[0]?.message).toContain('another table');
    await expect(stranger.choose({ ask: 0, option: 'x', once: 'x' })).rejects.toThrow(Unreachable);
  });

  it('shows the clock that runs', async () => {
    const { table } = await openTwo(developer, { clocks: true });
    const { heard, socket } = await bare(table.id);
    socket.send(JSON.stringify({ type: 'hello', key: service.developerKey, as: 1 }));
    await until(() => heard.length > 0, 'the view');
    expect(heard[0]?.clock).toMatchObject({ ask: 0, seconds: 20 });
    expect(heard[0]?.clock?.left).toBeGreaterThan(15);
    await developer.closeTable(table.id);
  });

  it.each([
    ['no JSON', 'hello', 'malformed'],
    ['a choice before hello', '{"type":"choose","choice":{"ask":0,"option":"bet","once":"a"}}', 'no-key'],
    ['an unknown word', '{"type":"shout"}', 'malformed'],
    ["a stranger's key", '{"type":"hello","key":"seat_nobody"}', 'no-key'],
    ['eyes that a key does not have', 'WATCHAS', 'not-allowed'],
    ['nothing to choose', 'CHOOSE', 'malformed'],
  ])('answers %s with a problem, and lives on', async (_, frame, kind) => {
    const opened = await openTwo(developer);
    const { socket, heard } = await bare(opened.table.id);
    if (frame === 'CHOOSE') socket.send(JSON.stringify({ type: 'hello', key: service.developerKey }));
    const sent =
      frame === 'WATCHAS'
        ? JSON.stringify({ type: 'hello', key: opened.keys.watch, as: 1 })
        : frame === 'CHOOSE'
          ? '{"type":"choose"}'
          : frame;
    socket.send(sent);
    await until(() => heard.some((m) => m.type === 'problem'), 'a problem');
    expect(heard.find((m) => m.type === 'problem')?.problem?.type).toBe(`urn:wily-jester:problem:${kind}`);
    expect(await developer.health()).toMatchObject({ status: 'ok' });
  });

  it('turns away sockets of other sites, and of tables that are none', async () => {
    const { table } = await openTwo(developer);
    await expect(bare(table.id, { origin: 'http://elsewhere.example' })).rejects.toThrow('403');
    await expect(bare('no-table')).rejects.toThrow('404');
  });

  it('closes on frames that are too large', async () => {
    const { table } = await openTwo(developer);
    const { socket, closed } = await bare(table.id);
    socket.send('x'.repeat(20_000));
    await until(() => closed() !== null, 'the socket to close');
    expect(closed()).toBe(1009);
  });

  // Two beats go by.
  it.runIf(FULL)('lets go of a client that gives no sign of life, and of no other', async () => {
    const opened = await openTwo(developer);
    const lines = await Promise.all([false, true].map((autoPong) => bare(opened.table.id, {}, { autoPong })));
    for (const [i, { socket }] of lines.entries())
      socket.send(JSON.stringify({ type: 'hello', key: seatKey(opened, i + 1) }));
    const [dead, lives] = lines;
    await until(() => dead?.closed() !== null, 'the dead line to be let go');
    expect(lives?.heard.some((message) => message.type === 'beat')).toBe(true);
    await until(
      async () => (await developer.table(opened.table.id)).seats[0]?.present === false,
      'the seat to be empty',
    );
    expect(lives?.closed()).toBeNull();
    expect((await developer.table(opened.table.id)).seats[1]?.present).toBe(true);
  });
});
