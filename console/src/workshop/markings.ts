import type { Marks } from './editor/marks';
import type { FileName } from './files';
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
}): Marks {
  const { file, read, isWaiting, look, fault, refusal, results, reach, names } = known;
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
    covered: reach.covered,
    missed: reach.missed,
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
