import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client, ServiceError } from '@wily-jester/client';
import type { Opened } from '@wily-jester/protocol';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { acknowledgedBy, crowd, wrongAfter } from '../setup/crowd.js';
import { newFolder, serviceProcess } from '../setup/programs.js';
import { freshDatabase, newDeveloper, openTwo, seatKey, until } from '../setup/service.js';

let service: Awaited<ReturnType<typeof serviceProcess>>;
let client: Client;
beforeAll(async () => {
  const env = { WILY_DB_URL: await freshDatabase(), WILY_DATA: newFolder(), WILY_PORT: '0', WILY_RATE: '1000000' };
  service = await serviceProcess(env);
  const key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
  client = new Client({ address: service.address, key });
});
afterAll(() => service?.kill());

/** A sheet that does as much as it may at each choice, and goes on for ever. */
const HEAVY = `game "Heavy Going" for 2 seats {
  deck standard copies 20
  pile row face up
  var kept: cards = []
  play {
    repeat {
      ask seats[1] { option go { } }
      for i in 1..28 { kept = sorted(pack, c => c.pips) }
      if size(kept) == 0 { break }
    }
  }
  bot tireless { go }
}`;

/** A sheet that does next to nothing at each choice. */
const LIGHT =
  'game "Light Going" for 1 seat { deck standard play { repeat { ask seats[1] { option go { } option stop { finish } } } } }';

/** The number at which a table stands. */
const numberOf = async (id: string): Promise<number> => (await client.table(id)).number;

describe('tables whose sheets do very much', () => {
  it('take turns with others, who go on as if they were alone', async () => {
    await client.addSheet({ source: HEAVY });
    const heavy = await Promise.all(
      Array.from({ length: 8 }, () =>
        client.openTable({
          sheet: 'Heavy Going',
          seats: [{ name: 'Wren', bot: 'tireless' }, { name: 'Otter' }],
          pace: 0,
          clocks: false,
        }),
      ),
    );
    await until(async () => (await numberOf(heavy[0]?.table.id ?? '')) > 0, 'the heavy ones are at play');
    const before = await Promise.all(heavy.map(({ table }) => numberOf(table.id)));
    const players = await crowd(client, 2);
    await until(() => acknowledgedBy(players) > 40, 'the others to play');
    await Promise.all(players.map((player) => player.rest()));
    expect(await wrongAfter(client, players)).toEqual([]);
    for (const player of players) player.follow.stop();
    // They go on as well, and slower than they would.
    await until(async () => {
      const after = await Promise.all(heavy.map(({ table }) => numberOf(table.id)));
      return after.some((number, i) => number > (before[i] ?? 0));
    }, 'the heavy ones go on');
  });

  it('refuse people for a while, with the time to come back, once their share is used up', async () => {
    const opened = await client.openTable({
      sheet: 'Heavy Going',
      seats: [{ name: 'Wren' }, { name: 'Otter' }],
      clocks: false,
    });
    const wren = new Client({ address: service.address, key: seatKey(opened, 1) });
    let refused: ServiceError | undefined;
    let ask = 0;
    for (let i = 0; i < 400 && !refused; i++)
      try {
        ask = (await wren.choose(opened.table.id, { ask, option: 'go', once: `g${i}` })).number;
      } catch (error) {
        if (!(error instanceof ServiceError)) throw error;
        refused = error;
      }
    expect(refused?.problem.status).toBe(429);
    expect(refused?.problem.retryAfter).toBeGreaterThan(0);
    expect((await client.table(opened.table.id)).status).toBe('open');
    const other = await openTwo(client);
    expect(
      (await client.choose(other.table.id, { seat: 1, ask: 0, option: 'bet', args: { amount: 10 }, once: 'x' })).number,
    ).toBe(1);
  });

  it('do no more in a record that somebody wrote than in a choice', async () => {
    await client.addSheet({
      source: `game "As Much As Said" for 1 seat {
  deck standard copies 20
  play {
    repeat {
      ask seats[1] { option go(n: 1..90) { for i in 1..n { let kept = sorted(pack, c => c.pips) if empty(kept) { finish } } } }
    }
  }
}`,
    });
    const { table } = await client.openTable({ sheet: 'As Much As Said', seats: [{ name: 'Wren' }], clocks: false });
    await client.choose(table.id, { seat: 1, ask: 0, option: 'go', args: { n: 1 }, once: 'x' });
    const record = await client.record(table.id);
    expect((await client.loadRecord(record)).table.number).toBe(1);
    const written = record.replace('{"n":1}', '{"n":90}');
    expect(written).not.toBe(record);
    await expect(client.loadRecord(written)).rejects.toMatchObject({
      problem: { status: 422, detail: expect.stringMatching(/leads to a fault.*too much/) },
    });
  });

  it('have a share of their developer’s together, beside those of others', async () => {
    const stranger = await newDeveloper(client, 'stranger');
    await stranger.addSheet({ source: HEAVY.replace('Heavy Going', 'Strange Going') });
    const tables = await Promise.all(
      Array.from({ length: 12 }, () =>
        stranger.openTable({
          sheet: 'Strange Going',
          seats: [{ name: 'Wren' }, { name: 'Otter' }],
          clocks: false,
        }),
      ),
    );
    const neighbour = await newDeveloper(client, 'neighbour');
    await neighbour.addSheet({ source: LIGHT });
    const other = await neighbour.openTable({ sheet: 'Light Going', seats: [{ name: 'Wren' }], clocks: false });
    let others = 0;
    const goOn = async (): Promise<void> => {
      others = (await neighbour.choose(other.table.id, { seat: 1, ask: others, option: 'go', once: `n${others}` }))
        .number;
    };
    let refused: ServiceError['problem'] | undefined;
    const mine = "This developer's tables have used up their share of the processor together.";
    // Each does what it may alone; all at once they do more than one developer may. One that used up its own share goes on after a while.
    const play = async (opened: Opened): Promise<void> => {
      const seat = client.withKey(seatKey(opened, 1));
      let ask = 0;
      for (let round = 0; !refused; round++)
        try {
          ask = (await seat.choose(opened.table.id, { ask, option: 'go', once: `s${round}` })).number;
        } catch (error) {
          if (!(error instanceof ServiceError)) throw error;
          expect(error.status).toBe(429);
          if (error.problem.detail.startsWith(mine)) refused = error.problem;
          await new Promise((done) => setImmediate(done));
        }
    };
    // Who uses the processor alone owes nothing for that: the neighbour plays all the while.
    const goOnMeanwhile = async (): Promise<void> => {
      while (!refused) await goOn();
    };
    await Promise.all([...tables.map(play), goOnMeanwhile()]);
    expect(refused?.retryAfter).toBeGreaterThan(0);
    // The other developer's go on as if they were alone.
    const before = others;
    await goOn();
    expect(others).toBeGreaterThan(before);
  });
});
