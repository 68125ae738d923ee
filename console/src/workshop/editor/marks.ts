import { type EditorState, type Extension, RangeSet, StateEffect, StateField } from '@codemirror/state';
import { Decoration, type DecorationSet, EditorView, GutterMarker, gutter, WidgetType } from '@codemirror/view';
import type { Problem } from '@wily-jester/motley';

/** A problem in a text, and what it says at a line besides. */
export interface Marks {
  readonly problems: readonly Problem[];
  /** Lines that ran last, and the one at which the table waits, with its words. */
  readonly ran: readonly number[];
  readonly waits: { readonly line: number; readonly words: string } | null;
  /** Lines that rehearsals reach, and those of which they miss something. */
  readonly covered: readonly number[];
  readonly missed: readonly number[];
  /** Lines with something to say: a fault, a failing rehearsal, the clause that refuses. */
  readonly notes: readonly {
    readonly line: number;
    readonly text: string;
    readonly kind: 'fault' | 'failed' | 'passed' | 'refuses';
  }[];
}

export const NO_MARKS: Marks = { problems: [], ran: [], waits: null, covered: [], missed: [], notes: [] };

export const setMarks = StateEffect.define<Marks>();
const marksField = StateField.define<Marks>({
  create: () => NO_MARKS,
  update: (marks, transaction) => {
    for (const effect of transaction.effects) if (effect.is(setMarks)) return effect.value;
    return marks;
  },
});
export const marksIn = (state: EditorState): Marks => state.field(marksField);

/** Where a problem stands now, as far as its line is still there. */
export function placeOf(state: EditorState, { line, column, endColumn }: Problem): { from: number; to: number } | null {
  if (line > state.doc.lines) return null;
  const at = state.doc.line(line);
  const from = Math.min(at.to, at.from + column - 1);
  const to = Math.min(at.to, at.from + endColumn - 1);
  return from < to ? { from, to } : { from: Math.max(at.from, from - 1), to: Math.max(at.from, to) };
}

/** Writes what mends a problem, where it is known. */
export function mend(view: EditorView, problem: Problem): boolean {
  const place = placeOf(view.state, problem);
  if (!place || problem.fix === undefined) return false;
  view.dispatch({ changes: { ...place, insert: problem.fix }, userEvent: 'input.mend' });
  view.focus();
  return true;
}

/** The sentence under a line that is wrong, with its mend. */
class Message extends WidgetType {
  constructor(readonly problem: Problem) {
    super();
  }
  override eq(other: Message): boolean {
    const [a, b] = [this.problem, other.problem];
    return a.message === b.message && a.fix === b.fix && a.severity === b.severity;
  }
  override toDOM(view: EditorView): HTMLElement {
    const { message, fix, severity } = this.problem;
    const box = Object.assign(document.createElement('div'), { className: `wj-message ${severity}` });
    box.setAttribute('role', 'note');
    box.append(Object.assign(document.createElement('span'), { textContent: message }));
    if (fix !== undefined) {
      const words = fix.length > 24 || fix.includes('\n') ? 'Mend it' : `Write ${fix}`;
      const button = Object.assign(document.createElement('button'), { type: 'button', textContent: words });
      button.append(Object.assign(document.createElement('kbd'), { textContent: 'Alt ↵' }));
      button.addEventListener('click', () => mend(view, this.problem));
      box.append(button);
    }
    // No margins around a block: the editor measures it without them.
    const row = Object.assign(document.createElement('div'), { className: 'wj-row' });
    row.append(box);
    return row;
  }
  override ignoreEvent(): boolean {
    return true;
  }
}

/** Words at the right end of a line. */
class Tag extends WidgetType {
  constructor(
    readonly words: string,
    readonly kind: string,
  ) {
    super();
  }
  override eq(other: Tag): boolean {
    return other.words === this.words && other.kind === this.kind;
  }
  override toDOM(): HTMLElement {
    return Object.assign(document.createElement('span'), { className: `wj-tag ${this.kind}`, textContent: this.words });
  }
}

function decorationsOf(state: EditorState): DecorationSet {
  const { problems, ran, waits, notes } = marksIn(state);
  const { doc } = state;
  const found: ReturnType<Decoration['range']>[] = [];
  const lineFrom = (line: number): number | null => (line >= 1 && line <= doc.lines ? doc.line(line).from : null);
  const lineEnd = (line: number): number => doc.line(line).to;
  for (const [i, line] of ran.entries()) {
    const from = lineFrom(line);
    if (from === null || line === waits?.line) continue;
    found.push(Decoration.line({ class: 'wj-ran', attributes: { style: `--nth:${Math.min(i, 8)}` } }).range(from));
    if (i === ran.length - 1)
      found.push(Decoration.widget({ widget: new Tag('ran last', 'ran'), side: 1 }).range(lineEnd(line)));
  }
  const from = waits && lineFrom(waits.line);
  if (waits && from !== null) {
    found.push(Decoration.line({ class: 'wj-waits' }).range(from as number));
    found.push(Decoration.widget({ widget: new Tag(waits.words, 'waits'), side: 1 }).range(lineEnd(waits.line)));
  }
  for (const { line, text, kind } of notes) {
    const at = lineFrom(line);
    if (at === null) continue;
    found.push(Decoration.line({ class: `wj-${kind}` }).range(at));
    if (text !== '') {
      const isLong = text.length > 44 || kind === 'failed';
      found.push(
        isLong
          ? Decoration.widget({
              widget: new Message({ severity: 'error', line, column: 1, endColumn: 2, message: text }),
              side: 1,
              block: true,
            }).range(lineEnd(line))
          : Decoration.widget({ widget: new Tag(text, kind), side: 1 }).range(lineEnd(line)),
      );
    }
  }
  const told = new Set<number>();
  for (const problem of problems) {
    const place = placeOf(state, problem);
    if (!place) continue;
    if (place.from < place.to)
      found.push(Decoration.mark({ class: `wj-wave ${problem.severity}` }).range(place.from, place.to));
    // One sentence a line, and not more than a few: whoever has mended these sees the next.
    if (told.has(problem.line) || told.size >= 4) continue;
    told.add(problem.line);
    found.push(Decoration.widget({ widget: new Message(problem), side: 1, block: true }).range(lineEnd(problem.line)));
  }
  return Decoration.set(found, true);
}

const shownMarks = StateField.define<DecorationSet>({
  create: decorationsOf,
  update: (now, transaction) => {
    if (transaction.effects.some((effect) => effect.is(setMarks))) return decorationsOf(transaction.state);
    return transaction.docChanged ? now.map(transaction.changes) : now;
  },
  provide: (field) => EditorView.decorations.from(field),
});

class Bar extends GutterMarker {
  constructor(
    readonly kind: string,
    readonly words: string,
  ) {
    super();
  }
  override eq(other: Bar): boolean {
    return other.kind === this.kind;
  }
  override toDOM(): HTMLElement {
    return Object.assign(document.createElement('i'), { className: `wj-bar ${this.kind}`, title: this.words });
  }
}
const COVERED = new Bar('covered', 'A rehearsal runs this line.');
const MISSED = new Bar('missed', 'In no rehearsal.');
const RAN = new Bar('ran', 'Ran in the last choice.');
const WAITS = new Bar('waits', 'The table waits here.');

/** A margin with a mark at some lines. */
function margin(name: string, of: (marks: Marks) => readonly (readonly [number, Bar])[]): Extension {
  return gutter({
    class: `wj-margin ${name}`,
    markers: (view) => {
      const { doc } = view.state;
      const ranges = of(marksIn(view.state))
        .filter(([line]) => line >= 1 && line <= doc.lines)
        .map(([line, bar]) => bar.range(doc.line(line).from));
      return RangeSet.of(ranges, true);
    },
    lineMarkerChange: (update) =>
      update.transactions.some(({ effects }) => effects.some((effect) => effect.is(setMarks))),
  });
}

export const ranMargin = margin('ran', ({ ran, waits }) => [
  ...ran.filter((line) => line !== waits?.line).map((line) => [line, RAN] as const),
  ...(waits ? [[waits.line, WAITS] as const] : []),
]);
export const coverageMargin = margin('coverage', ({ covered, missed }) => [
  ...covered.map((line) => [line, COVERED] as const),
  ...missed.map((line) => [line, MISSED] as const),
]);
export const marks: Extension = [marksField, shownMarks];
