import { bundledPartFile, type Parts } from '../parts/library.js';

const REHEARSAL = '.rehearsal.motley';
const SHEET = '.motley';

/** Where texts come from: as they stand in an editor's windows, else from their files. */
export interface Texts {
  text(uri: string): string | undefined;
  /** The sheets and parts beside a file, itself included. */
  beside(uri: string): readonly string[];
}

/** One of the files that tell a game. */
export interface FamilyFile {
  readonly uri: string;
  readonly text: string;
  readonly kind: 'sheet' | 'rehearsals' | 'part';
  /** A part that comes with the language: nobody writes into it. */
  readonly isBundled: boolean;
}

/** The files that tell a game together: a sheet, its rehearsals, and the parts that it uses. */
export interface Family {
  /** The one that is looked at. */
  readonly self: FamilyFile;
  /** The sheet; for a part, the first one beside it that uses it. */
  readonly sheet: FamilyFile | undefined;
  readonly files: readonly FamilyFile[];
  /** The parts that its sheets find. */
  readonly parts: Parts;
}

const nameOf = (uri: string): string => uri.slice(uri.lastIndexOf('/') + 1).replace(SHEET, '');
/** What a part is used as. */
export const partName = ({ uri }: FamilyFile): string => nameOf(uri);
const besideAs = (uri: string, name: string): string => `${uri.slice(0, uri.lastIndexOf('/') + 1)}${name}${SHEET}`;
/** The parts that a text asks for; a name in a comment does no harm. */
const usesIn = (text: string): string[] => [...text.matchAll(/\buse\s+"([\w-]+)"/g)].map((use) => use[1] as string);
const isPart = (text: string): boolean => /^(?:\s|\/\/[^\n]*\n)*part\s*"/.test(text);

/** Finds the files that belong together with one of them. */
export function familyOf(uri: string, texts: Texts): Family {
  const files = new Map<string, FamilyFile>();
  const add = (file: string, kind: FamilyFile['kind'], isBundled = false): FamilyFile | undefined => {
    const text = texts.text(file);
    if (text === undefined) return undefined;
    const found = files.get(file) ?? { uri: file, text, kind, isBundled };
    files.set(file, found);
    return found;
  };
  const addSheet = (file: string): FamilyFile | undefined => {
    const sheet = add(file, 'sheet');
    add(file.replace(SHEET, REHEARSAL), 'rehearsals');
    for (const name of usesIn(sheet?.text ?? ''))
      if (!add(besideAs(file, name), 'part')) {
        const bundled = bundledPartFile(name);
        if (bundled) add(bundled.href, 'part', true);
      }
    return sheet;
  };
  const parts: Parts = (name) =>
    /^[\w-]+$/.test(name)
      ? (texts.text(besideAs(uri, name)) ?? texts.text(bundledPartFile(name)?.href ?? ''))
      : undefined;
  const text = texts.text(uri) ?? '';
  if (uri.endsWith(REHEARSAL)) {
    const self = add(uri, 'rehearsals') ?? { uri, text, kind: 'rehearsals', isBundled: false };
    const sheet = addSheet(uri.replace(REHEARSAL, SHEET));
    return { self, sheet, files: [...files.values()], parts };
  }
  if (isPart(text)) {
    const isBundled = bundledPartFile(nameOf(uri))?.href === uri;
    const self = add(uri, 'part', isBundled) ?? { uri, text, kind: 'part', isBundled };
    const sheets = texts.beside(uri).filter((other) => usesIn(texts.text(other) ?? '').includes(nameOf(uri)));
    const [sheet] = sheets.map(addSheet);
    return { self, sheet, files: [...files.values()], parts };
  }
  const sheet = addSheet(uri) ?? { uri, text, kind: 'sheet', isBundled: false };
  return { self: sheet, sheet, files: [...files.values()], parts };
}
