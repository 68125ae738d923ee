import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from '@wily-jester/client';
import { afterAll, describe, expect, it } from 'vitest';
import { acknowledgedBy, crowd, FULL, figure, wrongAfter } from '../setup/crowd.js';
import { newFolder, serviceProcess } from '../setup/programs.js';
import { freshDatabase, until } from '../setup/service.js';

const KILLS = FULL ? 20 : 2;
const TABLES = FULL ? 20 : 4;

const running: { kill(): Promise<void> }[] = [];
afterAll(async () => {
  for (const service of running) await service.kill();
});

describe('a service that is killed in the middle of play', () => {
  it('loses no acknowledged choice, applies none twice, and its clients see what it says when it is back', async () => {
    const env = { WILY_DB_URL: await freshDatabase(), WILY_DATA: newFolder(), WILY_PORT: '0', WILY_RATE: '1000000' };
    let service = await serviceProcess(env);
    running.push(service);
    const { port } = new URL(service.address);
    const key = readFileSync(join(env.WILY_DATA, 'developer.key'), 'utf8').trim();
    const client = new Client({ address: service.address, key });
    const players = await crowd(client, TABLES);
    for (let kill = 0; kill < KILLS; kill++) {
      const before = acknowledgedBy(players);
      const some = before + TABLES * (5 + Math.floor(Math.random() * 20));
      await until(() => acknowledgedBy(players) >= some, 'play to go on');
      await service.kill();
      service = await serviceProcess({ ...env, WILY_PORT: port });
      running.push(service);
    }
    const before = acknowledgedBy(players);
    await until(() => acknowledgedBy(players) >= before + 5 * TABLES, 'play to go on');
    for (const player of players) await player.rest();
    expect(await wrongAfter(client, players)).toEqual([]);
    expect(acknowledgedBy(players)).toBeGreaterThan(KILLS * TABLES * 5);
    figure(
      `${KILLS} kills under play by ${players.length} clients: ${acknowledgedBy(players)} acknowledged choices, none lost, none twice.`,
    );
    for (const player of players) player.follow.stop();
  }, 600_000);
});
