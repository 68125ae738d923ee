import { Op } from 'sequelize';
import { TableRow } from '../storage/models.js';

/**
 * Takes it on to think for a table's seats for so long: of several processes that serve it, one thinks.
 * @param house the process
 * @returns whether it may; until the time of another one is over, it may not
 */
export async function claimThinking(id: string, house: string, milliseconds: number): Promise<boolean> {
  const now = Date.now();
  const isFree = [{ thinker: null }, { thinker: house }, { thinkerUntil: { [Op.lt]: new Date(now) } }];
  const [claimed] = await TableRow.update(
    { thinker: house, thinkerUntil: new Date(now + milliseconds) },
    { where: { id, [Op.or]: isFree } },
  );
  return claimed === 1;
}

/** Gives up what a process has taken on: it stops, and others may go on at once. */
export async function releaseThinking(house: string): Promise<void> {
  await TableRow.update({ thinker: null, thinkerUntil: null }, { where: { thinker: house } });
}
