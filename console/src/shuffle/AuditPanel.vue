<script setup lang="ts">
import { auditCharts } from '@wily-jester/charts';
import type { AuditReport } from '@wily-jester/core';
import { computed } from 'vue';
import ChartFigure from '../parts/ChartFigure.vue';

/** A shuffle that was audited: the verdict first, then where each card goes. */
const props = defineProps<{ name: string; words: string; report: AuditReport | null; problem: string; busy: boolean }>();
const charts = computed(() => (props.report ? auditCharts(props.report) : []));
const VERDICTS = { 'not fair': 'Not fair:', suspicious: 'Suspicious:', 'nothing found': 'Nothing wrong found:' } as const;
const verdict = computed(() => (props.report ? VERDICTS[props.report.verdict] : ''));
const rest = computed(() => props.report?.sentence.slice(verdict.value.length) ?? '');
const smallest = computed(() => {
  if (!props.report) return '';
  const { smallest, orders } = props.report;
  const count = orders.toLocaleString('en');
  const place = (100 * smallest.oneCell).toFixed(smallest.oneCell < 0.1 ? 1 : 0);
  return smallest.oneCell > 0.6
    ? `${count} shuffles would only show a place that is off by ${place} in a hundred. Give ten thousand.`
    : `${count} shuffles. One place that is off by ${place} in a hundred would have shown; a smaller fault needs more of them.`;
});
</script>

<template>
  <article class="panel on-paper" :class="report?.verdict.replace(' ', '-')">
    <header>
      <svg viewBox="0 0 16 22" width="13" height="18" aria-hidden="true">
        <path d="M8 0L16 11L8 22L0 11Z" fill="currentColor" />
        <path v-if="report?.verdict === 'nothing found'" d="M4.5 11l2.6 3l4.4-6" stroke="#fff" stroke-width="2" fill="none" />
        <path v-else-if="report" d="M5 8l6 6M11 8l-6 6" stroke="#fff" stroke-width="2" fill="none" />
      </svg>
      <b>{{ name }}</b><span>{{ words === name ? 'a file' : words }}</span>
    </header>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-else-if="busy && !report" role="status">Shuffling …</p>
    <template v-if="report && !problem">
      <div role="status"><h2><b>{{ verdict }}</b>{{ rest }}</h2></div>
      <ChartFigure v-for="chart in charts" :key="chart.id" :chart="chart" />
      <p class="smallest">{{ smallest }}</p>
    </template>
  </article>
</template>

<style scoped>
.panel {
  background: var(--paper);
  color: var(--ink);
  border-radius: 16px;
  padding: 18px 22px 20px;
  display: grid;
  gap: 12px;
  align-content: start;
  min-width: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 9px;
  min-width: 0;
}
header svg {
  flex: none;
  color: var(--ink-2);
}
header span {
  margin-left: auto;
  color: var(--ink-2);
  font-size: 13px;
  line-height: 16px;
  text-align: right;
}
.not-fair header svg,
.not-fair h2 b,
.suspicious h2 b {
  color: var(--red-text);
}
.nothing-found header svg,
.nothing-found h2 b {
  color: var(--teal-text);
}
h2 b {
  font-weight: inherit;
}
.problem {
  border-left: 4px solid var(--vermilion);
  background: #f7e4df;
  padding: 6px 12px;
  border-radius: 8px;
  overflow-wrap: anywhere;
}
.smallest {
  border-top: 1px solid var(--line);
  padding-top: 10px;
  color: var(--ink-2);
  font-size: 13px;
}
.panel :deep(.figure h2) {
  font-size: 16px;
  line-height: 22px;
}
</style>
