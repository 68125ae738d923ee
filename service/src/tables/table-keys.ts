import type { Opened } from '@wily-jester/protocol';
import type { Transaction } from 'sequelize';
import { makeKey } from '../storage/keys.js';
import type { SeatHolder } from './seats.js';

/** Makes the keys of a new table: one for its host, one to watch, one for each seat that no bot plays. */
export async function makeTableKeys(
  table: string,
  holders: readonly SeatHolder[],
  transaction: Transaction,
): Promise<Opened['keys']> {
  const seats: Opened['keys']['seats'][number][] = [];
  for (const [seat, { held }] of holders.entries())
    if (held !== 'bot') seats.push({ seat: seat + 1, key: await makeKey({ role: 'seat', table, seat }, transaction) });
  const host = await makeKey({ role: 'host', table }, transaction);
  return { host, seats, watch: await makeKey({ role: 'watch', table }, transaction) };
}
