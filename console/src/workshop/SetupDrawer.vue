<script setup lang="ts">
import { REGULARS } from '@wily-jester/core';
import type { Plan } from '@wily-jester/protocol';
import { computed, ref } from 'vue';
import SeatMark from '../parts/SeatMark.vue';
import StackedPack from '../parts/StackedPack.vue';
import { botsOf } from '../table/setup';
import SideDrawer from './SideDrawer.vue';
import type { BenchHere } from './useBench';
import type { BenchEyes, Seating } from './workers/table.worker';

/** Over the table: who sits there, whose eyes, settings, the shuffle, cards that are stacked. */
const props = defineProps<{ bench: BenchHere }>();
const emit = defineEmits<{ close: [] }>();
const { setup, look, eyes } = props.bench;
const plan = computed(() => (look.value?.plan ?? null) as Plan | null);
const seats = computed<readonly Seating[]>(() => setup.value?.seats ?? []);
const most = computed(() => Math.max(...(plan.value?.seats ?? [1])));
const least = computed(() => Math.min(...(plan.value?.seats ?? [1])));
/** A game that changes with each key is not solved. */
const holders = computed(() => (plan.value ? botsOf(plan.value).filter(({ bot }) => bot !== 'solved') : []));
const seed = ref(setup.value?.seed ?? '');
const gets = computed<Record<string, string[]>>(() => Object.fromEntries(Object.entries(setup.value?.gets ?? {}).map(([path, faces]) => [path, [...faces]])));

function seat(i: number, change: Partial<Seating>): void {
  void props.bench.relay({ seats: seats.value.map((one, at) => (at === i ? { ...one, ...change } : one)) });
}
/** As many seats as the game allows next, up or down. */
function resize(by: 1 | -1): void {
  const counts = [...(plan.value?.seats ?? [])].sort((a, b) => a - b);
  const now = seats.value.length;
  const to = by > 0 ? counts.find((n) => n > now) : counts.findLast((n) => n < now);
  if (to === undefined) return;
  const names = REGULARS.filter((name) => !seats.value.some((one) => one.name === name));
  const bot = plan.value?.bots[0] ?? null;
  void props.bench.relay({ seats: [...seats.value, ...names.map((name) => ({ name, bot }))].slice(0, to) }, []);
}
function set(name: string, value: number | boolean | string): void {
  void props.bench.relay({ settings: { ...setup.value?.settings, [name]: value } });
}
const settingNow = (setting: Plan['settings'][number]): number | boolean | string => setup.value?.settings[setting.name] ?? setting.standard;
function shuffleAnew(): void {
  seed.value = Math.random().toString(36).slice(2, 10);
  void props.bench.beginAnew(seed.value);
}
const EYES = computed<{ value: BenchEyes; name: string }[]>(() => [
  { value: 'asked', name: 'Whoever is asked' },
  ...seats.value.map(({ name }, i) => ({ value: i as BenchEyes, name })),
  { value: 'open', name: 'All hands open' },
  { value: 'watch', name: 'A watcher' },
]);
/** A select gives texts: seats are numbers. */
const eyesIn = (value: string): BenchEyes => (/^\d+$/.test(value) ? Number(value) : (value as BenchEyes));
</script>

<template>
  <SideDrawer title="Seats, eyes, settings" @close="emit('close')">
    <label class="row">Seen by <select :value="String(eyes)" @change="bench.see(eyesIn(($event.target as HTMLSelectElement).value))"><option v-for="one in EYES" :key="one.name" :value="String(one.value)">{{ one.name }}</option></select></label>
    <h3>Seats</h3>
    <div v-for="(one, i) in seats" :key="i" class="seat">
      <SeatMark :seat="i + 1" :width="22" /> <b>{{ one.name }}</b>
      <select :value="one.bot ?? ''" :aria-label="`Who plays ${one.name}`" @change="seat(i, { bot: ($event.target as HTMLSelectElement).value || null })">
        <option value="">you</option>
        <option v-for="holder in holders" :key="holder.bot" :value="holder.bot">{{ holder.name }}</option>
      </select>
    </div>
    <p v-if="most > least" class="pair">
      <button type="button" :disabled="seats.length <= least" @click="resize(-1)">Fewer seats</button>
      <button type="button" :disabled="seats.length >= most" @click="resize(1)">More seats</button>
    </p>
    <h3 v-if="(plan?.settings.length ?? 0) > 0">Settings</h3>
    <div v-for="setting in plan?.settings" :key="setting.name" class="setting">
      <label :for="`bench-${setting.name}`"><code>{{ setting.name }}</code> <span>{{ setting.help }}</span></label>
      <input v-if="setting.type === 'flag'" :id="`bench-${setting.name}`" type="checkbox" :checked="settingNow(setting) === true" @change="set(setting.name, ($event.target as HTMLInputElement).checked)" />
      <select v-else-if="setting.values" :id="`bench-${setting.name}`" :value="settingNow(setting)" @change="set(setting.name, setting.type === 'int' ? Number(($event.target as HTMLSelectElement).value) : ($event.target as HTMLSelectElement).value)"><option v-for="value in setting.values" :key="value" :value="value">{{ value }}</option></select>
      <input v-else :id="`bench-${setting.name}`" type="number" :min="setting.from" :max="setting.to" :value="settingNow(setting)" @change="set(setting.name, Number(($event.target as HTMLInputElement).value))" />
    </div>
    <h3>The shuffle</h3>
    <form class="row" @submit.prevent="bench.beginAnew(seed || 'workshop')">
      <label for="bench-seed">Seed</label><input id="bench-seed" v-model="seed" maxlength="60" />
      <button type="submit">Begin anew</button><button type="button" @click="shuffleAnew">Another shuffle</button>
    </form>
    <h3>Stacked cards</h3>
    <StackedPack v-if="plan" :model-value="gets" :plan="plan" :seats="seats.map(({ name }) => name)" @update:model-value="bench.stack" />
  </SideDrawer>
</template>

<style scoped>
h3 {
  margin: 16px 0 4px;
  font: 600 13px/18px var(--sans);
  color: var(--ink-2);
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
.seat {
  display: grid;
  grid-template-columns: 26px 1fr 1fr;
  align-items: center;
  gap: 8px;
  min-height: 40px;
}
.setting {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px;
  align-items: center;
  gap: 2px 10px;
  padding: 4px 0;
}
.setting span {
  display: block;
  color: var(--ink-2);
  font-size: 12.5px;
  line-height: 16px;
}
.setting input[type="checkbox"] {
  justify-self: end;
  width: 18px;
  height: 18px;
  accent-color: var(--teal);
}
code {
  font: 600 13px/18px var(--mono);
}
select,
input[type="number"],
input:not([type]) {
  min-width: 0;
  min-height: 36px;
  padding: 5px 8px;
  border: 1px solid var(--field);
  border-radius: 9px;
  background: var(--code);
  color: var(--ink);
  font: inherit;
}
input:not([type]) {
  width: 110px;
}
.pair {
  display: flex;
  gap: 8px;
}
.pair button,
form button {
  min-height: 36px;
  padding: 4px 12px;
  border: 1px solid var(--field);
  border-radius: 9px;
  background: none;
  font-weight: 600;
  font-size: 13px;
  cursor: pointer;
}
button:disabled {
  opacity: 0.5;
}
</style>
