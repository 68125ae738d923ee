import { existsSync, readdirSync, readFileSync } from 'node:fs';

/** Gives the text of a part by its name, or nothing. */
export type Parts = (name: string) => string | undefined;

const FOLDER = new URL('../../parts/', import.meta.url);

/** The file of a part that comes with the language. */
export const bundledPartFile = (name: string): URL | undefined => {
  const file = new URL(`${name}.motley`, FOLDER);
  return /^[a-z]+(-[a-z]+)*$/.test(name) && existsSync(file) ? file : undefined;
};

/** The parts that come with the language. */
export const bundledParts: Parts = (name) => {
  const file = bundledPartFile(name);
  return file && readFileSync(file, 'utf8');
};

/** Their names, in alphabetical order. */
export const bundledPartNames = (): string[] =>
  readdirSync(FOLDER)
    .map((file) => file.replace(/\.motley$/, ''))
    .sort();
