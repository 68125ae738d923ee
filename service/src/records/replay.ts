import { setImmediate as breath } from 'node:timers/promises';
import { type Header, type Program, type Row, replay, replayRow, type Table } from '@wily-jester/core';
import { nativeHmac, nativeSha256 } from './hmac.js';

/** How long one stretch of work keeps the process to itself, in milliseconds. */
const STRETCH = 10;

/** Works through something long, and lets other tables go on meanwhile. */
export async function inStretches<T>(items: Iterable<T>, work: (item: T) => void): Promise<void> {
  let until = performance.now() + STRETCH;
  for (const item of items) {
    work(item);
    if (performance.now() < until) continue;
    await breath();
    until = performance.now() + STRETCH;
  }
}

/**
 * A table of the service as it was opened, before its first row.
 * @param live whether its shuffles are committed to, as at a table that is played live
 * @param openings whether its cards are followed, so that they can be opened
 * @throws SetupError, FaceError or Fault
 */
export const beginning = (program: Program, header: Header, live = true, openings = false): Table =>
  replay(program, header, [], { live, openings, hmac: nativeHmac, sha256: nativeSha256 });

/** A table with all its rows carried out. @throws what {@link beginning} does, and ReplayError */
export async function replayed(program: Program, header: Header, rows: Iterable<Row>): Promise<Table> {
  const table = beginning(program, header, false);
  await inStretches(rows, (row) => replayRow(table, row));
  return table;
}
