import { createHash } from 'node:crypto';
import type {
  Draft,
  DraftSummary,
  DraftTexts,
  Edition,
  EditionSummary,
  KeepDraft,
  NewDraft,
  ShelfWish,
  Shelved,
} from '@wily-jester/protocol';
import { literal, Op } from 'sequelize';
import { newId } from '../ids.js';
import { Problem } from '../problems.js';
import { addSheet } from '../sheets/shelf.js';
import { isTaken } from '../storage/database.js';
import { endLookKeys } from '../storage/keys.js';
import { DraftRow, EditionRow } from '../storage/models.js';

/** Drafts that are kept at most, and editions of each. */
const MOST_DRAFTS = 500;
const MOST_EDITIONS = 200;
/** What is typed within so long is one edition, in milliseconds. */
const ONE_EDITION = 60_000;
const LONGEST_TITLE = 80;
/** So often a draft of a file is begun, or gone on with, where others do the same. */
const MOST_TRIES = 12;

/** The name of the game in a text, as far as it can be read: nothing is compiled for it. */
function titleIn(sheet: string): string {
  const title = /^[ \t]*game[ \t]+"([^"\n]{1,200})"/m.exec(sheet)?.[1]?.trim() ?? '';
  return [...(title || 'A game without a name').replace(/[\p{Cc}\p{Cf}\p{Cs}]/gu, '')].slice(0, LONGEST_TITLE).join('');
}

const linesIn = (sheet: string): number => sheet.split('\n').length;
/** The same counted by the database: lists read no texts. */
const COUNTED_LINES: [ReturnType<typeof literal>, string] = [
  literal("CHAR_LENGTH(`sheet`) - CHAR_LENGTH(REPLACE(`sheet`, '\\n', '')) + 1"),
  'lines',
];
const textsOf = ({ sheet, rehearsals, parts }: DraftRow | EditionRow): DraftTexts => ({
  sheet,
  rehearsals,
  parts: JSON.parse(parts) as DraftTexts['parts'],
});

/** What lists tell of a draft, without its texts. */
type DraftLine = Pick<DraftRow, 'id' | 'title' | 'number' | 'changedAt' | 'origin' | 'shelf' | 'writer'>;

const summaryOf = (row: DraftLine, lines: number): DraftSummary => ({
  id: row.id,
  title: row.title,
  number: row.number,
  changed: row.changedAt.toISOString(),
  lines,
  origin: row.origin ?? null,
  shelf: row.shelf ?? null,
  window: row.writer ?? null,
});

/** Insists that there is a draft. @throws Problem */
async function demand(id: string): Promise<void> {
  if (!(await DraftRow.findByPk(id, { attributes: ['id'], raw: true })))
    throw new Problem('not-found', `There is no draft ${id}.`);
}

async function find(id: string): Promise<DraftRow> {
  const row = await DraftRow.findByPk(id);
  if (!row) throw new Problem('not-found', `There is no draft ${id}.`);
  return row;
}

export async function listDrafts(): Promise<DraftSummary[]> {
  const rows = await DraftRow.findAll({
    attributes: ['id', 'title', 'number', 'changedAt', 'origin', 'shelf', 'writer', COUNTED_LINES],
    order: [['changedAt', 'DESC']],
    raw: true,
  });
  return rows.map((row) => summaryOf(row, Number((row as unknown as { lines: number }).lines)));
}

export async function showDraft(id: string): Promise<Draft> {
  const row = await find(id);
  return { ...summaryOf(row, linesIn(row.sheet)), ...textsOf(row) };
}

/** The number of a draft now, without its texts; `null` where it is gone. */
export async function numberOf(id: string): Promise<{ number: number; window: string | null } | null> {
  const row = await DraftRow.findByPk(id, { attributes: ['number', 'writer'], raw: true });
  return row && { number: row.number, window: row.writer ?? null };
}

const originHash = (origin: string): string => createHash('sha256').update(origin).digest('hex');

/** Begins a draft. One that came from the same file goes on, with the texts that are given. */
export async function addDraft(wish: NewDraft): Promise<Draft> {
  // Where several begin with one file at once, one of them does, and the others go on with that.
  for (let tries = 1; ; tries++)
    try {
      return (await goneOnWith(wish)) ?? (await begun(wish));
    } catch (error) {
      const isBehind = isTaken(error) || (error instanceof Problem && error.kind === 'changed');
      if (!isBehind || tries === MOST_TRIES) throw error;
    }
}

/** The draft that came from the same file, with the texts that are given; `null` where there is none. */
async function goneOnWith({ sheet, rehearsals = '', parts = {}, origin }: NewDraft): Promise<Draft | null> {
  const known = origin === undefined ? null : await DraftRow.findOne({ where: { originHash: originHash(origin) } });
  if (!known) return null;
  const isSame = known.sheet === sheet && known.rehearsals === rehearsals && known.parts === JSON.stringify(parts);
  if (!isSame) await keepDraft(known.id, { after: known.number, sheet, rehearsals, parts });
  return showDraft(known.id);
}

async function begun({ sheet, rehearsals = '', parts = {}, origin }: NewDraft): Promise<Draft> {
  if ((await DraftRow.count()) >= MOST_DRAFTS)
    throw new Problem('in-use', `There are ${MOST_DRAFTS} drafts, and no more are kept: delete some first.`);
  const row = await DraftRow.create({
    id: newId(),
    title: titleIn(sheet),
    number: 1,
    sheet,
    rehearsals,
    parts: JSON.stringify(parts),
    origin: origin ?? null,
    originHash: origin === undefined ? null : originHash(origin),
    changedAt: new Date(),
  });
  await keepEdition(row);
  return { ...summaryOf(row, linesIn(row.sheet)), ...textsOf(row) };
}

/**
 * Keeps the texts of a draft, if nobody kept it since the number that they were made from: one statement, so that of two
 * windows one alone succeeds.
 * @throws Problem `changed` with the number that stands there now
 */
export async function keepDraft(
  id: string,
  { after, sheet, rehearsals, parts, window, anew = false }: KeepDraft,
): Promise<DraftSummary> {
  const now = new Date();
  const before = await DraftRow.findByPk(id, { attributes: ['writer'], raw: true });
  const [changed] = await DraftRow.update(
    {
      title: titleIn(sheet),
      number: after + 1,
      sheet,
      rehearsals,
      parts: JSON.stringify(parts),
      writer: window ?? null,
      changedAt: now,
    },
    { where: { id, number: after } },
  );
  const row = await find(id);
  if (changed === 0) {
    const at = row.changedAt.toISOString();
    throw new Problem('changed', `This draft was kept by somebody else at ${at}: nothing was overwritten.`, {
      number: row.number,
    });
  }
  // What another window wrote is never part of one's own typing.
  await keepEdition(row, anew || (before?.writer ?? null) !== (row.writer ?? null));
  return summaryOf(row, linesIn(row.sheet));
}

/** Keeps a draft as it is now: what is typed within a minute is one edition. @param anew the edition before stays as it is */
async function keepEdition(row: DraftRow, anew = true): Promise<void> {
  const { id: draftId, number, title, sheet, rehearsals, parts, changedAt: at } = row;
  const last = await EditionRow.findOne({
    attributes: ['number', 'shelf', 'at'],
    where: { draftId },
    order: [['number', 'DESC']],
  });
  const goesOn =
    !anew && last && last.shelf === null && last.number > 1 && at.getTime() - last.at.getTime() < ONE_EDITION;
  // The moment of an edition stays that of its beginning: else typing without a rest would be one edition.
  if (goesOn)
    await EditionRow.update({ number, title, sheet, rehearsals, parts }, { where: { draftId, number: last.number } });
  else await EditionRow.upsert({ draftId, number, title, sheet, rehearsals, parts, shelf: null, at });
  const old = await EditionRow.findOne({
    where: { draftId },
    attributes: ['number'],
    order: [['number', 'DESC']],
    offset: MOST_EDITIONS,
  });
  if (old) await EditionRow.destroy({ where: { draftId, number: { [Op.lte]: old.number }, shelf: null } });
}

const editionOf = (row: Pick<EditionRow, 'number' | 'at' | 'title' | 'shelf'>, lines: number): EditionSummary => ({
  number: row.number,
  at: row.at.toISOString(),
  lines,
  title: row.title,
  shelf: row.shelf ?? null,
});

export async function listEditions(draft: string): Promise<EditionSummary[]> {
  await demand(draft);
  const rows = await EditionRow.findAll({
    attributes: ['number', 'at', 'title', 'shelf', COUNTED_LINES],
    where: { draftId: draft },
    order: [['number', 'DESC']],
    raw: true,
  });
  return rows.map((row) => editionOf(row, Number((row as unknown as { lines: number }).lines)));
}

export async function showEdition(draft: string, number: number): Promise<Edition> {
  const row = await EditionRow.findOne({ where: { draftId: draft, number } });
  if (!row) throw new Problem('not-found', `This draft has no edition ${number}.`);
  return { ...editionOf(row, linesIn(row.sheet)), ...textsOf(row) };
}

/** Puts a draft on the shelf as it is given, with its own parts in it. @throws Problem where it has errors */
export async function shelve(developer: string, id: string, wish: ShelfWish): Promise<Shelved> {
  const row = await find(id);
  const { sheet, added } = await addSheet(developer, {
    source: wish.source,
    ...(wish.rehearsals === undefined || wish.rehearsals.trim() === '' ? {} : { rehearsals: wish.rehearsals }),
  });
  await DraftRow.update({ shelf: sheet.hash }, { where: { id } });
  await EditionRow.update({ shelf: sheet.hash }, { where: { draftId: id, number: row.number } });
  const now = await find(id);
  return { draft: summaryOf(now, linesIn(now.sheet)), sheet: sheet.hash, added };
}

export async function deleteDraft(id: string): Promise<void> {
  await demand(id);
  await endLookKeys(id);
  await EditionRow.destroy({ where: { draftId: id } });
  await DraftRow.destroy({ where: { id } });
}
