import type { Client } from '@wily-jester/client';
import { isPlayed, Table } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import type { Service } from '@wily-jester/service';
import { QueryTypes, Sequelize } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestService, until } from './setup/service.js';

const LONG = `game "Long Walk" for 2 seats { deck standard
  pile hand of each seat private as fan
  play { shuffle pack repeat { for each s in seats { ask s { option draw {
    if empty(pack) { gather hand to pack shuffle pack }
    deal 1 from pack to s.hand } option rest { finish } } } } } }`;
const CHOICES = 5_020;

let first: Awaited<ReturnType<typeof startTestService>>;
let database: Sequelize;
const later: Service[] = [];
/** A table of so many choices, loaded from a record. */
let id: string;

beforeAll(async () => {
  first = await startTestService();
  database = new Sequelize(first.database, { dialect: 'mariadb', logging: false });
  await first.client.addSheet({ source: LONG });
  const { program } = compileSheet(LONG);
  if (!program) throw new Error('the sheet does not compile');
  const header = { seats: ['Wren', 'Otter'], settings: {}, seed: 'a long walk', gets: {} };
  const table = new Table(program, header);
  const rows: unknown[] = [];
  for (let i = 0; i < CHOICES; i++) {
    const played = table.choose(table.asked[0] ?? 0, { ask: table.openAsk, option: 'draw', args: {} });
    if (isPlayed(played)) rows.push(played.row);
  }
  const { table: opened } = await first.client.openTable({
    sheet: 'Long Walk',
    seats: [{ name: 'Wren' }, { name: 'Otter' }],
    seed: header.seed,
  });
  const [head] = (await first.client.record(opened.id)).split('\n');
  const record = [head, ...rows.map((row) => JSON.stringify(row))].join('\n');
  id = (await first.client.loadRecord(`${record}\n`)).table.id;
  await until(async () => (await kept()).length > 0, 'a position to be kept');
});
afterAll(async () => {
  for (const service of later) await service.stop();
  await first.service.stop();
  await database.close();
});

async function kept(): Promise<number[]> {
  const rows = await database.query<{ number: number }>('SELECT number FROM checkpoints ORDER BY number', {
    type: QueryTypes.SELECT,
  });
  return rows.map(({ number }) => number);
}

/** A service that knows nothing but what the database holds. */
async function anew(): Promise<Client> {
  const { service, client } = await startTestService(first);
  later.push(service);
  return client;
}

describe('a long table', () => {
  it('goes on from the position that was kept, as if it had been played from its beginning', async () => {
    expect(await kept()).toEqual([5_000]);
    // Rows before the position are not read: nobody notices that one of them says something else now.
    await database.query("UPDATE choices SET digest = REPEAT('0', 32) WHERE tableId = ? AND number = 3", {
      replacements: [id],
    });
    const client = await anew();
    for (const as of [1, 2, 'watch'] as const)
      expect(await client.view(id, as)).toEqual(await first.client.view(id, as));
    expect(await client.steps(id, CHOICES - 5)).toEqual(await first.client.steps(id, CHOICES - 5));
    const { view } = await client.past(id, 5_010, 1);
    expect(view.number).toBe(5_010);
    const choice = { ask: CHOICES, option: 'draw', once: 'onwards', seat: 1 };
    expect(await client.choose(id, choice)).toMatchObject({ number: CHOICES + 1 });
    // The service that has had it all the while goes on as well.
    await until(async () => (await first.client.view(id, 1)).number === CHOICES + 1, 'the other one to hear of it');
    expect(await first.client.view(id, 2)).toEqual(await client.view(id, 2));
  });

  it('is played from its beginning where the position does not fit, and the position is thrown away', async () => {
    await database.query("UPDATE checkpoints SET engine = 'another'");
    await expect((await anew()).view(id, 1)).rejects.toMatchObject({ status: 409, kind: 'unplayable' });
    expect(await kept()).toEqual([]);
  });
});
