/** The language server's own analysis, in a worker of the page: no word of the language is written here. */

import type { Program, Rehearsal } from '@wily-jester/core';
import { bundledParts, compileRehearsals, compileSheet, format, type Problem } from '@wily-jester/motley';
import { Analysis, familyOf, RenameError, type Suggestion, type Texts } from '@wily-jester/motley/analysis';
import { expose } from 'comlink';
import { type DraftTexts, type FileName, filesIn, partOf, textOf, withText } from '../files';

const FOLDER = 'draft:///';
const uriOf = (file: FileName): string =>
  `${FOLDER}${file === 'sheet' ? 'sheet' : file === 'rehearsals' ? 'sheet.rehearsal' : partOf(file)}.motley`;

/** A place in one of the draft's files. */
export interface FilePlace {
  readonly file: FileName;
  readonly from: number;
  readonly to: number;
}
export interface OutlineEntry {
  readonly name: string;
  readonly what: string;
  readonly from: number;
}
/** The places that a new name would change, or why it would not do. */
export interface Renamed {
  readonly places: readonly FilePlace[];
  readonly problem: string | null;
}
/** What a look at all texts finds. */
export interface Read {
  readonly problems: Readonly<Record<FileName, readonly Problem[]>>;
  readonly outline: readonly OutlineEntry[];
  /** The program, where the sheet has no error. */
  readonly program: Program | null;
  /** The rehearsals, and the program that they run on; `null` where they cannot be run. */
  readonly rehearsing: { readonly program: Program; readonly rehearsals: readonly Rehearsal[] } | null;
  /** Rehearsals were read as well; before, what is known of them is that of the text before. */
  readonly isWhole: boolean;
}

let texts: DraftTexts = { sheet: '', rehearsals: '', parts: {} };
const known = new Map<FileName, Analysis>();

const source: Texts = {
  text: (uri) => {
    const file = filesIn(texts).find((name) => uriOf(name) === uri);
    if (file !== undefined) return textOf(texts, file);
    // A part that comes with the language stands in a folder of its own.
    return uri.startsWith(FOLDER)
      ? undefined
      : bundledParts(uri.slice(uri.lastIndexOf('/') + 1).replace(/\.motley$/, ''));
  },
  beside: () =>
    filesIn(texts)
      .filter((file) => file !== 'rehearsals')
      .map(uriOf),
};

/** What is known of one file, among the others as they are now. */
function look(file: FileName): Analysis {
  const family = familyOf(uriOf(file), source);
  const before = known.get(file);
  const isSame =
    before !== undefined &&
    before.family.files.length === family.files.length &&
    family.files.every(
      (one, i) => one.uri === before.family.files[i]?.uri && one.text === before.family.files[i]?.text,
    );
  if (isSame) return before;
  const analysis = Analysis.of(family, before);
  known.set(file, analysis);
  return analysis;
}

/** The same, once the text of the file is what stands in the editor: a question may come before the next reading. */
function lookNow(file: FileName, text: string): Analysis {
  if (textOf(texts, file) !== text) texts = withText(texts, file, text);
  return look(file);
}

const placeOf = ({ uri, offset, end }: { uri: string; offset: number; end: number }): FilePlace[] => {
  const file = filesIn(texts).find((name) => uriOf(name) === uri);
  return file === undefined ? [] : [{ file, from: offset, to: end }];
};

const language = {
  /** Takes the texts as they are now, and tells of the sheet and its parts: the table waits for nothing else. */
  read(now: DraftTexts): Read {
    texts = now;
    const sheet = look('sheet');
    const problems: Record<FileName, readonly Problem[]> = { sheet: sheet.problems, rehearsals: [] };
    for (const file of filesIn(now)) if (partOf(file) !== null) problems[file] = look(file).problems;
    const outline = sheet.outline().map(({ name, detail, offset }) => ({ name, what: detail, from: offset }));
    return { problems, outline, program: sheet.playable ?? null, rehearsing: null, isWhole: false };
  },
  /** The rehearsals of the texts that were read last. */
  rehearsals(): Pick<Read, 'rehearsing'> & { readonly problems: readonly Problem[] } {
    if (texts.rehearsals.trim() === '' || !look('sheet').playable) return { rehearsing: null, problems: [] };
    const { parts } = familyOf(uriOf('sheet'), source);
    const { program, rehearsals, problems } = compileRehearsals(texts.rehearsals, texts.sheet, parts);
    return { rehearsing: program ? { program, rehearsals } : null, problems };
  },
  /** The sheet with its own parts pasted in, as it is put on the shelf. */
  whole(): string {
    return compileSheet(texts.sheet, familyOf(uriOf('sheet'), source).parts).text;
  },
  hover(file: FileName, offset: number, text: string) {
    return lookNow(file, text).hover(offset) ?? null;
  },
  signature(file: FileName, offset: number, text: string) {
    return lookNow(file, text).signature(offset) ?? null;
  },
  suggestions(file: FileName, offset: number, text: string): readonly Suggestion[] {
    return lookNow(file, text).suggestions(offset);
  },
  definitions(file: FileName, offset: number, text: string): FilePlace[] {
    return lookNow(file, text).definitions(offset).flatMap(placeOf);
  },
  /** All places of the name at a place, in all files. */
  references(file: FileName, offset: number, text: string): FilePlace[] {
    return lookNow(file, text).references(offset).flatMap(placeOf);
  },
  rename(file: FileName, offset: number, name: string): Renamed {
    try {
      return { places: look(file).rename(offset, name).flatMap(placeOf), problem: null };
    } catch (error) {
      if (error instanceof RenameError) return { places: [], problem: error.message };
      throw error;
    }
  },
  format(text: string): string {
    return format(text);
  },
};

export type Language = typeof language;
expose(language);
