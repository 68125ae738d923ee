import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, seatKey, startTestService, until } from './setup/service.js';

const THIN_ICE = `game "Thin Ice" for 1 seat { deck standard pile row face up
  play { repeat { ask seats[1] { option fall { deal 60 from pack to row } option walk { say "on" } option rest { finish } } } } }`;

let first: Awaited<ReturnType<typeof startTestService>>;
const later: Service[] = [];
beforeAll(async () => {
  first = await startTestService();
  await first.client.addSheet({ source: THIN_ICE });
});
afterAll(async () => {
  for (const service of later) await service.stop();
  await first.service.stop();
});

/** A service that knows nothing but what the database holds. */
async function anew(): Promise<Client> {
  const { service, client } = await startTestService(first);
  later.push(service);
  return client;
}
const choose = (id: string, ask: number, option: string) =>
  first.client.choose(id, { ask, option, once: `${ask} ${option}`, seat: 1 });

describe('a table that is loaded from the database', () => {
  it('still has the fault that it had, though choices were made before it', async () => {
    const { table } = await first.client.openTable({ sheet: 'Thin Ice', seats: [{ name: 'Wren' }] });
    await choose(table.id, 0, 'walk');
    await choose(table.id, 1, 'fall').catch(() => undefined);
    const found = await (await anew()).table(table.id);
    expect(found).toMatchObject({ status: 'fault', number: 1, fault: { line: 2, number: 1 } });
    expect(found.fault?.message).toContain('pack is empty');
  });

  it('has none where a choice came after it', async () => {
    const { table } = await first.client.openTable({ sheet: 'Thin Ice', seats: [{ name: 'Wren' }] });
    await choose(table.id, 0, 'fall').catch(() => undefined);
    await choose(table.id, 0, 'walk');
    expect(await (await anew()).table(table.id)).toMatchObject({ status: 'open', number: 1, fault: null });
  });

  it('is over, or closed, as it was', async () => {
    const over = await first.client.openTable({ sheet: 'Thin Ice', seats: [{ name: 'Wren' }] });
    await choose(over.table.id, 0, 'rest');
    const closed = await first.client.openTable({ sheet: 'Thin Ice', seats: [{ name: 'Wren' }] });
    await choose(closed.table.id, 0, 'walk');
    await first.client.closeTable(closed.table.id);
    const client = await anew();
    expect((await client.table(over.table.id)).status).toBe('over');
    expect((await client.table(closed.table.id)).status).toBe('closed');
  });

  it('knows the words of its choices, who holds its seats, and who let the clock play', async () => {
    const opened = await openTwo(first.client);
    const { id } = opened.table;
    const bet = { ask: 0, option: 'bet', args: { amount: 10 }, once: 'my bet' };
    const wren = first.client.withKey(seatKey(opened, 1));
    await wren.choose(id, bet);
    await first.client.botSeat(id, 2);
    await until(async () => (await first.client.table(id)).number === 2, 'the bot to bet');
    const client = await anew();
    expect((await client.table(id)).seats.map(({ held, bot }) => [held, bot])).toEqual([
      ['person', null],
      ['bot', 'steady'],
    ]);
    expect(await client.withKey(seatKey(opened, 1)).choose(id, bet)).toMatchObject({ number: 1, repeated: true });
    await expect(client.withKey(seatKey(opened, 1)).choose(id, { ...bet, args: { amount: 12 } })).rejects.toMatchObject(
      { kind: 'used-word' },
    );
  });

  it('counts as choices only what it carried out itself', async () => {
    const { table } = await first.client.openTable({ sheet: 'Thin Ice', seats: [{ name: 'Wren' }] });
    await choose(table.id, 0, 'walk');
    const client = await anew();
    await client.table(table.id);
    const text = await (await fetch(`${client.options.address}/metrics`)).text();
    expect(/^wily_choices_total\{by="person"\} (\d+)/m.exec(text)?.[1] ?? '0').toBe('0');
  });
});
