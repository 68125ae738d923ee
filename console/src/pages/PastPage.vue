<script setup lang="ts">
import { worthChart } from '@wily-jester/charts';
import type { Choice } from '@wily-jester/protocol';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import ChartFigure from '../parts/ChartFigure.vue';
import PageNotice from '../parts/PageNotice.vue';
import RecordRail from '../past/RecordRail.vue';
import { useAnalysis } from '../past/useAnalysis';
import { usePast } from '../past/usePast';
import WorthChoices from '../past/WorthChoices.vue';
import WorthPaper from '../past/WorthPaper.vue';
import { choicesOf, stretchAt, worthOf } from '../past/worth';
import { client, role, seatHeld } from '../session';
import { type Eyes, eyesIn, firstEyes } from '../table/eyes';
import TableHead from '../table/TableHead.vue';
import TablePlay from '../table/TablePlay.vue';
import { newWord } from '../table/words';

/** A table's record, to go through choice by choice from any seat's eyes, and to go on from. */
const route = useRoute();
const router = useRouter();
const id = String(route.params.table);
const past = usePast(id);
const { plan, table, view, step, steps, number, problem, chapters, isReading } = past;
const isDeveloper = computed(() => role.value === 'developer');
const open = ref(false);
const lastSeat = ref<Eyes>('watch');
const anew = ref(true);
const busy = ref(false);
const isNarrow = ref(false);
const wrong = ref('');

onMounted(() => {
  const at = Number(route.query.at);
  void past.open((summary) => {
    lastSeat.value = firstEyes(summary, route.query.eyes);
    return lastSeat.value;
  }, route.query.at === undefined || Number.isNaN(at) ? undefined : at);
});
watch([open, lastSeat], ([isOpen, seat]) => void past.look(isOpen ? 'open' : seat));

const last = computed(() => table.value?.number ?? 0);
const chapterStarts = computed(() => chapters.value.map((chapter) => chapter.from));
const toChapter = (by: 1 | -1): void => {
  const starts = chapterStarts.value;
  const to = by > 0 ? starts.find((start) => start > number.value) : starts.findLast((start) => start < number.value);
  void past.go(to ?? (by > 0 ? last.value : 0));
};
function typed(event: KeyboardEvent): void {
  if ((event.target as HTMLElement | null)?.closest('input, button, [role=radiogroup]')) return;
  if (event.key === 'ArrowLeft') void past.go(number.value - 1);
  if (event.key === 'ArrowRight') void past.go(number.value + 1);
}
onMounted(() => addEventListener('keydown', typed));
onUnmounted(() => removeEventListener('keydown', typed));

// ---- what choices were worth

const isWeighing = ref(route.query.worth !== undefined);
/** Whose choices: those of the eyes, or of the first seat where nobody's are used. */
const weighed = computed(() => (typeof lastSeat.value === 'number' ? lastSeat.value : 1));
const name = computed(() => table.value?.seats[weighed.value - 1]?.name ?? '');
const you = computed(() => weighed.value === lastSeat.value);
const mayWeigh = computed(() => isDeveloper.value || (seatHeld.value !== null && table.value?.status !== 'open'));
/** The choice that is looked at is the one that came next. */
const asked = computed(() => number.value + 1);
const stretch = computed(() => stretchAt(chapters.value, asked.value, last.value));
const numbers = computed(() => choicesOf(steps.value, weighed.value, stretch.value));
const { found, wrong: weighing, again } = useAnalysis(() => {
  const isReady = isWeighing.value && table.value && numbers.value.length > 0;
  return isReady ? { table: id, seat: weighed.value, numbers: numbers.value } : null;
});
const worth = computed(() => worthOf(name.value, stretch.value, numbers.value, found.value));
const curve = computed(() => worthChart(worth.value));
const isAsked = computed(() => numbers.value.includes(asked.value));
const analysis = computed(() => found.value.get(asked.value) ?? null);
function weigh(on: boolean): void {
  isWeighing.value = on;
  const nearest = numbers.value.findLast((each) => each <= asked.value) ?? numbers.value[0];
  if (on && nearest !== undefined) void past.go(nearest - 1);
}
const playOn = (option: string, args: Choice['args']): Promise<void> => goOn({ option, args });

const lines = computed(() => step.value?.lines.filter((line) => line.kind !== 'chapter') ?? []);
/** Opens a table that goes on from here, with another choice where one is given. */
async function goOn(other?: Pick<Choice, 'option' | 'args'>): Promise<void> {
  busy.value = true;
  wrong.value = '';
  try {
    const { table: made } = await client.value.branch(id, { number: number.value, same: !anew.value });
    const ask = view.value?.waiting.ask;
    if (other && ask !== undefined)
      await client.value.choose(made.id, { ...other, ask, once: newWord(), seat: weighed.value });
    await router.push({ path: `/tables/${made.id}`, query: eyesIn(lastSeat.value) });
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <PageNotice v-if="problem && !view" tone="fault" title="The past of this table cannot be shown" :text="problem"><RouterLink class="notice-button" :to="`/tables/${id}`">To the table</RouterLink></PageNotice>
  <PageNotice v-else-if="!view || !plan || !table" tone="loading" title="Reading the record" text="Choice by choice." />
  <main v-else class="page" :class="{ weighing: isWeighing }">
    <TableHead v-model:eyes="lastSeat" v-model:open="open" :table="table" :words="['looking back', view.chapter.title].filter(Boolean).join(' · ')" :narrow="isNarrow"><RouterLink :to="{ path: `/tables/${id}`, query: eyesIn(lastSeat) }" class="to">To the table</RouterLink></TableHead>
    <TablePlay :class="{ reading: isReading }" :aria-busy="isReading" :shown="past.shown" :eyes="lastSeat" :open="open" still @narrow="isNarrow = $event" />
    <template v-if="isWeighing">
      <WorthChoices v-if="isAsked" :analysis="analysis" :name="name" :you="you" :may-play-on="isDeveloper" :busy="busy" @play="playOn" />
      <section v-else class="panel said" role="status"><span v-for="(line, i) in lines" :key="i">{{ line.text }}</span><template v-if="lines.length === 0">Number {{ number }}.</template></section>
      <div class="panel curve"><ChartFigure :chart="curve" /></div>
      <WorthPaper
        class="worth"
        :worth="worth"
        :stretch="stretch"
        :steps="steps"
        :found="found"
        :numbers="numbers"
        :seat="weighed"
        :you="you"
        :asked="asked"
        :wrong="weighing || wrong"
        @go="past.go($event - 1)"
        @again="again"
        @leave="weigh(false)"
      />
    </template>
    <section v-else class="panel" aria-label="The record">
      <div class="steps">
        <button type="button" aria-label="The chapter before" :disabled="number === 0" @click="toChapter(-1)">«</button>
        <button type="button" aria-label="The choice before" :disabled="number === 0" @click="past.go(number - 1)">‹</button>
        <b class="mono">{{ number }}</b>
        <button type="button" aria-label="The next choice" :disabled="number >= last" @click="past.go(number + 1)">›</button>
        <button type="button" aria-label="The next chapter" :disabled="number >= last" @click="toChapter(1)">»</button>
      </div>
      <RecordRail :chapters="chapters" :steps="steps" :number="number" :last="last" @go="past.go" />
      <button v-if="mayWeigh" type="button" class="go ask" @click="weigh(true)">What was it worth?</button>
      <div v-if="isDeveloper" class="branch">
        <ToggleSwitch v-model="anew" input-id="anew" /><label for="anew">Deal anew what no player has seen</label>
        <button type="button" class="go" :disabled="busy" @click="goOn()">Go on from here</button>
      </div>
      <p class="said" role="status"><template v-if="wrong || problem"><b class="wrong">{{ wrong || problem }}</b></template><template v-else-if="lines.length > 0"><span v-for="(line, i) in lines" :key="i">{{ line.text }}</span></template><template v-else>Number {{ number }}.</template></p>
    </section>
  </main>
</template>

<style scoped>
/* Only a wait that can be felt is shown. */
.reading {
  opacity: 0.45;
  transition: opacity 120ms 250ms;
}
.page {
  flex: none;
  display: flex;
  flex-direction: column;
  gap: 10px;
  height: calc(100dvh - var(--bar));
  min-height: 600px;
  padding: 14px 24px 20px;
  color: var(--mist);
  background: radial-gradient(ellipse 80% 70% at 50% 40%, #1d3347, var(--deep) 80%);
}
.panel {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px 22px;
  padding: 14px 20px;
  border-radius: 20px;
  background: var(--abyss);
}
.steps {
  display: flex;
  align-items: center;
  gap: 4px;
}
.steps button {
  width: 40px;
  height: 40px;
  border: 0;
  border-radius: 10px;
  background: rgb(223 230 234 / 0.12);
  color: #fff;
  font-size: 20px;
  line-height: 20px;
  cursor: pointer;
}
.steps button:disabled {
  opacity: 0.35;
  cursor: default;
}
.steps b {
  min-width: 52px;
  text-align: center;
  color: #fff;
  font-size: 15px;
}
.branch {
  display: flex;
  align-items: center;
  gap: 10px;
  font-size: 13px;
}
.go {
  min-height: 44px;
  padding: 8px 18px;
  border: 0;
  border-radius: 10px;
  background: var(--teal);
  color: #fff;
  font-weight: 600;
  font-size: 15px;
  cursor: pointer;
}
.said span {
  margin-right: 6px;
}
.said {
  flex: 1 1 100%;
  min-height: 20px;
  color: var(--mist-2);
}
.wrong {
  color: var(--soft-red);
}
.to {
  color: var(--soft-teal);
  font-weight: 600;
}
/* The table and what is said of it on the left, the paper beside them. */
.weighing {
  display: grid;
  grid-template: auto minmax(0, 1fr) auto auto / minmax(0, 1fr) 388px;
  column-gap: 20px;
  padding: 14px 0 14px 20px;
}
.weighing > * {
  grid-column: 1;
}
.weighing > .worth {
  grid-area: 1 / 2 / -1 / 3;
  margin: -14px 0;
}
.curve {
  --ink-2: var(--mist-2);
  --teal-text: var(--soft-teal);
  --paper: var(--abyss);
  --line: #2b4154;
  display: block;
  color: var(--mist);
}
.curve :deep(h2) {
  font-size: 18px;
  color: #fff;
}
.ask {
  background: var(--marigold);
  color: var(--ink);
}
@media (max-width: 1000px) {
  .weighing {
    grid-template: auto minmax(320px, 1fr) auto auto auto / minmax(0, 1fr);
    height: auto;
    padding: 10px 14px 14px;
  }
  .weighing > .worth {
    grid-area: auto;
    margin: 0 -14px -14px;
  }
}
@media (max-width: 700px) {
  .weighing > .worth {
    margin: 0;
  }
  .panel {
    border-radius: 20px 20px 0 0;
  }
  .page {
    padding: 10px 0 14px;
    min-height: 780px;
  }
  .branch {
    flex-wrap: wrap;
  }
}
</style>
