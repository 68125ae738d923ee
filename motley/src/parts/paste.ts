import { ownLine, type PartLines } from '@wily-jester/core';
import type { AstNode } from '#langium';
import { firstWord } from '../grammar/declarations.js';
import type { Game, PartFile, Use } from '../grammar/generated/ast.js';
import { parse } from '../grammar/parse.js';
import { placeOf } from '../grammar/places.js';
import { listed, nearest, type Problem } from '../problems.js';
import { bundledPartNames, type Parts } from './library.js';
import { declaredIn, holesIn, renamed, withNames } from './renaming.js';

/** Lines of the pasted text that came from a part. */
interface Segment extends PartLines {
  /** The `use` that asked for it. */
  readonly place: Pick<Problem, 'line' | 'column' | 'endColumn'>;
}

/** A sheet with its parts pasted in behind its own declarations, so that its own lines stay where they are. */
export interface Pasted {
  readonly text: string;
  /** Parts that are not there, or cannot be read. */
  readonly problems: readonly Problem[];
  /** The lines of its parts. */
  readonly parts: readonly PartLines[];
  /** Says of problems in the pasted text where they are in the sheet that was written. Parts warn of nothing. */
  relocated(problems: readonly Problem[]): Problem[];
  /** Of these problems, the errors in one part, as they stand there. */
  inPart(name: string, problems: readonly Problem[]): Problem[];
}

const errorAt = (node: AstNode, message: string, fix?: string): Problem => {
  const { line, column, endColumn } = placeOf(node);
  return { severity: 'error', line, column, endColumn, message, ...(fix === undefined ? {} : { fix }) };
};

/** What may not stand in a part, and why. */
const NOT_IN_PARTS: Readonly<Record<string, string>> = {
  Use: 'A part uses no other parts.',
  Play: 'A part has no "play": that is the sheet\'s own.',
  Deck: "A part has no deck: that is the sheet's own.",
};

/** Finds the parts that a sheet uses, and pastes them in. */
export function paste(text: string, game: Game, parts: Parts): Pasted {
  const uses = game.parts.filter((part): part is Use => part.$type === 'Use');
  const problems: Problem[] = [];
  const segments: Segment[] = [];
  const end = (game.$cstNode?.end ?? text.length) - 1;
  const tail = text.slice(end);
  const head = uses
    .reduce(blanked, text.slice(0, end))
    .replace(/^[ \t]+$/gm, '')
    .trimEnd();
  // The last line of the sheet's own text before the parts, and that of its closing brace as it was written.
  const own = linesOf(head);
  const brace = linesOf(text.slice(0, end));
  let line = own;
  let pasted = '';
  for (const use of uses) {
    const name = use.file.whole?.slice(1, -1) ?? '';
    if (segments.some((segment) => segment.name === name)) {
      problems.push(errorAt(use, `"${name}" is used already.`));
      continue;
    }
    const found = readPart(use, name, parts, declaredIn(game));
    if ('severity' in found) {
      problems.push(found);
      continue;
    }
    const lead = `\n\n  // ---- part "${name}"`;
    const from = line + 2;
    line = from + linesOf(found.body) - 1;
    pasted += `${lead}${found.body}`;
    segments.push({ name, place: placeOf(use), from, to: line, own: found.line });
  }
  return {
    text: uses.length === 0 ? text : `${head}${pasted}\n${tail}`,
    problems,
    parts: segments.map(({ name, from, to, own }) => ({ name, from, to, own })),
    relocated: (problems) =>
      problems.flatMap((problem) => {
        if (segments.length === 0 || problem.line <= own) return [problem];
        const there = ownLine({ parts: segments }, problem.line);
        const segment = segments.find(({ name }) => name === there.part);
        if (!segment) return [{ ...problem, line: problem.line - line - 1 + brace }];
        if (problem.severity === 'warning') return [];
        const message = `Part "${segment.name}", line ${there.line}: ${problem.message}`;
        return [{ severity: problem.severity, ...segment.place, message }];
      }),
    inPart: (name, problems) =>
      problems.flatMap((problem) => {
        const { part, line } = ownLine({ parts: segments }, problem.line);
        return part === name && problem.severity === 'error' ? [{ ...problem, line }] : [];
      }),
  };
}

const linesOf = (text: string): number => text.split('\n').length;

/** The text without a statement: blanks stand for it, so that everything else keeps its place. */
function blanked(text: string, node: AstNode): string {
  const { offset = 0, end = 0 } = node.$cstNode ?? {};
  return `${text.slice(0, offset)}${text.slice(offset, end).replace(/[^\n]/g, ' ')}${text.slice(end)}`;
}

/** A part's own text between its braces, and the line where that begins; or why there is none. */
function readPart(
  use: Use,
  name: string,
  parts: Parts,
  sheet: ReadonlySet<string>,
): { body: string; line: number } | Problem {
  const source = parts(name);
  if (source === undefined) {
    const names = bundledPartNames();
    const near = nearest(name, names);
    return errorAt(
      use,
      `There is no part "${name}". ${near ? `Did you mean "${near}"?` : `These come with the language: ${names.join(', ')}.`}`,
      near && `use "${near}"`,
    );
  }
  const { file, problems } = checkPart(source);
  const [wrong] = problems;
  if (wrong) return errorAt(use, `Part "${name}", line ${wrong.line}: ${wrong.message}`);
  if (!file) return errorAt(use, `The file of "${name}" is no part: it should begin with part "${name}" { … }.`);
  const names = declaredIn(file);
  for (const fill of use.fills)
    if (!names.has(fill.theirs))
      return errorAt(
        fill,
        `Part "${name}" has no "${fill.theirs}": it has ${listed([...(file.given === undefined ? names : new Set([...file.gives, ...holesIn(file)]))])}.`,
      );
  const { body, line } = bodyOf(withStandards(source, file, use, sheet), file);
  return { body: withNames(body, renamed(file, name, use, sheet)), line };
}

/** The part's text, where what it leaves to a sheet that does not say it is declared as the part would have it. */
function withStandards(source: string, file: PartFile, use: Use, sheet: ReadonlySet<string>): string {
  const isSaid = (name: string): boolean => sheet.has(name) || use.fills.some(({ theirs }) => theirs === name);
  return file.parts.reduce((text, part) => {
    if (part.$type !== 'Hole' || !part.standard || isSaid(part.name)) return text;
    const { offset = 0 } = part.$cstNode ?? {};
    return `${text.slice(0, offset)}     ${text.slice(offset + 'needs'.length)}`;
  }, source);
}

/** What is wrong with a part by itself, whatever sheet uses it; `file` is there where it is a part at all. */
export function checkPart(source: string): {
  readonly file: PartFile | undefined;
  readonly problems: readonly Problem[];
} {
  const { document, problems } = parse(source);
  const file = document?.part?.word === 'part' ? document.part : undefined;
  if (problems.length > 0 || !file) return { file, problems };
  const names = declaredIn(file);
  const strange = file.gives.find((name) => !names.has(name));
  if (file.given !== undefined && file.given !== 'gives')
    return {
      file,
      problems: [errorAt(file, `After the name of a part stands "gives", or a brace, not "${file.given}".`)],
    };
  if (strange !== undefined)
    return { file, problems: [errorAt(file, `This part gives "${strange}", and declares nothing of that name.`)] };
  const misplaced = file.parts.flatMap((inner) => {
    const why = NOT_IN_PARTS[inner.$type];
    return why ? [errorAt(inner, why)] : [];
  });
  return { file, problems: misplaced };
}

/** The same for whoever has a file: what is wrong with it, or `null` where it is no part. */
export function problemsOfPart(source: string): readonly Problem[] | null {
  // Most files are sheets: they are not read twice.
  if (firstWord(source) !== 'part') return null;
  const { file, problems } = checkPart(source);
  return file ? problems : null;
}

function bodyOf(source: string, file: PartFile): { body: string; line: number } {
  const open = source.indexOf('{', file.title.$cstNode?.end ?? 0) + 1;
  const body = source.slice(open, (file.$cstNode?.end ?? source.length) - 1).trimEnd();
  return { body, line: linesOf(source.slice(0, open)) };
}
