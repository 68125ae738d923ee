import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { type DraftTexts, fileStem, titleIn } from './files';

/** Longest text, and largest zip, that is taken. */
const LONGEST = 80_000;
const LARGEST_ZIP = 2_000_000;
const MOST_FILES = 40;

const isPart = (text: string): boolean => /^(?:\s|\/\/[^\n]*\n)*part\s*"/.test(text);

/** Finds a draft among files that were chosen or dropped: one sheet, its rehearsals, its parts. */
export async function textsInFiles(files: readonly File[]): Promise<DraftTexts | { readonly problem: string }> {
  const named: { name: string; text: string }[] = [];
  try {
    for (const file of files.slice(0, MOST_FILES)) {
      if (file.name.endsWith('.zip')) {
        if (file.size > LARGEST_ZIP) return { problem: `${file.name} is larger than 2 MB.` };
        // Counted before it is unpacked: thousands of long files fit into a small zip.
        let left = MOST_FILES;
        const within = unzipSync(new Uint8Array(await file.arrayBuffer()), {
          filter: ({ name, originalSize }) => name.endsWith('.motley') && originalSize <= LONGEST * 3 && left-- > 0,
        });
        for (const [name, bytes] of Object.entries(within))
          named.push({ name: name.split('/').at(-1) ?? name, text: strFromU8(bytes) });
      } else if (file.size > LONGEST * 3) return { problem: `${file.name} is too long for a sheet.` };
      else named.push({ name: file.name, text: await file.text() });
    }
  } catch {
    return { problem: 'This file cannot be read as a zip.' };
  }
  const rehearsals = named.filter(({ name }) => name.endsWith('.rehearsal.motley'));
  const others = named.filter((file) => !rehearsals.includes(file));
  const parts = others.filter(({ text }) => isPart(text));
  const sheets = others.filter((file) => !parts.includes(file));
  const [sheet, second] = sheets;
  if (!sheet)
    return { problem: 'There is no sheet among these files: a sheet begins with game "Name" for … seats { … }.' };
  if (second)
    return { problem: `${sheet.name} and ${second.name} are two sheets: take one, with its rehearsals and parts.` };
  if (named.some(({ text }) => text.length > LONGEST))
    return { problem: 'One of these texts is too long for a sheet.' };
  return {
    sheet: sheet.text,
    rehearsals: rehearsals.map(({ text }) => text).join('\n'),
    parts: Object.fromEntries(parts.map(({ name, text }) => [name.replace(/\.motley$/, ''), text])),
  };
}

/** A draft as a zip of its files. */
export function zipOf({ sheet, rehearsals, parts }: DraftTexts): { readonly name: string; readonly bytes: Uint8Array } {
  const stem = fileStem(titleIn(sheet));
  const files: Record<string, Uint8Array> = { [`${stem}.motley`]: strToU8(sheet) };
  if (rehearsals.trim() !== '') files[`${stem}.rehearsal.motley`] = strToU8(rehearsals);
  for (const [name, text] of Object.entries(parts)) files[`${name}.motley`] = strToU8(text);
  return { name: `${stem}.zip`, bytes: zipSync(files) };
}
