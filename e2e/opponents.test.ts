import type { Client } from '@wily-jester/client';
import type { Service } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, seatKey, startTestService, until } from './setup/service.js';

let service: Service;
let client: Client;
let data: string;
let database: string;
beforeAll(async () => {
  ({ service, client, data, database } = await startTestService());
});
const later: Service[] = [];
afterAll(async () => {
  for (const one of [...later, service]) await one.stop();
});

/** A sheet without a word of opponents. */
const PLAIN = `game "Plain Tricks" for 2 seats {
  deck standard
  pile hand of each seat private
  pile laid of each seat face up
  play {
    shuffle pack
    deal 4 each from pack to hand
    for n in 1..4 {
      for each s in seats { ask s { option lay(c: card in s.hand) "lay {c}" { move c to s.laid } } }
      if top(seats[2].laid).rank > top(seats[1].laid).rank { score seats[2] += 1 } else { score seats[1] += 1 }
    }
    finish
  }
}`;

const openWith = (sheet: string, bot: string, settings = {}) =>
  client.openTable({ sheet, seats: [{ name: 'Wren' }, { name: 'Otter', bot }], pace: 0, settings });

describe('a seat that thinks at a live table', () => {
  it('plays a game to its end, also where the sheet has no bot', async () => {
    await client.addSheet({ source: PLAIN });
    const opened = await openWith('Plain Tricks', 'thinking 30ms');
    const { id } = opened.table;
    const wren = client.withKey(seatKey(opened, 1));
    for (let turn = 0; turn < 4; turn++) {
      await until(async () => (await client.view(id, 1)).waiting.seats?.includes(1) === true, "Wren's turn");
      const { offers, ask } = await wren.offers(id);
      const [way] = offers[0]?.ways ?? [];
      await wren.choose(id, { ask, option: 'lay', args: { c: way?.[0] as string }, once: `${turn}` });
    }
    await until(async () => (await client.view(id, 1)).waiting.kind === 'over', 'the end');
    const rows = (await client.record(id)).trim().split('\n').slice(1);
    expect(rows.map((row) => JSON.parse(row)).filter(({ by }) => by === 'bot')).toHaveLength(4);
    expect(opened.table.seats[1]).toMatchObject({ held: 'bot', bot: 'thinking 30ms' });
  });

  it('is refused where its time cannot be read, or is longer than a table waits', async () => {
    await expect(openWith('Eights Aside', 'thinking forever')).rejects.toMatchObject({ kind: 'setup' });
    await expect(openWith('Eights Aside', 'thinking 60s')).rejects.toMatchObject({
      message: 'At a live table thinking takes at most 10s, not thinking 60s.',
    });
    await expect(openWith('Eights Aside', 'wild')).rejects.toMatchObject({
      message: '"Eights Aside" has no bot "wild". It has tidy, thinking, random, solved.',
    });
  });

  it('plays by a solution where the game is small: nobody looks longer than at a bot', async () => {
    // The sheet's own bot, which plays where nothing is found, always goes the other way.
    await client.addSheet({
      source: `game "Fork" for 2 seats { deck standard play { for n in 1..4 { for each s in seats { ask s {
        option left { score s -= 1 score next(s) += 1 } option right { score s += 1 score next(s) -= 1 } } } } finish }
        bot wrong { left } }`,
    });
    const opened = await openWith('Fork', 'solved');
    const { id } = opened.table;
    expect(opened.table.seats[1]).toMatchObject({ held: 'bot', bot: 'solved' });
    const wren = client.withKey(seatKey(opened, 1));
    const waiting = async () => (await wren.view(id)).waiting;
    for (let turn = 0; (await waiting()).kind !== 'over'; turn++) {
      await until(async () => (await waiting()).kind === 'over' || (await waiting()).seats?.[0] === 1, "Wren's turn");
      const { offers, ask } = await wren.offers(id);
      const [offer] = offers.filter(({ legal }) => legal);
      if (offer) await wren.choose(id, { ask, option: offer.option, once: `${turn}` });
    }
    const rows = (await client.record(id))
      .trim()
      .split('\n')
      .slice(1)
      .map((row) => JSON.parse(row));
    expect(rows.filter(({ by }) => by === 'bot').map(({ option }) => option)).toEqual(Array(4).fill('right'));
  });

  it('is refused a solution where its game is large, when it opens and when a seat is given away', async () => {
    const problem = { status: 422, detail: expect.stringContaining('too large to be solved') };
    await expect(openWith('Eights Aside', 'solved')).rejects.toMatchObject({ problem });
    const { table } = await openWith('Eights Aside', 'tidy');
    await expect(client.botSeat(table.id, 1, 'solved')).rejects.toMatchObject({ problem });
    expect((await client.table(table.id)).seats[0]).toMatchObject({ held: 'person' });
  });

  it('plays on where all seats think, with nobody there', async () => {
    const opened = await openWith('Eights Aside', 'thinking 20ms', { mostDeals: 1 });
    const { id } = opened.table;
    await client.botSeat(id, 1, 'thinking 20ms');
    await until(async () => (await client.view(id, 1)).number > 12, 'some choices');
    const rows = (await client.record(id)).trim().split('\n').slice(1);
    expect(rows.every((row) => JSON.parse(row).by === 'bot')).toBe(true);
    await client.closeTable(id);
  });
});

describe('a seat that thought when the service stopped', () => {
  it('thinks again once it is back', async () => {
    const opened = await openWith('Eights Aside', 'thinking 20ms');
    const { id } = opened.table;
    await client.botSeat(id, 1, 'thinking 20ms');
    await until(async () => (await client.view(id, 1)).number > 4, 'some choices');
    await service.stop();
    ({ service, client } = await startTestService({ data, database }));
    const { number } = await client.view(id, 1);
    await until(async () => (await client.view(id, 1)).number > number + 4, 'more choices');
    const rows = (await client.record(id)).trim().split('\n').slice(1);
    expect(rows.every((row) => JSON.parse(row).by === 'bot')).toBe(true);
    await client.closeTable(id);
  });
});

describe('a seat of a table that two processes serve', () => {
  const thoughts = async (of: Client): Promise<number> => {
    const text = await (await fetch(`${of.options.address}/metrics`)).text();
    return Number(/^wily_thoughts_total (\d+)/m.exec(text)?.[1]);
  };

  it('is thought for by one of them, whoever looks where', async () => {
    const other = await startTestService({ data, database });
    later.push(other.service);
    const opened = await openWith('Plain Tricks', 'thinking 60ms');
    const { id } = opened.table;
    // Both have the table before anybody thinks, and both are looked at while it goes on.
    await other.client.view(id, 2);
    const before = (await thoughts(client)) + (await thoughts(other.client));
    await client.botSeat(id, 1, 'thinking 60ms');
    const isOver = async (of: Client): Promise<boolean> => (await of.view(id, 1)).waiting.kind === 'over';
    await until(async () => (await isOver(client)) && (await isOver(other.client)), 'the end');
    expect((await thoughts(client)) + (await thoughts(other.client)) - before).toBe(8);
  });
});

describe('a hint', () => {
  it('tells the best choices with what they are worth, and is written down', async () => {
    const opened = await openWith('Eights Aside', 'tidy');
    const { id } = opened.table;
    const wren = client.withKey(seatKey(opened, 1));
    await until(async () => (await client.view(id, 1)).waiting.seats?.includes(1) === true, "Wren's turn");
    const hint = await wren.hint(id, { milliseconds: 100 });
    expect(hint.seat).toBe(1);
    expect(hint.choices.length).toBeGreaterThan(0);
    const { offers } = await wren.offers(id);
    expect(offers.map((offer) => offer.option)).toContain(hint.choices[0]?.option);
    const first = hint.choices[0];
    await wren.choose(id, { ask: hint.ask, option: first?.option ?? '', args: first?.args ?? {}, once: 'hinted' });
    expect((await client.looks(id)).map(({ what }) => what)).toContain('hint for seat 1');
  });

  it('is there before the clock of its turn is down', async () => {
    await client.addSheet({
      source: `game "Quick Doors" for 2 seats { deck standard play {
        for n in 1..100 { for each s in seats { ask s within 4s else left { option left { } option right { score s += 1 } } } } finish } }`,
    });
    const seats = [{ name: 'Wren' }, { name: 'Otter' }];
    const opened = await client.openTable({ sheet: 'Quick Doors', seats, clocks: true });
    const { id } = opened.table;
    const [wren, otter] = [1, 2].map((seat) => client.withKey(seatKey(opened, seat))) as [Client, Client];
    const follow = wren.follow(id, {});
    try {
      // Whoever asks for more than the clock leaves has an answer while there is a turn to use it in. A machine that stands
      // still may miss one: without that care none would be in time.
      let inTime = false;
      for (let turn = 0; turn < 3; turn++) {
        const { number } = await client.view(id, 1);
        const hint = await wren.hint(id, { milliseconds: 5_000 }).catch(() => null);
        inTime = hint !== null && (await client.view(id, 1)).number === number;
        if (inTime) {
          expect(hint?.choices[0]).toMatchObject({ option: 'right' });
          break;
        }
        await until(async () => (await client.view(id, 2)).waiting.seats?.[0] === 2, "Wren's time to be up");
        const { ask } = await otter.offers(id);
        await otter.choose(id, { ask, option: 'left', once: `on ${turn}` });
      }
      expect(inTime).toBe(true);
    } finally {
      follow.stop();
    }
  });

  it('is given to nobody at a table that was opened without them', async () => {
    const opened = await openTwo(client, { hints: false });
    expect(opened.table.hints).toBe(false);
    const hint = client.withKey(seatKey(opened, 1)).hint(opened.table.id, { milliseconds: 20 });
    await expect(hint).rejects.toMatchObject({
      kind: 'not-allowed',
      message: expect.stringContaining('without hints'),
    });
    const branch = await client.branch(opened.table.id, { number: 0 });
    expect(branch.table.hints).toBe(false);
  });

  it('is for the own seat alone, and only while something is asked of it', async () => {
    const opened = await openWith('Eights Aside', 'tidy');
    const { id } = opened.table;
    await expect(client.withKey(opened.keys.watch).hint(id)).rejects.toMatchObject({ status: 403 });
    await expect(client.withKey(opened.keys.host).hint(id)).rejects.toMatchObject({ status: 403 });
    await expect(client.hint(id, { seat: 1, milliseconds: 60_000 })).rejects.toMatchObject({ kind: 'malformed' });
    await client.closeTable(id);
    await expect(client.hint(id, { seat: 2, milliseconds: 50 })).rejects.toMatchObject({ kind: 'turn' });
  });
});

describe('looking back at a choice', () => {
  it('says what it cost beside the others, to the seat that made it and to developers', async () => {
    await client.addSheet({
      source: `game "Two Tolls" for 2 seats { deck standard play {
        chapter "The only toll"
        for each s in seats { ask s { option keep { score s += 3 } option throw { score s -= 4 } } }
        finish } }`,
    });
    const opened = await openTwo(client, { sheet: 'Two Tolls', settings: {} });
    const { id } = opened.table;
    const [wren, otter] = [1, 2].map((seat) => client.withKey(seatKey(opened, seat))) as [Client, Client];
    await wren.choose(id, { ask: 0, option: 'throw', once: 'w' });
    // A developer may ask while the chapter goes on: how it ended is told once it has.
    expect((await client.analysis(id, 1, { milliseconds: 50 })).ended).toBe(-4);
    const open = wren.analysis(id, 1, { milliseconds: 50 });
    await expect(open).rejects.toMatchObject({ kind: 'not-allowed', message: expect.stringContaining('open') });
    await otter.choose(id, { ask: 1, option: 'keep', once: 'o' });
    const found = await wren.analysis(id, 1, { milliseconds: 50 });
    expect(found).toMatchObject({ number: 1, seat: 1, begun: 0, ahead: 0, ended: -7 });
    expect(found.choices.map(({ option, gain, taken }) => [option, gain, taken])).toEqual([
      ['keep', 7, false],
      ['throw', 0, true],
    ]);
    await expect(otter.analysis(id, 1)).rejects.toMatchObject({ kind: 'not-allowed' });
    await expect(client.analysis(id, 3)).rejects.toMatchObject({ message: expect.stringContaining('no number 3') });
    await expect(client.analysis(id, 1, { milliseconds: 60_000 })).rejects.toMatchObject({ kind: 'malformed' });
    // The same question again is not thought about twice, also where more time would find other figures.
    expect(await client.analysis(id, 1, { milliseconds: 50 })).toEqual(found);
    expect((await client.looks(id)).map(({ what }) => what)).toContain('analysis of 1');
  });
});
