import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Client } from '@wily-jester/client';
import type { TableSummary } from '@wily-jester/protocol';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from './exit.js';

const ROOT = dirname(dirname(dirname(fileURLToPath(import.meta.url))));

export interface RemoteOptions {
  address?: string;
  key?: string;
  json?: boolean;
}

/** Adds the options of every command that speaks to a service. */
export function remote(command: Command): Command {
  return command
    .option('--address <url>', 'the service (http://127.0.0.1:4790, or WILY_PORT)')
    .option('--key <key>', 'a developer, host, seat or watch key (WILY_KEY; else the one in the data folder)')
    .option('--json', 'for machines');
}

/** Where the service is, without a slash at its end. @throws Exit where that is no address */
export function addressFor(options: RemoteOptions): string {
  const address = options.address ?? `http://127.0.0.1:${process.env.WILY_PORT ?? '4790'}`;
  if (!/^https?:\/\//.test(address))
    throw new Exit(`--address is a web address such as http://127.0.0.1:4790, not "${address}".`, WRONG_USE);
  return address.replace(/\/$/, '');
}

/** The client that a command's options ask for. @throws Exit where no key is to be found */
export function clientFor(options: RemoteOptions): Client {
  return new Client({ address: addressFor(options), key: options.key ?? process.env.WILY_KEY ?? keyInData() });
}

function keyInData(): string {
  const file = join(process.env.WILY_DATA ?? join(ROOT, '.data'), 'developer.key');
  try {
    return readFileSync(file, 'utf8').trim();
  } catch {
    throw new Exit(
      `There is no key: ${file} cannot be read.`,
      NO,
      'Start the service once with "npm start", or give --key.',
    );
  }
}

/** A seat named by number or by name. */
export function seatIn(table: TableSummary, word: string): number {
  const seat = table.seats.find((s) => String(s.seat) === word || s.name.toLowerCase() === word.toLowerCase());
  if (seat) return seat.seat;
  throw new Exit(
    `There is no seat "${word}" at this table. There ${table.seats.length === 1 ? 'is' : 'are'} ${table.seats.map((s) => `${s.seat} ${s.name}`).join(', ')}.`,
    WRONG_USE,
  );
}
