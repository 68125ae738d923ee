import { BUNDLED } from './generated/bundled.js';

/** Gives the text of a part by its name, or nothing. */
export type Parts = (name: string) => string | undefined;

/** The parts that come with the language. */
export const bundledParts: Parts = (name) => (Object.hasOwn(BUNDLED, name) ? BUNDLED[name] : undefined);

/** Their names, in alphabetical order. */
export const bundledPartNames = (): string[] => Object.keys(BUNDLED);

// Said in two steps: what packs pages would take the folder for a file of theirs.
const HERE = import.meta.url;
const FOLDER = new URL('../../parts/', HERE);

/** Where the file of a part that comes with the language stands, for editors that open it. */
export const bundledPartFile = (name: string): URL | undefined =>
  Object.hasOwn(BUNDLED, name) ? new URL(`${name}.motley`, FOLDER) : undefined;
