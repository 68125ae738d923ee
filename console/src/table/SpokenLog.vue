<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import type { Chapter } from './chapters';
import type { Eyes } from './eyes';
import FairCheck from './FairCheck.vue';
import { changeWords } from './words';

const props = defineProps<{ chapters: readonly Chapter[]; names: readonly string[]; prompt: string | null; number: number; commitment: string; fair: boolean; branched: boolean; table: string; eyes: Eyes }>();
const opened = ref<ReadonlySet<number>>(new Set());
const box = ref<HTMLElement | null>(null);
const current = computed(() => props.chapters.at(-1));
const past = computed(() => props.chapters.slice(0, -1).map((chapter, i) => ({ chapter, i })).reverse());

interface Word {
  readonly text: string;
  readonly kind: 'plain' | 'name' | 'red' | 'black';
}
/** Names and cards of a sentence stand out. */
function words(text: string): Word[] {
  const names = [...props.names, 'You'].map((name) => name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
  const pattern = new RegExp(`((?:10|[2-9AJQK])[♠♥♦♣])|\\b(${names.join('|')})\\b`, 'g');
  const found: Word[] = [];
  let at = 0;
  for (const match of text.matchAll(pattern)) {
    if (match.index > at) found.push({ text: text.slice(at, match.index), kind: 'plain' });
    const [whole, card] = match;
    found.push({ text: whole, kind: card ? (/[♥♦]/.test(card) ? 'red' : 'black') : 'name' });
    at = match.index + whole.length;
  }
  if (at < text.length) found.push({ text: text.slice(at), kind: 'plain' });
  return found;
}
function toggle(i: number): void {
  const next = new Set(opened.value);
  if (!next.delete(i)) next.add(i);
  opened.value = next;
}
watch(
  () => [current.value?.lines.length, props.prompt],
  async () => {
    await nextTick();
    box.value?.scrollTo({ top: box.value.scrollHeight });
  },
  { immediate: true },
);
</script>

<template>
  <aside class="log on-paper" aria-label="What was said">
    <h2>What was said</h2>
    <div ref="box" class="now" tabindex="0" aria-live="polite">
      <h3 v-if="current?.title">{{ current.title }}</h3>
      <ol>
        <li v-for="(line, i) in current?.lines ?? []" :key="i"><span><span v-for="(word, w) in words(line.text)" :key="w" :class="word.kind">{{ word.text }}</span></span><small class="mono">{{ line.number }}</small></li>
        <li v-if="prompt" class="prompt"><span>{{ prompt }}</span><small class="mono">{{ number }}</small></li>
      </ol>
    </div>
    <ul v-if="past.length > 0" class="past">
      <li v-for="{ chapter, i } in past" :key="i">
        <button type="button" class="quiet" :aria-expanded="opened.has(i)" @click="toggle(i)">
          <b class="serif">{{ chapter.title || 'How it began' }}</b>
          <span v-if="chapter.title || chapter.result.some((entry) => entry.change !== 0)"><template v-for="(entry, e) in chapter.result" :key="entry.name"><template v-if="e > 0"> · </template>{{ entry.name }} <em :class="{ up: entry.change > 0, down: entry.change < 0 }">{{ changeWords(entry.change) }}</em></template></span>
          <i aria-hidden="true">{{ opened.has(i) ? '▾' : '▸' }}</i>
        </button>
        <ol v-if="opened.has(i)">
          <li v-for="(line, l) in chapter.lines" :key="l"><span><span v-for="(word, w) in words(line.text)" :key="w" :class="word.kind">{{ word.text }}</span></span><small class="mono">{{ line.number }}</small></li>
        </ol>
      </li>
    </ul>
    <footer>
      <FairCheck v-if="fair" :table="table" :viewer="eyes" :commitment="commitment" :number="number" />
      <template v-else>{{ branched ? 'This table goes on from another one' : 'A typed seed or chosen cards' }}: it promises no fairness.</template>
    </footer>
  </aside>
</template>

<style scoped>
.log {
  background: var(--paper);
  color: var(--ink);
  padding: 20px 22px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
}
.now {
  flex: 1 1 auto;
  min-height: 120px;
  overflow-y: auto;
}
h3 {
  font-size: 16px;
  padding-bottom: 6px;
}
ol,
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
ol li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 3px 0;
}
small {
  color: var(--ink-2);
  font-size: 11px;
  flex: none;
}
.name {
  font-weight: 650;
}
.red {
  font: 650 14px/20px var(--serif);
  color: var(--red-text);
}
.black {
  font: 650 14px/20px var(--serif);
}
.prompt {
  background: #f7e3bd;
  border-radius: 8px;
  padding: 6px 10px;
  margin: 6px 0 0;
}
.past {
  border-top: 1px solid var(--line);
  max-height: 38%;
  overflow-y: auto;
  flex: none;
}
.past > li {
  border-bottom: 1px solid var(--line);
}
.past button {
  width: 100%;
  display: grid;
  grid-template-columns: 1fr 12px;
  padding: 8px 0;
  text-align: left;
  min-height: 44px;
}
.past button span {
  font-size: 13px;
  line-height: 18px;
  color: var(--ink-2);
}
.past button i {
  grid-row: 1 / 3;
  grid-column: 2;
  align-self: center;
  font-style: normal;
}
em {
  font-style: normal;
  font-weight: 600;
}
.up {
  color: var(--teal-text);
}
.down {
  color: var(--red-text);
}
footer {
  font-size: 12px;
  line-height: 16px;
  color: var(--ink-2);
}
footer .mono {
  font-size: 11px;
}
</style>
