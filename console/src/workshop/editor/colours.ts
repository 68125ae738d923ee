import { type Extension, RangeSetBuilder } from '@codemirror/state';
import { Decoration, type DecorationSet, type EditorView, ViewPlugin, type ViewUpdate } from '@codemirror/view';
import { highlight, type PieceKind } from '@wily-jester/motley/highlight';

const MARKS = new Map<PieceKind, Decoration>(
  (['keyword', 'text', 'number', 'comment', 'declared', 'option', 'value'] as const).map((kind) => [
    kind,
    Decoration.mark({ class: `is-${kind}` }),
  ]),
);

/** The language's own colouring, of the lines that are seen. */
function coloursOf(view: EditorView): DecorationSet {
  const builder = new RangeSetBuilder<Decoration>();
  for (const { from, to } of view.visibleRanges) {
    let at = view.state.doc.lineAt(from);
    for (;;) {
      let offset = at.from;
      for (const { kind, text } of highlight(at.text)[0] ?? []) {
        const mark = MARKS.get(kind);
        if (mark && text.trim() !== '') builder.add(offset, offset + text.length, mark);
        offset += text.length;
      }
      if (at.to >= to || at.number >= view.state.doc.lines) break;
      at = view.state.doc.line(at.number + 1);
    }
  }
  return builder.finish();
}

export const colours: Extension = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = coloursOf(view);
    }
    update(update: ViewUpdate): void {
      if (update.docChanged || update.viewportChanged) this.decorations = coloursOf(update.view);
    }
  },
  { decorations: (plugin) => plugin.decorations },
);
