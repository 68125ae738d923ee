<script setup lang="ts">
import { type Chart, headlineSentence, trialCharts, trialCsv } from '@wily-jester/charts';
import { svgOf } from '@wily-jester/charts/svg';
import type { TrialFigures } from '@wily-jester/core';
import type { Trial } from '@wily-jester/protocol';
import { computed } from 'vue';
import ChartFigure from '../parts/ChartFigure.vue';
import { download } from '../parts/download';

/** What a trial has found: a sentence, pictures, and figures to take away. */
const props = defineProps<{ shown: Trial; isGoingOn: boolean }>();
const emit = defineEmits<{ stop: [] }>();
const figures = computed(() => props.shown.figures as TrialFigures | null);
const charts = computed<Chart[]>(() => (figures.value ? trialCharts(figures.value) : []));
const isWide = (chart: Chart): boolean => chart.id === 'way' || chart.id.startsWith('table-');
const wide = computed(() => charts.value.filter(isWide));
const narrow = computed(() => charts.value.filter((chart) => !isWide(chart)));
const headline = computed(() => (figures.value ? headlineSentence(figures.value, !props.isGoingOn) : props.shown.trial.status === 'waiting' ? 'It waits for its turn.' : 'The first games are played.'));
const WIDE_Z = 'stopped early';
const how = computed(() => {
  const { trial } = props.shown;
  const played = trial.played.toLocaleString('en');
  const of = trial.played < trial.asked ? ` of ${trial.asked.toLocaleString('en')}` : '';
  const seats = `${trial.game}, ${trial.wish.bots?.join(' and ') ?? 'compared bots'} in the seats.`;
  const width = figures.value?.ended === WIDE_Z ? ' Intervals are the wider ones that may be watched.' : ' ± is a 95 % interval.';
  return `${seats} ${played}${of} games in ${Math.round(trial.seconds)} seconds.${width}`;
});
const endless = computed(() => figures.value?.arms.reduce((sum, arm) => sum + arm.endless, 0) ?? 0);
const name = computed(() => props.shown.trial.game.toLowerCase().replace(/[^a-z0-9]+/g, '-'));
function asCsv(): void {
  if (figures.value) download(`${name.value}.csv`, trialCsv(figures.value), 'text/csv');
}
function asSvg(): void {
  for (const chart of charts.value) download(`${name.value}-${chart.id}.svg`, svgOf(chart), 'image/svg+xml');
}
</script>

<template>
  <article class="result on-paper">
    <h1 aria-live="polite">{{ headline }}</h1>
    <div class="how">
      <p>{{ how }}</p>
      <span class="links">
        <button v-if="isGoingOn" type="button" class="quiet link" @click="emit('stop')">Stop and keep this</button>
        <template v-if="figures"><button type="button" class="quiet link" @click="asCsv">Figures as CSV</button><button type="button" class="quiet link" @click="asSvg">Pictures as SVG</button></template>
      </span>
    </div>
    <p v-if="shown.trial.problem" class="problem" role="alert">{{ shown.trial.problem }}</p>
    <p v-if="endless > 0" class="problem">{{ endless.toLocaleString('en') }} games were not over after 100,000 choices: their ends count for nothing.</p>
    <div class="columns">
      <div class="column"><ChartFigure v-for="chart in wide" :key="chart.id" :chart="chart" /></div>
      <div class="column"><ChartFigure v-for="chart in narrow" :key="chart.id" :chart="chart" /></div>
    </div>
  </article>
</template>

<style scoped>
.result {
  padding: 24px 32px 32px;
}
h1 {
  line-height: 35px;
  max-width: 860px;
  overflow-wrap: anywhere;
}
.how {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 6px 20px;
  color: var(--ink-2);
  margin: 8px 0 18px;
}
.links {
  display: flex;
  gap: 16px;
}
.link {
  color: var(--teal-text);
  font-weight: 600;
  text-decoration: underline;
  min-height: 24px;
}
.problem {
  border-left: 4px solid var(--vermilion);
  padding: 6px 12px;
  margin-bottom: 14px;
  background: #f7e4df;
  border-radius: 8px;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 61fr) minmax(0, 39fr);
  gap: 28px 32px;
}
.column {
  display: grid;
  gap: 26px;
  align-content: start;
  min-width: 0;
}
.column:empty {
  display: none;
}
@media (max-width: 1000px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .result {
    padding: 18px 16px 28px;
  }
}
</style>
