<script setup lang="ts">
import type { Worth } from '@wily-jester/charts';
import type { Analysis, Step } from '@wily-jester/protocol';
import { computed } from 'vue';
import SeatMark from '../parts/SeatMark.vue';
import { headline, isUnknown, type Line, linesOf, type Stretch } from './worth';

/** What a chapter's choices were worth, line by line: those of one seat with their cost. */
const props = defineProps<{
  worth: Worth;
  stretch: Stretch;
  steps: readonly Step[];
  found: ReadonlyMap<number, Analysis>;
  numbers: readonly number[];
  seat: number;
  you: boolean;
  asked: number;
  wrong: string;
}>();
const emit = defineEmits<{ go: [number: number]; again: []; leave: [] }>();

const head = computed(() => headline(props.worth, props.you));
const lines = computed(() => linesOf(props.steps, props.stretch, props.numbers));
const analysisOf = (line: Line): Analysis | undefined => props.found.get(line.number);
const isUnsaid = (line: Line): boolean => {
  const analysis = analysisOf(line);
  return analysis !== undefined && isUnknown(analysis);
};
const costOfLine = (line: Line): number => (line.own ? (props.worth.steps.find((step) => step.number === line.number)?.cost ?? 0) : 0);
</script>

<template>
  <aside class="paper" aria-label="What the choices were worth">
    <header>
      <h2>{{ head.title }}</h2>
      <button type="button" class="leave" @click="emit('leave')">Close</button>
    </header>
    <p class="rest" role="status">{{ head.rest }}</p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }} <button type="button" class="link" @click="emit('again')">Try again</button></p>
    <h3>{{ stretch.title || 'The game' }}</h3>
    <ol>
      <li v-for="line in lines" :key="line.key" :class="{ own: line.own, here: line.own && line.number === asked, cost: costOfLine(line) > 0 }">
        <button v-if="line.own" type="button" :aria-current="line.number === asked" :data-worth="line.number" @click="emit('go', line.number)">
          <span class="mark" aria-hidden="true"><SeatMark :seat="seat" :width="14" /></span>
          <span class="words"><b>{{ line.text }}</b>
            <i v-if="!analysisOf(line)" class="wait">not weighed yet</i>
            <i v-else-if="analysisOf(line)?.choices.length === 0" class="wait">there was nothing else</i>
            <i v-else-if="isUnsaid(line)" class="wait">too little time to say</i>
            <i v-else-if="costOfLine(line) === 0" class="good">✓ as the bot would</i>
            <i v-else class="bad"><span>“{{ analysisOf(line)?.choices[0]?.words }}” was worth</span> <b>{{ costOfLine(line).toFixed(1) }} more</b></i>
          </span>
          <span class="number">{{ line.number }}</span>
        </button>
        <p v-else><span class="words">{{ line.text }}</span><span class="number">{{ line.number }}</span></p>
      </li>
    </ol>
    <p class="foot">The bot thought half a second about each choice, and saw what {{ you ? 'you' : worth.seat }} saw.</p>
  </aside>
</template>

<style scoped>
.paper {
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-height: 0;
  overflow: auto;
  padding: 22px 24px;
  background: var(--paper);
  color: var(--ink);
}
header {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: start;
}
.leave,
.link {
  border: 0;
  background: none;
  padding: 4px;
  color: var(--teal-text);
  font: 600 14px/20px var(--sans);
  text-decoration: underline;
  cursor: pointer;
}
.rest {
  color: var(--ink-2);
  padding-bottom: 10px;
  border-bottom: 1px solid var(--line);
}
.wrong {
  color: var(--red-text);
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li p,
li button {
  display: flex;
  gap: 8px;
  width: 100%;
  margin: 0;
  padding: 4px 8px;
  border: 0;
  border-left: 4px solid transparent;
  border-radius: 8px;
  background: none;
  color: var(--ink-2);
  font: inherit;
  text-align: left;
}
li p {
  padding-left: 40px;
}
li button {
  color: var(--ink);
  cursor: pointer;
}
li button:hover {
  background: var(--paper-2);
}
.cost button {
  border-left-color: var(--vermilion);
}
.here button {
  background: var(--paper-2);
  box-shadow: inset 0 0 0 1px var(--line);
}
.here.cost button {
  background: #f7e4df;
}
.mark {
  flex: none;
  width: 24px;
}
.words {
  flex: 1;
  min-width: 0;
}
.words i {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  font-style: normal;
}
.good {
  color: var(--teal-text);
}
.bad b {
  flex: none;
  color: #a3322b;
}
.wait {
  color: var(--ink-2);
}
.number {
  flex: none;
  font: 500 12px/20px var(--mono);
  color: var(--ink-2);
}
.foot {
  margin-top: auto;
  padding-top: 12px;
  font-size: 13px;
  color: var(--ink-2);
}
</style>
