<script setup lang="ts">
import type { TableSummary } from '@wily-jester/protocol';
import { computed, onMounted, ref } from 'vue';
import { RouterLink, useRouter } from 'vue-router';
import DeleteForGood from '../parts/DeleteForGood.vue';
import PageNotice from '../parts/PageNotice.vue';
import TableCard from '../parts/TableCard.vue';
import { client } from '../session';

const tables = ref<TableSummary[] | null>(null);
const wrong = ref('');
const open = computed(() => (tables.value ?? []).filter((table) => table.status === 'open' || table.status === 'fault'));
const past = computed(() => (tables.value ?? []).filter((table) => table.status === 'over' || table.status === 'closed'));

/** Where the next page begins; `null` after the last one. */
const next = ref<string | null>(null);

async function load(): Promise<void> {
  wrong.value = '';
  try {
    const page = await client.value.tablePage();
    tables.value = [...page.tables];
    next.value = page.next;
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
}
onMounted(load);

async function more(): Promise<void> {
  if (next.value === null) return;
  try {
    const page = await client.value.tablePage({ after: next.value });
    tables.value = [...(tables.value ?? []), ...page.tables];
    next.value = page.next;
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
}
/** A table that was deleted leaves the page. */
function gone(id: string): void {
  tables.value = (tables.value ?? []).filter((table) => table.id !== id);
}

const router = useRouter();
const unread = ref('');
/** Loads a record from a file: every choice is carried out again, and every digest compared. */
async function loadRecord(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  if (!file) return;
  unread.value = '';
  try {
    const { table } = await client.value.loadRecord(await file.text());
    await router.push(`/tables/${table.id}/past`);
  } catch (error) {
    unread.value = `${file.name} cannot be loaded. ${error instanceof Error ? error.message : String(error)}`;
  } finally {
    input.value = '';
  }
}
</script>

<template>
  <main class="page">
    <header><h1>Tables</h1><label class="load"><input type="file" accept=".ndjson,application/x-ndjson" class="visually-hidden" @change="loadRecord" />Load a record</label></header>
    <p v-if="unread" class="unread" role="alert">{{ unread }}</p>
    <PageNotice v-if="wrong" tone="fault" title="The tables cannot be shown" :text="wrong"><button type="button" class="notice-button" @click="load">Try again</button></PageNotice>
    <PageNotice v-else-if="tables === null" tone="loading" title="Fetching the tables" text="They are on their way." />
    <PageNotice v-else-if="tables.length === 0" title="No table yet" text="Pick a game, open a table, and take a seat. The lanterns are lit."><RouterLink class="notice-button" to="/games">See the games</RouterLink></PageNotice>
    <template v-else>
      <section v-if="open.length > 0"><h2>To come back to</h2><div class="grid"><RouterLink v-for="table in open" :key="table.id" :to="`/tables/${table.id}`"><TableCard :table="table" /></RouterLink></div></section>
      <section v-if="past.length > 0">
        <h2>Played</h2>
        <div class="grid">
          <div v-for="table in past" :key="table.id" :data-played="table.id">
            <RouterLink :to="`/tables/${table.id}`"><TableCard :table="table" /></RouterLink>
            <DeleteForGood
              :what="`${table.game}, table ${table.id}`"
              note="Its record goes with it."
              :remove="() => client.deleteTable(table.id)"
              @deleted="gone(table.id)"
            />
          </div>
        </div>
      </section>
      <button v-if="next !== null" type="button" class="notice-button more" @click="more">More tables</button>
    </template>
  </main>
</template>

<style scoped>
.page {
  padding: 24px 28px;
  color: var(--paper);
  display: grid;
  gap: 20px;
  align-content: start;
}
header {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
}
.load {
  min-height: 40px;
  padding: 9px 16px;
  border-radius: 10px;
  background: rgb(223 230 234 / 0.14);
  font-weight: 600;
  line-height: 22px;
  cursor: pointer;
}
.load:focus-within {
  outline: 3px solid #fff;
  outline-offset: 3px;
}
.unread {
  background: var(--abyss);
  border-left: 4px solid var(--refused);
  border-radius: 8px;
  padding: 8px 14px;
}
h2 {
  margin-bottom: 10px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 12px;
}
.more {
  justify-self: center;
}
.grid a {
  text-decoration: none;
  border-radius: 16px;
}
</style>
