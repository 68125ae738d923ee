<script setup lang="ts">
import type { TableSummary } from '@wily-jester/protocol';
import { computed, onMounted, ref } from 'vue';
import { RouterLink } from 'vue-router';
import PageNotice from '../parts/PageNotice.vue';
import TableCard from '../parts/TableCard.vue';
import { client } from '../session';

const tables = ref<TableSummary[] | null>(null);
const wrong = ref('');
const open = computed(() => (tables.value ?? []).filter((table) => table.status === 'open' || table.status === 'fault'));
const past = computed(() => (tables.value ?? []).filter((table) => table.status === 'over' || table.status === 'closed'));

async function load(): Promise<void> {
  wrong.value = '';
  try {
    tables.value = await client.value.tables();
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
}
onMounted(load);
</script>

<template>
  <main class="page">
    <h1>Tables</h1>
    <PageNotice v-if="wrong" tone="fault" title="The tables cannot be shown" :text="wrong"><button type="button" class="notice-button" @click="load">Try again</button></PageNotice>
    <PageNotice v-else-if="tables === null" tone="loading" title="Fetching the tables" text="They are on their way." />
    <PageNotice v-else-if="tables.length === 0" title="No table yet" text="Pick a game, open a table, and take a seat. The lanterns are lit."><RouterLink class="notice-button" to="/games">See the games</RouterLink></PageNotice>
    <template v-else>
      <section v-if="open.length > 0"><h2>To come back to</h2><div class="grid"><RouterLink v-for="table in open" :key="table.id" :to="`/tables/${table.id}`"><TableCard :table="table" /></RouterLink></div></section>
      <section v-if="past.length > 0"><h2>Played</h2><div class="grid"><RouterLink v-for="table in past" :key="table.id" :to="`/tables/${table.id}`"><TableCard :table="table" /></RouterLink></div></section>
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
h2 {
  margin-bottom: 10px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 12px;
}
.grid a {
  text-decoration: none;
  border-radius: 16px;
}
</style>
