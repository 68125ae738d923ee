<script setup lang="ts">
import type { TableSummary } from '@wily-jester/protocol';
import Select from 'primevue/select';
import { computed, onMounted, ref } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import PageNotice from '../parts/PageNotice.vue';
import { client } from '../session';
import SidePane from '../side/SidePane.vue';

/** Two to six seats of one table next to each other, each with its own connection and its own view. */
const route = useRoute();
const id = String(route.params.table);
const table = ref<TableSummary | null>(null);
const wrong = ref('');
const panes = ref<(number | 'open')[]>([]);
const latest = ref(0);
const calm = ref(0);
const MOST = 6;

onMounted(async () => {
  try {
    const summary = await client.value.table(id);
    table.value = summary;
    const people = summary.seats.filter((seat) => seat.held !== 'bot').map((seat) => seat.seat);
    const first = [...people, ...summary.seats.map((seat) => seat.seat).filter((seat) => !people.includes(seat))];
    panes.value = first.length > 1 ? first.slice(0, 3) : [...first, 'open'];
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
});
const more = computed(() => [
  ...(table.value?.seats.map((seat) => ({ name: seat.name, value: seat.seat as number | 'open' })) ?? []),
  { name: 'Open table', value: 'open' as const },
].filter(({ value }) => !panes.value.includes(value)));
function add(value: number | 'open' | null): void {
  if (value !== null && panes.value.length < MOST) panes.value.push(value);
}
</script>

<template>
  <PageNotice v-if="wrong" tone="fault" title="This table cannot be shown" :text="wrong"><RouterLink class="notice-button" to="/tables">See the tables</RouterLink></PageNotice>
  <PageNotice v-else-if="!table" tone="loading" title="Fetching the table" text="The cards are on their way." />
  <main v-else class="page">
    <header>
      <h1>{{ table.game }}, side by side</h1>
      <p>{{ panes.length }} connections, one table. The service is at choice <b>{{ latest }}</b>.</p>
      <div class="does">
        <Select v-if="more.length > 0 && panes.length < MOST" :model-value="null" :options="more" option-label="name" option-value="value" placeholder="Add a pane" aria-label="Add a pane" @update:model-value="add" />
        <button type="button" @click="calm++">All lines clear</button>
        <RouterLink :to="`/tables/${id}`">To the table</RouterLink>
      </div>
    </header>
    <div class="panes" :style="{ '--columns': Math.min(3, panes.length) }">
      <SidePane v-for="eyes in panes" :key="eyes" :table="id" :eyes="eyes" :latest="latest" :calm="calm" @number="latest = Math.max(latest, $event)" @away="panes = panes.filter((pane) => pane !== eyes)" />
    </div>
  </main>
</template>

<style scoped>
.page {
  padding: 16px 20px 20px;
  color: var(--mist);
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  margin-bottom: 14px;
}
h1 {
  font-size: 24px;
  line-height: 30px;
  color: var(--paper);
}
header b {
  color: #fff;
}
.does {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin-left: auto;
}
.does > button,
.does > a {
  min-height: 40px;
  padding: 9px 16px;
  border: 0;
  border-radius: 10px;
  background: rgb(223 230 234 / 0.14);
  color: var(--paper);
  font-weight: 600;
  line-height: 22px;
  text-decoration: none;
  cursor: pointer;
}
.panes {
  display: grid;
  grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
  gap: 12px;
}
@media (max-width: 900px) {
  .panes {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
