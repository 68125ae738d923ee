import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { type Service, startService } from '@wily-jester/service';
import { afterAll, beforeAll, expect, it, vi } from 'vitest';
import { bareConfig, freshDatabase, openTwo } from './setup/service.js';

const MIB = 1024 * 1024;
/** What the disk says that it has. */
let free = 1_000 * MIB;
let service: Service;
let client: Client;
let tick: () => Promise<unknown>;
beforeAll(async () => {
  vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval'] });
  const data = mkdtempSync(join(tmpdir(), 'wily-data-'));
  service = await startService(bareConfig(data, await freshDatabase()), async () => free);
  client = new Client({ address: service.address, key: service.developerKey });
  // The service looks every ten seconds.
  tick = () => vi.advanceTimersByTimeAsync(10_000);
});
afterAll(async () => {
  vi.useRealTimers();
  await service.stop();
});

const bet = (id: string, seat: number) =>
  client.choose(id, { seat, ask: 0, option: 'bet', args: { amount: 10 }, once: `bet ${seat}` });
const NO_ROOM = { status: 503, kind: 'unavailable' };

it('a disk that fills up stops what is new first, then play, and all goes on once there is room', async () => {
  const { id } = (await openTwo(client)).table;
  free = 150 * MIB;
  await tick();
  await expect(openTwo(client)).rejects.toMatchObject(NO_ROOM);
  const source = 'game "Small" for 1 seat { deck standard play { ask seats[1] { option rest { } } } }';
  await expect(client.addSheet({ source })).rejects.toMatchObject(NO_ROOM);
  expect(await bet(id, 1)).toMatchObject({ number: 1 });
  free = 20 * MIB;
  await tick();
  const refused = await bet(id, 2).catch((error: unknown) => error);
  expect(refused).toMatchObject(NO_ROOM);
  expect(String(refused)).toContain('There is too little room on the disk for a choice. Nothing was changed');
  // What was kept is answered all the same, and read.
  expect(await bet(id, 1)).toMatchObject({ number: 1, repeated: true });
  expect((await client.view(id, 1)).number).toBe(1);
  free = 1_000 * MIB;
  await tick();
  expect(await bet(id, 2)).toMatchObject({ number: 2 });
  await client.addSheet({ source });
  await openTwo(client);
});
