import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { readFairness, verifyFairness } from '@wily-jester/core';
import type { Gathered } from '@wily-jester/protocol';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { takePart } from '../setup/chance.js';
import { newFolder, serviceProcess } from '../setup/programs.js';
import { freshDatabase, until } from '../setup/service.js';

const running: { kill(): Promise<void> }[] = [];
let env: Record<string, string> & { readonly WILY_DATA: string };
let first: Client;
let second: Client;

async function another(): Promise<Awaited<ReturnType<typeof serviceProcess>> & { client: Client }> {
  const started = await serviceProcess(env);
  running.push(started);
  const key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
  return { ...started, client: new Client({ address: started.address, key }) };
}
beforeAll(async () => {
  env = { WILY_DB_URL: await freshDatabase(), WILY_DATA: newFolder(), WILY_PORT: '0', WILY_RATE: '1000000' };
  first = (await another()).client;
  second = (await another()).client;
});
afterAll(async () => {
  for (const service of running) await service.kill();
});

const begin = (client: Client): Promise<Gathered> =>
  client.gather({
    sheet: 'Lantern Twenty-One',
    seats: [{ name: 'Wren' }, { name: 'Otter' }],
    clocks: false,
    pace: 0,
  });
const seatOf = (client: Client, { keys }: Gathered, seat: number): Client =>
  client.withKey(keys.seats.find((one) => one.seat === seat)?.key ?? '');
const verdictOf = async (client: Client, id: string) =>
  verifyFairness(readFairness(await client.fairness(id, 'watch')));

describe('seats that give chance, with several processes on one database', () => {
  it('may come to any of them, and the table is opened once', async () => {
    const begun = await begin(first);
    const id = begun.gathering.table;
    const [wren, otter] = [seatOf(first, begun, 1), seatOf(second, begun, 2)];
    const views = await Promise.all([takePart(wren, id, 1), takePart(otter, id, 2)]);
    expect(views.map(({ phase, seats }) => [phase, ...seats.map(({ state }) => state)])).toEqual([
      ['open', 'shown', 'shown'],
      ['open', 'shown', 'shown'],
    ]);
    expect((await first.tables()).filter((table) => table.id === id)).toHaveLength(1);
    expect(await otter.view(id)).toEqual(await seatOf(first, begun, 2).view(id));
    for (const client of [first, second])
      expect(await verdictOf(client, id)).toMatchObject({ took: [1, 2], agrees: true });
  });

  it('are waited for on when the process in which that began is killed', async () => {
    const third = await another();
    const begun = await begin(third.client);
    const id = begun.gathering.table;
    const [wren, otter] = [seatOf(first, begun, 1), seatOf(second, begun, 2)];
    const here = takePart(wren, id, 1);
    await until(async () => (await third.client.gathering(id)).seats[0]?.state === 'promised', "Wren's promise");
    await third.kill();
    // Wren's promise still stands, and what was told before is what is dealt from.
    expect((await second.gathering(id)).commitment).toBe(begun.gathering.commitment);
    await Promise.all([here, takePart(otter, id, 2)]);
    expect(await verdictOf(second, id)).toMatchObject({ took: [1, 2], agrees: true });
    expect(await second.fairness(id, 'watch')).toContain(`"commitment":"${begun.gathering.commitment}"`);
  });

  it('are left out by any of them, where a seat stays silent and nobody is left who began it', async () => {
    const third = await another();
    const begun = await third.client.gather({
      sheet: 'Lantern Twenty-One',
      seats: [{ name: 'Wren' }, { name: 'Otter' }],
      clocks: false,
      wait: 5,
    });
    await third.kill();
    const id = begun.gathering.table;
    const view = await takePart(seatOf(first, begun, 1), id, 1);
    expect(view.seats.map(({ state }) => state)).toEqual(['shown', 'absent']);
    expect(await verdictOf(first, id)).toMatchObject({ took: [1], agrees: true });
  });
});
