import { type Header, type Program, type Row, replay, replayRow, type Table } from '@wily-jester/core';
import { nativeHmac, nativeSha256 } from './hmac.js';

/** How long one stretch of work keeps the process to itself, in milliseconds. */
export const STRETCH = 10;

/** Does something when its turn comes among those of all tables. */
export type InTurn = <T>(work: () => T) => Promise<T>;
/** Whoever gives turns to what is done with a developer's tables besides playing them. */
export interface GivesTurns {
  turnsOf(developer: string): InTurn;
}

/** Works through something long piece by piece, each in a turn of its own, so that other tables go on meanwhile. */
export async function inStretches<T>(items: Iterable<T>, work: (item: T) => void, inTurn: InTurn): Promise<void> {
  const left = items[Symbol.iterator]();
  const stretch = (): boolean => {
    const until = performance.now() + STRETCH;
    do {
      const next = left.next();
      if (next.done) return false;
      work(next.value);
    } while (performance.now() < until);
    return true;
  };
  while (await inTurn(stretch));
}

/**
 * A table of the service as it was opened, before its first row.
 * @param live whether its shuffles are committed to, as at a table that is played live
 * @param openings whether its cards are followed, so that they can be opened
 * @throws SetupError, FaceError or Fault
 */
export const beginning = (program: Program, header: Header, live = true, openings = false): Table =>
  replay(program, header, [], { live, openings, hmac: nativeHmac, sha256: nativeSha256 });

/**
 * A table with all its rows carried out.
 * @param areKept whether these rows were carried out here before: others get no more than a step may cost
 * @throws what {@link beginning} does, and ReplayError
 */
export async function replayed(
  program: Program,
  header: Header,
  rows: Iterable<Row>,
  { areKept, inTurn }: { readonly areKept: boolean; readonly inTurn: InTurn },
): Promise<Table> {
  const table = await inTurn(() => beginning(program, header, false));
  await inStretches(rows, (row) => replayRow(table, row, true, areKept), inTurn);
  return table;
}
