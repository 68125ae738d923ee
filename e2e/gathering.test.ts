import type { Client } from '@wily-jester/client';
import { readFairness, verifyFairness } from '@wily-jester/core';
import type { Gathered } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { takePart } from './setup/chance.js';
import { connected } from './setup/held.js';
import { wily } from './setup/programs.js';
import { startTestService, until } from './setup/service.js';

let service: Service;
let developer: Client;
let rows: Awaited<ReturnType<typeof connected>>;
beforeAll(async () => {
  const started = await startTestService();
  ({ service, client: developer } = started);
  rows = await connected(started.database);
});
afterAll(async () => {
  await rows.end();
  await service.stop();
});

const begin = (wish: { wait?: number } = {}): Promise<Gathered> =>
  developer.gather({
    sheet: 'Lantern Twenty-One',
    seats: [{ name: 'Wren' }, { name: 'Otter' }, { name: 'Heron', bot: 'steady' }],
    clocks: false,
    pace: 0,
    ...wish,
  });
const keyOf = ({ keys }: Gathered, seat: number): Client =>
  developer.withKey(keys.seats.find((one) => one.seat === seat)?.key ?? '');

const verdictOf = async (id: string) => verifyFairness(readFairness(await developer.fairness(id, 'watch')));

describe('a table whose seats give chance', () => {
  it('is dealt once all have shown what they promised, and can be verified', async () => {
    const begun = await begin();
    const id = begun.gathering.table;
    expect(begun.gathering.seats.map(({ state }) => state)).toEqual(['waiting', 'waiting', 'bot']);
    // Nothing is dealt yet, and should the service end now, its keys end too.
    const endings = async (): Promise<unknown[]> =>
      (await rows.query('SELECT until FROM `keys` WHERE tableId = ?', [id])).map(
        (row: { until: Date | null }) => row.until,
      );
    expect(await endings()).toEqual(new Array(4).fill(expect.any(Date)));
    await expect(developer.table(id)).rejects.toMatchObject({ kind: 'not-found' });
    const [wren, otter] = [keyOf(begun, 1), keyOf(begun, 2)];
    const views = await Promise.all([takePart(wren, id, 1), takePart(otter, id, 2)]);
    expect(views.map(({ phase }) => phase)).toEqual(['open', 'open']);
    const fairness = await wren.fairness(id);
    const verdict = verifyFairness(readFairness(fairness));
    expect(verdict.took).toEqual([1, 2]);
    expect(fairness).toContain(`"commitment":"${begun.gathering.commitment}"`);
    expect(verdict.checks.filter(({ agrees }) => !agrees)).toEqual([]);
    expect(verdict.checks.map(({ what }) => what)).toContain('what 2 of 3 seats gave');
    const said = await wily(['verify', '-'], { input: fairness });
    expect(said.out).toContain(
      'Wren, Otter gave chance. Whether the shuffles were made of it is not known before the seed is shown.',
    );
    expect(said.out).not.toContain('the service alone chose');
    expect(await endings()).toEqual(new Array(4).fill(null));
    // The keys from before are those of the table, and it replays with what the seats gave.
    expect((await otter.view(id)).seats).toHaveLength(3);
    const record = await developer.record(id);
    expect(record.split('\n')[0]).toContain('"gave"');
    await developer.closeTable(id);
    expect((await developer.loadRecord(record)).table.number).toBe((await developer.table(id)).number);
    // What is deleted is not opened again for whoever asks how it was gathered.
    await developer.deleteTable(id);
    await expect(developer.gathering(id)).rejects.toMatchObject({ kind: 'not-found' });
    await expect(developer.table(id)).rejects.toMatchObject({ kind: 'not-found' });
  });

  it('leaves out whoever promises nothing, when the host deals', async () => {
    const begun = await begin();
    const id = begun.gathering.table;
    const wren = keyOf(begun, 1);
    const part = takePart(wren, id, 1);
    await until(async () => (await developer.gathering(id)).seats[0]?.state === 'promised', "Wren's promise");
    await expect(wren.dealNow(id)).rejects.toMatchObject({ status: 403 });
    await developer.withKey(begun.keys.host).dealNow(id);
    expect((await part).seats.map(({ state }) => state)).toEqual(['shown', 'absent', 'bot']);
    const late = { kind: 'promise', value: 'a'.repeat(64) } as const;
    await expect(keyOf(begun, 2).giveChance(id, late)).rejects.toMatchObject({ kind: 'changed' });
    expect((await verdictOf(id)).took).toEqual([1]);
  });

  it('begins anew without a seat that promised and does not show, and the record says so', async () => {
    const begun = await begin();
    const id = begun.gathering.table;
    const wren = takePart(keyOf(begun, 1), id, 1);
    // Otter promises and then sees whether it likes what the others show.
    await takePart(keyOf(begun, 2), id, 2, 1);
    const end = await wren;
    expect([end.voids, end.seats.map(({ state }) => state)]).toEqual([[2], ['shown', 'absent', 'bot']]);
    expect(end.commitment).not.toBe(begun.gathering.commitment);
    expect(await verdictOf(id)).toMatchObject({ took: [1], voids: 1, agrees: true });
    expect(await developer.fairness(id, 'watch')).toContain('{"fair":"void","seat":2,');
  });

  it('takes no second promise, nothing else than was promised, and no word for another seat', async () => {
    const begun = await begin();
    const id = begun.gathering.table;
    const wren = keyOf(begun, 1);
    const promise = (value: string, seat?: number) =>
      wren.giveChance(id, { kind: 'promise', value, ...(seat ? { seat } : {}) });
    await promise('a'.repeat(64));
    await promise('a'.repeat(64));
    await expect(promise('b'.repeat(64))).rejects.toMatchObject({ kind: 'changed' });
    await expect(promise('b'.repeat(64), 2)).rejects.toMatchObject({ status: 403 });
    await expect(wren.giveChance(id, { kind: 'show', value: 'c'.repeat(64) })).rejects.toMatchObject({
      kind: 'changed',
    });
    await developer.dealNow(id);
    await expect(wren.giveChance(id, { kind: 'show', value: 'c'.repeat(64) })).rejects.toThrow('not what this seat');
    await expect(developer.giveChance(id, { kind: 'promise', value: 'd'.repeat(64), seat: 3 })).rejects.toThrow(
      'A bot',
    );
  });

  it('of bots alone is dealt at once, and says that the service alone chose', async () => {
    const { gathering } = await developer.gather({
      sheet: 'Lantern Twenty-One',
      seats: [{ name: 'Heron', bot: 'steady' }],
      clocks: false,
    });
    expect((await developer.gathering(gathering.table)).phase).toBe('open');
    expect((await verdictOf(gathering.table)).checks.map(({ what }) => what)).toContain(
      'that no seat gave chance of its own',
    );
    await expect(
      developer.gather({ sheet: 'Lantern Twenty-One', seats: [{ name: 'Wren' }], settings: { stake: 3 } }),
    ).rejects.toMatchObject({ kind: 'setup' });
  });

  it('goes by the version of the sheet that the seats were told, also where a newer one is added meanwhile', async () => {
    const text = (await developer.sheet('Lantern Twenty-One')).source;
    const begun = await begin();
    const id = begun.gathering.table;
    const before = await developer.sheet('Lantern Twenty-One');
    await developer.addSheet({ source: `${text}\n// newer\n` });
    expect((await developer.sheet('Lantern Twenty-One')).hash).not.toBe(before.hash);
    await Promise.all([takePart(keyOf(begun, 1), id, 1), takePart(keyOf(begun, 2), id, 2)]);
    expect((await developer.table(id)).sheet).toBe(before.hash);
    expect(await verdictOf(id)).toMatchObject({ took: [1, 2], agrees: true });
  });
});
