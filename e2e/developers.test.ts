import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { wily } from './setup/programs.js';
import { openTwo, startTestService, until } from './setup/service.js';

let service: Service;
let first: Client;
let data: string;
beforeEach(async () => {
  ({ service, client: first, data } = await startTestService());
});
afterEach(() => service.stop());

const SHEET =
  'game "By Heron" for 1 seat { deck standard play { shuffle pack repeat { ask seats[1] { option go { } option stop { finish } } } } }';

/** The cookie that a word gives; an empty one where it gives none. */
async function cookieFor(word: string): Promise<string> {
  const response = await fetch(`${service.address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ word }),
  });
  expect([201, 401, 503]).toContain(response.status);
  return response.headers.getSetCookie()[0]?.split(';')[0] ?? '';
}
const roleOf = async (cookie: string): Promise<unknown> =>
  (await fetch(`${service.address}/api/session`, { headers: { cookie } })).json();

describe('several developers', () => {
  it('work on one service, each with a key of their own, and what they look at is told by name', async () => {
    const heron = first.withKey((await first.addDeveloper('heron')).key);
    expect(await heron.session()).toEqual({ role: 'developer', developer: 'heron' });
    await heron.addSheet({ source: SHEET });
    const { table } = await openTwo(heron);
    await first.view(table.id, 'open');
    await heron.view(table.id, 2);
    expect((await heron.looks(table.id)).map(({ by, what }) => `${by}: ${what}`)).toEqual([
      'heron: hands as seat 2',
      'first: open hands',
      'heron: opened with cards or a seed known',
    ]);
    expect(await first.developers()).toEqual([
      { name: 'first', tables: 2 },
      { name: 'heron', tables: 1 },
    ]);
  });

  it('are added and ended with the key of the data folder alone, each name once', async () => {
    const pike = first.withKey((await first.addDeveloper('pike')).key);
    await expect(first.addDeveloper('pike')).rejects.toMatchObject({ status: 409, kind: 'taken' });
    await expect(first.addDeveloper('Not A Name')).rejects.toMatchObject({ kind: 'malformed' });
    await expect(pike.addDeveloper('teal')).rejects.toMatchObject({ kind: 'not-allowed' });
    await expect(pike.endDeveloper('heron')).rejects.toMatchObject({ kind: 'not-allowed' });
    await expect(first.endDeveloper('nobody')).rejects.toMatchObject({ kind: 'not-found' });
    await expect(first.endDeveloper('first')).rejects.toMatchObject({ kind: 'not-allowed' });
    expect((await first.session()).role).toBe('developer');
  });

  it('end with all that they came in with: keys, words, pages and lines; what they made stays', async () => {
    const teal = first.withKey((await first.addDeveloper('teal')).key);
    const { table } = await openTwo(teal);
    const { word } = await teal.makeLogin();
    const response = await fetch(`${service.address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ word: (await teal.makeLogin()).word }),
    });
    const cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? '';
    const roleOfPage = async (): Promise<unknown> =>
      (await fetch(`${service.address}/api/session`, { headers: { cookie } })).json();
    expect(await roleOfPage()).toEqual({ role: 'developer', developer: 'teal' });
    const problems: string[] = [];
    let views = 0;
    const follow = teal.follow(table.id, {
      as: 'open',
      onView: () => {
        views++;
      },
      onProblem: ({ message }) => problems.push(message),
    });
    await until(async () => views > 0, 'the line to be open');
    await first.endDeveloper('teal');
    await until(async () => problems.length > 0, 'the line to be ended');
    follow.stop();
    expect(problems[0]).toContain('The keys of this developer have ended');
    await expect(teal.tables()).rejects.toMatchObject({ kind: 'no-key' });
    await expect(teal.comeIn(word)).rejects.toMatchObject({ kind: 'no-key' });
    expect(await roleOfPage()).toEqual({ role: 'nobody' });
    expect((await first.table(table.id)).status).toBe('open');
  });

  it('do not come back in by words that are made or used while they are ended', async () => {
    for (let round = 0; round < 6; round++) {
      const name = `ended-${round}`;
      const one = first.withKey((await first.addDeveloper(name)).key);
      const early = (await one.makeLogin()).word;
      const [words] = await Promise.all([
        Promise.all(
          Array.from({ length: 8 }, () =>
            one.makeLogin().then(
              ({ word }) => word,
              () => '',
            ),
          ),
        ),
        Promise.resolve().then(() => first.endDeveloper(name)),
      ]);
      const sessions = await Promise.all(
        [early, ...words].filter((word) => word !== '').map((word) => cookieFor(word)),
      );
      for (const cookie of sessions) expect(await roleOf(cookie)).toEqual({ role: 'nobody' });
    }
  });

  it('do not keep a session that was made just as they were ended', async () => {
    for (let round = 0; round < 6; round++) {
      const name = `leaving-${round}`;
      const one = first.withKey((await first.addDeveloper(name)).key);
      const words = await Promise.all(Array.from({ length: 6 }, () => one.makeLogin().then(({ word }) => word)));
      const [cookies] = await Promise.all([
        Promise.all(words.map((word) => cookieFor(word))),
        first.endDeveloper(name),
      ]);
      for (const cookie of cookies) expect(await roleOf(cookie)).toEqual({ role: 'nobody' });
    }
  });

  it('leave no line behind: streams of drafts and trials end with the keys, and a socket with its session', async () => {
    const crake = first.withKey((await first.addDeveloper('crake')).key);
    const draft = await crake.addDraft({ sheet: SHEET });
    const { table } = await openTwo(crake);
    const cookie = await cookieFor((await crake.makeLogin()).word);
    const origin = service.address;
    const opened = await fetch(`${origin}/api/drafts/${draft.id}/events`, { headers: { cookie } });
    const socket = new WebSocket(`${origin.replace('http', 'ws')}/api/tables/${table.id}/live`, {
      headers: { cookie, origin },
    });
    const frames: string[] = [];
    socket.on('message', (data) => frames.push(String(data)));
    await new Promise((done) => socket.once('open', done));
    socket.send(JSON.stringify({ type: 'hello', as: 'open' }));
    await until(() => frames.length > 0, 'the open hands');
    const closed = new Promise((done) => socket.once('close', done));
    await fetch(`${origin}/api/session`, { method: 'DELETE', headers: { cookie, origin } });
    expect(await opened.text()).toContain('have ended');
    await closed;
    expect(frames.at(-1)).toContain('have ended');
    const other = await fetch(`${origin}/api/drafts/${draft.id}/events`, {
      headers: { authorization: `Bearer ${crake.options.key}` },
    });
    await first.endDeveloper('crake');
    expect(await other.text()).toContain('have ended');
  });

  it('are listed, added and ended on the command line', async () => {
    const port = new URL(service.address).port;
    const env = { WILY_DATA: data, WILY_PORT: port };
    const added = await wily(['developers', 'add', 'reed'], { env });
    const [key = ''] = added.out.split('\n');
    expect([added.code, key]).toEqual([0, expect.stringMatching(/^developer_/)]);
    const tables = await wily(['tables', 'list', '--key', key], { env });
    expect(tables.code).toBe(0);
    expect((await wily(['developers', 'list'], { env })).out).toMatch(/reed {2}0 open tables/);
    expect((await wily(['developers', 'add', 'reed'], { env })).err).toContain('There is a developer "reed" already');
    const ended = await wily(['developers', 'end', 'reed'], { env });
    expect([ended.code, ended.out]).toEqual([0, expect.stringContaining('The keys and sessions of reed have ended')]);
    const refused = await wily(['tables', 'list', '--key', key], { env });
    expect(refused.code).not.toBe(0);
  });
});
