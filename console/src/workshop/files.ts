/** The texts of a draft: a sheet, its rehearsals, and parts of its own by their names. */
export interface DraftTexts {
  readonly sheet: string;
  readonly rehearsals: string;
  readonly parts: Readonly<Record<string, string>>;
}

/** One of them: the sheet, the rehearsals, or a part. */
export type FileName = 'sheet' | 'rehearsals' | `part ${string}`;

export const partOf = (file: FileName): string | null => (file.startsWith('part ') ? file.slice(5) : null);

export const textOf = (texts: DraftTexts, file: FileName): string => {
  const part = partOf(file);
  return part === null ? texts[file as 'sheet' | 'rehearsals'] : (texts.parts[part] ?? '');
};

export function withText(texts: DraftTexts, file: FileName, text: string): DraftTexts {
  const part = partOf(file);
  return part === null ? { ...texts, [file]: text } : { ...texts, parts: { ...texts.parts, [part]: text } };
}

export const filesIn = (texts: DraftTexts): FileName[] => [
  'sheet',
  'rehearsals',
  ...Object.keys(texts.parts).map((name): FileName => `part ${name}`),
];

/** What a tab calls a file. */
export const fileWords = (file: FileName): string =>
  file === 'sheet' ? 'Sheet' : file === 'rehearsals' ? 'Rehearsals' : `Part ${partOf(file)}`;

export const isSame = (a: DraftTexts, b: DraftTexts): boolean =>
  a.sheet === b.sheet && a.rehearsals === b.rehearsals && JSON.stringify(a.parts) === JSON.stringify(b.parts);

/** The name of a game in its text, as far as it can be read. */
export const titleIn = (sheet: string): string =>
  /^[ \t]*game[ \t]+"([^"\n]{1,80})"/m.exec(sheet)?.[1]?.trim() || 'A game without a name';

/** What its files are called when they are taken away: `between-the-banks`. */
export const fileStem = (title: string): string =>
  title
    .normalize('NFKD')
    .replace(/['’]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'game';
