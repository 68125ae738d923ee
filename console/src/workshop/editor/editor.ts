import {
  acceptCompletion,
  closeBrackets,
  closeBracketsKeymap,
  completionKeymap,
  startCompletion,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap, indentWithTab, toggleComment } from '@codemirror/commands';
import {
  bracketMatching,
  codeFolding,
  foldGutter,
  foldKeymap,
  foldService,
  indentOnInput,
  indentService,
  indentUnit,
} from '@codemirror/language';
import { highlightSelectionMatches, search, searchKeymap } from '@codemirror/search';
import { Compartment, EditorState, type Extension } from '@codemirror/state';
import {
  drawSelection,
  EditorView,
  highlightActiveLine,
  highlightSpecialChars,
  type KeyBinding,
  keymap,
  lineNumbers,
  rectangularSelection,
} from '@codemirror/view';
import { foldsOf, indentOf } from '@wily-jester/motley/shape';
import { colours } from './colours';
import { closeTip, type Helpers, help, valueAtCaret } from './help';
import { look } from './look';
import { coverageMargin, marks, marksIn, mend, placeOf, ranMargin } from './marks';

/** What keys of the editor do outside of it. */
export interface Doings {
  define(offset: number): void;
  rename(offset: number): void;
  outline(): void;
  format(): void;
  changed(text: string): void;
  moved(offset: number): void;
}

/** Whether a text can be written into; it changes while the editor stays. */
export const writing = new Compartment();

/** Takes the mend of the mistake at the caret's line, or else of the next one that has any. */
function takeMend(view: EditorView): boolean {
  const line = view.state.doc.lineAt(view.state.selection.main.head).number;
  const { problems } = marksIn(view.state);
  const mendable = problems.filter(({ fix }) => fix !== undefined);
  const problem = mendable.find((one) => one.line === line) ?? mendable.find((one) => one.line > line) ?? mendable[0];
  return problem !== undefined && mend(view, problem);
}

/** Goes to the next mistake, or the one before. */
const toMistake =
  (by: 1 | -1) =>
  (view: EditorView): boolean => {
    const { head } = view.state.selection.main;
    const places = marksIn(view.state)
      .problems.flatMap((problem) => placeOf(view.state, problem)?.from ?? [])
      .sort((a, b) => a - b);
    const next =
      by > 0 ? (places.find((at) => at > head) ?? places[0]) : (places.findLast((at) => at < head) ?? places.at(-1));
    if (next === undefined) return false;
    view.dispatch({ selection: { anchor: next }, scrollIntoView: true });
    return true;
  };

/** Something that is done at the caret; no other key of the kind is asked. */
const at =
  (doing: (offset: number) => void) =>
  (view: EditorView): boolean => {
    doing(view.state.selection.main.head);
    return true;
  };

const keysFor = (doings: Doings, helpers: Helpers): KeyBinding[] => [
  { key: 'Tab', run: acceptCompletion },
  { key: 'Alt-Enter', run: takeMend },
  { key: 'Alt-ArrowDown', run: toMistake(1), preventDefault: true },
  { key: 'Alt-ArrowUp', run: toMistake(-1), preventDefault: true },
  { key: 'Ctrl-Space', run: startCompletion },
  { key: 'F12', run: at(doings.define), preventDefault: true },
  { key: 'F2', run: at(doings.rename), preventDefault: true },
  { key: 'Mod-Shift-o', run: at(doings.outline), preventDefault: true },
  { key: 'Shift-Alt-f', run: at(doings.format), preventDefault: true },
  { key: 'Mod-k v', run: valueAtCaret(helpers) },
  { key: 'Mod-/', run: toggleComment },
  { key: 'Escape', run: closeTip },
];

/** Folds as the language says: blocks, and rows of notes. */
const folding: Extension = foldService.of((state, lineStart) => {
  const line = state.doc.lineAt(lineStart).number - 1;
  const fold = foldsIn(state).find(({ from }) => from === line);
  return fold ? { from: state.doc.line(fold.from + 1).to, to: state.doc.line(fold.to + 1).to } : null;
});
const known = new WeakMap<object, ReturnType<typeof foldsOf>>();
function foldsIn(state: EditorState): ReturnType<typeof foldsOf> {
  const found = known.get(state.doc) ?? foldsOf(state.doc.toString());
  known.set(state.doc, found);
  return found;
}

/** Lines are set in as the language says, so that nobody counts spaces. */
const indenting: Extension = indentService.of((context, position) => {
  const { from, text } = context.lineAt(position, 1);
  return indentOf(context.state.doc.sliceString(0, from).split('\n'), text);
});

/** Everything that an editor of sheets is made of. */
export function editorState(text: string, isReadOnly: boolean, doings: Doings, helpers: Helpers): EditorState {
  return EditorState.create({
    doc: text,
    extensions: [
      ranMargin,
      lineNumbers(),
      coverageMargin,
      foldGutter({ openText: '⌄', closedText: '›' }),
      codeFolding(),
      folding,
      history(),
      highlightSpecialChars(),
      drawSelection(),
      rectangularSelection(),
      bracketMatching(),
      closeBrackets(),
      highlightActiveLine(),
      highlightSelectionMatches(),
      search({ top: true }),
      indentUnit.of('  '),
      // After a long line the beginning of a short one comes back into sight.
      EditorView.scrollMargins.of(() => ({ left: 96 })),
      indenting,
      indentOnInput(),
      EditorState.tabSize.of(2),
      EditorState.languageData.of(() => [
        {
          commentTokens: { line: '//' },
          closeBrackets: { brackets: ['(', '[', '{', '"'] },
          indentOnInput: /^\s*[})\]]$/,
        },
      ]),
      EditorView.contentAttributes.of({
        'aria-label': 'The text',
        // It can be reached, and scrolled by keys, where nothing is written too.
        tabindex: '0',
        spellcheck: 'false',
        autocapitalize: 'off',
        autocorrect: 'off',
      }),
      writing.of([EditorState.readOnly.of(isReadOnly), EditorView.editable.of(!isReadOnly)]),
      colours,
      marks,
      help(helpers),
      keymap.of([
        ...keysFor(doings, helpers),
        ...closeBracketsKeymap,
        ...completionKeymap,
        ...searchKeymap,
        ...historyKeymap,
        ...foldKeymap,
        ...defaultKeymap,
        indentWithTab,
      ]),
      EditorView.updateListener.of((update) => {
        if (update.docChanged) doings.changed(update.state.doc.toString());
        if (update.selectionSet || update.docChanged) doings.moved(update.state.selection.main.head);
      }),
      EditorView.domEventHandlers({
        mousedown: (event, view) => {
          if (!event.ctrlKey && !event.metaKey) return false;
          const at = view.posAtCoords({ x: event.clientX, y: event.clientY });
          if (at === null) return false;
          doings.define(at);
          return true;
        },
      }),
      // The editor's own styles carry the page's nonce: others are not taken.
      EditorView.cspNonce.of(document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? ''),
      look,
    ],
  });
}
