import { parse as parseCookies } from 'cookie';
import type { Request } from 'express';
import { Problem } from '../problems.js';
import { type Right, rightOf, type TableRight } from '../storage/keys.js';
import { FIRST_DEVELOPER } from '../storage/models.js';

/** The console's cookie, for whoever came in with a word: HttpOnly, SameSite=Strict. */
export const COOKIE = 'wily_console';

interface Headers {
  readonly authorization?: string | undefined;
  readonly cookie?: string | undefined;
  readonly origin?: string | undefined;
  readonly host?: string | undefined;
}

/** Whether a request comes from a page of this very service, or from no page at all. */
export function fromOwnPage(headers: Headers): boolean {
  if (headers.origin === undefined) return true;
  try {
    return new URL(headers.origin).host === headers.host;
  } catch {
    return false;
  }
}

const bearerIn = (headers: Headers): string | undefined => /^Bearer (\S+)$/i.exec(headers.authorization ?? '')?.[1];

/** The console's cookie, which counts from the service's own pages alone: from others browsers send it against their user's will. */
const cookieIn = (headers: Headers): string | undefined =>
  fromOwnPage(headers) ? parseCookies(headers.cookie ?? '')[COOKIE] : undefined;

/** The key that a request sends, and whether it is known is another matter. */
export const keyIn = (headers: Headers): string | undefined => bearerIn(headers) ?? cookieIn(headers);

/** What a request's key may do; `null` without a key. A cookie counts only from the service's own pages. */
export async function rightIn(headers: Headers): Promise<Right | null> {
  const key = keyIn(headers);
  return key === undefined ? null : rightOf(key);
}

/** The right of a request that needs one. @throws Problem without a key, or with an unknown one */
export async function demandRight(request: Request): Promise<Right> {
  const right = await rightIn(request.headers);
  if (right) return right;
  throw new Problem(
    'no-key',
    bearerIn(request.headers) === undefined
      ? 'Send a developer, seat or watch key: Authorization: Bearer …'
      : 'This key is unknown here: it belongs to another service, or the host has made a new one since.',
  );
}

/** Insists on a developer key, and gives the developer's name. */
export async function demandDeveloper(request: Request): Promise<string> {
  const right = await demandRight(request);
  if (right.role !== 'developer') throw new Problem('not-allowed', 'This needs a developer key.');
  return right.developer;
}

/** Insists on the key of the data folder: its developer looks after the others. */
export async function demandFirst(request: Request): Promise<void> {
  if ((await demandDeveloper(request)) !== FIRST_DEVELOPER)
    throw new Problem('not-allowed', 'Other developers are looked after with the key in the data folder.');
}

/** Whose right it is, in a word: a developer's name, or which key. */
export const holderOf = (right: Right): string =>
  right.role === 'developer' ? right.developer : right.role === 'seat' ? `seat ${right.seat + 1}` : right.role;

/** A right that counts at a table. @throws Problem where the key belongs to another table */
export async function demandTable(request: Request, table: string): Promise<TableRight> {
  const right = await demandRight(request);
  if (right.role === 'look' || (right.role !== 'developer' && right.table !== table))
    throw new Problem('not-allowed', 'This key belongs to another table.');
  return right;
}

/** Insists on somebody who looks after a table: a developer, or its host. */
export async function demandHost(request: Request, table: string): Promise<TableRight> {
  const right = await demandTable(request, table);
  if (right.role !== 'developer' && right.role !== 'host')
    throw new Problem('not-allowed', "This needs the table's host key, or a developer key.");
  return right;
}

/** Insists on somebody who may speak for a seat: its own key, the host or a developer. */
export async function demandSeat(request: Request, table: string, seat: number): Promise<void> {
  const right = await demandTable(request, table);
  if (right.role === 'watch') throw new Problem('not-allowed', 'A watch key holds no seat.');
  if (right.role === 'seat' && right.seat !== seat)
    throw new Problem('not-allowed', `This key plays seat ${right.seat + 1}, not seat ${seat + 1}.`);
}

/** Insists on somebody who may read a draft: a developer, or a key to look at it. */
export async function demandDraft(request: Request, draft: string): Promise<void> {
  const right = await demandRight(request);
  if (right.role !== 'developer' && !(right.role === 'look' && right.draft === draft))
    throw new Problem('not-allowed', 'This key reads no such draft.');
}

/** Who looks: the key's own eyes, or what a developer asks for. */
export function viewerWord(right: TableRight, as: string | number | undefined): string | number {
  if (right.role === 'developer') return as ?? 'watch';
  const own = right.role === 'seat' ? right.seat + 1 : 'watch';
  if (as !== undefined && String(as) !== String(own))
    throw new Problem(
      'not-allowed',
      `This key sees the table as ${own === 'watch' ? 'a watcher' : `seat ${own}`}, and not otherwise.`,
    );
  return own;
}

/** The seat that a choice is for: the key's own, or the one that a developer names. */
export function seatFor(right: TableRight, named: number | undefined, seats: number): number {
  if (right.role === 'watch' || right.role === 'host')
    throw new Problem('not-allowed', `A ${right.role} key chooses nothing.`);
  if (right.role === 'seat') {
    if (named !== undefined && named !== right.seat + 1)
      throw new Problem('not-allowed', `This key plays seat ${right.seat + 1}, not seat ${named}.`);
    return right.seat;
  }
  if (named === undefined) throw new Problem('malformed', 'With a developer key, say which seat: "seat".');
  if (named < 1 || named > seats)
    throw new Problem('malformed', `There is no seat ${named}: this table has seats 1 to ${seats}.`);
  return named - 1;
}
