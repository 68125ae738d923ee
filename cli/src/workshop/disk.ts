import { existsSync } from 'node:fs';
import { readFile, rename, writeFile } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import type { DraftTexts } from '@wily-jester/protocol';
import { readText, rehearsalsOf } from '../files.js';

/** The parts that a text asks for; a name in a comment does no harm. */
const usesIn = (text: string): string[] =>
  [...text.matchAll(/\buse\s+"([a-z][a-z0-9-]*)"/g)].map((use) => use[1] as string);

/** The files of one game on the disk: its sheet, its rehearsals, and the parts beside it that it uses. */
export class GameFiles {
  readonly sheet: string;
  readonly folder: string;

  constructor(file: string) {
    this.sheet = resolve(file);
    this.folder = dirname(this.sheet);
  }

  private part(name: string): string {
    return join(this.folder, `${name}.motley`);
  }

  /** The texts as they are now. @throws Exit where there is no sheet */
  async read(): Promise<DraftTexts> {
    const sheet = await readText(this.sheet);
    const tests = rehearsalsOf(this.sheet);
    const rehearsals = existsSync(tests) ? await readFile(tests, 'utf8') : '';
    const parts: Record<string, string> = {};
    for (const name of usesIn(sheet))
      if (existsSync(this.part(name))) parts[name] = await readFile(this.part(name), 'utf8');
    return { sheet, rehearsals, parts };
  }

  /** Writes what differs, each file at once: nobody ever reads half of one. @returns what was written */
  async write(texts: DraftTexts): Promise<string[]> {
    const now = await this.read();
    const wanted: [file: string, text: string, before: string | undefined][] = [
      [this.sheet, texts.sheet, now.sheet],
      [rehearsalsOf(this.sheet), texts.rehearsals, now.rehearsals],
      ...Object.entries(texts.parts).map(([name, text]): [string, string, string | undefined] => [
        this.part(name),
        text,
        now.parts[name],
      ]),
    ];
    const written: string[] = [];
    for (const [file, text, before] of wanted) {
      if (text === (before ?? '')) continue;
      // A file that this game did not use is somebody else's: a part of its name must not write over it.
      if (before === undefined && existsSync(file)) continue;
      const fresh = `${file}.new`;
      await writeFile(fresh, text);
      await rename(fresh, file);
      written.push(file);
    }
    return written;
  }
}

export const isSame = (a: DraftTexts, b: DraftTexts): boolean =>
  a.sheet === b.sheet &&
  a.rehearsals === b.rehearsals &&
  JSON.stringify(Object.entries(a.parts).sort()) === JSON.stringify(Object.entries(b.parts).sort());
