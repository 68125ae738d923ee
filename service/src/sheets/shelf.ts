import { createHash } from 'node:crypto';
import { type Program, plannedSettings, planOf, SEMANTICS, SetupError } from '@wily-jester/core';
import type { Settings, SettingsWish, Sheet, SheetProblem, SheetSummary, SheetText } from '@wily-jester/protocol';
import { LRUCache } from 'lru-cache';
import { col, fn } from 'sequelize';
import { Problem } from '../problems.js';
import { isTaken } from '../storage/database.js';
import { FIRST_DEVELOPER, SheetRow, TableRow } from '../storage/models.js';
import { compileApart } from './compiler.js';

/** A sheet's hash: over its text alone, for rehearsals do not change the rules. */
export const hashOfSheet = (source: string): string => createHash('sha256').update(source).digest('hex');

/** Room for programs, in bytes of JSON. */
const ROOM = 64_000_000;
const programs = new LRUCache<string, Program, number>({ maxSize: ROOM });

/** The program of a sheet version. */
export async function programOf(hash: string): Promise<Program> {
  const known = programs.get(hash);
  if (known) return known;
  const row = await SheetRow.findByPk(hash);
  if (!row) throw new Problem('not-found', `There is no sheet ${hash.slice(0, 12)}.`);
  const text = row.semantics === SEMANTICS ? row.program : await broughtUpToDate(row);
  const program = JSON.parse(text) as Program;
  programs.set(hash, program, { size: text.length + 100 });
  return program;
}

/** The program of a sheet that an earlier release compiled, compiled anew. @throws Problem where it no longer compiles */
async function broughtUpToDate(row: SheetRow): Promise<string> {
  const { program, problems } = await compileApart(FIRST_DEVELOPER, row.source);
  const [first] = problems.filter((p) => p.severity === 'error');
  if (!program)
    throw new Problem(
      'unplayable',
      `The sheet was compiled for semantics ${row.semantics}, and this version, which runs ${SEMANTICS}, finds errors in it${first ? `: line ${first.line}: ${first.message}` : '.'}`,
    );
  const text = JSON.stringify(program);
  await SheetRow.update({ program: text, semantics: SEMANTICS }, { where: { hash: row.hash } });
  return text;
}

/** A sheet by its hash, the beginning of it, or its name: then the newest version. */
export async function findSheet(word: string): Promise<SheetRow> {
  const exact = /^[0-9a-f]{64}$/.test(word) ? await SheetRow.findByPk(word) : null;
  const row = exact ?? (await SheetRow.findOne({ where: { name: word }, order: [['addedAt', 'DESC']] }));
  if (row) return row;
  const names = [...new Set((await SheetRow.findAll({ attributes: ['name'] })).map((r) => r.name))];
  throw new Problem(
    'not-found',
    `There is no sheet "${word}". There ${names.length === 1 ? 'is' : 'are'} ${names.join(', ') || 'none yet: add one'}.`,
  );
}

const toSheet = (row: SheetRow): Sheet => ({
  hash: row.hash,
  name: row.name,
  source: row.source,
  rehearsals: row.rehearsals,
  added: row.addedAt.toISOString(),
  plan: planOf(JSON.parse(row.program) as Program) as Sheet['plan'],
  warnings: JSON.parse(row.warnings) as SheetProblem[],
});

export const showSheet = async (word: string): Promise<Sheet> => toSheet(await findSheet(word));

/** The settings of a sheet, where some have these values. @throws Problem for a value that does not do */
export async function settingsWith(word: string, given: SettingsWish['settings']): Promise<Settings['settings']> {
  const program = JSON.parse((await findSheet(word)).program) as Program;
  try {
    return plannedSettings(program, given) as Settings['settings'];
  } catch (error) {
    if (error instanceof SetupError) throw new Problem('setup', error.message);
    throw error;
  }
}

/** A sheet that may use parts: it is kept with them pasted in, so that it stays what it is when they change. */
const usesParts = (text: string): boolean => text.split('\n').some((line) => line.trimStart().startsWith('use'));

/** Adds a sheet. The same text gives the same version, and is not compiled again. */
export async function addSheet(
  developer: string,
  { source: given, rehearsals }: SheetText,
): Promise<{ sheet: Sheet; added: boolean }> {
  const pasted = usesParts(given) ? await compileApart(developer, given, rehearsals) : null;
  const source = pasted?.text ?? given;
  const hash = hashOfSheet(source);
  const known = await SheetRow.findByPk(hash);
  if (known?.semantics === SEMANTICS && (rehearsals === undefined || known.rehearsals === rehearsals))
    return { sheet: toSheet(known), added: false };
  const { program, problems, rehearsalProblems } = pasted ?? (await compileApart(developer, source, rehearsals));
  const errors = problems.filter((p) => p.severity === 'error');
  const [first] = errors;
  if (!program || first)
    throw new Problem(
      'sheet',
      first ? `Line ${first.line}, column ${first.column}: ${first.message}` : 'The sheet has errors.',
      { ...(first ? { line: first.line, column: first.column } : {}), problems },
    );
  const [wrong] = rehearsalProblems.filter((p) => p.severity === 'error');
  if (wrong)
    throw new Problem('sheet', `Rehearsals, line ${wrong.line}, column ${wrong.column}: ${wrong.message}`, {
      line: wrong.line,
      column: wrong.column,
      problems: rehearsalProblems,
    });
  if (known) {
    // A version that an earlier release compiled is brought up to date as well.
    known.rehearsals = rehearsals ?? known.rehearsals;
    known.program = JSON.stringify(program);
    known.semantics = SEMANTICS;
    known.warnings = JSON.stringify(problems);
    known.shown = JSON.stringify(shownOf(program, source));
    await known.save();
    return { sheet: toSheet(known), added: false };
  }
  try {
    const row = await SheetRow.create({
      hash,
      name: program.name,
      source,
      rehearsals: rehearsals ?? null,
      program: JSON.stringify(program),
      semantics: SEMANTICS,
      warnings: JSON.stringify(problems),
      addedAt: new Date(),
      shown: JSON.stringify(shownOf(program, source)),
    });
    return { sheet: toSheet(row), added: true };
  } catch (error) {
    if (!isTaken(error)) throw error;
    return { sheet: toSheet(await findSheet(hash)), added: false };
  }
}

/** What lists show of a sheet besides its columns. */
type Shown = Pick<SheetSummary, 'blurb' | 'seats' | 'genres' | 'lines' | 'look'>;

function shownOf(program: Program, source: string): Shown {
  const { piles, layout } = planOf(program);
  const { blurb, seats, genres } = program;
  return {
    blurb,
    seats: [...seats],
    ...(genres ? { genres: [...genres] } : {}),
    lines: source.split('\n').length,
    look: { piles, layout },
  } as Shown;
}

/** Fills in what lists show of rows that an earlier release wrote. */
async function fillIn(rows: readonly SheetRow[]): Promise<void> {
  for (const { hash } of rows) {
    const row = await SheetRow.findByPk(hash, { rejectOnEmpty: true });
    const shown = JSON.stringify(shownOf(JSON.parse(row.program) as Program, row.source));
    await SheetRow.update({ shown }, { where: { hash } });
  }
}

const listed = (): Promise<SheetRow[]> =>
  SheetRow.findAll({ attributes: ['hash', 'name', 'addedAt', 'shown'], order: [['addedAt', 'ASC']], raw: true });

/** The newest version of each name: neither sources nor programs are read. */
export async function listSheets(): Promise<SheetSummary[]> {
  let rows = await listed();
  const unfilled = rows.filter(({ shown }) => shown === null);
  if (unfilled.length > 0) {
    await fillIn(unfilled);
    rows = await listed();
  }
  const open = await TableRow.findAll({
    attributes: ['sheetHash', [fn('COUNT', col('sheetHash')), 'number']],
    where: { status: 'open' },
    group: ['sheetHash'],
    raw: true,
  });
  const tables = new Map(open.map(({ sheetHash, number }) => [sheetHash, Number(number)]));
  const newest = new Map<string, SheetRow>();
  const versions = new Map<string, number>();
  for (const row of rows) {
    newest.set(row.name, row);
    versions.set(row.name, (versions.get(row.name) ?? 0) + 1);
  }
  return [...newest.values()].map((row) => ({
    hash: row.hash,
    name: row.name,
    added: row.addedAt.toISOString(),
    tables: tables.get(row.hash) ?? 0,
    versions: versions.get(row.name) ?? 1,
    ...(JSON.parse(row.shown ?? '{}') as Shown),
  }));
}

/** Deletes a version of a sheet. @throws Problem where a table uses it */
export async function deleteSheet(word: string): Promise<void> {
  const { hash, name } = await findSheet(word);
  const used = await TableRow.count({ where: { sheetHash: hash } });
  if (used > 0)
    throw new Problem('in-use', `${counted(used)} of "${name}", version ${hash.slice(0, 12)}: delete them first.`);
  await SheetRow.destroy({ where: { hash } });
  programs.delete(hash);
}

const counted = (tables: number): string => (tables === 1 ? 'There is a table' : `There are ${tables} tables`);
