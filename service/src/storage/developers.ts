import { col, fn, Op, type Sequelize } from 'sequelize';
import { Problem } from '../problems.js';
import { inTransaction } from './database.js';
import { forgetDeveloper, makeKey } from './keys.js';
import { FIRST_DEVELOPER, KeyRow, LoginRow, TableRow } from './models.js';

/** The most that one service has: what a team is. */
const MOST = 100;

/** A developer, and how many tables of theirs are open. */
export interface Developer {
  readonly name: string;
  readonly tables: number;
}

const namesOf = async (): Promise<string[]> => {
  const keys = await KeyRow.findAll({
    attributes: ['developer'],
    where: { role: 'developer' as const, until: { [Op.is]: null } },
    group: ['developer'],
    order: ['developer'],
    raw: true,
  });
  return keys.flatMap(({ developer }) => developer ?? []);
};

/** All developers, with the one of the data folder first. */
export async function listDevelopers(): Promise<Developer[]> {
  const open = await TableRow.findAll({
    attributes: ['developer', [fn('COUNT', col('id')), 'number']],
    where: { status: 'open' },
    group: ['developer'],
    raw: true,
  });
  const tables = new Map(open.map(({ developer, number }) => [developer, Number(number)]));
  const others = (await namesOf()).filter((name) => name !== FIRST_DEVELOPER);
  return [FIRST_DEVELOPER, ...others].map((name) => ({ name, tables: tables.get(name) ?? 0 }));
}

/** Makes the key of a new developer. @throws Problem where there is one of that name */
export async function addDeveloper(name: string): Promise<string> {
  const names = await namesOf();
  if (names.includes(name))
    throw new Problem('taken', `There is a developer "${name}" already: choose another name, or end their keys first.`);
  if (names.length >= MOST) throw new Problem('too-many', `A service has ${MOST} developers at most.`);
  return makeKey({ role: 'developer', developer: name });
}

/**
 * Ends the keys and sessions of a developer; what they made stays. Other processes must be told of it: they
 * {@link forgetDeveloper}.
 * @throws Problem where there is nobody of that name, or it is the one of the data folder
 */
export async function endDeveloper(database: Sequelize, name: string): Promise<void> {
  if (name === FIRST_DEVELOPER)
    throw new Problem('not-allowed', 'The key in the data folder does not end: it looks after the others.');
  const ended = await inTransaction(database, async (transaction) => {
    const keys = await KeyRow.destroy({ where: { role: 'developer' as const, developer: name }, transaction });
    // Words that were asked for with these keys go after them: what is made of one meanwhile is worth nothing.
    await LoginRow.destroy({ where: { developer: name }, transaction });
    return keys;
  });
  if (ended === 0) throw new Problem('not-found', `There is no developer "${name}".`);
  forgetDeveloper(name);
}
