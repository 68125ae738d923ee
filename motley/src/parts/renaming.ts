import { AstUtils } from '#langium';
import type { Lambda, PartFile, Use } from '../grammar/generated/ast.js';

/** The names that a sheet or a part declares, the part's holes among them. */
export function declaredIn(file: Pick<PartFile, 'parts'>): Set<string> {
  const names = new Set<string>();
  for (const part of file.parts) {
    if ('name' in part && typeof part.name === 'string') names.add(part.name);
    if (part.$type === 'KindDecl') for (const member of part.members) names.add(member.name);
  }
  return names;
}

/** What a part leaves to its sheet. */
export const holesIn = (file: PartFile): Set<string> =>
  new Set(file.parts.flatMap((part) => (part.$type === 'Hole' ? [part.name] : [])));

/**
 * What names of a part become where it is pasted in: those that the sheet calls otherwise, and those that the part keeps
 * to itself, which get its own name before them; so do values inside of it that are called as something of the sheet.
 */
export function renamed(file: PartFile, name: string, use: Use, sheet: ReadonlySet<string>): Map<string, string> {
  const names = new Map(use.fills.map(({ theirs, yours }) => [theirs, yours]));
  const [first = '', ...rest] = name.split(/[^A-Za-z0-9]+/).filter(Boolean);
  const before = `${first}${rest.map(capital).join('')}`;
  const apart = (own: string): unknown => names.set(own, `${before}${capital(own)}`);
  for (const local of localsOf(file)) if (sheet.has(local) && !names.has(local)) apart(local);
  if (file.given === undefined) return names;
  const holes = holesIn(file);
  for (const own of declaredIn(file)) if (!names.has(own) && !holes.has(own) && !file.gives.includes(own)) apart(own);
  return names;
}

/** The names of values inside a part: of parameters, loops and statements. */
function localsOf(file: PartFile): Set<string> {
  const declared = declaredIn(file);
  const found = new Set<string>();
  for (const node of AstUtils.streamAst(file))
    switch (node.$type) {
      case 'Let':
      case 'LocalVar':
      case 'ForEach':
      case 'ForCount':
      case 'TypedParam':
        found.add((node as unknown as { name: string }).name);
        break;
      case 'Lambda':
        for (const param of (node as Lambda).params) found.add(param);
    }
  for (const name of declared) found.delete(name);
  return found;
}

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** A part's text with its names exchanged: in code, and in the values inside texts; words of texts and notes stay. */
export function withNames(body: string, names: ReadonlyMap<string, string>): string {
  if (names.size === 0) return body;
  let text = '';
  /** What is open, innermost last: a text, or the braces of a value inside one. */
  const open: ('"' | '{')[] = [];
  for (let i = 0; i < body.length; ) {
    const sign = body[i] as string;
    const inWords = open.at(-1) === '"';
    if (!inWords && body.startsWith('//', i)) {
      const end = body.indexOf('\n', i);
      text += body.slice(i, end < 0 ? body.length : end);
      i = end < 0 ? body.length : end;
      continue;
    }
    if (inWords && sign === '\\') {
      text += body.slice(i, i + 2);
      i += 2;
      continue;
    }
    if (sign === '"') inWords ? open.pop() : open.push('"');
    else if (sign === '{' && (inWords || open.length > 0)) open.push('{');
    else if (sign === '}' && open.at(-1) === '{') open.pop();
    const word = inWords ? null : /^[A-Za-z]\w*/.exec(body.slice(i, i + 61));
    text += word ? (names.get(word[0]) ?? word[0]) : sign;
    i += word ? word[0].length : 1;
  }
  return text;
}
