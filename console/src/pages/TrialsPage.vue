<script setup lang="ts">
import type { Sheet, SheetSummary } from '@wily-jester/protocol';
import Select from 'primevue/select';
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import GameVignette from '../parts/GameVignette.vue';
import PageNotice from '../parts/PageNotice.vue';
import { client, role } from '../session';
import { firstQuestion, type Question, questionOf, trialWish } from '../trials/ask';
import TrialForm from '../trials/TrialForm.vue';
import TrialResult from '../trials/TrialResult.vue';
import { useTrials } from '../trials/useTrials';

const route = useRoute();
const router = useRouter();
const { trials, shown, wrong, isGoingOn, load, show, open, stop, remove } = useTrials();
const sheets = ref<SheetSummary[]>([]);
const chosen = ref<SheetSummary | null>(null);
const sheet = ref<Sheet | null>(null);
const question = ref<Question | null>(null);
const busy = ref(false);
const byName = computed(() => [...sheets.value].sort((a, b) => a.name.localeCompare(b.name)));

onMounted(async () => {
  if (role.value !== 'developer') return;
  await load();
  sheets.value = await client.value.sheets().catch(() => []);
  const named = String(route.query.sheet ?? '');
  const id = String(route.params.trial ?? '');
  const hash = trials.value.find((trial) => trial.id === id)?.sheet ?? named;
  const looking = id === '' ? null : show(id);
  chosen.value = sheets.value.find((one) => one.hash === hash) ?? sheets.value.find(({ name }) => name === 'Quayside Twenty-One') ?? sheets.value[0] ?? null;
  await looking;
});
watch(chosen, async (summary) => {
  if (!summary) return;
  sheet.value = await client.value.sheet(summary.hash).catch(() => null);
  if (sheet.value) ask(sheet.value);
});

/** What is asked at first: what the trial that is looked at was asked with, where it is of this sheet. */
function ask({ hash, plan }: Sheet): void {
  const looked = trials.value.find(({ id }) => id === String(route.params.trial ?? ''));
  question.value = looked?.sheet === hash ? questionOf(looked.wish, hash, plan) : firstQuestion(hash, plan);
}

async function play(): Promise<void> {
  if (!question.value || !sheet.value) return;
  busy.value = true;
  if (await open(trialWish(question.value, sheet.value.name, ''))) await router.replace(`/trials/${shown.value?.trial.id}`);
  busy.value = false;
}
async function look(id: string): Promise<void> {
  await router.replace(`/trials/${id}`);
  const hash = trials.value.find((trial) => trial.id === id)?.sheet;
  const looking = show(id);
  if (hash === chosen.value?.hash) {
    const wish = trials.value.find((trial) => trial.id === id)?.wish;
    if (wish && sheet.value) question.value = questionOf(wish, sheet.value.hash, sheet.value.plan);
  } else chosen.value = sheets.value.find((one) => one.hash === hash) ?? chosen.value;
  await looking;
}
const MARKS = { waiting: '◇', running: '◇', done: '◆', stopped: '◆', failed: '✕' } as const;
const standing = (trial: (typeof trials.value)[number]): string => {
  const played = trial.played.toLocaleString('en');
  if (trial.status === 'waiting') return 'waits';
  if (trial.status === 'failed') return 'could not go on';
  return trial.status === 'running' ? `going on, ${Math.floor((100 * trial.played) / trial.asked)} %` : `${played} games`;
};
</script>

<template>
  <PageNotice v-if="role !== 'developer'" title="Trials are a developer's" text="They play very many games behind the tables. Open the console with the link that npm start prints." />
  <main v-else class="page">
    <aside class="side">
      <h1>Trials</h1>
      <div class="game">
        <GameVignette v-if="chosen" :sheet="chosen" />
        <Select v-model="chosen" :options="byName" option-label="name" filter aria-label="The game that is tried" />
      </div>
      <TrialForm v-if="sheet && question" v-model="question" :plan="sheet.plan" :busy="busy" @play="play" />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <section v-if="trials.length > 0" class="before" aria-labelledby="before">
        <h2 id="before">Asked before</h2>
        <ul>
          <li v-for="trial in trials" :key="trial.id" :class="{ on: trial.id === shown?.trial.id }">
            <button type="button" class="quiet ask" @click="look(trial.id)"><i aria-hidden="true" :class="trial.status">{{ MARKS[trial.status] }}</i><span>{{ trial.title }}<small>{{ trial.game }}, {{ standing(trial) }}</small></span></button>
            <button type="button" class="quiet away" :aria-label="`Forget ${trial.title}`" @click="remove(trial.id)">×</button>
          </li>
        </ul>
      </section>
    </aside>
    <section class="paper">
      <TrialResult v-if="shown" :shown="shown" :is-going-on="isGoingOn" @stop="stop" />
      <div v-else class="empty on-paper">
        <h1>What is a game really like?</h1>
        <p>How often does the house win, who has the advantage, how long does it take, what does a rule change? Choose a game, say what is compared, and let it be played ten thousand times. What is counted, the sheet says itself, with <code>tally</code>.</p>
        <p>Each figure comes with how far it may be off. Settings that are compared are dealt the same cards, so that small differences show in few games.</p>
      </div>
    </section>
  </main>
</template>

<style scoped>
.page {
  flex: 1;
  display: grid;
  grid-template-columns: 272px minmax(0, 1fr);
}
.side {
  padding: 20px 24px 28px;
  color: var(--mist);
  background: linear-gradient(#1b3147, var(--deep));
  display: grid;
  gap: 14px;
  align-content: start;
}
.side h1 {
  color: var(--paper);
}
.game {
  border-radius: 14px;
  overflow: hidden;
  background: rgb(223 230 234 / 0.1);
  display: grid;
}
.game :deep(.p-select) {
  border: 0;
  border-radius: 0;
  background: none;
}
.game :deep(.p-select-label) {
  color: var(--paper);
  font: 560 17px/22px var(--serif);
}
.game :deep(.p-select-dropdown) {
  color: var(--mist-2);
}
.wrong {
  border-left: 4px solid var(--refused);
  background: var(--abyss);
  border-radius: 8px;
  padding: 8px 12px;
  overflow-wrap: anywhere;
}
.before {
  display: grid;
  gap: 8px;
}
.before h2 {
  color: var(--paper);
  font-size: 17px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 28px;
  border-top: 1px solid rgb(223 230 234 / 0.14);
}
li.on .ask span {
  color: var(--soft-teal);
}
.ask {
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr);
  text-align: left;
  padding: 9px 0;
  color: var(--mist);
  overflow-wrap: anywhere;
}
.ask i {
  font-style: normal;
  color: var(--mist-3);
}
.ask i.done {
  color: var(--soft-teal);
}
.ask i.failed {
  color: var(--soft-red);
}
small {
  display: block;
  color: var(--mist-3);
}
.away {
  color: var(--mist-3);
  font-size: 18px;
}
.paper {
  background: var(--paper);
  min-width: 0;
}
.empty {
  padding: 40px 32px;
  max-width: 640px;
  display: grid;
  gap: 14px;
  font-size: 16px;
  line-height: 25px;
}
@media (max-width: 800px) {
  .page {
    grid-template-columns: minmax(0, 1fr);
  }
  .paper {
    order: 2;
  }
}
</style>
