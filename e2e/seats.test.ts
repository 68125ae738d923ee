import type { Client, Follow } from '@wily-jester/client';
import type { Opened, TableSummary } from '@wily-jester/protocol';
import type { Service } from '@wily-jester/service';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { openTwo, seatKey, startTestService, until } from './setup/service.js';

let service: Service;
let developer: Client;
const following: Follow[] = [];
beforeAll(async () => {
  ({ service, client: developer } = await startTestService());
});
afterEach(() => {
  for (const follow of following.splice(0)) follow.stop();
});
afterAll(() => service.stop());

/** Follows with a key; what the table's seats are is in `table`. */
function join(
  opened: Opened,
  key: string,
): { follow: Follow; table: () => TableSummary | null; ended: () => string | null } {
  let table: TableSummary | null = null;
  let ended: string | null = null;
  const follow = developer.withKey(key).follow(opened.table.id, {
    onStatus: (now) => {
      table = now;
    },
    onProblem: (error) => {
      ended = error.kind;
    },
  });
  following.push(follow);
  return { follow, table: () => table, ended: () => ended };
}
const seatOf = (table: TableSummary | null, seat: number) => table?.seats[seat - 1];
const bet = (ask: number, once: string) => ({ ask, option: 'bet', args: { amount: 10 }, once });

describe('seats', () => {
  it('are present while somebody is connected with them, and everybody hears of it', async () => {
    const opened = await openTwo(developer);
    const watch = join(opened, opened.keys.watch);
    await until(() => watch.table() !== null, 'the table');
    expect(seatOf(watch.table(), 1)).toMatchObject({ held: 'person', present: false, away: false });
    const wren = join(opened, seatKey(opened, 1));
    const second = join(opened, seatKey(opened, 1));
    await until(() => seatOf(watch.table(), 1)?.present === true, 'Wren to be present');
    await until(() => second.follow.view !== null, 'the second connection');
    wren.follow.stop();
    second.follow.stop();
    await until(() => seatOf(watch.table(), 1)?.present === false, 'Wren to be gone');
    expect(seatOf(watch.table(), 2)?.present).toBe(false);
  });

  it('are handed to a bot, which plays at once, and taken back', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    const wren = developer.withKey(seatKey(opened, 1));
    const watch = join(opened, opened.keys.watch);
    await until(() => watch.follow.view !== null, 'the view');
    expect(seatOf(await wren.botSeat(id, 1), 1)).toMatchObject({ held: 'bot', bot: 'steady' });
    await until(() => watch.follow.view?.waiting.answered?.includes(1) === true, "the bot's bet");
    await expect(wren.choose(id, bet(0, 'late'))).rejects.toMatchObject({ kind: 'not-held' });
    expect(seatOf(await wren.takeSeat(id, 1), 1)).toMatchObject({ held: 'person', bot: null });
    await developer.choose(id, { ...bet(0, 'b'), seat: 2 });
    await until(() => watch.follow.view?.waiting.together === false, 'the deal');
    expect(watch.follow.view?.waiting.seats).toEqual([1]);
    expect((await wren.choose(id, { ask: 2, option: 'stand', once: 'mine' })).number).toBe(3);
  });

  it('refuse a bot that the sheet does not have, and a seat that is not there', async () => {
    const { table } = await openTwo(developer);
    await expect(developer.botSeat(table.id, 1, 'wild')).rejects.toMatchObject({
      message: '"Lantern Twenty-One" has no bot "wild". It has steady, thinking, random, solved.',
    });
    await expect(developer.takeSeat(table.id, 3)).rejects.toMatchObject({ kind: 'not-found' });
    expect((await developer.table(table.id)).seats.map((seat) => seat.held)).toEqual(['person', 'person']);
  });

  it('that were left are answered for at once, and are held again when they choose', async () => {
    const opened = await openTwo(developer, { clocks: true });
    const { id } = opened.table;
    const wren = developer.withKey(seatKey(opened, 1));
    const watch = join(opened, opened.keys.watch);
    await until(() => watch.follow.view !== null, 'the view');
    expect(seatOf(await wren.leaveSeat(id, 1), 1)).toMatchObject({ held: 'free', away: true });
    // The clock gives twenty seconds for a bet; nobody waits for them.
    await until(() => watch.follow.view?.waiting.answered?.includes(1) === true, 'the clock to answer');
    await developer.choose(id, { ...bet(0, 'b'), seat: 2 });
    await developer.choose(id, { ask: 2, option: 'stand', once: 's', seat: 2 });
    await expect(wren.choose(id, { ask: 2, option: 'stand', once: 'w' })).rejects.toMatchObject({ kind: 'turn' });
    expect(seatOf(await wren.table(id), 1)).toMatchObject({ held: 'person', away: false });
  });

  it('that nobody came for are waited for, until their keys are used', async () => {
    const source = `game "First Come" for 2 seats { deck standard pile row face up
      play { ask seats[1] within 1s else pass { option lay { deal 1 from pack to row } option pass { } } finish } }`;
    await developer.addSheet({ source });
    const opened = await openTwo(developer, { sheet: 'First Come', settings: {}, clocks: true });
    const { id } = opened.table;
    const clocks: unknown[] = [];
    const otter = developer
      .withKey(seatKey(opened, 2))
      .follow(id, { onClock: (clock) => clocks.push(clock?.seconds ?? null) });
    following.push(otter);
    await until(() => otter.view !== null, 'the view');
    expect(clocks.filter((seconds) => seconds !== null)).toEqual([]);
    await developer.withKey(seatKey(opened, 1)).view(id);
    await until(async () => (await developer.table(id)).status === 'over', 'the clock to answer');
  });

  it('that missed two turns are away, until they return', async () => {
    // The first turns are short; the later ones are so long that only a seat that is away ends them in time.
    const options = '{ option lay { deal 1 from pack to row } option pass { } }';
    const quick = `game "Quick Clock" for 2 seats { deck standard pile row face up
      play { repeat { for each s in seats {
        if size(row) < 2 { ask s within 1s else pass ${options} } else { ask s within 90s else pass ${options} }
      } if size(row) > 9 { break } } finish } }`;
    await developer.addSheet({ source: quick });
    const opened = await openTwo(developer, { sheet: 'Quick Clock', settings: {}, clocks: true });
    const { id } = opened.table;
    const otter = join(opened, seatKey(opened, 2));
    const watch = join(opened, opened.keys.watch);
    // Nobody is waited for without a clock once the key was used.
    await developer.withKey(seatKey(opened, 1)).view(id);
    const playOtter = async (): Promise<void> => {
      await until(() => otter.follow.view?.waiting.seats?.includes(2) === true, "Otter's turn");
      const ask = otter.follow.view?.waiting.ask ?? 0;
      await otter.follow.choose({ ask, option: 'lay', once: `o${ask}` });
    };
    await playOtter();
    expect(seatOf(watch.table(), 1)?.away).toBe(false);
    await playOtter();
    await until(async () => seatOf(await developer.table(id), 1)?.away === true, 'Wren to be away');
    await playOtter();
    await playOtter();
    await playOtter();
    const wren = join(opened, seatKey(opened, 1));
    await until(() => seatOf(wren.table(), 1)?.away === false, 'Wren to be back');
  });

  it('get a new key from the host, and whoever came with the old one is sent away', async () => {
    const opened = await openTwo(developer);
    const { id } = opened.table;
    const wren = join(opened, seatKey(opened, 1));
    const otter = join(opened, seatKey(opened, 2));
    const boss = join(opened, service.developerKey);
    await until(() => [wren, otter, boss].every(({ follow }) => follow.view !== null), 'all views');
    const made = await developer.withKey(opened.keys.host).newKey(id, { role: 'seat', seat: 1 });
    await until(() => wren.ended() === 'no-key', 'the old key to end');
    expect(otter.ended()).toBeNull();
    const again = join(opened, made.key);
    await until(() => again.follow.view?.viewer === 1, 'the new key');
    expect((await developer.withKey(made.key).choose(id, bet(0, 'new'))).number).toBe(1);
  });

  it('of one table are closed by its host, and by nobody with a lesser key', async () => {
    const opened = await openTwo(developer);
    const watch = join(opened, opened.keys.watch);
    await until(() => watch.follow.view !== null, 'the view');
    await developer.withKey(opened.keys.host).closeTable(opened.table.id);
    await until(() => watch.table()?.status === 'closed', 'the table to be closed');
  });
});
