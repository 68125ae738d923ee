import { rmSync } from 'node:fs';
import { Client } from '@wily-jester/client';
import type { Opened } from '@wily-jester/protocol';
import { type Service, startService } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { acknowledgedBy, crowd, FULL, figure, wrongAfter } from '../setup/crowd.js';
import { newFolder } from '../setup/programs.js';
import { bareConfig, openTwo, seatKey, until } from '../setup/service.js';

const STOPS = FULL ? 5 : 1;
const TABLES = FULL ? 20 : 3;

interface Started {
  url: string;
  stop(): Promise<void>;
}
const folder = newFolder();
let start: (folder: string) => Promise<Started>;
let database: Started;
let service: Service;
beforeAll(async () => {
  ({ startDatabase: start } = await import('../../scripts/lib/database.mjs' as string));
  database = await start(folder);
  service = await startService(bareConfig(newFolder(), database.url));
});
afterAll(async () => {
  await service?.stop();
  await database?.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe('a database that stops and starts under play', () => {
  it('costs nothing but time: choices get 503, nothing is half applied, and play goes on by itself', async () => {
    const client = new Client({ address: service.address, key: service.developerKey });
    const players = await crowd(client, TABLES);
    // One table plays by itself, so that it must also go on by itself.
    const alone = await client.openTable({
      sheet: 'Lantern Twenty-One',
      seats: [{ name: 'Heron', bot: 'steady' }],
      settings: { rounds: 1000, stake: 100_000 },
      pace: 50,
    });
    const { id } = alone.table;
    // And at one table for each stop, one choice is sent into the gap.
    const calm: Opened[] = [];
    for (let stop = 0; stop < STOPS; stop++) {
      const opened = await openTwo(client);
      await client.withKey(seatKey(opened, 1)).view(opened.table.id);
      calm.push(opened);
    }
    for (let stop = 0; stop < STOPS; stop++) {
      const before = acknowledgedBy(players);
      await until(() => acknowledgedBy(players) >= before + TABLES * 10, 'play');
      await database.stop();
      const bet = { ask: 0, option: 'bet', args: { amount: 10 }, once: `down ${stop}` };
      const send = (): Promise<Response> =>
        fetch(`${service.address}/api/tables/${calm[stop]?.table.id}/choices`, {
          method: 'POST',
          headers: { authorization: `Bearer ${seatKey(calm[stop] as Opened, 1)}`, 'content-type': 'application/json' },
          body: JSON.stringify(bet),
        });
      const refused = await send();
      expect([refused.status, refused.headers.get('retry-after')]).toEqual([503, '1']);
      const down = await fetch(`${service.address}/health`);
      expect([down.status, await down.json()]).toEqual([503, expect.objectContaining({ database: 'down' })]);
      database = await start(folder);
      await until(async () => (await client.health().catch(() => null))?.status === 'ok', 'the database to be back');
      const again = await send();
      expect([again.status, await again.json()]).toEqual([200, expect.objectContaining({ number: 1 })]);
      const after = acknowledgedBy(players);
      const { number } = await client.table(id);
      await until(() => acknowledgedBy(players) >= after + TABLES * 5, 'play to go on');
      await until(async () => (await client.table(id)).number > number, 'the bot to go on');
    }
    for (const player of players) await player.rest();
    await client.closeTable(id);
    expect(await wrongAfter(client, players)).toEqual([]);
    figure(
      `The database stopped ${STOPS} times under play by ${players.length} clients: ${acknowledgedBy(players)} acknowledged choices, none lost, none twice.`,
    );
    for (const player of players) player.follow.stop();
  }, 600_000);
});
