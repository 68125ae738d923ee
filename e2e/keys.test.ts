import { Client } from '@wily-jester/client';
import { openapi } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, seatKey, startTestService } from './setup/service.js';

let service: Service;
let developer: Client;
beforeAll(async () => {
  ({ service, client: developer } = await startTestService());
});
afterAll(() => service.stop());

/** Those who knock, in the order of the columns below. */
const WHO = ['none', 'wrong', 'watch', 'other seat', 'own seat', 'host', 'other table', 'developer'] as const;

type Statuses = readonly [number, number, number, number, number, number, number, number];
const ANYBODY: Statuses = [200, 200, 200, 200, 200, 200, 200, 200];
/** Any key of the table. */
const TABLE: Statuses = [401, 401, 200, 200, 200, 200, 403, 200];
const SEAT: Statuses = [401, 401, 403, 403, 200, 200, 403, 200];
const HOST: Statuses = [401, 401, 403, 403, 403, 200, 403, 200];
const DEVELOPER: Statuses = [401, 401, 403, 403, 403, 403, 403, 200];
/** The same with another answer for those who may. */
const answered = (statuses: Statuses, status: number): Statuses =>
  statuses.map((s) => (s === 200 ? status : s)) as unknown as Statuses;
const made = (statuses: Statuses): Statuses => answered(statuses, 201);

const SHEET = 'game "Key Trial" for 1 seat { deck standard play { ask seats[1] { option go { } } finish } }';
const bet = (once: string): object => ({ ask: 0, option: 'bet', args: { amount: 10 }, once });

interface Call {
  readonly call: string;
  /** The address with a table's id put in. */
  readonly path: (table: string) => string;
  readonly body?: unknown;
  /** Makes room for what the call makes, or makes what it ends. */
  readonly before?: () => Promise<unknown>;
  readonly expected: Statuses;
}
const absent = (): undefined => undefined;

/** Every operation of the interface; `own seat` is seat 1. */
const CALLS: readonly Call[] = [
  { call: 'get /api/session', path: () => '/api/session', expected: ANYBODY },
  { call: 'post /api/session', path: () => '/api/session', body: { word: 'no' }, expected: answered(ANYBODY, 401) },
  { call: 'delete /api/session', path: () => '/api/session', expected: answered(ANYBODY, 204) },
  { call: 'get /api/developers', path: () => '/api/developers', expected: DEVELOPER },
  {
    call: 'post /api/developers',
    path: () => '/api/developers',
    body: { name: 'heron' },
    before: () => developer.endDeveloper('heron').catch(absent),
    expected: made(DEVELOPER),
  },
  {
    call: 'delete /api/developers/{developer}',
    path: () => '/api/developers/heron',
    before: () => developer.addDeveloper('heron').catch(absent),
    expected: answered(DEVELOPER, 204),
  },
  { call: 'post /api/logins', path: () => '/api/logins', body: {}, expected: made(DEVELOPER) },
  {
    call: 'delete /api/sheets/{sheet}',
    path: () => '/api/sheets/Lantern%20Twenty-One',
    expected: answered(DEVELOPER, 409),
  },
  { call: 'get /api/tables/{table}/looks', path: (t) => `/api/tables/${t}/looks`, expected: DEVELOPER },
  { call: 'post /api/tables/{table}/retry', path: (t) => `/api/tables/${t}/retry`, expected: DEVELOPER },
  {
    call: 'delete /api/tables/{table}/keys/watch',
    path: (t) => `/api/tables/${t}/keys/watch`,
    // The host comes after the watcher here: it ends the watcher's key, and its own stays.
    expected: answered(HOST, 204),
  },
  { call: 'delete /api/tables/{table}', path: (t) => `/api/tables/${t}`, expected: answered(DEVELOPER, 204) },
  { call: 'get /api/sheets', path: () => '/api/sheets', expected: DEVELOPER },
  {
    call: 'post /api/sheets',
    path: () => '/api/sheets',
    body: { source: SHEET },
    before: () => developer.deleteSheet('Key Trial').catch(absent),
    expected: made(DEVELOPER),
  },
  { call: 'post /api/sheets/check', path: () => '/api/sheets/check', body: { source: SHEET }, expected: DEVELOPER },
  { call: 'get /api/sheets/{sheet}', path: () => '/api/sheets/Lantern%20Twenty-One', expected: DEVELOPER },
  {
    call: 'post /api/sheets/{sheet}/settings',
    path: () => '/api/sheets/Lantern%20Twenty-One/settings',
    body: { settings: {} },
    expected: DEVELOPER,
  },
  { call: 'get /api/tables', path: () => '/api/tables', expected: DEVELOPER },
  {
    call: 'post /api/tables',
    path: () => '/api/tables',
    body: { sheet: 'Lantern Twenty-One', seats: [{ name: 'Wren' }] },
    expected: made(DEVELOPER),
  },
  { call: 'get /api/tables/{table}', path: (t) => `/api/tables/${t}`, expected: TABLE },
  { call: 'get /api/tables/{table}/plan', path: (t) => `/api/tables/${t}/plan`, expected: TABLE },
  { call: 'get /api/tables/{table}/view', path: (t) => `/api/tables/${t}/view`, expected: TABLE },
  {
    call: 'get /api/tables/{table}/view as seat 1',
    path: (t) => `/api/tables/${t}/view?as=1`,
    expected: [401, 401, 403, 403, 200, 403, 403, 200],
  },
  { call: 'get /api/tables/{table}/view as open', path: (t) => `/api/tables/${t}/view?as=open`, expected: DEVELOPER },
  {
    call: 'get /api/tables/{table}/choices',
    path: (t) => `/api/tables/${t}/choices?seat=1`,
    expected: [401, 401, 403, 403, 200, 403, 403, 200],
  },
  {
    call: 'post /api/tables/{table}/choices',
    path: (t) => `/api/tables/${t}/choices`,
    body: { ...bet('matrix'), seat: 1 },
    expected: [401, 401, 403, 403, 200, 403, 403, 200],
  },
  {
    call: 'get /api/tables/{table}/hint',
    path: (t) => `/api/tables/${t}/hint?seat=1&milliseconds=20`,
    expected: [401, 401, 403, 403, 200, 403, 403, 200],
  },
  { call: 'get /api/tables/{table}/events', path: (t) => `/api/tables/${t}/events?from=0`, expected: TABLE },
  { call: 'get /api/tables/{table}/feed', path: (t) => `/api/tables/${t}/feed`, expected: TABLE },
  { call: 'get /api/tables/{table}/record', path: (t) => `/api/tables/${t}/record`, expected: TABLE },
  { call: 'get /api/tables/{table}/past/{number}', path: (t) => `/api/tables/${t}/past/0`, expected: DEVELOPER },
  {
    call: 'get /api/tables/{table}/analysis/{number}',
    path: (t) => `/api/tables/${t}/analysis/1?milliseconds=20`,
    expected: answered(DEVELOPER, 422),
  },
  {
    call: 'post /api/tables/{table}/branch',
    path: (t) => `/api/tables/${t}/branch`,
    body: { number: 0 },
    expected: made(DEVELOPER),
  },
  {
    call: 'post /api/tables/{table}/seats/{seat}/bot',
    path: (t) => `/api/tables/${t}/seats/1/bot`,
    body: {},
    expected: SEAT,
  },
  {
    call: 'post /api/tables/{table}/seats/{seat}/leave',
    path: (t) => `/api/tables/${t}/seats/1/leave`,
    expected: SEAT,
  },
  { call: 'post /api/tables/{table}/seats/{seat}/take', path: (t) => `/api/tables/${t}/seats/1/take`, expected: SEAT },
  {
    call: 'post /api/tables/{table}/keys',
    path: (t) => `/api/tables/${t}/keys`,
    body: { role: 'watch' },
    expected: made(HOST),
  },
  {
    call: 'post /api/records',
    path: () => '/api/records',
    body: { record: '{}' },
    expected: [401, 401, 403, 403, 403, 403, 403, 422],
  },
  // Its seed was typed: whoever may ask is told that nothing is promised.
  {
    call: 'get /api/tables/{table}/fairness',
    path: (t) => `/api/tables/${t}/fairness`,
    expected: answered(TABLE, 409),
  },
  {
    call: 'post /api/gatherings',
    path: () => '/api/gatherings',
    body: { sheet: 'Lantern Twenty-One', seats: [{ name: 'Wren' }] },
    expected: made(DEVELOPER),
  },
  // Nobody gathers for a table that is there.
  { call: 'get /api/gatherings/{table}', path: (t) => `/api/gatherings/${t}`, expected: answered(TABLE, 404) },
  {
    call: 'post /api/gatherings/{table}/parts',
    path: (t) => `/api/gatherings/${t}/parts`,
    body: { kind: 'promise', value: 'a'.repeat(64), seat: 1 },
    expected: answered(TABLE, 404),
  },
  {
    call: 'post /api/gatherings/{table}/deal',
    path: (t) => `/api/gatherings/${t}/deal`,
    expected: answered(HOST, 404),
  },
  { call: 'get /api/drafts', path: () => '/api/drafts', expected: DEVELOPER },
  { call: 'post /api/drafts', path: () => '/api/drafts', body: { sheet: SHEET }, expected: made(DEVELOPER) },
  { call: 'get /api/drafts/{draft}', path: () => '/api/drafts/none', expected: answered(DEVELOPER, 404) },
  {
    call: 'put /api/drafts/{draft}',
    path: () => '/api/drafts/none',
    body: { after: 1, sheet: SHEET, rehearsals: '', parts: {} },
    expected: answered(DEVELOPER, 404),
  },
  { call: 'delete /api/drafts/{draft}', path: () => '/api/drafts/none', expected: answered(DEVELOPER, 404) },
  {
    call: 'get /api/drafts/{draft}/editions',
    path: () => '/api/drafts/none/editions',
    expected: answered(DEVELOPER, 404),
  },
  {
    call: 'get /api/drafts/{draft}/editions/{number}',
    path: () => '/api/drafts/none/editions/1',
    expected: answered(DEVELOPER, 404),
  },
  {
    call: 'post /api/drafts/{draft}/shelf',
    path: () => '/api/drafts/none/shelf',
    body: { source: SHEET },
    expected: answered(DEVELOPER, 404),
  },
  { call: 'post /api/drafts/{draft}/keys', path: () => '/api/drafts/none/keys', expected: answered(DEVELOPER, 404) },
  { call: 'delete /api/drafts/{draft}/keys', path: () => '/api/drafts/none/keys', expected: answered(DEVELOPER, 404) },
  { call: 'get /api/drafts/{draft}/events', path: () => '/api/drafts/none/events', expected: answered(DEVELOPER, 404) },
  { call: 'get /api/trials', path: () => '/api/trials', expected: DEVELOPER },
  {
    call: 'post /api/trials',
    path: () => '/api/trials',
    body: { sheet: 'Lantern Twenty-One', games: 1 },
    expected: made(DEVELOPER),
  },
  { call: 'get /api/trials/{trial}', path: () => '/api/trials/none', expected: answered(DEVELOPER, 404) },
  { call: 'delete /api/trials/{trial}', path: () => '/api/trials/none', expected: answered(DEVELOPER, 404) },
  { call: 'post /api/trials/{trial}/stop', path: () => '/api/trials/none/stop', expected: answered(DEVELOPER, 404) },
  { call: 'get /api/trials/{trial}/events', path: () => '/api/trials/none/events', expected: answered(DEVELOPER, 404) },
  { call: 'post /api/tables/{table}/close', path: (t) => `/api/tables/${t}/close`, expected: HOST },
  { call: 'get /health', path: () => '/health', expected: ANYBODY },
  { call: 'get /metrics', path: () => '/metrics', expected: ANYBODY },
];

const operation = ({ call }: Call): string => call.split(' ').slice(0, 2).join(' ');

async function status(method: string, path: string, body: unknown, key: string | null): Promise<number> {
  const stopping = new AbortController();
  const response = await fetch(`${service.address}${path}`, {
    method,
    signal: stopping.signal,
    headers: {
      ...(key === null ? {} : { authorization: `Bearer ${key}` }),
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  stopping.abort();
  return response.status;
}

describe('keys', () => {
  it('are tried at every operation that the interface describes', () => {
    const described = Object.entries(openapi.paths).flatMap(([path, operations]) =>
      Object.keys(operations).map((method) => `${method} ${path}`),
    );
    expect([...new Set(CALLS.map(operation))].sort()).toEqual([...described].sort());
  });

  it.each(CALLS)(
    'open $call to whom they should, and to nobody else',
    async ({ call, path, body, before, expected }) => {
      await before?.();
      const opened = await openTwo(developer);
      const other = await openTwo(developer);
      const keys: Record<(typeof WHO)[number], string | null> = {
        none: null,
        wrong: 'seat_nobody',
        watch: opened.keys.watch,
        'other seat': seatKey(opened, 2),
        'own seat': seatKey(opened, 1),
        host: opened.keys.host,
        'other table': seatKey(other, 1),
        developer: service.developerKey,
      };
      const method = (call.split(' ')[0] ?? '').toUpperCase();
      const found: [string, number][] = [];
      for (const who of WHO) found.push([who, await status(method, path(opened.table.id), body, keys[who])]);
      expect(found).toEqual(WHO.map((who, i) => [who, expected[i]]));
    },
  );

  it('let nobody do anything with them once they have ended', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    const host = developer.withKey(opened.keys.host);
    const wren = developer.withKey(seatKey(opened, 1));
    expect((await wren.view(id)).viewer).toBe(1);
    const made = await host.newKey(id, { role: 'seat', seat: 1 });
    await expect(wren.view(id)).rejects.toMatchObject({ kind: 'no-key' });
    expect((await developer.withKey(made.key).view(id)).viewer).toBe(1);
    expect((await developer.withKey(seatKey(opened, 2)).view(id)).viewer).toBe(2);
  });

  it('are asked for where there is none, and called unknown where one came', async () => {
    await expect(new Client({ address: service.address }).tables()).rejects.toThrow(
      'Send a developer, seat or watch key',
    );
    await expect(developer.withKey('seat_nobody').tables()).rejects.toThrow('This key is unknown here');
  });

  it('tell whoever asks what they are for', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    expect(await developer.withKey(seatKey(opened, 2)).session()).toEqual({ role: 'seat', table: id, seat: 2 });
    expect(await developer.withKey(opened.keys.host).session()).toEqual({ role: 'host', table: id });
    expect(await developer.session()).toEqual({ role: 'developer', developer: 'first' });
    expect(await developer.withKey('seat_nobody').session()).toEqual({ role: 'nobody' });
  });
});
