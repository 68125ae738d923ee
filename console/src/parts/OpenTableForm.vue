<script setup lang="ts">
import { ServiceError } from '@wily-jester/client';
import { REGULARS } from '@wily-jester/core';
import type { Plan, Sheet } from '@wily-jester/protocol';
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import InputText from 'primevue/inputtext';
import Select from 'primevue/select';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { client } from '../session';
import { botsOf, firstSeats, firstSettings, isFollowed, type SeatForm, wishFor } from '../table/setup';
import SeatMark from './SeatMark.vue';
import StackedPack from './StackedPack.vue';

const PERSON = ' person';
/** So long those who get a link are waited for, in seconds. */
const WAIT = 300;
const props = defineProps<{ sheet: Sheet }>();
const router = useRouter();
const seats = ref<SeatForm[]>([]);
const settings = ref<Record<string, number | boolean | string>>({});
const clocks = ref(true);
const hints = ref(true);
const stacked = ref(false);
/** Seats give chance to the shuffle before anything is dealt. */
const gathers = ref(false);
const gets = ref<Record<string, string[]>>({});
const wrong = ref('');
const busy = ref(false);
const plan = computed(() => props.sheet.plan);
/** The settings as they are with the values chosen so far: some follow from others. */
const offered = ref<Plan['settings']>([]);
/** The question about them that was asked last. */
let asked = 0;

watch(
  () => props.sheet.hash,
  () => {
    seats.value = firstSeats(plan.value);
    settings.value = firstSettings(plan.value);
    offered.value = plan.value.settings;
    asked++;
    stacked.value = false;
    gathers.value = false;
    gets.value = {};
    wrong.value = '';
  },
  { immediate: true },
);
const most = computed(() => Math.max(...plan.value.seats));
const holders = computed(() => [{ name: 'person', bot: PERSON }, ...botsOf(plan.value)]);

function add(): void {
  const name = REGULARS.find((regular) => !seats.value.some((seat) => seat.name === regular)) ?? 'Guest';
  seats.value.push({ name, bot: plan.value.bots[0] ?? 'thinking' });
}

const reasonOf = (error: unknown): string => (error instanceof ServiceError ? error.message : 'The service does not answer. Try again.');

async function open(): Promise<void> {
  busy.value = true;
  wrong.value = '';
  try {
    const wish = { ...wishFor(props.sheet.hash, seats.value, settings.value, clocks.value, stacked.value ? gets.value : {}), hints: hints.value };
    if (gathers.value && !stacked.value) {
      const { gathering, keys } = await client.value.gather({ ...wish, wait: WAIT });
      // History keeps plain copies alone.
      await router.push({ path: `/gather/${gathering.table}`, state: { keys: keys.seats.map(({ seat, key }) => ({ seat, key })) } });
      return;
    }
    const { table } = await client.value.openTable(wish);
    await router.push(`/tables/${table.id}`);
  } catch (error) {
    wrong.value = reasonOf(error);
  } finally {
    busy.value = false;
  }
}

type Setting = Plan['settings'][number];
/** Asks what the others may be now. What comes too late is out of date. */
async function reckon(): Promise<void> {
  const turn = ++asked;
  try {
    const answer = await client.value.settings(props.sheet.hash, settings.value);
    if (turn !== asked) return;
    offered.value = answer;
    wrong.value = '';
  } catch (error) {
    if (turn === asked) wrong.value = reasonOf(error);
  }
}
/** A number that is emptied is what the sheet says. */
function set(setting: Setting, value: number | boolean | string | null): void {
  if (value === null && setting.follows) delete settings.value[setting.name];
  else settings.value[setting.name] = value ?? setting.standard;
  if (setting.follows || isFollowed(plan.value, setting.name)) void reckon();
}
const changed = ({ name, standard }: Setting): boolean => name in settings.value && settings.value[name] !== standard;
const rangeOf = ({ from, to, follows }: Setting): string =>
  from === undefined ? '' : follows ? `, ${from} to ${to} as ${follows.join(' and ')} ${follows.length > 1 ? 'are' : 'is'}` : `, ${from} to ${to}`;
const sentence = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
</script>

<template>
  <form class="form" @submit.prevent="open">
    <h2>Start a table</h2>
    <fieldset>
      <legend>Seats</legend>
      <div v-for="(seat, i) in seats" :key="i" class="seat">
        <SeatMark :seat="i + 1" :width="24" />
        <InputText v-model="seat.name" :aria-label="`Name of seat ${i + 1}`" maxlength="24" />
        <Select :model-value="seat.bot ?? PERSON" :options="holders" option-label="name" option-value="bot" scroll-height="20rem" :aria-label="`Who plays seat ${i + 1}`" @update:model-value="seat.bot = $event === PERSON ? null : $event" />
        <button v-if="seats.length > 1" type="button" class="quiet remove" :aria-label="`Remove ${seat.name}`" @click="seats.splice(i, 1)">×</button>
      </div>
      <button v-if="seats.length < most" type="button" class="quiet add" @click="add">+ add a seat</button>
    </fieldset>
    <div v-for="setting in offered" :key="setting.name" class="setting">
      <div class="head">
        <label :for="`set-${setting.name}`">{{ setting.name }}</label>
        <ToggleSwitch v-if="setting.type === 'flag'" :input-id="`set-${setting.name}`" :model-value="settings[setting.name] === true" @update:model-value="set(setting, $event)" />
      </div>
      <InputNumber
        v-if="setting.type === 'int' && !setting.values"
        :input-id="`set-${setting.name}`"
        :model-value="setting.name in settings ? Number(settings[setting.name]) : null"
        :min="setting.follows ? undefined : setting.from"
        :max="setting.follows ? undefined : setting.to"
        :placeholder="String(setting.standard)"
        show-buttons
        button-layout="horizontal"
        fluid
        @update:model-value="set(setting, $event)"
      />
      <Select v-else-if="setting.values" :model-value="settings[setting.name]" @update:model-value="set(setting, $event)" :input-id="`set-${setting.name}`" :options="[...setting.values]" fluid />
      <p>{{ sentence(setting.help) }}{{ rangeOf(setting) }}. <b v-if="changed(setting)">The sheet says {{ setting.standard === true ? 'yes' : setting.standard === false ? 'no' : setting.standard }}.</b></p>
    </div>
    <div class="setting">
      <div class="head"><label for="set-clocks">Turn clocks</label><ToggleSwitch v-model="clocks" input-id="set-clocks" /></div>
      <p>Whether the sheet's time limits run.</p>
    </div>
    <div class="setting">
      <div class="head"><label for="set-hints">Hints</label><ToggleSwitch v-model="hints" input-id="set-hints" /></div>
      <p>Whether seats may ask what thinking would choose.</p>
    </div>
    <div class="setting">
      <div class="head"><label for="set-gathers">Every seat gives chance to the shuffle</label><ToggleSwitch v-model="gathers" input-id="set-gathers" :disabled="stacked" /></div>
      <p>Dealt once all have taken part: neither the service nor a seat alone can choose the cards.</p>
    </div>
    <div class="setting">
      <div class="head"><label for="set-stacked">Stacked pack</label><ToggleSwitch v-model="stacked" input-id="set-stacked" /></div>
      <StackedPack v-if="stacked" v-model="gets" :plan="plan" :seats="seats.map((seat) => seat.name)" />
      <p v-else>Cards of your choice come to piles of your choice.</p>
    </div>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <Button type="submit" class="go" label="Open the table" :loading="busy" />
  </form>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 12px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 8px;
}
legend,
label {
  font-weight: 600;
  padding: 0;
}
.seat {
  display: grid;
  grid-template-columns: 24px minmax(0, 1fr) minmax(0, 1fr) 24px;
  gap: 6px;
  align-items: center;
}
.seat :deep(.p-inputtext) {
  min-width: 0;
  width: 100%;
  padding: 7px 8px;
}
.seat :deep(.p-select) {
  min-width: 0;
}
.seat :deep(.p-select-label) {
  padding: 7px 0 7px 8px;
}
.seat :deep(.p-select-dropdown) {
  width: 26px;
}
.remove {
  font-size: 20px;
  line-height: 24px;
  color: var(--ink-2);
}
.add {
  color: var(--teal-text);
  font-weight: 600;
  text-align: left;
  min-height: 32px;
}
.setting {
  display: grid;
  gap: 4px;
}
.setting :deep(.p-inputnumber-input) {
  text-align: center;
  padding: 6px 8px;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.setting p {
  color: var(--ink-2);
  font-size: 13px;
  line-height: 18px;
}
.setting b {
  color: var(--plum);
  font-weight: 600;
}
.wrong {
  color: var(--red-text);
}
.go {
  min-height: 46px;
  position: sticky;
  bottom: 12px;
  box-shadow: 0 0 0 12px var(--paper);
}
</style>
