import { setTimeout as after } from 'node:timers/promises';
import type { Client } from '@wily-jester/client';
import type { Gather } from '@wily-jester/protocol';
import { addressFor, type RemoteOptions } from '../remote.js';
import { paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import { printOpened } from './together.js';

/** How often it is asked whether all have taken part, in milliseconds. */
const BEAT = 500;
/** So long those who get a link are waited for, in seconds. */
const WAIT = 300;

/** Opens a table whose seats give chance first: their links are printed, and what comes of it. */
export async function gather(client: Client, wish: Gather, options: RemoteOptions): Promise<void> {
  const { gathering, keys } = await client.gather({ ...wish, wait: WAIT });
  const id = gathering.table;
  if (!options.json) {
    for (const { seat, key } of keys.seats)
      print(`${gathering.seats[seat - 1]?.name} takes part with:\n  ${addressFor(options)}/join/${id}#${key}`);
    if (keys.seats.length > 0)
      print(paint.dim(`It is dealt once all have, or in ${WAIT} s. Ctrl-C stops waiting here, not there.`));
  }
  let view = await client.gathering(id);
  while (view.phase !== 'open') {
    await after(BEAT);
    view = await client.gathering(id);
  }
  const table = await client.table(id);
  if (options.json) return printJson({ table, keys });
  const took = view.seats.filter(({ state }) => state === 'shown').map(({ name }) => name);
  print(
    took.length > 0
      ? `${took.join(', ')} gave chance to the shuffle.`
      : 'No seat gave chance: the service alone chose.',
  );
  printOpened({ table, keys }, options);
}
