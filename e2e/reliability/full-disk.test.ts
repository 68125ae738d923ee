import { spawnSync } from 'node:child_process';
import { appendFileSync, mkdtempSync, rmSync, statfsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client, ServiceError } from '@wily-jester/client';
import { type Service, startService } from '@wily-jester/service';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { acknowledgedBy, crowd, figure, wrongAfter } from '../setup/crowd.js';
import { newFolder } from '../setup/programs.js';
import { bareConfig, openTwo, until } from '../setup/service.js';

interface Started {
  url: string;
  stop(): Promise<void>;
}

/** A disk of its own: in memory, and so small that it can be filled to its last byte. */
const disk = mkdtempSync(join(tmpdir(), 'wily-disk-'));
const isMounted =
  process.getuid?.() === 0 && spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=420m', 'wily-tests', disk]).status === 0;
const filler = join(disk, 'filler');
const leftOn = (): number => {
  const { bavail, bsize } = statfsSync(disk);
  return bavail * bsize;
};

let database: Started;
let service: Service;
let client: Client;
beforeAll(async () => {
  if (!isMounted) return;
  const { startDatabase } = (await import('../../scripts/lib/database.mjs' as string)) as {
    startDatabase(folder: string): Promise<Started>;
  };
  database = await startDatabase(disk);
  // It believes that there is room, so that what the database itself says is met, and not the warning before it.
  service = await startService(bareConfig(newFolder(), database.url), async () => Number.MAX_SAFE_INTEGER);
  client = new Client({ address: service.address, key: service.developerKey });
});
afterAll(async () => {
  await service?.stop();
  await database?.stop();
  if (isMounted) spawnSync('umount', ['--lazy', disk]);
  rmSync(disk, { recursive: true, force: true });
});

/** Writes until not a byte more can be written. */
function fill(): void {
  for (const size of [1 << 20, 1 << 12, 1])
    for (;;) {
      try {
        appendFileSync(filler, Buffer.alloc(size));
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') throw error;
        break;
      }
    }
}

// Only who may mount a disk can fill one without filling everybody's.
describe.skipIf(!isMounted)('a disk that is filled to its last byte under play', () => {
  it('costs nothing but time: choices get 503, none that was acknowledged is lost, and all goes on by itself', async () => {
    const players = await crowd(client, 3);
    const alone = await client.openTable({
      sheet: 'Lantern Twenty-One',
      seats: [{ name: 'Heron', bot: 'steady' }],
      settings: { rounds: 1000, stake: 100_000 },
      pace: 20,
    });
    const { id } = alone.table;
    await until(() => acknowledgedBy(players) >= 60, 'play');
    fill();
    expect(leftOn()).toBe(0);
    // What is there already is written over for a while; once the tables of the database would have to grow, nothing is kept.
    let refused: unknown;
    const opens = async (): Promise<boolean> => {
      refused = await openTwo(client).then(
        () => null,
        (error: unknown) => error,
      );
      return refused !== null;
    };
    await until(opens, 'an opening to find no room');
    expect(refused).toBeInstanceOf(ServiceError);
    expect(refused).toMatchObject({ status: 503, kind: 'unavailable' });
    expect((refused as ServiceError).problem.retryAfter).toBeGreaterThan(0);
    const wait = (): boolean => players.some(({ unavailable }) => unavailable > 0);
    await until(wait, 'choices to find no room');
    const before = acknowledgedBy(players);
    // What is known is read all the same.
    expect((await client.view(id, 'watch')).number).toBeGreaterThan(0);
    const { number } = await client.table(id);
    rmSync(filler);
    await until(() => acknowledgedBy(players) >= before + 30, 'play to go on');
    await until(async () => (await client.table(id)).number > number, 'the bot to go on');
    await openTwo(client);
    for (const player of players) await player.rest();
    await client.closeTable(id);
    expect(await wrongAfter(client, players)).toEqual([]);
    figure(
      `The disk was filled to its last byte under play by ${players.length} clients: ${acknowledgedBy(players)} acknowledged choices, none lost, none twice.`,
    );
    for (const player of players) player.follow.stop();
  }, 600_000);
});
