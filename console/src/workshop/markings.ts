import type { Problem } from '@wily-jester/motley';
import type { Marks } from './editor/marks';
import { type DraftTexts, type FileName, filesIn } from './files';
import type { Read } from './workers/language.worker';
import type { Reach, Rehearsed } from './workers/proof.worker';
import type { Look, SheetFault } from './workers/table.worker';

/** What the margins and lines of a file say: what is wrong, what ran, what rehearsals reach and find. */
export function marksFor(known: {
  readonly file: FileName;
  readonly read: Read | null;
  /** A mistake keeps the text from being played: what ran belongs to another text. */
  readonly isWaiting: boolean;
  readonly look: Look | null;
  readonly fault: SheetFault | null;
  /** The line of the clause that refused the last choice. */
  readonly refusal: number | null;
  readonly results: readonly Rehearsed[];
  readonly reach: Reach;
  readonly names: readonly string[];
  /** The sheet that was played last, to which the lines above belong, and the sheet as it is. */
  readonly good: string;
  readonly now: string;
}): Marks {
  const { file, read, isWaiting, look, fault, refusal, results, reach, names, good, now } = known;
  const moved = movedLines(good, now);
  const problems = read?.problems[file] ?? [];
  if (file === 'rehearsals')
    return {
      problems,
      ran: [],
      waits: null,
      covered: [],
      missed: [],
      notes: results.flatMap(({ failure, line }) => [
        failure
          ? { line: failure.line, text: failure.message, kind: 'failed' as const }
          : { line, text: 'passes', kind: 'passed' as const },
      ]),
    };
  if (file !== 'sheet') return { problems, ran: [], waits: null, covered: [], missed: [], notes: [] };
  const asked = (look?.view.waiting.kind === 'ask' ? look.view.waiting.seats : []).map((seat) => names[seat - 1] ?? '');
  const broken = look?.broken ?? null;
  return {
    problems,
    ran: isWaiting ? [] : (look?.ran ?? []),
    waits:
      isWaiting || !look || look.waits === null || asked.length === 0
        ? null
        : { line: look.waits, words: `waits for ${asked.length > 2 ? `${asked.length} seats` : asked.join(' and ')}` },
    covered: moved(reach.covered),
    missed: moved(reach.missed),
    notes: [
      ...(fault && fault.line !== null && !isWaiting
        ? [{ line: fault.line, text: fault.message, kind: 'fault' as const }]
        : []),
      ...(broken && broken.line !== null && !isWaiting
        ? [{ line: broken.line, text: broken.reason, kind: 'refuses' as const }]
        : []),
      ...(refusal !== null && !isWaiting ? [{ line: refusal, text: 'refuses this', kind: 'refuses' as const }] : []),
    ],
  };
}

/** Where lines of a text stand in another one: before and behind what was changed. Those within it are left out. */
export function movedLines(from: string, to: string): (lines: readonly number[]) => readonly number[] {
  if (from === to || from === '') return (lines) => lines;
  const [a, b] = [from.split('\n'), to.split('\n')];
  let before = 0;
  while (before < a.length && before < b.length && a[before] === b[before]) before++;
  let behind = 0;
  while (behind < a.length - before && behind < b.length - before && a.at(-1 - behind) === b.at(-1 - behind)) behind++;
  return (lines) =>
    lines.flatMap((line) => (line <= before ? [line] : line > a.length - behind ? [line + b.length - a.length] : []));
}

/** Nothing was read yet. */
export const NO_READ: Read = {
  problems: { sheet: [], rehearsals: [] },
  outline: [],
  program: null,
  rehearsing: null,
  isWhole: false,
};

/** A problem, and the file in which it stands. */
type Placed = Problem & { readonly file: FileName };

const errorsIn = (read: Read, file: FileName): Placed[] =>
  (read.problems[file] ?? []).filter(({ severity }) => severity === 'error').map((problem) => ({ ...problem, file }));

/** The first error of the sheet or of its own parts: it keeps the text from being played. */
export const firstErrorOf = (read: Read, texts: DraftTexts): Placed | null =>
  filesIn(texts)
    .filter((file) => file !== 'rehearsals')
    .flatMap((file) => errorsIn(read, file))[0] ?? null;

/** Whether anything is wrong, in a few words, and where. */
export interface Verdict {
  readonly words: string;
  readonly isGood: boolean;
  readonly line: number | null;
}

const counted = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;

/** What is wrong with the texts: of the file that is looked at first. @param trouble why they could not be read at all */
export function verdictOf(read: Read | null, texts: DraftTexts | null, file: FileName, trouble: string): Verdict {
  if (trouble !== '') return { words: trouble, isGood: false, line: null };
  if (!read || !texts) return { words: '', isGood: true, line: null };
  const errors = filesIn(texts).flatMap((one) => errorsIn(read, one));
  const first = errors.find((one) => one.file === file) ?? errors[0];
  if (first) {
    const where =
      first.file === file ? '' : first.file.startsWith('part ') ? ` of ${first.file}` : ` of the ${first.file}`;
    return {
      words: `${counted(errors.length, 'mistake')}, line ${first.line}${where}`,
      isGood: false,
      line: first.line,
    };
  }
  const [doubt, ...more] = read.problems[file] ?? [];
  return doubt
    ? { words: `${counted(1 + more.length, 'doubt')}, line ${doubt.line}`, isGood: true, line: doubt.line }
    : { words: 'Nothing wrong', isGood: true, line: null };
}
