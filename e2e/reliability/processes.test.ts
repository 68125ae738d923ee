import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { isDeepStrictEqual } from 'node:util';
import { Client, type Follow } from '@wily-jester/client';
import type { Step } from '@wily-jester/protocol';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { acknowledgedBy, FULL, figure, Player, somethingLegal, wrongAfter } from '../setup/crowd.js';
import { heldUp } from '../setup/held.js';
import { newFolder, serviceProcess } from '../setup/programs.js';
import { freshDatabase, openTwo, seatKey, until } from '../setup/service.js';

const CHOICES = FULL ? 4_000 : 80;
const TABLES = FULL ? 10 : 2;
const TURNS = FULL ? 200 : 12;

const running: { kill(): Promise<void> }[] = [];
const following: Follow[] = [];
let first: Client;
let second: Client;
let env: Record<string, string> & { readonly WILY_DATA: string; readonly WILY_DB_URL: string };
beforeAll(async () => {
  env = { WILY_DB_URL: await freshDatabase(), WILY_DATA: newFolder(), WILY_PORT: '0', WILY_RATE: '1000000' };
  const one = await serviceProcess(env);
  const two = await serviceProcess(env);
  running.push(one, two);
  const key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
  first = new Client({ address: one.address, key });
  second = new Client({ address: two.address, key });
});
afterAll(async () => {
  for (const follow of following) follow.stop();
  for (const service of running) await service.kill();
});

/** Follows as a watcher, and notes when each number was heard of. */
function hear(client: Client, id: string): { steps: Map<number, { step: Step; at: number }>; follow: Follow } {
  const steps = new Map<number, { step: Step; at: number }>();
  const follow = client.follow(id, {
    as: 'watch',
    onView: (_view, came) => {
      for (const step of came) steps.set(step.number, { step, at: performance.now() });
    },
  });
  following.push(follow);
  return { steps, follow };
}

describe('two processes of the service on one database', () => {
  it('give one order of choices to clients that are spread over both, and both tell the same', async () => {
    const players: Player[] = [];
    const heard: { id: string; here: ReturnType<typeof hear>; there: ReturnType<typeof hear> }[] = [];
    for (let i = 0; i < TABLES; i++) {
      const opened = await openTwo(first, { settings: { rounds: 1000, stake: 100_000 } });
      const { id } = opened.table;
      heard.push({ id, here: hear(first, id), there: hear(second, id) });
      players.push(new Player(first, opened, 1), new Player(second, opened, 2));
    }
    await until(() => acknowledgedBy(players) >= CHOICES, 'enough choices', 500_000);
    for (const player of players) await player.rest();
    expect(await wrongAfter(first, players)).toEqual([]);
    let latest = 0;
    for (const { id, here, there } of heard) {
      const { number } = await first.table(id);
      await until(() => [here, there].every(({ steps }) => steps.has(number)), 'both to hear of the last choice');
      for (let n = 1; n <= number; n++) {
        const [a, b] = [here.steps.get(n), there.steps.get(n)];
        expect(b?.step).toEqual(a?.step);
        latest = Math.max(latest, Math.abs((a?.at ?? 0) - (b?.at ?? 0)));
      }
      // A pause may end in between: then one of them has heard of it a moment before the other.
      const standsAlike = async (): Promise<boolean> =>
        isDeepStrictEqual(await second.view(id, 'open'), await first.view(id, 'open'));
      await until(standsAlike, 'both to show the same');
    }
    // Each looks five times a second; the promise is one second.
    expect(latest).toBeLessThan(FULL ? 1_000 : 5_000);
    figure(
      `Two processes, ${acknowledgedBy(players)} choices at ${TABLES} tables: one order, the other process told of a choice ${Math.round(latest)} ms later at most.`,
    );
  }, 600_000);

  it('answer a choice that came to the other one before as one that was carried out', async () => {
    const opened = await openTwo(first);
    const { id } = opened.table;
    const choice = { ask: 0, option: 'bet', args: { amount: 10 }, once: 'either' };
    const [here, there] = [first, second].map((client) => client.withKey(seatKey(opened, 1)));
    const answers = await Promise.all([here?.choose(id, choice), there?.choose(id, choice)]);
    expect(answers.map((answer) => answer?.number)).toEqual([1, 1]);
    expect(answers.filter((answer) => answer?.repeated)).toHaveLength(1);
  });

  it('take an answer to a question that only the other one has heard of yet', async () => {
    const { id } = (await openTwo(first, { settings: { rounds: 1000, stake: 100_000 } })).table;
    await second.view(id);
    for (let turn = 0; turn < TURNS; turn++) {
      const [asking, answering] = turn % 2 === 0 ? [first, second] : [second, first];
      await until(async () => (await asking.view(id)).waiting.kind === 'ask', 'somebody to be asked');
      const { waiting, number } = await asking.view(id);
      const seat = waiting.seats?.[0] ?? 0;
      const offers = await asking.offers(id, seat);
      const wanted = somethingLegal(offers);
      expect(wanted).not.toBeNull();
      const chosen = await answering.choose(id, {
        option: wanted?.option ?? '',
        args: wanted?.args ?? {},
        ask: offers.ask,
        seat,
        once: `turn ${turn}`,
      });
      expect(chosen.number).toBeGreaterThan(number);
    }
  });

  it('hear of each other who is there, who holds a seat, and that a table is closed', async () => {
    const opened = await openTwo(first);
    const { id } = opened.table;
    await second.view(id);
    const follow = second.withKey(seatKey(opened, 1)).follow(id, {});
    following.push(follow);
    await until(async () => (await first.table(id)).seats[0]?.present === true, 'the first to hear of Wren');
    follow.stop();
    await until(async () => (await first.table(id)).seats[0]?.present === false, 'the first to hear that Wren left');
    await first.botSeat(id, 2);
    await until(async () => (await second.table(id)).seats[1]?.bot === 'steady', 'the second to hear of the bot');
    await first.closeTable(id);
    await until(async () => (await second.table(id)).status === 'closed', 'the second to hear of the end');
    await expect(
      second.choose(id, { ask: 0, option: 'bet', args: { amount: 10 }, once: 'late', seat: 1 }),
    ).rejects.toMatchObject({ kind: 'closed' });
  });

  it('hear of each other who is there, though the database failed when it was to be written', async () => {
    const opened = await openTwo(first);
    const { id } = opened.table;
    await first.view(id);
    const database = await heldUp(env.WILY_DB_URL, 'presences');
    const follow = second.withKey(seatKey(opened, 1)).follow(id, {});
    following.push(follow);
    await database.cut(await database.waiting(id));
    await database.letGo();
    await until(async () => (await first.table(id)).seats[0]?.present === true, 'the first to hear of Wren');
    follow.stop();
  });

  it('hear of a bot, though the database failed when it was to be told', async () => {
    const { id } = (await openTwo(first)).table;
    await second.view(id);
    const database = await heldUp(env.WILY_DB_URL, 'notices');
    const handed = first.botSeat(id, 2);
    await database.cut(await database.waiting(id));
    expect((await handed).seats[1]?.bot).toBe('steady');
    await database.letGo();
    await until(async () => (await second.table(id)).seats[1]?.bot === 'steady', 'the second to hear of the bot');
  });

  it('forget a key that the other one has ended', async () => {
    const opened = await openTwo(first);
    const { id } = opened.table;
    const old = seatKey(opened, 1);
    const byOld = second.withKey(old);
    await byOld.view(id);
    const made = await first.withKey(opened.keys.host).newKey(id, { role: 'seat', seat: 1 });
    const isRefused = async (): Promise<boolean> => {
      const problem = await byOld.view(id).then(
        () => null,
        (error: unknown) => (error as { kind?: string }).kind,
      );
      return problem === 'no-key';
    };
    await until(isRefused, 'the old key to be forgotten');
    expect((await second.withKey(made.key).view(id)).viewer).toBe(1);
    expect((await second.withKey(seatKey(opened, 2)).view(id)).viewer).toBe(2);
  });

  it('forget a developer whom the other one has ended, and let go of their lines', async () => {
    const { key } = await first.addDeveloper('heron');
    const heron = second.withKey(key);
    const { id } = (await openTwo(first)).table;
    const problems: string[] = [];
    let views = 0;
    const follow = heron.follow(id, {
      as: 'open',
      onView: () => {
        views++;
      },
      onProblem: (problem) => problems.push(problem.message),
    });
    following.push(follow);
    await until(async () => views > 0, 'the line to be open');
    await first.endDeveloper('heron');
    await until(async () => problems.length > 0, 'the line to be ended');
    expect(problems[0]).toContain('The keys of this developer have ended');
    await expect(heron.tables()).rejects.toMatchObject({ kind: 'no-key' });
  });

  it('forget a page that logged out at the other one, and end its streams', async () => {
    const sheet = 'game "Here and There" for 1 seat { deck standard play { ask seats[1] { option go { } } finish } }';
    const { id } = await first.addDraft({ sheet });
    const { word } = await first.makeLogin();
    const response = await fetch(`${first.options.address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ word }),
    });
    const cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? '';
    const there = (path: string): Promise<Response> =>
      fetch(`${second.options.address}${path}`, { headers: { cookie } });
    expect((await there('/api/tables')).status).toBe(200);
    const stream = await there(`/api/drafts/${id}/events`);
    await fetch(`${first.options.address}/api/session`, { method: 'DELETE', headers: { cookie } });
    expect(await stream.text()).toContain('have ended');
    expect((await there('/api/tables')).status).toBe(401);
  });

  it('let go of a table that the other one deletes, and of those who follow it', async () => {
    const opened = await openTwo(first);
    const { id } = opened.table;
    const seat = second.withKey(seatKey(opened, 1));
    const { steps, follow } = hear(second, id);
    await until(async () => steps.size > 0, 'the line to be open');
    await seat.view(id);
    const ended = new Promise<void>((done) => {
      following.push(second.follow(id, { as: 'watch', onProblem: () => done() }));
    });
    await first.deleteTable(id);
    await ended;
    follow.stop();
    const problemOf = (work: Promise<unknown>): Promise<unknown> =>
      work.then(
        () => null,
        (error: unknown) => (error as { kind?: string }).kind,
      );
    await until(async () => (await problemOf(seat.view(id))) === 'no-key', 'the keys to be forgotten');
    expect(await problemOf(second.view(id))).toBe('not-found');
  });

  it('hear to its end one that stops right after a choice', async () => {
    const third = await serviceProcess(env);
    running.push(third);
    const key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
    const client = new Client({ address: third.address, key });
    const opened = await openTwo(client);
    const { id } = opened.table;
    const here = hear(first, id);
    await until(() => here.steps.has(0), 'the view here');
    await client.withKey(seatKey(opened, 1)).choose(id, { ask: 0, option: 'bet', args: { amount: 10 }, once: 'last' });
    third.child.kill('SIGTERM');
    await until(() => here.steps.has(1), 'the last choice of the process that stopped');
  });

  it('go on alone where the other one is killed, and no longer count its clients as there', async () => {
    const third = await serviceProcess(env);
    const opened = await openTwo(first);
    const { id } = opened.table;
    const follow = new Client({ address: third.address, key: seatKey(opened, 2) }).follow(id, {});
    following.push(follow);
    await until(async () => (await first.table(id)).seats[1]?.present === true, 'the first to hear of Otter');
    await third.kill();
    follow.stop();
    expect((await first.choose(id, { ask: 0, option: 'bet', args: { amount: 10 }, once: 'on', seat: 1 })).number).toBe(
      1,
    );
    await until(async () => (await first.table(id)).seats[1]?.present === false, 'Otter to be gone');
  });
});
