<script setup lang="ts">
import type { Plan } from '@wily-jester/protocol';
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import { computed } from 'vue';
import { comparable, firstValues, GAMES, NOTHING, numbersIn, type Question, type Setting, trialBots, type Value, valueWords } from './ask';

/** What is asked of a game: who plays, with which settings, what is compared, how often. */
const props = defineProps<{ plan: Plan; busy: boolean }>();
const question = defineModel<Question>({ required: true });
const emit = defineEmits<{ play: [] }>();

const bots = computed(() => trialBots(props.plan));
const choices = computed(() => comparable(props.plan));
const games = computed(() => [...new Set([...GAMES, question.value.games])].sort((a, b) => a - b).map((n) => ({ n, words: n.toLocaleString('en') })));
const others = computed(() => props.plan.settings.filter(({ name }) => name !== question.value.compare));
const compared = computed(() => props.plan.settings.find(({ name }) => name === question.value.compare));
const isTyped = computed(() => compared.value?.type === 'int' && !compared.value.values);
const isReady = computed(() => question.value.compare === NOTHING || question.value.values.length > 1);

function compare(name: string): void {
  question.value = { ...question.value, compare: name, values: firstValues(props.plan, name) };
}
/** All values that a comparison may hold, where they can be listed. */
const listed = computed<Value[]>(() => {
  if (question.value.compare === 'bots') return bots.value.map(({ bot }) => bot);
  if (compared.value?.type === 'flag') return [false, true];
  return [...(compared.value?.values ?? [])];
});
function turn(value: Value): void {
  const { values } = question.value;
  const next = values.includes(value) ? values.filter((one) => one !== value) : [...values, value];
  question.value = { ...question.value, values: listed.value.filter((one) => next.includes(one)) };
}
function set(setting: Setting, text: string): void {
  const settings = { ...question.value.settings };
  if (text.trim() === '') delete settings[setting.name];
  else settings[setting.name] = setting.type === 'int' && /^-?\d{1,9}$/.test(text.trim()) ? Number(text) : text.trim();
  question.value = { ...question.value, settings };
}
function choose(setting: Setting, value: Value): void {
  const settings = { ...question.value.settings, [setting.name]: value };
  if (value === setting.standard) delete settings[setting.name];
  question.value = { ...question.value, settings };
}
const valuesOf = (setting: Setting): { value: Value; words: string }[] =>
  (setting.type === 'flag' ? [true, false] : [...(setting.values ?? [])]).map((value) => ({ value, words: valueWords(value) }));
const seatChoices = computed(() => props.plan.seats.map((n) => ({ n, words: n === 1 ? 'one seat' : `${n} seats` })));
</script>

<template>
  <form class="form" @submit.prevent="emit('play')">
    <label class="row"><span>Seats</span><Select v-model="question.seats" :options="seatChoices" option-label="words" option-value="n" aria-label="How many seats" /></label>
    <label v-if="question.compare !== 'bots'" class="row"><span>Played by</span><Select v-model="question.bot" :options="[...bots]" option-label="name" option-value="bot" aria-label="Who plays" /></label>
    <label class="row"><span>Compared</span><Select :model-value="question.compare" :options="[...choices]" option-label="words" option-value="name" aria-label="What is compared" @update:model-value="compare" /></label>
    <div v-if="isTyped" class="row">
      <span>Values</span>
      <InputText :model-value="question.values.join(', ')" aria-label="Values that are compared" @change="question.values = numbersIn(($event.target as HTMLInputElement).value)" />
    </div>
    <fieldset v-else-if="question.compare !== NOTHING">
      <legend class="visually-hidden">Values that are compared</legend>
      <label v-for="value in listed" :key="String(value)" class="value"><input type="checkbox" :checked="question.values.includes(value)" @change="turn(value)" />{{ valueWords(value) }}</label>
    </fieldset>
    <label class="row"><span>Games</span><Select v-model="question.games" :options="games" option-label="words" option-value="n" aria-label="How many games" /></label>
    <details>
      <summary>Settings<b v-if="Object.keys(question.settings).length > 0"> · {{ Object.keys(question.settings).length }} changed</b></summary>
      <label v-for="setting in others" :key="setting.name" class="row" :title="setting.help">
        <span>{{ setting.name }}</span>
        <InputText v-if="setting.type === 'int' && !setting.values" :model-value="String(question.settings[setting.name] ?? '')" :placeholder="String(setting.standard)" @change="set(setting, ($event.target as HTMLInputElement).value)" />
        <Select v-else :model-value="question.settings[setting.name] ?? setting.standard" :options="valuesOf(setting)" option-label="words" option-value="value" :aria-label="setting.name" @update:model-value="choose(setting, $event)" />
      </label>
    </details>
    <Button type="submit" label="Play them" :loading="busy" :disabled="!isReady" />
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 2px;
}
.row {
  display: grid;
  grid-template-columns: 78px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  min-height: 44px;
  border-bottom: 1px solid rgb(223 230 234 / 0.14);
}
.row span {
  color: var(--mist-2);
  overflow-wrap: anywhere;
  line-height: 16px;
}
.row :deep(.p-select),
.row :deep(.p-inputtext) {
  width: 100%;
  min-width: 0;
}
.row :deep(.p-select-label),
.row :deep(.p-inputtext) {
  padding: 5px 8px;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 6px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  border-bottom: 1px solid rgb(223 230 234 / 0.14);
}
.value {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 28px;
  color: var(--paper);
}
.value input {
  accent-color: var(--soft-teal);
  width: 16px;
  height: 16px;
}
summary {
  min-height: 40px;
  line-height: 40px;
  cursor: pointer;
  color: var(--mist);
}
summary b {
  color: var(--soft-marigold);
  font-weight: 600;
}
.form > :deep(.p-button) {
  margin-top: 12px;
  min-height: 42px;
}
</style>
