<script setup lang="ts">
import { computed } from 'vue';
import type { Reach, Rehearsed } from './workers/proof.worker';

/** The rehearsals: each with its tick or cross, those that fail first. */
const props = defineProps<{ results: readonly Rehearsed[]; reach: Reach; running: boolean; waitsFor: number | null; hasText: boolean; wrong: string; readOnly?: boolean }>();
const emit = defineEmits<{ show: [result: Rehearsed]; put: [result: Rehearsed]; open: []; empty: [] }>();

const failed = computed(() => props.results.filter(({ failure }) => failure !== null).length);
const lines = computed(() => props.reach.covered.length + props.reach.missed.length);
const verdict = computed(() => {
  if (props.waitsFor !== null) return { words: `wait for line ${props.waitsFor}`, tone: 'wait' };
  if (props.wrong !== '') return { words: props.wrong, tone: 'bad' };
  if (props.results.length === 0) return { words: '', tone: 'wait' };
  return failed.value > 0 ? { words: `${failed.value} of ${props.results.length} fail`, tone: 'bad' } : { words: `${props.results.length} pass`, tone: 'good' };
});
</script>

<template>
  <section class="panel" aria-label="Rehearsals">
    <header>
      <h2>Rehearsals</h2>
      <b :class="verdict.tone" role="status">{{ verdict.words }}</b>
      <span v-if="lines > 0" class="reach"><i aria-hidden="true" /> {{ reach.covered.length }} of {{ lines }} lines ran</span>
    </header>
    <p v-if="results.length === 0 && !running" class="none"><template v-if="hasText">The rehearsals’ own text has a mistake: <button type="button" class="quiet link" @click="emit('open')">see it</button><template v-if="!readOnly">, or <button type="button" class="quiet link" @click="emit('empty')">empty it</button> if it is of another game</template>.</template><template v-else>Play a little, then keep it as a rehearsal.</template></p>
    <ul v-else>
      <li v-for="result in results" :key="`${result.line} ${result.title}`" :class="{ failed: result.failure }">
        <svg width="14" height="16" viewBox="0 0 14 16" aria-hidden="true">
          <path d="M7 0L14 8L7 16L0 8Z" :fill="waitsFor !== null ? 'none' : result.failure ? '#a3322b' : '#1d7f78'" :stroke="waitsFor !== null ? '#6e6856' : 'none'" />
          <path v-if="waitsFor === null" :d="result.failure ? 'M4.5 5.5l5 5m0-5l-5 5' : 'M4 8l2.3 2.4L10 5.8'" stroke="#fff" stroke-width="1.6" fill="none" />
        </svg>
        <button type="button" class="quiet title" @click="emit('show', result)">{{ result.title }}</button>
        <span class="found">{{ result.failure ? result.failure.message : `${result.choices} ${result.choices === 1 ? 'choice' : 'choices'}` }}</span>
        <button v-if="result.failure" type="button" class="put" @click="emit('put', result)">Put the table there</button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  align-items: baseline;
  gap: 10px;
  font-size: 13px;
}
h2 {
  font-size: 18px;
  line-height: 26px;
}
.link {
  color: var(--teal-text);
  font-weight: 600;
  text-decoration: underline;
}
.good {
  color: var(--teal-text);
}
.bad {
  color: #a3322b;
}
.wait {
  color: var(--ink-2);
}
.reach {
  display: inline-flex;
  align-items: center;
  gap: 7px;
  margin-left: auto;
  color: var(--ink-2);
}
.reach i {
  width: 4px;
  height: 14px;
  background: var(--teal);
}
ul {
  margin: 4px 0 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 16px minmax(0, auto) minmax(0, 1fr);
  align-items: center;
  gap: 0 8px;
  min-height: 23px;
  font-size: 13.5px;
}
.title {
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.title:hover {
  text-decoration: underline;
}
.found {
  overflow: hidden;
  color: var(--ink-2);
  font-size: 12.5px;
  text-align: right;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.failed .found {
  color: #a3322b;
}
.put {
  grid-column: 2 / 4;
  justify-self: start;
  min-height: 26px;
  padding: 2px 10px;
  border: 1px solid var(--field);
  border-radius: 8px;
  background: none;
  font-weight: 600;
  font-size: 12.5px;
  cursor: pointer;
}
.none {
  margin-top: 6px;
  color: var(--ink-2);
  font-size: 13.5px;
}
</style>
