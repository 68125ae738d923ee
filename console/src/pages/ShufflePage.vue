<script setup lang="ts">
import { auditCsv } from '@wily-jester/charts';
import { SHUFFLE_NAMES } from '@wily-jester/core';
import { computed, onMounted, ref } from 'vue';
import { download } from '../parts/download';
import AuditPanel from '../shuffle/AuditPanel.vue';
import TestList from '../shuffle/TestList.vue';
import { useAudit } from '../shuffle/useAudit';

const FIRST = 10_000;
const MOST = 1_000_000;
const asked = useAudit();
const held = useAudit();
const shuffles = ref(FIRST);
const isOver = ref(false);
const known = SHUFFLE_NAMES.filter((name) => name !== 'ours');
const isFile = computed(() => !SHUFFLE_NAMES.includes(asked.name.value));
const lead = computed(() => (isFile.value ? 'A file of yours, beside as many fair shuffles.' : `Two shuffles, each seen ${shuffles.value.toLocaleString('en')} times.`));

onMounted(() => {
  asked.named('swap-anywhere', FIRST);
  held.named('ours', FIRST);
});
function choose(name: string): void {
  asked.named(name, shuffles.value);
}
function more(): void {
  shuffles.value *= 10;
  asked.named(asked.name.value, shuffles.value);
  held.named('ours', shuffles.value);
}
function take(files: FileList | null | undefined): void {
  const file = files?.[0];
  if (file) asked.file(file);
}
function drop(event: DragEvent): void {
  isOver.value = false;
  take(event.dataTransfer?.files);
}
function asCsv(): void {
  if (asked.report.value) download(`${asked.name.value.replace(/\W+/g, '-')}.csv`, auditCsv(asked.report.value), 'text/csv');
}
</script>

<template>
  <main class="page" @dragover.prevent="isOver = true" @dragleave="isOver = false" @drop.prevent="drop">
    <header>
      <h1>Is it fair?</h1>
      <p>{{ lead }}</p>
      <label class="drop" :class="{ over: isOver }"><input type="file" class="visually-hidden" @change="take(($event.target as HTMLInputElement).files)" />Drop a file of shuffles, one a line</label>
    </header>
    <div class="known" role="group" aria-label="Known shuffles">
      <span>Known ones</span>
      <button v-for="name in known" :key="name" type="button" :aria-pressed="asked.name.value === name" @click="choose(name)">{{ name.replace(':', ', ').replaceAll('-', ' ') }}</button>
    </div>
    <div class="panels">
      <AuditPanel :name="asked.name.value" :words="asked.words.value" :report="asked.report.value" :problem="asked.problem.value" :busy="asked.busy.value" />
      <div class="between">
        <TestList :left="asked.report.value" :right="held.report.value" />
        <div class="buttons">
          <button v-if="!isFile && shuffles < MOST" type="button" :disabled="asked.busy.value" @click="more">{{ asked.busy.value ? 'Shuffling …' : 'Ten times as many' }}</button>
          <button type="button" class="hollow" :disabled="!asked.report.value" @click="asCsv">Figures as CSV</button>
        </div>
        <p class="note">A file stays in this browser. A line holds the cards from the first place on: 4♠ 10♥ …, 4S 10H …, or numbers. From a program: <code>my-program | ./wily audit -</code></p>
      </div>
      <AuditPanel :name="held.name.value" :words="held.words.value" :report="held.report.value" :problem="held.problem.value" :busy="held.busy.value" />
    </div>
  </main>
</template>

<style scoped>
.page {
  flex: 1;
  padding: 16px 24px 24px;
  color: var(--mist);
  background: radial-gradient(ellipse 90% 80% at 50% 30%, #2b4860, var(--night) 70%);
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 20px;
}
h1 {
  color: var(--paper);
}
header p {
  color: var(--mist-2);
}
.drop {
  margin-left: auto;
  border: 1px dashed rgb(223 230 234 / 0.6);
  border-radius: 10px;
  padding: 8px 14px;
  color: var(--paper);
  font-weight: 600;
  cursor: pointer;
}
.drop.over {
  background: rgb(223 230 234 / 0.18);
}
.drop:focus-within {
  outline: 3px solid #fff;
  outline-offset: 3px;
}
.known {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  margin: 10px 0 14px;
}
.known span {
  margin-right: 6px;
  color: var(--mist-2);
}
.known button,
.buttons button {
  border: 0;
  border-radius: 8px;
  padding: 6px 9px;
  min-height: 32px;
  font-size: 13px;
  background: rgb(223 230 234 / 0.14);
  color: var(--paper);
  font-weight: 600;
  cursor: pointer;
}
.known button[aria-pressed="true"] {
  background: var(--mist);
  color: var(--ink);
}
.panels {
  display: grid;
  grid-template-columns: minmax(0, 388px) minmax(0, 1fr) minmax(0, 388px);
  gap: 22px;
  align-items: start;
}
.between {
  display: grid;
  gap: 14px;
}
.buttons {
  display: flex;
  gap: 10px;
}
.buttons button {
  min-height: 38px;
}
.buttons .hollow {
  background: none;
  border: 1px solid rgb(223 230 234 / 0.5);
}
.buttons button:disabled {
  opacity: 0.6;
  cursor: default;
}
.note {
  color: var(--mist-3);
  font-size: 13px;
}
code {
  font-family: var(--mono);
  font-size: 12px;
}
@media (max-width: 1100px) {
  .panels {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 700px) {
  .page {
    padding: 14px 12px 20px;
  }
}
</style>
