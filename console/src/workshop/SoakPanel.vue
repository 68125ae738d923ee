<script setup lang="ts">
import { computed } from 'vue';
import type { ProofsHere } from './useProofs';

/** Random games of the text, a small trial, and what its course shows. */
const props = defineProps<{ proofs: ProofsHere; waitsFor: number | null; onShelf: string | null }>();
const emit = defineEmits<{ put: [failure: NonNullable<ProofsHere['soaked']['value']>['failures'][number]]; toLine: [line: number] }>();
const { soaked, isSoaking, soakProblem, trial, trialProblem, isTrying, reveals, soakMore, tryOut } = props.proofs;

const figure = (n: number): string => n.toLocaleString('en');
const verdict = computed(() => {
  if (props.waitsFor !== null) return { words: 'waits', tone: 'wait' };
  if (soakProblem.value) return { words: 'stopped', tone: 'bad' };
  const found = soaked.value;
  if (!found) return { words: isSoaking.value ? 'plays' : '', tone: 'wait' };
  return found.failures.length > 0 ? { words: 'a fault', tone: 'bad' } : { words: 'no fault', tone: 'good' };
});
/** What a thousand games came to, in a line each: figures that stand alone. */
const told = computed(() =>
  (trial.value?.arms[0]?.tallies ?? [])
    .flatMap(({ name, form, by, cells: [cell] }) => (by.length > 0 || form === 'category' || !cell ? [] : [{ name, form, value: cell.value, interval: cell.interval }]))
    .slice(0, 4)
    .map(({ name, form, value, interval }) => {
      const half = interval ? (interval[1] - interval[0]) / 2 : null;
      const shown = (x: number): string => (form === 'share' ? `${(100 * x).toFixed(1)}` : Math.abs(x) >= 100 ? x.toFixed(0) : x.toFixed(2));
      return `${name} ${shown(value)}${form === 'share' ? ' in 100' : ''}${half === null ? '' : `, give or take ${shown(half)}`}`;
    }),
);
</script>

<template>
  <section class="panel" aria-label="Soak">
    <header><h2>Soak</h2><b :class="verdict.tone" role="status">{{ verdict.words }}</b></header>
    <div class="told">
      <p v-if="soakProblem" class="bad">{{ soakProblem }}</p>
      <template v-for="failure in (soaked?.failures ?? []).slice(0, 2)" :key="failure.game">
        <p class="bad">Game {{ failure.game }}, {{ failure.seats }} seats, after {{ failure.choice }} choices: {{ failure.what }}</p>
        <p><button type="button" class="link" @click="emit('put', failure)">Put the table just before it</button> <button v-if="failure.line !== null" type="button" class="link" @click="emit('toLine', failure.line)">Line {{ failure.line }}</button></p>
      </template>
      <p v-if="soaked && soaked.failures.length === 0">
        {{ figure(soaked.games) }} games, {{ figure(soaked.choices) }} choices, the longest of {{ figure(soaked.longest) }}; {{ soaked.never.length === 0 ? 'every option was taken.' : `never taken: ${soaked.never.join(', ')}.` }}
      </p>
      <p v-if="soaked && soaked.endless > 0" class="bad">{{ soaked.endless }} did not end.</p>
      <p v-for="line in told" :key="line" class="tally">{{ line }}</p>
      <p v-if="trialProblem" class="bad">{{ trialProblem }}</p>
      <p v-for="reveal in reveals.slice(0, 2)" :key="reveal.message" class="faint"><button type="button" class="link" @click="emit('toLine', reveal.line)">Line {{ reveal.line }}</button> {{ reveal.message }}</p>
      <p v-if="soaked" class="does">
        <button v-if="soaked.failures.length === 0" type="button" class="link" :disabled="isSoaking" @click="soakMore">{{ isSoaking ? 'Playing …' : 'Play 2,000 more' }}</button>
        <button type="button" class="link" :disabled="isTrying" @click="tryOut">{{ isTrying ? 'Trying …' : 'Try 1,000 games with bots' }}</button>
        <RouterLink v-if="onShelf" :to="{ path: '/trials', query: { sheet: onShelf } }" class="link">A whole trial</RouterLink>
      </p>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
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
.good {
  color: var(--teal-text);
}
.bad {
  color: #a3322b;
}
.wait,
.faint {
  color: var(--ink-2);
}
.told {
  overflow-y: auto;
  font-size: 13px;
  line-height: 18px;
}
.told p {
  margin-bottom: 3px;
}
.tally {
  color: var(--plum);
  font-weight: 600;
}
.link {
  padding: 0;
  border: 0;
  background: none;
  color: var(--teal-text);
  font-weight: 600;
  font-size: 13px;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
}
.does {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
</style>
