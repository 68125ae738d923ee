import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
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
