<script setup lang="ts">
import type { Plan } from '@wily-jester/protocol';
import { computed, ref } from 'vue';
import CardFace from './CardFace.vue';
import { CARD } from './dragged';

/** Cards promised to piles, chosen by clicking: the first clicked is the first to come there. */
const props = defineProps<{ plan: Plan; seats: readonly string[] }>();
const gets = defineModel<Record<string, string[]>>({ required: true });
const target = ref('');

/** The piles that may be promised cards, with the words for them. */
const piles = computed(() => [
  ...[...props.plan.piles].sort((a, b) => Number(b.of === 'seat') - Number(a.of === 'seat')).flatMap((pile) => {
    const label = pile.label || pile.name;
    if (pile.name === 'pack' || pile.many !== null) return [];
    if (pile.of !== 'seat') return [{ path: pile.name, label }];
    return props.seats.map((name, i) => ({ path: `${pile.name}/${i + 1}`, label: `${name}, ${label}` }));
  }),
  { path: 'top', label: 'whoever is dealt to next' },
]);
const chosen = computed(() => piles.value.find((pile) => pile.path === target.value) ?? piles.value[0]);
const ROW = 13;
/** The deck in rows: each suit begins one, and none is longer than a suit. */
const rows = computed(() => {
  const suitOf = (face: string | undefined): string => /[♠♥♦♣]$/.exec(face ?? '')?.[0] ?? '';
  const found: string[][] = [];
  for (const face of props.plan.faces) {
    const last = found.at(-1);
    if (last && last.length < ROW && suitOf(last[0]) === suitOf(face)) last.push(face);
    else found.push([face]);
  }
  return found;
});
const taken = computed(() => new Set(Object.values(gets.value).flat()));

function add(face: string): void {
  const { path } = chosen.value ?? {};
  if (path === undefined) return;
  gets.value = { ...gets.value, [path]: [...(gets.value[path] ?? []), face] };
}
/** A card is dragged onto a pile of the list, or of a table beside it. */
function lift(event: DragEvent, face: string): void {
  event.dataTransfer?.setData(CARD, face);
  if (event.dataTransfer) event.dataTransfer.effectAllowed = 'copy';
}
function drop(event: DragEvent, path: string): void {
  const face = event.dataTransfer?.getData(CARD);
  if (face) gets.value = { ...gets.value, [path]: [...(gets.value[path] ?? []), face] };
}
function remove(path: string, at: number): void {
  const left = (gets.value[path] ?? []).filter((_, i) => i !== at);
  const { [path]: _, ...others } = gets.value;
  gets.value = left.length > 0 ? { ...others, [path]: left } : others;
}
const labelOf = (path: string): string => piles.value.find((pile) => pile.path === path)?.label ?? path;
</script>

<template>
  <div class="stacked">
    <p class="head"><label for="stacked-pile">Cards go to</label><output for="stacked-pile">{{ (gets[chosen?.path ?? ''] ?? []).join(' ') }}</output></p>
    <select id="stacked-pile" :value="chosen?.path" @change="target = ($event.target as HTMLSelectElement).value">
      <option v-for="pile in piles" :key="pile.path" :value="pile.path">{{ pile.label }}</option>
    </select>
    <div v-for="(faces, i) in rows" :key="i" class="suit">
      <button
        v-for="face in faces"
        :key="face"
        type="button"
        :class="{ taken: taken.has(face) }"
        :aria-pressed="taken.has(face)"
        :data-stack="face"
        draggable="true"
        @dragstart="lift($event, face)"
        @click="add(face)"
      >
        <CardFace :face="face" :width="34" />
      </button>
    </div>
    <ul v-if="Object.keys(gets).length > 0">
      <li v-for="(faces, path) in gets" :key="path" @dragover.prevent @drop.prevent="drop($event, String(path))">
        <span>{{ labelOf(String(path)) }} gets</span>
        <button v-for="(face, i) in faces" :key="i" type="button" :aria-label="`Take back ${face}`" @click="remove(String(path), i)"><CardFace :face="face" :width="30" /></button>
      </li>
    </ul>
    <p>The first clicked comes first, whatever the game deals it for. Such a table promises no fairness, and its record says so.</p>
  </div>
</template>

<style scoped>
.stacked {
  display: grid;
  gap: 6px;
}
.head {
  display: flex;
  gap: 10px;
  margin: 0;
}
.head label {
  flex: none;
  color: var(--ink);
  font-size: 14px;
}
/* What the pile has by now, in sight beside the cards, however far down the whole list is. */
.head output {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  text-align: right;
}
select {
  min-height: 38px;
  padding: 6px 8px;
  border: 1px solid var(--field);
  border-radius: 10px;
  background: var(--code);
  color: var(--ink);
  font: inherit;
}
.suit {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(32px, 1fr));
  gap: 3px;
}
button {
  padding: 0;
  border: 0;
  background: none;
  line-height: 0;
  border-radius: 4px;
  cursor: pointer;
}
.suit button :deep(svg) {
  width: 100%;
  height: auto;
}
button.taken {
  opacity: 0.35;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
}
span,
p {
  color: var(--ink-2);
  font-size: 13px;
  line-height: 18px;
  margin-right: 4px;
}
label {
  font-weight: 600;
}
</style>
