<script setup lang="ts">
import './editor.css';
import { redo, undo } from '@codemirror/commands';
import { openSearchPanel } from '@codemirror/search';
import { EditorState } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import type { FileName } from '../files';
import { type Doings, editorState, writing } from './editor';
import type { Helpers } from './help';
import { type Marks, setMarks } from './marks';

/** The text of one file of a draft. Each file keeps its own caret and what can be undone. */
const props = defineProps<{ file: FileName; text: string; marks: Marks; readOnly?: boolean; helpers: Helpers }>();
const emit = defineEmits<{ change: [text: string]; moved: [offset: number]; define: [offset: number]; rename: [offset: number]; outline: []; format: [] }>();

const host = ref<HTMLElement | null>(null);
let view: EditorView | null = null;
const states = new Map<FileName, EditorState>();
let shownFile: FileName = props.file;

const doings: Doings = {
  define: (offset) => emit('define', offset),
  rename: (offset) => emit('rename', offset),
  outline: () => emit('outline'),
  format: () => emit('format'),
  changed: (text) => emit('change', text),
  moved: (offset) => emit('moved', offset),
};
const fresh = (): EditorState => editorState(props.text, props.readOnly === true, doings, props.helpers);

onMounted(() => {
  if (!host.value) return;
  view = new EditorView({ state: fresh(), parent: host.value });
  tellMarks();
});
onBeforeUnmount(() => view?.destroy());

function tellMarks(): void {
  view?.dispatch({ effects: setMarks.of(props.marks) });
}
watch(() => props.marks, tellMarks);
watch(
  () => [props.file, props.text] as const,
  ([file, text]) => {
    if (!view) return;
    if (file !== shownFile) {
      states.set(shownFile, view.state);
      shownFile = file;
      const kept = states.get(file);
      view.setState(kept && kept.doc.toString() === text ? kept : fresh());
      tellMarks();
      return;
    }
    const now = view.state.doc.toString();
    if (now !== text) view.dispatch({ changes: changeTo(now, text) });
  },
);
watch(
  () => props.readOnly,
  (isReadOnly) => view?.dispatch({ effects: writing.reconfigure([EditorState.readOnly.of(isReadOnly === true), EditorView.editable.of(isReadOnly !== true)]) }),
);

/** The stretch that differs: the caret stays where it stood outside of it. */
function changeTo(from: string, to: string): { from: number; to: number; insert: string } {
  let start = 0;
  while (start < from.length && start < to.length && from[start] === to[start]) start++;
  let end = 0;
  while (end < from.length - start && end < to.length - start && from[from.length - 1 - end] === to[to.length - 1 - end]) end++;
  return { from: start, to: from.length - end, insert: to.slice(start, to.length - end) };
}

defineExpose({
  /** Puts the caret at a place, and shows it. */
  goTo(offset: number, to = offset): void {
    if (!view) return;
    const last = view.state.doc.length;
    view.dispatch({ selection: { anchor: Math.min(offset, last), head: Math.min(to, last) }, effects: EditorView.scrollIntoView(Math.min(offset, last), { y: 'center' }) });
    view.focus();
  },
  toLine(line: number): void {
    if (!view) return;
    const at = view.state.doc.line(Math.max(1, Math.min(line, view.state.doc.lines)));
    view.dispatch({ selection: { anchor: at.from + (at.text.length - at.text.trimStart().length) }, effects: EditorView.scrollIntoView(at.from, { y: 'center' }) });
    view.focus();
  },
  /** Brings a line into sight, and leaves the caret where it is. */
  reveal(line: number): void {
    if (!view || view.hasFocus || line > view.state.doc.lines) return;
    view.dispatch({ effects: EditorView.scrollIntoView(view.state.doc.line(line).from, { y: 'center' }) });
  },
  focus: (): void => view?.focus(),
  undo: (): boolean => (view ? undo(view) : false),
  redo: (): boolean => (view ? redo(view) : false),
  search: (): boolean => (view ? openSearchPanel(view) : false),
  caret: (): number => view?.state.selection.main.head ?? 0,
});
</script>

<template>
  <div ref="host" class="editor on-paper" data-editor />
</template>

<style scoped>
.editor {
  min-height: 0;
  border: 1px solid var(--line);
  border-radius: 16px;
  overflow: hidden;
  background: var(--code);
}
.editor:focus-within {
  box-shadow: 0 0 0 2px var(--plum);
}
</style>
