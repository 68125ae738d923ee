<script setup lang="ts">
import type { Sheet, SheetSummary, TableSummary } from '@wily-jester/protocol';
import InputText from 'primevue/inputtext';
import Tab from 'primevue/tab';
import TabList from 'primevue/tablist';
import Tabs from 'primevue/tabs';
import { computed, nextTick, onMounted, ref, useTemplateRef, watch } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import DeleteForGood from '../parts/DeleteForGood.vue';
import GameVignette from '../parts/GameVignette.vue';
import OpenTableForm from '../parts/OpenTableForm.vue';
import PageNotice from '../parts/PageNotice.vue';
import SheetSource from '../parts/SheetSource.vue';
import TableCard from '../parts/TableCard.vue';
import { client, role } from '../session';
import { genresOf, genreWords, seatsText } from '../table/setup';

/** What a tab shows stands beside the form, in no panel of the component's own. */
const ALONE = { root: { 'aria-controls': null } };
const route = useRoute();
const router = useRouter();
const sheets = ref<SheetSummary[] | null>(null);
const sheet = ref<Sheet | null>(null);
const tables = ref<TableSummary[]>([]);
const wanted = ref('');
const tab = ref('sheet');
const wrong = ref('');
const detail = useTemplateRef('detail');
const isStacked = (): boolean => matchMedia('(max-width: 1000px)').matches;

const kind = ref('');
const seats = ref<number | null>(null);
const kinds = computed(() => [...new Set((sheets.value ?? []).flatMap(genresOf))].sort());
const counts = computed(() => [...new Set((sheets.value ?? []).flatMap((s) => s.seats))].sort((a, b) => a - b));
const isShown = (s: SheetSummary): boolean =>
  `${s.name} ${s.blurb}`.toLowerCase().includes(wanted.value.trim().toLowerCase()) && (kind.value === '' || genresOf(s).includes(kind.value)) && (seats.value === null || s.seats.includes(seats.value));
/** By the first kind of each, each kind under its name; those that say none come last. */
const groups = computed(() => {
  const shown = (sheets.value ?? []).filter(isShown);
  const names = [...new Set(shown.map((s) => (kind.value === '' ? (genresOf(s)[0] ?? '') : kind.value)))];
  names.sort((a, b) => Number(a === '') - Number(b === '') || a.localeCompare(b));
  return names.map((name) => ({ name, sheets: shown.filter((s) => kind.value !== '' || (genresOf(s)[0] ?? '') === name) }));
});
/** What is shown where the address names no sheet: the first of the list, before it was sifted. */
const first = ref<string>();
const chosen = computed(() => String(route.params.sheet ?? '') || first.value);
const ownTables = computed(() => tables.value.filter((table) => table.sheet === sheet.value?.hash));
const line = computed(() => (route.query.line ? Number(route.query.line) : undefined));

async function load(): Promise<void> {
  wrong.value = '';
  try {
    sheets.value = await client.value.sheets();
    first.value ??= groups.value[0]?.sheets[0]?.hash;
    if (role.value === 'developer') tables.value = await client.value.tables();
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
}
onMounted(load);

/** The sheet that was shown is deleted: the first of the others is shown. */
async function gone(): Promise<void> {
  sheet.value = null;
  await load();
  await router.push('/games');
}
watch(
  chosen,
  async (hash) => {
    if (!hash) return;
    try {
      const isFirst = sheet.value === null;
      sheet.value = await client.value.sheet(hash);
      tab.value = 'sheet';
      await nextTick();
      detail.value?.scrollTo({ top: 0 });
      // Who comes by a link sees its tile; who chooses where both stand above each other is taken to the sheet.
      if (isFirst) document.querySelector('.tile.on')?.scrollIntoView({ block: 'nearest' });
      else if (isStacked()) detail.value?.scrollIntoView();
    } catch (error) {
      wrong.value = error instanceof Error ? error.message : String(error);
    }
  },
  { immediate: true },
);
</script>

<template>
  <PageNotice v-if="wrong" tone="fault" title="The games cannot be shown" :text="wrong"><button type="button" class="notice-button" @click="load">Try again</button></PageNotice>
  <PageNotice v-else-if="sheets === null" tone="loading" title="Fetching the games" text="The sheets are on their way." />
  <PageNotice v-else-if="sheets.length === 0" title="No game yet" text="Write a sheet and add it: ./wily new, then ./wily sheets add." />
  <main v-else class="page">
    <section class="list" aria-label="Games">
      <header>
        <h1>Games</h1>
        <InputText v-model="wanted" placeholder="Find a sheet" aria-label="Find a sheet" class="find" />
        <div class="sift">
          <select v-model="kind" aria-label="Kind of game">
            <option value="">Every kind</option>
            <option v-for="name in kinds" :key="name" :value="name">{{ genreWords(name) }}</option>
          </select>
          <select v-model="seats" aria-label="Seats">
            <option :value="null">Any seats</option>
            <option v-for="count in counts" :key="count" :value="count">{{ count === 1 ? '1 seat' : `${count} seats` }}</option>
          </select>
        </div>
      </header>
      <p v-if="groups.length === 0" class="none">No sheet is like this.</p>
      <section v-for="group in groups" :key="group.name" class="kind">
      <h2>{{ group.name === '' ? 'Others' : genreWords(group.name) }}</h2>
      <ul>
        <li v-for="s in group.sheets" :key="s.hash">
          <button type="button" class="quiet tile" :class="{ on: s.hash === sheet?.hash }" :aria-pressed="s.hash === sheet?.hash" @click="router.push(`/games/${s.hash}`)">
            <GameVignette :sheet="s" />
            <span class="words"><b class="serif">{{ s.name }}</b><span>{{ seatsText(s.seats) }}</span><em v-if="s.tables > 0">{{ s.tables }} {{ s.tables === 1 ? 'table' : 'tables' }}</em></span>
          </button>
        </li>
      </ul>
      </section>
    </section>
    <section v-if="sheet" ref="detail" class="detail on-paper" :aria-label="sheet.name">
      <div class="title"><h1>{{ sheet.name }}</h1><RouterLink v-if="role === 'developer'" class="open-draft" :to="{ path: '/workshop', query: { sheet: sheet.hash } }">Open in the workshop</RouterLink></div>
      <p class="blurb">{{ sheet.plan.blurb }}</p>
      <Tabs v-model:value="tab">
        <TabList>
          <Tab value="sheet" :pt="ALONE">Sheet</Tab>
          <Tab v-if="sheet.rehearsals" value="rehearsals" :pt="ALONE">Rehearsals</Tab>
          <Tab value="tables" :pt="ALONE">Tables <small v-if="ownTables.length > 0">{{ ownTables.length }}</small></Tab>
        </TabList>
      </Tabs>
      <div class="columns">
        <SheetSource v-if="tab === 'sheet'" :source="sheet.source" :line="line" />
        <SheetSource v-else-if="tab === 'rehearsals'" :source="sheet.rehearsals ?? ''" />
        <div v-else class="tables">
          <p v-if="ownTables.length === 0">No table of this game yet. Start one beside.</p>
          <DeleteForGood
            v-if="role === 'developer' && ownTables.length === 0"
            :key="sheet.hash"
            :what="`the sheet ${sheet.name}`"
            note="This version of the sheet goes."
            :remove="() => client.deleteSheet(sheet?.hash ?? '')"
            @deleted="gone"
          />
          <RouterLink v-for="table in ownTables" :key="table.id" :to="`/tables/${table.id}`"><TableCard :table="table" /></RouterLink>
        </div>
        <OpenTableForm v-if="role === 'developer'" :sheet="sheet" class="start" />
      </div>
    </section>
  </main>
</template>

<style scoped>
.title {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  justify-content: space-between;
  gap: 4px 16px;
}
.open-draft {
  font-weight: 600;
}
/* List and sheet each scroll by themselves: the sheet stays in sight wherever the list stands. */
.page {
  display: grid;
  grid-template-columns: minmax(280px, 30fr) minmax(0, 70fr);
  height: calc(100dvh - var(--bar));
}
.list,
.detail {
  overflow-y: auto;
}
.list {
  padding: 20px 24px 32px 28px;
  color: var(--mist);
}
.list header {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 12px 16px;
  margin-bottom: 4px;
}
.list h1 {
  color: var(--paper);
}
.find {
  width: 150px;
  background: rgb(223 230 234 / 0.1);
  border-color: rgb(223 230 234 / 0.2);
  color: var(--paper);
}
.sift {
  display: flex;
  gap: 8px;
  flex-basis: 100%;
}
.sift select {
  flex: 1;
  min-width: 0;
  padding: 6px 10px;
  border: 1px solid rgb(223 230 234 / 0.2);
  border-radius: 10px;
  background: var(--night);
  color: var(--paper);
  font: inherit;
  font-size: 14px;
}
.kind h2 {
  margin: 18px 0 8px;
  font-size: 14px;
  font-weight: 600;
  color: var(--mist-2);
}
.find::placeholder {
  color: var(--mist-3);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(158px, 1fr));
  gap: 12px;
}
.tile {
  display: block;
  width: 100%;
  border-radius: 16px;
  overflow: hidden;
  background: var(--night);
  text-align: left;
  outline-offset: 3px;
}
.tile.on {
  background: var(--paper);
  color: var(--ink);
  box-shadow: 0 0 0 3px var(--paper);
}
.words {
  display: grid;
  grid-template-columns: 1fr auto;
  padding: 8px 14px 12px;
}
.words b {
  grid-column: 1 / -1;
  font-size: 17px;
  line-height: 22px;
}
.words span {
  font-size: 13px;
  color: var(--mist-2);
}
.on .words span {
  color: var(--ink-2);
}
.words em {
  font-style: normal;
  font-weight: 600;
  font-size: 12px;
  color: var(--soft-teal);
}
.on .words em {
  color: var(--teal-text);
}
.none {
  color: var(--mist-2);
}
.detail {
  background: var(--paper);
  /* Below is the columns' own room: what sticks to the end of the page would else stop short of it. */
  padding: 22px 28px 0 30px;
  min-width: 0;
}
.detail h1 {
  font-size: 34px;
  line-height: 40px;
}
.blurb {
  color: var(--ink-2);
  font-size: 15px;
  margin: 2px 0 8px;
  max-width: 70ch;
}
.detail :deep(.p-tablist),
.detail :deep(.p-tablist-viewport),
.detail :deep(.p-tablist-tab-list),
.detail :deep(.p-tablist-content) {
  background: none;
}
.detail :deep(.p-tab) {
  padding: 10px 20px 10px 0;
}
.detail :deep(.p-tab-active) {
  color: var(--teal-text);
}
.detail small {
  color: var(--teal-text);
  font-weight: 600;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 246px;
  gap: 26px;
  margin-top: 16px;
  padding-bottom: 32px;
  align-items: start;
}
/* The sheet stays in sight beside a long form. */
.columns > :first-child {
  position: sticky;
  top: 16px;
  max-height: calc(100dvh - 268px);
  min-height: 320px;
}
.start {
  /* Room for the button that stays in sight, which else lay over the last line. */
  padding-bottom: 12px;
}
.tables {
  display: grid;
  gap: 10px;
  align-content: start;
}
.tables a {
  text-decoration: none;
}
@media (max-width: 1000px) {
  .page {
    flex: 1;
    grid-template-columns: 1fr;
    height: auto;
  }
  .list,
  .detail {
    overflow-y: visible;
  }
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .detail {
    padding: 20px;
  }
  .list {
    padding: 16px 20px;
  }
  .columns > :first-child {
    position: static;
    max-height: 420px;
  }
}
</style>
