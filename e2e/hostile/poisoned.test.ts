import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { QueryTypes, Sequelize } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, seatKey, startTestService, until } from '../setup/service.js';

let service: Service;
let client: Client;
let database: string;
let data: string;
let sql: Sequelize;
beforeAll(async () => {
  ({ service, client, database, data } = await startTestService());
  sql = new Sequelize(database, { dialect: 'mariadb', logging: false });
});
afterAll(async () => {
  await sql.close();
  await service.stop();
});

/** Two rounds of a table, after which its record is changed behind the service's back; then the service starts anew. */
async function poisonedTable(): Promise<{ id: string; watch: string; seat: string }> {
  const opened = await openTwo(client);
  const { id } = opened.table;
  await client.choose(id, { seat: 1, ask: 0, option: 'bet', args: { amount: 10 }, once: 'a' });
  await client.choose(id, { seat: 2, ask: 0, option: 'bet', args: { amount: 10 }, once: 'b' });
  await sql.query('UPDATE choices SET digest = ? WHERE tableId = ? AND number = 2', {
    replacements: ['0'.repeat(32), id],
  });
  await service.stop();
  ({ service, client } = await startTestService({ data, database }));
  return { id, watch: opened.keys.watch, seat: seatKey(opened, 1) };
}

const problemOf = (
  work: Promise<unknown>,
): Promise<{ status: number; kind: string; message: string; number: unknown }> =>
  work.then(
    () => ({ status: 200, kind: 'none', message: '', number: null }),
    (error: { status: number; kind: string; message: string; problem: { number?: number } }) => ({
      status: error.status,
      kind: error.kind,
      message: error.message,
      number: error.problem?.number,
    }),
  );

describe('a table that cannot be played again', () => {
  it('says so with number and reason, harms no other, and is read, closed and deleted all the same', async () => {
    const { id, watch, seat } = await poisonedTable();
    const other = await openTwo(client);
    const why = await problemOf(client.view(id, 1));
    expect(why).toMatchObject({ status: 409, kind: 'unplayable', number: 1 });
    expect(why.message).toContain('After choice 2 (bet) the state is another one');
    const refused = await Promise.all(
      [
        client.choose(id, { seat: 1, ask: 2, option: 'hit', args: {}, once: 'c' }),
        client.steps(id),
        client.withKey(seat).offers(id),
      ].map(problemOf),
    );
    for (const problem of refused) expect(problem).toMatchObject({ status: 409, kind: 'unplayable' });
    expect((await client.table(id)).unplayable).toMatchObject({ number: 1 });
    const { tables } = await client.tablePage();
    expect(tables.map((table) => table.id)).toEqual(expect.arrayContaining([id, other.table.id]));
    const whole = (await client.record(id)).trim().split('\n');
    expect(whole).toHaveLength(3);
    expect(JSON.parse(whole[1] ?? '')).toMatchObject({ option: 'bet', args: { amount: 10 } });
    const watched = (await client.withKey(watch).record(id)).trim().split('\n');
    expect(JSON.parse(watched[1] ?? '')).toMatchObject({ option: null, args: null });
    expect((await client.closeTable(id)).status).toBe('closed');
    expect((await client.view(other.table.id, 1)).viewer).toBe(1);
    await client.deleteTable(id);
    expect((await problemOf(client.table(id))).status).toBe(404);
  });

  it('is not tried again with every request, and is once somebody asks for it', async () => {
    const { id } = await poisonedTable();
    await problemOf(client.view(id, 1));
    // Mended behind the service's back, it stays what was found until it is to be tried again.
    await sql.query('DELETE FROM choices WHERE tableId = ? AND number = 2', { replacements: [id] });
    expect((await problemOf(client.view(id, 1))).kind).toBe('unplayable');
    expect((await client.retryTable(id)).number).toBe(1);
    expect((await client.view(id, 1)).number).toBe(1);
  });
});

describe('what is in the database', () => {
  it('can be deleted: a table with its record and its keys, and then its sheet', async () => {
    const source = 'game "Short Lived" for 1 seat { deck standard play { ask seats[1] { option go { } } finish } }';
    await client.addSheet({ source });
    const opened = await client.openTable({ sheet: 'Short Lived', seats: [{ name: 'Wren' }] });
    const { id } = opened.table;
    await client.choose(id, { seat: 1, ask: 0, option: 'go', args: {}, once: 'a' });
    const wren = client.withKey(seatKey(opened, 1));
    let left = false;
    const follow = wren.follow(id, { onProblem: () => (left = true) });
    expect(await problemOf(client.deleteSheet('Short Lived'))).toMatchObject({ status: 409, kind: 'in-use' });
    expect((await problemOf(wren.deleteTable(id))).status).toBe(403);
    await client.deleteTable(id);
    await until(() => left, 'whoever follows it to be let go');
    follow.stop();
    expect((await problemOf(wren.view(id))).status).toBe(401);
    expect((await problemOf(client.view(id, 1))).status).toBe(404);
    for (const table of ['choices', 'keys', 'audits', 'faults']) {
      const [row] = await sql.query<{ n: number }>(`SELECT COUNT(*) AS n FROM \`${table}\` WHERE tableId = ?`, {
        replacements: [id],
        type: QueryTypes.SELECT,
      });
      expect(Number(row?.n), table).toBe(0);
    }
    await client.deleteSheet('Short Lived');
    expect((await problemOf(client.sheet('Short Lived'))).status).toBe(404);
  });

  it('is listed a page at a time, by what was asked for', async () => {
    const ids = await Promise.all(Array.from({ length: 7 }, async () => (await openTwo(client)).table.id));
    await client.closeTable(ids[0] ?? '');
    const seen: string[] = [];
    let after: string | undefined;
    do {
      const { tables, next } = await client.tablePage({ status: 'open', limit: 3, after });
      expect(tables.length).toBeLessThanOrEqual(3);
      expect(tables.every(({ status }) => status === 'open')).toBe(true);
      seen.push(...tables.map(({ id }) => id));
      after = next ?? undefined;
    } while (after !== undefined);
    expect(new Set(seen).size).toBe(seen.length);
    for (const id of ids.slice(1)) expect(seen).toContain(id);
    expect(seen).not.toContain(ids[0]);
    expect((await problemOf(client.tablePage({ after: 'x' }))).status).toBe(422);
    expect((await client.tables({ status: 'closed' })).map(({ id }) => id)).toContain(ids[0]);
  });
});

describe('a record', () => {
  const SOURCE = `game "Laid Aside" for 2 seats {
    deck standard
    pile hand of each seat private
    pile heap face down
    play {
      deal 5 each from pack to hand
      ask seats[1] { option lay(c: card in seats[1].hand) { move c to heap face down } }
      ask seats[2] { option done { } }
      finish
    }
  }`;

  it('tells others no more of a card that was laid face down than events do', async () => {
    await client.addSheet({ source: SOURCE });
    const opened = await client.openTable({ sheet: 'Laid Aside', seats: [{ name: 'Wren' }, { name: 'Otter' }] });
    const { id } = opened.table;
    await client.choose(id, { seat: 1, ask: 0, option: 'lay', args: { c: 'hand/1#3' }, once: 'a' });
    const argsOf = async (key: string): Promise<unknown> =>
      JSON.parse((await client.withKey(key).record(id)).split('\n')[1] ?? '').args;
    expect(await argsOf(seatKey(opened, 2))).toEqual({ c: 'hand/1' });
    expect(await argsOf(opened.keys.watch)).toEqual({ c: 'hand/1' });
    expect(await argsOf(opened.keys.host)).toEqual({ c: 'hand/1' });
    expect(await argsOf(seatKey(opened, 1))).toEqual({ c: 'hand/1#3' });
    const [laid] = (await client.withKey(seatKey(opened, 2)).steps(id, 0)).flatMap(({ events }) =>
      events.filter((event) => event.kind === 'chosen'),
    );
    expect(laid).toMatchObject({ args: ['hand/1'] });
    expect(JSON.parse((await client.record(id)).split('\n')[1] ?? '').args).toEqual({ c: 'hand/1#3' });
  });
});
