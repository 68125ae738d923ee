import {
  autocompletion,
  type Completion,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { type EditorState, type Extension, StateEffect, StateField } from '@codemirror/state';
import {
  type EditorView,
  hoverTooltip,
  showTooltip,
  type Tooltip,
  ViewPlugin,
  type ViewUpdate,
} from '@codemirror/view';
import type { NameNow } from '@wily-jester/core';
import type { FileName } from '../files';

/** What the editor asks the language and the table. */
export interface Helpers {
  readonly file: () => FileName;
  suggestions(
    file: FileName,
    offset: number,
    text: string,
  ): Promise<readonly { name: string; kind: string; detail: string | undefined }[]>;
  hover(file: FileName, offset: number, text: string): Promise<{ text: string; offset: number; end: number } | null>;
  signature(file: FileName, offset: number, text: string): Promise<{ label: string; index: number } | null>;
  /** What a name is worth at the table now. */
  value(name: string): Promise<NameNow | null>;
  /** Called with the name under the pointer, whose twin at the table is marked. */
  pointed(name: string | null): void;
}

const element = (tag: string, className: string, text = ''): HTMLElement =>
  Object.assign(document.createElement(tag), { className, textContent: text });

/** Names before the words of the language, functions between. */
const RANKS: Readonly<Record<string, number>> = { name: 3, option: 3, member: 2, function: 1, keyword: 0 };

function completing(helpers: Helpers): Extension {
  const values = new Map<string, string>();
  const complete = async (context: CompletionContext): Promise<CompletionResult | null> => {
    const word = context.matchBefore(/\w*/);
    const afterPoint =
      context.state.sliceDoc(
        Math.max(0, context.pos - 1 - (word?.text.length ?? 0)),
        context.pos - (word?.text.length ?? 0),
      ) === '.';
    if (!context.explicit && !afterPoint && (word?.text.length ?? 0) < 2) return null;
    const line = context.state.doc.lineAt(context.pos);
    const before = line.text.slice(0, context.pos - line.from);
    // In notes and plain texts nothing is suggested.
    if (!context.explicit && (before.includes('//') || (before.match(/"/g)?.length ?? 0) % 2 === 1)) return null;
    const found = await helpers.suggestions(helpers.file(), context.pos, context.state.doc.toString());
    if (context.aborted) return null;
    const options = found.map(
      ({ name, kind, detail }): Completion => ({
        label: name,
        type: kind,
        boost: RANKS[kind] ?? 0,
        ...(detail === undefined ? {} : { detail }),
      }),
    );
    const typed = word?.text ?? '';
    const near = found.filter(({ name, kind }) => kind === 'name' && name.startsWith(typed)).slice(0, 8);
    for (const { name } of near) {
      const now = await helpers.value(name);
      const [first] = now?.values ?? [];
      if (now && now.kind !== 'pile' && first && first.words.length < 14) values.set(name, first.words);
      else values.delete(name);
    }
    return { from: word?.from ?? context.pos, options, validFor: /^\w*$/ };
  };
  return autocompletion({
    override: [complete],
    icons: false,
    activateOnTypingDelay: 60,
    addToOptions: [
      { render: ({ type }) => element('i', `wj-kind ${type ?? ''}`), position: 10 },
      {
        render: ({ label, type }) =>
          type === 'name' && values.has(label) ? element('b', 'wj-now', values.get(label)) : null,
        position: 90,
      },
    ],
  });
}

/** What stands under the pointer: what it is, and what it is worth now. */
function hovering(helpers: Helpers): Extension {
  return hoverTooltip(
    async (view, pos) => {
      const found = await helpers.hover(helpers.file(), pos, view.state.doc.toString());
      if (!found) return null;
      const name = view.state.sliceDoc(found.offset, found.end);
      const now = await helpers.value(name);
      return tooltipFor(found.offset, found.end, found.text, name, now, helpers);
    },
    { hoverTime: 250 },
  );
}

function tooltipFor(
  pos: number,
  end: number,
  text: string,
  name: string,
  now: NameNow | null,
  helpers: Helpers,
): Tooltip {
  return {
    pos,
    end,
    above: false,
    create: () => {
      const dom = element('div', 'wj-tip');
      const [only, ...more] = now?.values ?? [];
      if (only && more.length === 0 && only.of === null) dom.append(element('b', 'wj-tip-value', only.words));
      const words = element('div', 'wj-tip-words');
      const [first = '', ...rest] = text.split('\n\n');
      words.append(element('code', '', first), ...rest.map((line) => element('p', '', line)));
      if (only && (more.length > 0 || only.of !== null)) {
        const list = element('dl', '');
        for (const { of, words: worth } of now?.values ?? [])
          list.append(element('dt', '', of ?? ''), element('dd', '', worth));
        words.append(list);
      }
      dom.append(words);
      return { dom, mount: () => helpers.pointed(now ? name : null), destroy: () => helpers.pointed(null) };
    },
  };
}

const setTip = StateEffect.define<Tooltip | null>();
const tipField = StateField.define<Tooltip | null>({
  create: () => null,
  update: (tip, transaction) => {
    for (const effect of transaction.effects) if (effect.is(setTip)) return effect.value;
    return transaction.docChanged || transaction.selection ? null : tip;
  },
  provide: (field) => showTooltip.from(field),
});

/** Shows what is worth what under the caret, for whoever uses no pointer. */
export function valueAtCaret(helpers: Helpers): (view: EditorView) => boolean {
  return (view) => {
    const pos = view.state.selection.main.head;
    void helpers.hover(helpers.file(), pos, view.state.doc.toString()).then(async (found) => {
      if (!found) return;
      const name = view.state.sliceDoc(found.offset, found.end);
      const tip = tooltipFor(found.offset, found.end, found.text, name, await helpers.value(name), helpers);
      view.dispatch({ effects: setTip.of(tip) });
    });
    return true;
  };
}
/** Takes that away again. */
export const closeTip = (view: EditorView): boolean => {
  if (view.state.field(tipField) === null) return false;
  view.dispatch({ effects: setTip.of(null) });
  return true;
};

const isInCall = (state: EditorState): boolean => {
  const { head } = state.selection.main;
  const line = state.doc.lineAt(head);
  return line.text.slice(0, head - line.from).includes('(');
};

/** How the call around the caret is written, with the value that stands there. */
function signatures(helpers: Helpers): Extension {
  return ViewPlugin.fromClass(
    class {
      private turn = 0;
      update(update: ViewUpdate): void {
        if (!update.docChanged) return;
        const mine = ++this.turn;
        const { view } = update;
        if (!update.transactions.some((one) => one.isUserEvent('input')) || !isInCall(view.state)) return;
        const pos = view.state.selection.main.head;
        void helpers.signature(helpers.file(), pos, view.state.doc.toString()).then((found) => {
          if (mine !== this.turn || !found || view.state.selection.main.head !== pos) return;
          view.dispatch({
            effects: setTip.of({ pos, above: true, create: () => ({ dom: callOf(found.label, found.index) }) }),
          });
        });
      }
    },
  );
}

function callOf(label: string, index: number): HTMLElement {
  const dom = element('div', 'wj-tip wj-call');
  const [head = '', inner = '', tail = ''] = /^([^(]*\()(.*)(\).*)$/.exec(label)?.slice(1) ?? [label];
  const code = element('code', '', head);
  const values = inner.split(',');
  for (const [i, value] of values.entries()) {
    code.append(i === Math.min(index, values.length - 1) ? element('b', '', value) : value);
    if (i < values.length - 1) code.append(',');
  }
  code.append(tail);
  dom.append(code);
  return dom;
}

export const help = (helpers: Helpers): Extension => [
  completing(helpers),
  hovering(helpers),
  tipField,
  signatures(helpers),
];
