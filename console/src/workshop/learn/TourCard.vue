<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { DraftTexts } from '../files';
import type { Rehearsed } from '../workers/proof.worker';
import type { Look } from '../workers/table.worker';
import { STEPS, toWrite, written } from './tour';

/** A step of the tour beside the text: what to write, what to see, and whether it was done. */
const props = defineProps<{ draft: string; texts: DraftTexts; checks: boolean; look: Look | null; results: readonly Rehearsed[]; shelf: string | null }>();
const emit = defineEmits<{ write: [texts: DraftTexts]; end: [] }>();

const kept = `wily-jester tour ${props.draft}`;
const at = ref(Math.min(STEPS.length - 1, Math.max(0, Number(localStorage.getItem(kept)) || 0)));
watch(at, (now) => localStorage.setItem(kept, String(now)));
const step = computed(() => STEPS[at.value]);
const missing = computed(() => (step.value ? toWrite(step.value, props.texts) : []));
const isWritten = computed(() => missing.value.length === 0 && props.checks);
/** What was seen once stays seen, whatever is played after. */
const seen = ref(new Set<number>());
watch(
  () => isWritten.value && step.value?.isSeen({ look: props.look, results: props.results, shelf: props.shelf }) === true,
  (now) => {
    if (now) seen.value = new Set([...seen.value, at.value]);
  },
  { immediate: true },
);
const isDone = computed(() => isWritten.value && seen.value.has(at.value));
const isLast = computed(() => at.value === STEPS.length - 1);
function write(): void {
  if (step.value) emit('write', written(step.value, props.texts));
}
</script>

<template>
  <section v-if="step" class="tour" aria-label="The tour">
    <header>
      <h2>{{ step.title }}</h2>
      <span>Step {{ at + 1 }} of {{ STEPS.length }}</span>
      <button type="button" class="quiet" @click="emit('end')">Leave the tour</button>
    </header>
    <p>{{ step.words }}</p>
    <ol>
      <li v-if="step.sheet !== null || step.rehearsals !== null" :class="{ done: isWritten }"><b>{{ isWritten ? 'It is written.' : missing.length === 0 ? 'Something is wrong with the text still.' : step.rehearsals !== null ? 'Write these into the rehearsals:' : 'Write:' }}</b> <code v-for="line in missing.slice(0, 4)" :key="line">{{ line.trim() }}</code> <span v-if="missing.length > 4">and {{ missing.length - 4 }} lines more.</span> <button v-if="missing.length > 0" type="button" class="plain" @click="write">Write it for me</button></li>
      <li :class="{ done: isDone }"><b>{{ isDone ? 'Seen.' : 'See:' }}</b> {{ step.see }}</li>
    </ol>
    <footer>
      <button type="button" class="plain" :disabled="at === 0" @click="at--">Back</button>
      <button v-if="!isLast" type="button" class="go" :class="{ rests: !isDone }" @click="at++">{{ isDone ? 'Next' : 'Skip' }}</button>
      <button v-else type="button" class="go" :class="{ rests: !isDone }" @click="emit('end')">{{ isDone ? 'That was all' : 'End here' }}</button>
    </footer>
  </section>
</template>

<style scoped>
.tour {
  display: grid;
  gap: 5px;
  max-height: 218px;
  padding: 10px 16px;
  border: 1px solid var(--line);
  border-left: 4px solid var(--teal);
  border-radius: 12px;
  background: #eef6f3;
  font-size: 13px;
  line-height: 18px;
  overflow-y: auto;
}
header {
  display: flex;
  align-items: baseline;
  gap: 12px;
}
h2 {
  font-size: 17px;
}
header span {
  color: var(--ink-2);
}
header button {
  margin-left: auto;
  color: var(--ink-2);
  text-decoration: underline;
}
ol {
  margin: 0;
  padding-left: 20px;
}
li.done {
  color: var(--teal-text);
}
code {
  display: inline-block;
  margin: 1px 6px 1px 0;
  padding: 0 6px;
  border-radius: 5px;
  background: var(--code);
  font: 500 12px/18px var(--mono);
  font-variant-ligatures: none;
}
footer {
  display: flex;
  gap: 8px;
}
.plain,
.go {
  min-height: 30px;
  padding: 3px 14px;
  border: 1px solid var(--field);
  border-radius: 8px;
  background: none;
  color: var(--ink);
  font-weight: 600;
  cursor: pointer;
}
.plain:disabled {
  opacity: 0.5;
}
.go {
  border-color: var(--teal);
  background: var(--teal);
  color: #fff;
}
.go.rests {
  background: none;
  color: var(--teal-text);
}
</style>
