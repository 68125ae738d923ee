<script setup lang="ts">
import type { Chart } from '@wily-jester/charts';
import { svgOf } from '@wily-jester/charts/svg';
import { computed, onMounted, onUnmounted, ref, useTemplateRef } from 'vue';
import ChartCells from './ChartCells.vue';

/** A picture with its sentence, and its figures as a table for whoever would rather read them. */
const props = defineProps<{ chart: Chart }>();
const frame = useTemplateRef('frame');
const width = ref(0);
const isTable = ref(false);
/** Narrow pictures scroll inside their own frame. */
const LEAST = 300;
const drawn = computed(() => Math.max(LEAST, width.value));
const svg = computed(() => (width.value === 0 ? '' : svgOf(props.chart, drawn.value)));
let observer: ResizeObserver | undefined;
onMounted(() => {
  observer = new ResizeObserver(([entry]) => {
    width.value = Math.floor(entry?.contentRect.width ?? 0);
  });
  if (frame.value) observer.observe(frame.value);
});
onUnmounted(() => observer?.disconnect());
</script>

<template>
  <section class="figure" :data-chart="chart.id">
    <h2>{{ chart.title }}</h2>
    <p class="about">{{ chart.about }}</p>
    <div ref="frame" class="frame">
      <!-- The picture is made here from figures; what texts it holds are escaped. -->
      <div v-if="!isTable" class="picture">
        <!-- eslint-disable-next-line vue/no-v-html -->
        <div class="svg" :style="{ minHeight: `${chart.height}px` }" v-html="svg" />
        <ChartCells v-if="chart.cells && svg !== ''" :cells="chart.cells" :width="drawn" :height="chart.height" />
      </div>
      <table v-else tabindex="0">
        <thead><tr><th v-for="(word, i) in chart.table.head" :key="i" scope="col">{{ word }}</th></tr></thead>
        <tbody>
          <tr v-for="(row, r) in chart.table.rows" :key="r">
            <th scope="row">{{ row[0] }}</th>
            <td v-for="(value, i) in row.slice(1)" :key="i">{{ value }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="sentence">{{ chart.sentence }} <button type="button" class="quiet link" :aria-pressed="isTable" @click="isTable = !isTable">{{ isTable ? 'Show the picture' : 'Show the figures' }}</button></p>
  </section>
</template>

<style scoped>
.figure {
  min-width: 0;
}
.about {
  color: var(--ink-2);
  font-size: 13px;
  line-height: 18px;
  margin-bottom: 6px;
}
.frame {
  overflow: auto;
  max-height: 720px;
}
.picture {
  position: relative;
  width: max-content;
}
.svg :deep(svg) {
  display: block;
}
table {
  border-collapse: collapse;
  font-size: 13px;
}
th,
td {
  padding: 4px 14px 4px 0;
  border-bottom: 1px solid var(--line);
  text-align: right;
  white-space: nowrap;
  font-weight: 500;
}
thead th {
  font-weight: 600;
  position: sticky;
  top: 0;
  background: var(--paper);
}
th:first-child {
  text-align: left;
}
.sentence {
  font-size: 13px;
  line-height: 18px;
  margin-top: 4px;
}
.link {
  color: var(--teal-text);
  font-weight: 600;
  text-decoration: underline;
}
</style>
