<script setup lang="ts">
import { probability } from '@wily-jester/charts';
import type { AuditReport } from '@wily-jester/core';
import { computed } from 'vue';

/** The tests of two audits side by side: what was asked about, and what it is held against. */
const props = defineProps<{ left: AuditReport | null; right: AuditReport | null }>();
type Test = AuditReport['tests'][number];

/** What is told of each; of all that hang on the order before, the one that is furthest off. */
const SHOWN = ['places', 'firstPlace', 'lastPlace', 'together', 'rising', 'fixed', 'cycles', 'inversions', 'repeats'] as const;
const find = (report: AuditReport | null, name: string): Test | undefined => report?.tests.find((test) => test.name === name && test.eye === 'places');
const next = (report: AuditReport | null): Test | undefined =>
  report?.tests.filter(({ eye }) => eye !== 'places').reduce<Test | undefined>((least, test) => (!least || test.p < least.p ? test : least), undefined);
const rows = computed(() => [
  ...SHOWN.map((name) => ({ name, words: find(props.left ?? props.right, name)?.words ?? '', left: find(props.left, name), right: find(props.right, name) })),
  { name: 'next', words: 'one order and the next', left: next(props.left), right: next(props.right) },
]);
const many = computed(() => props.left?.tests.length ?? props.right?.tests.length ?? 0);

function effect(test: Test | undefined): string {
  if (!test) return '';
  if (test.name === 'repeats') return test.mean === 0 ? 'none' : `${(test.mean ?? 0).toLocaleString('en')} pairs`;
  const hundred = (100 * test.effect).toFixed(1).replace('-', '−');
  return test.mean === null ? `±${hundred} %` : `${test.effect > 0 ? '+' : ''}${hundred} %`;
}
const isFailed = (test: Test | undefined): boolean => test !== undefined && test.corrected < 0.05;
const marked = (test: Test | undefined): string => (isFailed(test) ? 'not as it should be' : 'nothing found');
</script>

<template>
  <section class="tests" aria-labelledby="tests">
    <h2 id="tests">Ten of {{ many }} tests</h2>
    <table>
      <thead><tr><th scope="col">by chance</th><th scope="col">effect</th><th scope="col"><span class="visually-hidden">test</span></th><th scope="col">effect</th><th scope="col">by chance</th></tr></thead>
      <tbody>
        <tr v-for="row in rows" :key="row.name">
          <td>{{ row.left ? probability(row.left.p) : '' }}</td>
          <td :class="{ failed: isFailed(row.left) }">{{ effect(row.left) }} <i v-if="row.left" aria-hidden="true">{{ isFailed(row.left) ? '✕' : '◇' }}</i><span class="visually-hidden">{{ marked(row.left) }}</span></td>
          <th scope="row">{{ row.words }}</th>
          <td class="right" :class="{ failed: isFailed(row.right) }"><i v-if="row.right" aria-hidden="true">{{ isFailed(row.right) ? '✕' : '◇' }}</i> {{ effect(row.right) }}<span class="visually-hidden">{{ marked(row.right) }}</span></td>
          <td class="right">{{ row.right ? probability(row.right.p) : '' }}</td>
        </tr>
      </tbody>
    </table>
    <p>✕ where less than one fair shuffle in twenty would look like this, corrected for all {{ many }} tests.</p>
  </section>
</template>

<style scoped>
.tests {
  color: var(--mist);
  display: grid;
  gap: 8px;
  align-content: start;
}
h2 {
  color: var(--paper);
  text-align: center;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  padding: 9px 3px;
  border-bottom: 1px solid rgb(223 230 234 / 0.16);
  font-weight: 500;
  text-align: right;
  white-space: nowrap;
}
thead th {
  color: var(--mist-3);
  font-size: 12px;
}
tbody th {
  text-align: center;
  white-space: normal;
  line-height: 17px;
  color: var(--paper);
}
td:first-child,
th:first-child {
  text-align: left;
}
.right,
thead th:nth-child(4) {
  text-align: left;
}
td.right:last-child,
th:last-child {
  text-align: right;
}
i {
  font-style: normal;
  color: var(--soft-teal);
}
.failed {
  color: var(--soft-red);
  font-weight: 600;
}
.failed i {
  color: var(--refused);
}
p {
  color: var(--mist-2);
  font-size: 13px;
}
</style>
