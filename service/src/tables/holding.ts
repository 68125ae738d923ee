import type { Program } from '@wily-jester/core';
import type { Sequelize } from 'sequelize';
import { Problem } from '../problems.js';
import { endKeys, makeKey, type Right } from '../storage/keys.js';
import { TableRow } from '../storage/models.js';
import type { SeatHolder } from './seats.js';

/** Insists that a sheet has a bot. @throws Problem which names those that it has */
export function demandBot(program: Program, name: string): void {
  const names = program.bots.map((bot) => bot.name);
  if (names.includes(name)) return;
  throw new Problem(
    'setup',
    `"${program.name}" has no bot "${name}".${names.length > 0 ? ` It has ${names.join(', ')}.` : ''}`,
  );
}

/** Writes who holds a seat, and gives all holders as they are then; other processes may write at the same time. */
export function writeHolder(
  database: Sequelize,
  tableId: string,
  seat: number,
  holder: SeatHolder,
): Promise<SeatHolder[]> {
  return database.transaction(async (transaction) => {
    const row = await TableRow.findByPk(tableId, { transaction, lock: true, rejectOnEmpty: true });
    const holders = JSON.parse(row.holders) as SeatHolder[];
    holders[seat] = holder;
    await row.update({ holders: JSON.stringify(holders) }, { transaction });
    return holders;
  });
}

/** Makes a new key; a seat's old ones end with it. */
export function writeKey(database: Sequelize, right: Right): Promise<string> {
  return database.transaction(async (transaction) => {
    if (right.role === 'seat') await endKeys(right.table, right.seat, transaction);
    return makeKey(right, transaction);
  });
}
