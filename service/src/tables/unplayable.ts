import { Fault, ReplayError, SetupError } from '@wily-jester/core';
import { RELEASE } from '@wily-jester/protocol';
import { Problem } from '../problems.js';
import { TableRow } from '../storage/models.js';

/** Why a table cannot be played again. */
export interface Unplayable {
  /** The choice at which it ends. */
  readonly number: number;
  readonly reason: string;
  /** The release that tried: another one may do better. */
  readonly engine: string;
}

/** Why a row's table cannot be played again by this release, or `null`. */
export function unplayableOf({ unplayable }: Pick<TableRow, 'unplayable'>): Unplayable | null {
  const found = unplayable ? (JSON.parse(unplayable) as Unplayable) : null;
  return found?.engine === RELEASE ? found : null;
}

export const unplayableProblem = ({ number, reason }: Unplayable): Problem =>
  new Problem(
    'unplayable',
    `This table can only be read: it cannot be played again beyond choice ${number}. ${reason}`,
    {
      number,
    },
  );

/** What an error while loading says of the table itself; `null` for all others, which may pass. */
export function whyUnplayable(error: unknown): Unplayable | null {
  if (error instanceof ReplayError) return { number: error.number - 1, reason: error.message, engine: RELEASE };
  if (error instanceof SetupError || error instanceof Fault)
    return { number: 0, reason: error.message, engine: RELEASE };
  return null;
}

/** Notes that a table cannot be played again: nobody need try it with every request. */
export async function noteUnplayable(id: string, why: Unplayable): Promise<void> {
  await TableRow.update({ unplayable: JSON.stringify(why) }, { where: { id } });
}

export const isUnplayable = (error: unknown): boolean => error instanceof Problem && error.kind === 'unplayable';
