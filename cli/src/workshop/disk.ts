import { randomUUID } from 'node:crypto';
import { existsSync, lstatSync } from 'node:fs';
import { open, readFile, rename, rm } from 'node:fs/promises';
import { basename, dirname, join, resolve } from 'node:path';
import type { DraftTexts } from '@wily-jester/protocol';
import { Exit, WRONG_USE } from '../exit.js';
import { readText, rehearsalsOf } from '../files.js';

/** The parts that a text asks for; a name in a comment does no harm. */
export const usesIn = (text: string): string[] =>
  [...text.matchAll(/\buse\s+"([a-z][a-z0-9-]*)"/g)].map((use) => use[1] as string);

/** What is at a path, links not followed: `null` where there is nothing. */
const statOf = (file: string) => lstatSync(file, { throwIfNoEntry: false }) ?? null;

/** Insists on a plain file, or none: a link could lead anywhere. @throws Exit */
function demandPlain(file: string): void {
  const stat = statOf(file);
  if (stat && !stat.isFile())
    throw new Exit(
      `${file} is ${stat.isSymbolicLink() ? 'a link' : 'no plain file'}: the workshop reads and writes plain files alone.`,
      WRONG_USE,
      stat.isSymbolicLink() ? 'Name the file that it leads to.' : undefined,
    );
}

/**
 * The files of one game on the disk: its sheet, its rehearsals, and the parts beside it that somebody confirmed. Whatever a
 * text asks for, no other file is read or written: texts come from others, too.
 */
export class GameFiles {
  readonly sheet: string;
  readonly folder: string;
  private readonly parts: ReadonlySet<string>;

  private constructor(file: string, parts: readonly string[]) {
    this.sheet = resolve(file);
    this.folder = dirname(this.sheet);
    this.parts = new Set(parts);
  }

  /**
   * The files of a game that somebody named: with the parts beside it that its sheet uses now, and others by name.
   * @throws Exit where the file is no sheet, or one of them is no plain file
   */
  static async of(file: string, more: readonly string[]): Promise<GameFiles> {
    if (!/(?<!\.rehearsal)\.motley$/.test(file))
      throw new Exit(
        `${file} is no sheet: the workshop opens files such as game.motley, and their rehearsals beside them.`,
        WRONG_USE,
      );
    const strange = more.find((name) => !/^[a-z][a-z0-9-]*$/.test(name));
    if (strange !== undefined)
      throw new Exit(
        `A part is named as in use "betting", by small letters, digits and dashes, not "${strange}".`,
        WRONG_USE,
      );
    const text = await readText(file);
    const beside = usesIn(text).filter((name) => existsSync(join(dirname(resolve(file)), `${name}.motley`)));
    const files = new GameFiles(file, [...beside, ...more]);
    for (const each of files.all) demandPlain(each);
    return files;
  }

  private part(name: string): string {
    return join(this.folder, `${name}.motley`);
  }

  /** Every file that is read and written, whether it is there or not. */
  get all(): string[] {
    return [this.sheet, rehearsalsOf(this.sheet), ...[...this.parts].map((name) => this.part(name))];
  }

  /** Parts that texts ask for and nobody confirmed, where a file of that name is here or would be written. */
  strangers({ sheet, parts }: DraftTexts): string[] {
    const asked = [...usesIn(sheet).filter((name) => existsSync(this.part(name))), ...Object.keys(parts)];
    return [...new Set(asked)].filter((name) => !this.parts.has(name));
  }

  /** Whether the files hold what a draft says of them; parts of it that nobody confirmed are its own. */
  isIn(texts: DraftTexts, onDisk: DraftTexts): boolean {
    const parts = Object.fromEntries(Object.entries(texts.parts).filter(([name]) => this.parts.has(name)));
    return isSame({ ...texts, parts }, onDisk);
  }

  /** What a draft is to hold once the files changed: its own parts stay. */
  into(draft: DraftTexts, onDisk: DraftTexts): DraftTexts {
    const own = Object.entries(draft.parts).filter(([name]) => !this.parts.has(name));
    return { ...onDisk, parts: { ...Object.fromEntries(own), ...onDisk.parts } };
  }

  /** The texts as they are now. @throws Exit where there is no sheet, or a link in the place of a file */
  async read(): Promise<DraftTexts> {
    for (const file of this.all) demandPlain(file);
    const sheet = await readText(this.sheet);
    const tests = rehearsalsOf(this.sheet);
    const rehearsals = existsSync(tests) ? await readFile(tests, 'utf8') : '';
    const parts: Record<string, string> = {};
    for (const name of this.parts)
      if (existsSync(this.part(name))) parts[name] = await readFile(this.part(name), 'utf8');
    return { sheet, rehearsals, parts };
  }

  /** Writes what differs, each file at once: nobody ever reads half of one. @returns what was written */
  async write(texts: DraftTexts): Promise<string[]> {
    const now = await this.read();
    const wanted: [file: string, text: string, before: string][] = [
      [this.sheet, texts.sheet, now.sheet],
      [rehearsalsOf(this.sheet), texts.rehearsals, now.rehearsals],
      ...[...this.parts].flatMap((name): [string, string, string][] => {
        const text = Object.hasOwn(texts.parts, name) ? texts.parts[name] : undefined;
        return text === undefined ? [] : [[this.part(name), text, now.parts[name] ?? '']];
      }),
    ];
    const written: string[] = [];
    for (const [file, text, before] of wanted) {
      if (text === before) continue;
      await this.replace(file, text);
      written.push(file);
    }
    return written;
  }

  /** Writes a file aside, as a new one, and puts it in the place of the old one: a link there is never followed. */
  private async replace(file: string, text: string): Promise<void> {
    demandPlain(file);
    const aside = join(this.folder, `.${basename(file)}.${randomUUID()}.new`);
    const mode = statOf(file)?.mode ?? 0o644;
    try {
      const handle = await open(aside, 'wx', mode & 0o777);
      try {
        await handle.writeFile(text);
        await handle.sync();
      } finally {
        await handle.close();
      }
      await rename(aside, file);
    } catch (error) {
      await rm(aside, { force: true });
      throw error;
    }
  }
}

const isSame = (a: DraftTexts, b: DraftTexts): boolean =>
  a.sheet === b.sheet &&
  a.rehearsals === b.rehearsals &&
  JSON.stringify(Object.entries(a.parts).sort()) === JSON.stringify(Object.entries(b.parts).sort());
