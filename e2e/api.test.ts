import { readFileSync } from 'node:fs';
import { Client, ServiceError } from '@wily-jester/client';
import { openapi } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, ROOT, seatKey, startTestService, until } from './setup/service.js';

let service: Service;
let developer: Client;
beforeAll(async () => {
  ({ service, client: developer } = await startTestService());
});
afterAll(() => service.stop());

/** The problem that a call ends with. */
async function problemOf(call: Promise<unknown>): Promise<ServiceError> {
  try {
    await call;
  } catch (error) {
    if (error instanceof ServiceError) return error;
    throw error;
  }
  throw new Error('this was expected to be refused');
}
const raw = (path: string, init: RequestInit = {}, key: string | null = service.developerKey): Promise<Response> =>
  fetch(`${service.address}${path}`, {
    ...init,
    headers: {
      ...(key === null ? {} : { authorization: `Bearer ${key}` }),
      'content-type': 'application/json',
      ...init.headers,
    },
  });
const LANTERN = readFileSync(`${ROOT}sheets/lantern-twenty-one.motley`, 'utf8');

describe('sheets', () => {
  it('are there from the start, with their plan', async () => {
    const sheets = await developer.sheets();
    expect(sheets.length).toBeGreaterThanOrEqual(20);
    const lantern = sheets.find((s) => s.name === 'Lantern Twenty-One');
    expect(lantern).toMatchObject({ name: 'Lantern Twenty-One', seats: [1, 2, 3, 4, 5], versions: 1 });
    const sheet = await developer.sheet('Lantern Twenty-One');
    expect(sheet.source).toBe(LANTERN);
    expect(sheet.plan.options.map((o) => o.name)).toContain('double');
    expect(await developer.sheet(sheet.hash)).toEqual(sheet);
  });

  it('say what a table of theirs looks like, and what their settings are with other values', async () => {
    const [pot] = (await developer.sheets()).filter((s) => s.name === "Long Pot Hold'em");
    expect(pot?.look.layout).toEqual([['board', null, 'muck']]);
    expect(pot?.look.piles.map((pile) => pile.name)).toContain('hand');
    const limits = async (given: Record<string, number>) =>
      Object.fromEntries(
        (await developer.settings("Long Pot Hold'em", given)).map(({ name, to, standard }) => [name, [to, standard]]),
      );
    expect(await limits({})).toMatchObject({ bigBlind: [200, 2], smallBlind: [2, 1] });
    expect(await limits({ stake: 1_000, bigBlind: 20 })).toMatchObject({ bigBlind: [1_000, 2], smallBlind: [20, 10] });
    const error = await problemOf(developer.settings("Long Pot Hold'em", { bigBlind: 4, smallBlind: 5 }));
    expect([error.status, error.message]).toEqual([422, 'smallBlind is a whole number from 1 to 4, not 5.']);
    expect((await problemOf(developer.settings('Otter Chess', {}))).status).toBe(404);
  });

  it('are versions by the hash of their text: the same text is the same version', async () => {
    const changed = LANTERN.replace('stake:   20..100000 = 200', 'stake:   20..100000 = 300');
    const first = await developer.addSheet({ source: changed });
    const again = await developer.addSheet({ source: changed });
    expect(again.hash).toBe(first.hash);
    const named = await developer.sheet('Lantern Twenty-One');
    expect(named.hash).toBe(first.hash);
    expect((await developer.sheets()).find((s) => s.name === 'Lantern Twenty-One')?.versions).toBe(2);
  });

  it('are kept with the parts that they use pasted in', async () => {
    const source = readFileSync(`${ROOT}sheets/cold-lock-draw.motley`, 'utf8');
    expect(source).toContain('use "side-pots"');
    const sheet = await developer.addSheet({ source });
    expect(sheet.source).not.toContain('use "');
    expect(sheet.source).toContain('routine award {');
    expect((await developer.addSheet({ source })).hash).toBe(sheet.hash);
    expect((await developer.addSheet({ source: sheet.source })).hash).toBe(sheet.hash);
    const error = await problemOf(developer.addSheet({ source: source.replace('"side-pots"', '"side-pits"') }));
    expect(error.problem.detail).toContain('Did you mean "side-pots"');
    expect(error.problem.line).toBe(source.split('\n').findIndex((line) => line.includes('use "')) + 1);
  });

  it('with errors are refused, with line, column and all that is wrong', async () => {
    const error = await problemOf(developer.addSheet({ source: LANTERN.replace('shuffle shoe', 'shufle shoe') }));
    expect(error.problem).toMatchObject({ type: 'urn:wily-jester:problem:sheet', status: 422, column: 5 });
    expect(error.problem.detail).toContain('Did you mean "shuffle"');
    expect(error.problem.line).toBe(LANTERN.split('\n').findIndex((l) => l.includes('shuffle shoe')) + 1);
    expect(error.problem.problems?.length).toBeGreaterThan(0);
  });

  it('can be checked without being added', async () => {
    expect(await developer.checkSheet({ source: LANTERN })).toMatchObject({ ok: true, problems: [] });
    const check = await developer.checkSheet({ source: 'game "Reed"' });
    expect(check.ok).toBe(false);
    expect(check.problems[0]?.line).toBe(1);
    expect(
      (await problemOf(developer.addSheet({ source: LANTERN, rehearsals: 'rehearse "x" { Wren: hti }' }))).message,
    ).toContain('Rehearsals, line 1');
  });

  it('that nobody added are not there', async () => {
    expect((await problemOf(developer.sheet('Otter Chess'))).problem).toMatchObject({ status: 404 });
  });
});

describe('opening a table', () => {
  it('gives a key for each person and one to watch', async () => {
    const opened = await developer.openTable({
      sheet: 'Lantern Twenty-One',
      seats: [{ name: 'Wren' }, { name: 'Otter', bot: 'steady' }],
    });
    expect(opened.keys.seats.map((k) => k.seat)).toEqual([1]);
    expect(opened.table).toMatchObject({ status: 'open', promisesFairness: true, chapter: 'Round 1 of 20' });
    expect(opened.table.commitment).toMatch(/^[0-9a-f]{64}$/);
    await developer.closeTable(opened.table.id);
  });

  it.each([
    [{ seats: [] }, 422, 'seats'],
    [{ seats: [{ name: 'Wren' }], settings: { stake: 5 } }, 422, 'stake is a whole number from 20 to 100000, not 5.'],
    [{ seats: [{ name: 'Wren' }], settings: { stakes: 50 } }, 422, 'has no setting "stakes"'],
    [{ seats: [{ name: 'Wren' }], settings: { lowBet: 11 } }, 422, 'so bets are even'],
    [{ seats: [{ name: 'Wren' }, { name: 'Wren' }] }, 422, 'Two seats are called "Wren"'],
    [{ seats: [{ name: 'Wren', bot: 'wild' }] }, 422, 'has no bot "wild"'],
    [{ seats: [{ name: 'Wren' }], gets: { 'hand/1': '1♠' } }, 422, 'no rank'],
    [{ seats: [{ name: 'Wren' }], gets: { 'hand/7': 'A♠' } }, 422, 'no pile "hand/7"'],
    [{ seats: [{ name: 'Wren' }], sheet: 'Otter Chess' }, 404, 'no sheet "Otter Chess"'],
    [{ seats: [{ name: 'Wren' }], colour: 'red' }, 422, 'has no "colour"'],
  ])('refuses %j', async (wish, status, detail) => {
    const error = await problemOf(developer.openTable({ sheet: 'Lantern Twenty-One', ...wish } as never));
    expect(error.status).toBe(status);
    expect(error.message).toContain(detail);
  });

  it('refuses a sheet that makes a fault before it waits, with the line', async () => {
    const source =
      'game "Dry Well" for 1 seat {\n deck standard\n pile row face up\n play { deal 60 from pack to row }\n}';
    await developer.addSheet({ source });
    const error = await problemOf(developer.openTable({ sheet: 'Dry Well', seats: [{ name: 'Wren' }] }));
    expect(error.problem).toMatchObject({ status: 422, line: 4, type: 'urn:wily-jester:problem:fault' });
  });

  it('with a stacked pack deals what was promised', async () => {
    const opened = await openTwo(developer, { gets: { 'hand/1': 'A♠ K♠', house: '9♥ 8♦' } });
    expect(opened.table.promisesFairness).toBe(false);
    const { id } = opened.table;
    for (const seat of [1, 2])
      await developer.choose(id, { ask: 0, option: 'bet', args: { amount: 10 }, once: `b${seat}`, seat });
    expect((await developer.view(id, 'watch')).piles).toMatchObject({
      hand: { 1: { cards: ['A♠', 'K♠'] } },
      house: { cards: ['9♥', null] },
    });
  });
});

describe('choosing', () => {
  it('counts once, however often the same word is sent', async () => {
    const { table } = await openTwo(developer);
    const choice = { ask: 0, option: 'bet', args: { amount: 20 }, once: 'mine', seat: 1 };
    const answers = await Promise.all(Array.from({ length: 10 }, () => developer.choose(table.id, choice)));
    expect(new Set(answers.map((a) => a.number))).toEqual(new Set([1]));
    expect(answers.filter((a) => !a.repeated)).toHaveLength(1);
    expect((await developer.table(table.id)).number).toBe(1);
    const other = await problemOf(developer.choose(table.id, { ...choice, args: { amount: 30 } }));
    expect(other.kind).toBe('used-word');
    expect((await developer.record(table.id)).trim().split('\n')).toHaveLength(2);
  });

  it('counts a card once that is named by its face, though its record names the place', async () => {
    const source =
      'game "Reed Row" for 1 seat {\n  deck standard\n  pile row face up\n  play {\n    deal 1 from pack to row\n    ask seats[1] {\n      option take(c: card in row) { move c to pack }\n      option wait { }\n    }\n  }\n}\n';
    const { hash } = await developer.addSheet({ source });
    const { table } = await developer.openTable({ sheet: hash, seats: [{ name: 'Wren' }], gets: { row: '10♠' } });
    const choice = { ask: 0, option: 'take', args: { c: '10♠' }, once: 'mine', seat: 1 };
    expect((await developer.choose(table.id, choice)).repeated).toBe(false);
    expect(await developer.choose(table.id, choice)).toMatchObject({ number: 1, args: { c: 'row#1' }, repeated: true });
  });

  it('refuses what is stale, out of turn, unknown or not allowed, and changes nothing', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    const wren = developer.withKey(seatKey(opened, 1));
    const otter = developer.withKey(seatKey(opened, 2));
    await wren.choose(id, { ask: 0, option: 'bet', args: { amount: 10 }, once: '1' });
    const turn = await problemOf(wren.choose(id, { ask: 0, option: 'bet', args: { amount: 10 }, once: '2' }));
    expect([turn.status, turn.kind]).toEqual([403, 'turn']);
    await otter.choose(id, { ask: 0, option: 'bet', args: { amount: 10 }, once: '1' });
    const stale = await problemOf(wren.choose(id, { ask: 0, option: 'hit', once: '3' }));
    expect([stale.status, stale.kind, stale.problem.number]).toEqual([409, 'stale', 2]);
    const unknown = await problemOf(wren.choose(id, { ask: 2, option: 'fly', once: '4' }));
    expect([unknown.status, unknown.kind]).toEqual([422, 'unknown-option']);
    const malformed = await problemOf(wren.choose(id, { ask: 2, option: 'hit', args: { hard: true }, once: '5' }));
    expect([malformed.status, malformed.kind]).toEqual([422, 'malformed']);
    const outOfTurn = await problemOf(otter.choose(id, { ask: 2, option: 'hit', once: '6' }));
    expect(outOfTurn.message).toBe("It is not Otter's turn: Wren is asked.");
    expect((await developer.table(id)).number).toBe(2);
  });

  it('says why an option is not open now, in the words of the sheet', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    for (const seat of [1, 2])
      await developer.choose(id, { ask: 0, option: 'bet', args: { amount: 200 }, once: `b${seat}`, seat });
    const { offers } = await developer.offers(id, 1);
    expect(offers.find((o) => o.option === 'double')).toMatchObject({
      legal: false,
      reason: 'You have too few chips to double.',
    });
    const error = await problemOf(developer.choose(id, { ask: 2, option: 'double', once: 'd', seat: 1 }));
    expect(error.problem).toMatchObject({ status: 422, detail: 'You have too few chips to double.' });
    expect(LANTERN.split('\n')[(error.problem.line ?? 0) - 1]).toContain('option double');
  });

  it('lets bots play at their pace, and pauses pass', async () => {
    const { table } = await developer.openTable({
      sheet: 'Lantern Twenty-One',
      seats: [
        { name: 'Wren', bot: 'steady' },
        { name: 'Otter', bot: 'steady' },
      ],
      settings: { rounds: 1 },
      pace: 1,
    });
    await until(async () => (await developer.table(table.id)).status === 'over', 'two bots to play a round');
    const record = (await developer.record(table.id))
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line));
    expect(record[0]).toMatchObject({
      form: 'wily-jester-record/1',
      generator: 'chacha20/2',
      seats: ['Wren', 'Otter'],
    });
    expect(new Set(record.slice(1).map((row) => row.by))).toEqual(new Set(['bot', 'table']));
    expect(record.slice(1).map((row) => row.number)).toEqual(record.slice(1).map((_, i) => i + 1));
  });

  it('lets the clock play when a person does not', async () => {
    const source =
      'game "Quick Reed" for 1 seat {\n deck standard\n play { ask seats[1] within 1s else wait { option go { } option wait { say "Too late." } } finish }\n}';
    await developer.addSheet({ source });
    const opened = await developer.openTable({ sheet: 'Quick Reed', seats: [{ name: 'Wren' }] });
    const { table } = opened;
    // It winds up once somebody was there.
    await developer.withKey(seatKey(opened, 1)).view(table.id);
    await until(async () => (await developer.table(table.id)).status === 'over', 'the clock to run out');
    expect(await developer.record(table.id)).toContain('"by":"clock","ask":0,"option":"wait"');
  });
});

describe('a table with a fault', () => {
  it('stands at its last good choice, and goes on with another one', async () => {
    const source =
      'game "Thin Ice" for 1 seat {\n deck standard\n pile row face up\n play { repeat { ask seats[1] { option fall {\n deal 60 from pack to row } option walk { say "on" } option rest { finish } } } }\n}';
    await developer.addSheet({ source });
    const { table } = await developer.openTable({ sheet: 'Thin Ice', seats: [{ name: 'Wren' }] });
    const error = await problemOf(developer.choose(table.id, { ask: 0, option: 'fall', once: 'f', seat: 1 }));
    expect(error.problem).toMatchObject({ status: 422, line: 5, number: 0 });
    expect(await developer.table(table.id)).toMatchObject({ status: 'fault', number: 0, fault: { line: 5 } });
    await developer.choose(table.id, { ask: 0, option: 'walk', once: 'w', seat: 1 });
    expect(await developer.table(table.id)).toMatchObject({ status: 'open', number: 1, fault: null });
  });
});

describe('closing', () => {
  it('ends a table; nothing can be chosen any more', async () => {
    const { table } = await openTwo(developer);
    expect((await developer.closeTable(table.id)).status).toBe('closed');
    const error = await problemOf(developer.choose(table.id, { ask: 0, option: 'sitOut', once: 'x', seat: 1 }));
    expect([error.status, error.kind]).toEqual([409, 'closed']);
    expect((await developer.tables()).find((t) => t.id === table.id)?.status).toBe('closed');
  });
});

describe('keys', () => {
  it('show the seed and answers that are not in yet to developers only', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    await developer.choose(id, { ask: 0, option: 'bet', args: { amount: 150 }, once: 'b', seat: 1 });
    const seen = await developer.withKey(seatKey(opened, 2)).record(id);
    expect(seen).not.toContain('two by two');
    expect(seen).not.toContain('150');
    const whole = await developer.record(id);
    expect(whole).toContain('"seed":"two by two"');
    expect(whole).toContain('"amount":150');
  });

  it('come by a word once, as a cookie that a request from another site cannot use', async () => {
    const page = await fetch(`${service.address}/games`);
    expect(page.headers.get('set-cookie')).toBeNull();
    const { word } = await developer.makeLogin();
    const comeIn = (): Promise<Response> =>
      fetch(`${service.address}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ word }),
      });
    const came = await comeIn();
    expect(came.status).toBe(201);
    expect((await comeIn()).status).toBe(401);
    const cookie = came.headers.get('set-cookie') ?? '';
    expect(cookie).toMatch(/HttpOnly; SameSite=Strict/);
    const value = cookie.split(';')[0] ?? '';
    expect((await raw('/api/tables', { headers: { cookie: value } }, null)).status).toBe(200);
    expect(
      (await raw('/api/tables', { headers: { cookie: value, origin: 'http://elsewhere.example' } }, null)).status,
    ).toBe(401);
    expect((await raw('/api/session', { method: 'DELETE', headers: { cookie: value } }, null)).status).toBe(204);
    expect((await raw('/api/tables', { headers: { cookie: value } }, null)).status).toBe(401);
    const strange = await raw('/api/tables', {
      method: 'POST',
      body: '{}',
      headers: { origin: 'http://elsewhere.example' },
    });
    expect(strange.status).toBe(403);
  });
});

describe('errors and pages', () => {
  it.each([
    ['/api/nothing', {}, 404, 'not-found'],
    ['/api/tables/abcdefghijkm', {}, 404, 'not-found'],
    ['/favicon.ico', {}, 404, 'not-found'],
    ['/.git/config.js', {}, 404, 'not-found'],
    ['/..%2f..%2fpackage.json', {}, 404, 'not-found'],
    ['/api/tables', { method: 'POST', body: '{"sheet":' }, 422, 'malformed'],
    ['/api/tables', { method: 'POST', body: `{"sheet":"${'x'.repeat(300_000)}"}` }, 413, 'too-large'],
  ])('%s answers with a problem', async (path, init, status, kind) => {
    const response = await raw(path, init as RequestInit);
    expect(response.status).toBe(status);
    expect(response.headers.get('content-type')).toContain('application/problem+json');
    const body = (await response.json()) as { type: string; detail: string };
    expect(body.type).toBe(`urn:wily-jester:problem:${kind}`);
    expect(JSON.stringify(body)).not.toContain('node_modules');
  });

  it('are described by OpenAPI 3.1, and every described path answers', async () => {
    const document = (await (await raw('/api/openapi.json', {}, null)).json()) as typeof openapi;
    expect(document.openapi).toBe('3.1.0');
    expect(Object.keys(document.paths)).toEqual(Object.keys(openapi.paths));
    // Nobody typed its seed, so that it promises something.
    const { table } = await developer.openTable({
      sheet: 'Lantern Twenty-One',
      seats: [{ name: 'Wren' }, { name: 'Otter' }],
      clocks: false,
    });
    const chosen = await openTwo(developer);
    await developer.choose(chosen.table.id, { ask: 0, option: 'bet', args: { amount: 10 }, once: 'a', seat: 1 });
    const trial = await developer.openTrial({ sheet: 'Lantern Twenty-One', games: 1 });
    const gathering = await developer.gather({ sheet: 'Lantern Twenty-One', seats: [{ name: 'Wren' }] });
    const draft = await developer.addDraft({ sheet: LANTERN });
    for (const [path, methods] of Object.entries(openapi.paths)) {
      if (!('get' in methods)) continue;
      const response = await raw(
        path
          .replace(
            '{table}',
            path.includes('analysis')
              ? chosen.table.id
              : path.includes('gather')
                ? gathering.gathering.table
                : table.id,
          )
          .replace('{number}', /draft|analysis/.test(path) ? '1' : '0')
          .replace('{draft}', draft.id)
          .replace('{sheet}', table.sheet)
          .replace('{trial}', trial.id) + (/(choices|hint)$/.test(path) ? '?seat=1' : ''),
      );
      expect([path, response.status]).toEqual([path, 200]);
    }
    expect(await (await raw('/api')).text()).toContain('/api/tables/{table}/choices');
  });

  it('of the console are one page under every address, and its files', async () => {
    const page = await (await fetch(`${service.address}/`)).text();
    const plain = (text: string): string => text.replace(/nonce" content="[^"]*"/, 'nonce"');
    for (const path of ['/cards', '/tables/abcdefghijkm', '/index.html', '/%zz'])
      expect(plain(await (await fetch(`${service.address}${path}`)).text())).toBe(plain(page));
    const mark = await fetch(`${service.address}/mark.svg`);
    expect([mark.status, mark.headers.get('content-type')]).toEqual([200, 'image/svg+xml']);
  });

  it('come with a strict content security policy', async () => {
    const page = await fetch(`${service.address}/cards`);
    const policy = page.headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'none'");
    expect(policy).toMatch(/style-src 'self' 'nonce-[A-Za-z0-9+/=]+'/);
    expect(policy).not.toContain('unsafe-eval');
    expect(await page.text()).toContain(/nonce-([A-Za-z0-9+/=]+)/.exec(policy)?.[1] ?? 'no nonce');
  });

  it('count themselves, and the service says that it is well', async () => {
    expect(await developer.health()).toMatchObject({ status: 'ok', database: 'ok' });
    const metrics = await (await raw('/metrics')).text();
    expect(metrics).toMatch(/wily_choices_total\{by="person"\} \d+/);
    expect(metrics).toMatch(/wily_refusals_total\{kind="illegal"\} \d+/);
  });

  it('keep a connection longer than a proxy before them does, so that nothing is sent on one that closes', async () => {
    expect((await raw('/health')).headers.get('keep-alive')).toBe('timeout=75');
  });

  it('are the only answer where nobody listens', async () => {
    await expect(new Client({ address: 'http://127.0.0.1:9' }).health()).rejects.toThrow(/no answer/);
  });
});
