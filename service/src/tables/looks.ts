import type { Looks } from '@wily-jester/protocol';
import type { Right } from '../storage/keys.js';
import { AuditRow } from '../storage/models.js';

/** The most that are told, the latest first. */
const MOST_TOLD = 200;
const LONGEST = 40;

/** Writes down who looked at what, or did what, with a right that others do not have. What cannot be written does not happen. */
export async function noteLook(tableId: string, by: string, what: string, number: number): Promise<void> {
  await AuditRow.create({ tableId, by, what: what.slice(0, LONGEST), number, at: new Date() });
}

/** What is written down of a look through other eyes than one's own; `null` where it is an ordinary one. */
export const lookOf = (right: Right, word: string | number, what: string): string | null =>
  right.role !== 'developer' || word === 'watch' ? null : word === 'open' ? `open ${what}` : `${what} as seat ${word}`;

/** What was written down at a table, the latest first. */
export async function looksAt(tableId: string): Promise<Looks['looks']> {
  const rows = await AuditRow.findAll({ where: { tableId }, order: [['id', 'DESC']], limit: MOST_TOLD, raw: true });
  return rows.map(({ what, by, number, at }) => ({ what, ...(by ? { by } : {}), number, at: at.toISOString() }));
}
