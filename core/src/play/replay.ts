import type { Sha256 } from '../chance/short-hmac.js';
import { Fault } from '../machine/fault.js';
import { lineWords } from '../program/lines.js';
import type { Program } from '../program/types.js';
import type { Hmac } from '../rules/digest.js';
import { openly } from '../rules/handles.js';
import { type Header, type Row, TIME } from './record.js';
import { isPlayed, type Played, Table } from './table.js';

/** A record whose choices do not lead where it says. */
export class ReplayError extends Error {
  override readonly name = 'ReplayError';
  constructor(
    message: string,
    readonly number: number,
  ) {
    super(message);
  }
}

/**
 * Opens a table again and carries out its rows.
 * @param check whether digests must agree, as they must for a table that nothing was changed in
 * @throws ReplayError at the first row that is refused, faults, or gives another digest
 */
export function replay(
  program: Program,
  header: Header,
  rows: Iterable<Row>,
  options: {
    readonly live?: boolean;
    readonly openings?: boolean;
    readonly thinking?: readonly number[];
    readonly check?: boolean;
    readonly hmac?: Hmac;
    readonly sha256?: Sha256;
    readonly seen?: (played: Played) => void;
  } = {},
): Table {
  const table = new Table(program, header, options);
  for (const row of rows) {
    const played = replayRow(table, row, options.check);
    options.seen?.(played);
  }
  return table;
}

/**
 * Carries out one more row of a record.
 * @param check whether the digests must agree
 * @param isKept whether the row was carried out here before: then it may cost more than others
 * @throws ReplayError where the row is refused, faults, or gives another digest
 */
export function replayRow(table: Table, row: Row, check = true, isKept = true): Played {
  const played = isKept ? table.replaying(() => carriedOut(table, row)) : carriedOut(table, row);
  if (check && played.row.digest !== row.digest)
    throw new ReplayError(
      `After choice ${row.number} (${row.option}) the state is another one than the record says.`,
      row.number,
    );
  return played;
}

function carriedOut(table: Table, row: Row): Played {
  const at = `Choice ${row.number} (${row.option}${row.seat === null ? '' : ` of ${table.header.seats[row.seat - 1]}`})`;
  try {
    if (row.by === 'table') {
      if (row.option === TIME) {
        if (!table.isRace) throw new ReplayError(`${at} ends a race, and nobody races there.`, row.number);
        return table.endRace();
      }
      if (!table.isPaused) throw new ReplayError(`${at} ends a pause, and the table does not pause there.`, row.number);
      return table.resume();
    }
    const naming = openly(table.game, table.state);
    const result = table.choose((row.seat ?? 1) - 1, row, row.by, naming);
    if (isPlayed(result)) return result;
    throw new ReplayError(`${at} is refused: ${result.reason}`, row.number);
  } catch (error) {
    if (error instanceof Fault)
      throw new ReplayError(
        `${at} leads to a fault in ${lineWords(table.game.program, error.line)}: ${error.message}`,
        row.number,
      );
    throw error;
  }
}
