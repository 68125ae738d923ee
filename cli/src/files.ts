import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Program } from '@wily-jester/core';
import type { Checked, Parts } from '@wily-jester/motley';
import { Exit, NO, WRONG_USE } from './exit.js';
import { language } from './language.js';
import { complain } from './show/print.js';
import { problemLines } from './show/problems.js';

/** The name of a sheet's rehearsal file. */
export const rehearsalsOf = (file: string): string => file.replace(/\.motley$/, '.rehearsal.motley');

/** The sheets among several files, as `sheets/*.motley` names them with their rehearsals; one file alone stays what it is. */
export const sheetsAmong = (files: readonly string[]): readonly string[] => {
  const sheets = files.filter((file) => !file.endsWith('.rehearsal.motley'));
  return files.length > 1 && sheets.length > 0 ? sheets : files;
};

/** What stands for standard input among files. */
export const INPUT = '-';

/** Reads a file that somebody named, or standard input. @throws Exit which says what is there instead */
export async function readText(file: string): Promise<string> {
  if (file === INPUT) return readFileSync(0, 'utf8');
  if (!existsSync(file))
    throw new Exit(`There is no file ${file}.`, WRONG_USE, 'Make a sheet to start from with: ./wily new NAME');
  if ((await stat(file)).isDirectory())
    throw new Exit(`${file} is a folder; a sheet is a file such as game.motley.`, WRONG_USE);
  return readFile(file, 'utf8');
}

/**
 * Does something with each of several files. What goes wrong with one is told, and keeps no other from its turn; the
 * exit code is the worst of them.
 */
export async function eachFile<T>(files: readonly string[], work: (file: string) => Promise<T>): Promise<T[]> {
  const [only, ...more] = files;
  if (only !== undefined && more.length === 0) return [await work(only)];
  const done: T[] = [];
  for (const file of files)
    try {
      done.push(await work(file));
    } catch (error) {
      if (!(error instanceof Exit)) throw error;
      complain(error.message);
      if (error.next) complain(error.next);
      process.exitCode = Math.max(Number(process.exitCode ?? 0), error.code);
    }
  return done;
}

export interface ReadSheet extends Checked {
  readonly source: string;
}

/** The parts that a sheet's file may use: those of the language, and files beside it, `use "betting"` being `betting.motley`. */
export async function partsFor(file: string): Promise<Parts> {
  const { bundledParts } = await language();
  const beside: Parts = (name) => {
    const path = join(dirname(file), `${name}.motley`);
    return /^[\w-]+$/.test(name) && existsSync(path) ? readFileSync(path, 'utf8') : undefined;
  };
  return (name) => beside(name) ?? bundledParts(name);
}

/** Reads somebody's text, for no longer than the service would. @throws Exit where it takes longer */
export async function inTime<T>(file: string, work: () => T): Promise<T> {
  const { TooSlow, withinTime } = await import('@wily-jester/motley/within-time');
  try {
    return withinTime(work);
  } catch (error) {
    if (error instanceof TooSlow) throw new Exit(`${file}: ${error.message}`, NO);
    throw error;
  }
}

/** Checks the text of a sheet's file. */
export async function checkText(file: string, source: string): Promise<ReadSheet> {
  const { compileSheet } = await language();
  const parts = await partsFor(file);
  return { source, ...(await inTime(file, () => compileSheet(source, parts))) };
}

export const readSheet = async (file: string): Promise<ReadSheet> => checkText(file, await readText(file));

/** A sheet that runs. @throws Exit with its errors */
export async function programIn(
  file: string,
): Promise<{ program: Program; source: string; text: string; hash: string }> {
  const { program, source, text, problems } = await readSheet(file);
  if (program) return { program, source, text, hash: createHash('sha256').update(source).digest('hex') };
  const errors = problems.filter((p) => p.severity === 'error');
  throw new Exit(
    problemLines(errors, file, source).join('\n'),
    NO,
    `Mend the sheet, and look again with: ./wily check ${file}`,
  );
}
