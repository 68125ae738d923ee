<script setup lang="ts">
import { computed, nextTick, ref } from 'vue';
import { type FileName, fileWords } from './files';
import type { OutlineEntry } from './workers/language.worker';

/** Under the title: the outline, where the caret stands in it, the files, and whether anything is wrong. */
const props = defineProps<{
  outline: readonly OutlineEntry[];
  caret: number;
  files: readonly FileName[];
  file: FileName;
  verdict: { readonly words: string; readonly isGood: boolean; readonly line: number | null };
  waiting: boolean;
}>();
const emit = defineEmits<{ jump: [offset: number]; file: [file: FileName]; toLine: [line: number] }>();

const isOpen = ref(false);
const wanted = ref('');
const input = ref<HTMLInputElement | null>(null);
/** The kinds of things, in the order in which a sheet has them. */
const shown = computed(() => props.outline.filter(({ name, what }) => `${what} ${name}`.toLowerCase().includes(wanted.value.trim().toLowerCase())));
const here = computed(() => (props.file === 'sheet' ? props.outline.findLast(({ from }) => from <= props.caret) : undefined));

async function open(): Promise<void> {
  isOpen.value = !isOpen.value;
  wanted.value = '';
  await nextTick();
  input.value?.focus();
}
function jump(from: number): void {
  isOpen.value = false;
  emit('file', 'sheet');
  emit('jump', from);
}
defineExpose({ open });
</script>

<template>
  <div class="row">
    <div class="outline" @keydown.esc="isOpen = false">
      <button type="button" class="open" :aria-expanded="isOpen" @click="open">
        <svg width="14" height="11" viewBox="0 0 14 11" aria-hidden="true"><path d="M0 1h14M3 5.5h11M6 10h8" stroke="currentColor" stroke-width="1.6" /></svg>
        Outline
      </button>
      <span v-if="here" class="here">{{ here.what }} <b>{{ here.name }}</b></span>
      <div v-if="isOpen" class="list">
        <input ref="input" v-model="wanted" type="search" placeholder="Jump to …" aria-label="Jump to" @keydown.enter="shown[0] && jump(shown[0].from)" />
        <ul>
          <li v-for="entry in shown" :key="`${entry.from} ${entry.name}`"><button type="button" class="quiet" @click="jump(entry.from)"><span>{{ entry.what }}</span> {{ entry.name }}</button></li>
          <li v-if="shown.length === 0" class="none">Nothing is called so.</li>
        </ul>
      </div>
    </div>
    <div class="files" role="group" aria-label="Files">
      <button v-for="one in files" :key="one" type="button" class="quiet" :aria-pressed="one === file" @click="emit('file', one)">{{ fileWords(one) }}</button>
    </div>
    <button v-if="verdict.line !== null" type="button" class="quiet verdict bad" @click="emit('toLine', verdict.line)">{{ verdict.words }}</button>
    <span v-else-if="waiting" class="verdict dots" role="img" aria-label="Reading the text"><i /><i /><i /></span>
    <span v-else class="verdict" :class="{ bad: !verdict.isGood }" role="status">{{ verdict.words }}</span>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 26px;
  font-size: 13px;
}
.outline {
  position: relative;
  display: flex;
  align-items: center;
  gap: 10px;
  min-width: 0;
}
.open {
  display: inline-flex;
  align-items: center;
  gap: 7px;
  min-height: 26px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink);
  font-weight: 600;
  cursor: pointer;
}
.here {
  overflow: hidden;
  color: var(--ink-2);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.here b {
  color: var(--ink);
  font-weight: 600;
}
.list {
  position: absolute;
  z-index: 20;
  top: 30px;
  left: 0;
  width: 300px;
  padding: 8px;
  border: 1px solid var(--line);
  border-radius: 12px;
  background: var(--paper);
  box-shadow: 0 10px 28px #050c1440;
}
.list input {
  width: 100%;
  padding: 7px 10px;
  border: 1px solid var(--field);
  border-radius: 9px;
  background: var(--code);
  color: var(--ink);
  font: inherit;
}
.list ul {
  max-height: 320px;
  margin: 6px 0 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
.list li button {
  width: 100%;
  padding: 4px 8px;
  border-radius: 7px;
  text-align: left;
  font: 500 13px/20px var(--mono);
}
.list li button:hover,
.list li button:focus-visible {
  background: var(--paper-2);
}
.list li span {
  color: var(--ink-2);
  font: 400 12px/20px var(--sans);
}
.none {
  padding: 6px 8px;
  color: var(--ink-2);
}
.files {
  display: flex;
  gap: 2px;
  margin-left: auto;
}
.files button {
  min-height: 26px;
  padding: 2px 9px;
  border-radius: 8px;
  color: var(--ink-2);
  font-weight: 500;
}
.files button[aria-pressed="true"] {
  background: #e9dfe7;
  color: var(--plum);
  font-weight: 600;
}
.verdict {
  color: var(--teal-text);
  font-weight: 600;
  white-space: nowrap;
}
.verdict.bad {
  color: #a3322b;
}
.dots {
  display: flex;
  gap: 5px;
}
.dots i {
  width: 7px;
  height: 10px;
  background: var(--teal);
  clip-path: polygon(50% 0, 100% 50%, 50% 100%, 0 50%);
  animation: fade-in 900ms 300ms infinite alternate;
  opacity: 0;
}
@keyframes fade-in {
  to {
    opacity: 1;
  }
}
</style>
