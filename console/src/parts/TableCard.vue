<script setup lang="ts">
import type { TableSummary } from '@wily-jester/protocol';
import SeatMark from './SeatMark.vue';

defineProps<{ table: TableSummary }>();
const STATUS = { open: 'in play', over: 'over', closed: 'closed', fault: 'a fault' } as const;
const when = (text: string): string => new Date(text).toLocaleString('en', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false });
</script>

<template>
  <article class="table">
    <header><b class="serif">{{ table.game }}</b><em :class="table.unplayable ? 'fault' : table.status">{{ table.unplayable ? 'only read' : STATUS[table.status] }}</em></header>
    <p>{{ table.chapter || 'Before the first chapter' }} <span class="mono">choice {{ table.number }}</span></p>
    <p v-if="table.unplayable" class="why">It cannot be played again beyond choice {{ table.unplayable.number }}.</p>
    <ul>
      <li v-for="seat in table.seats" :key="seat.seat"><SeatMark :seat="seat.seat" :width="14" />{{ seat.name }}<small v-if="seat.bot">bot</small></li>
    </ul>
    <footer>Opened {{ when(table.opened) }} · last choice {{ when(table.changed) }}</footer>
  </article>
</template>

<style scoped>
.table {
  background: var(--code);
  border: 1px solid var(--line);
  border-radius: 16px;
  padding: 14px 16px;
  color: var(--ink);
  display: grid;
  gap: 6px;
}
header {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
header b {
  font-size: 18px;
}
em {
  font-style: normal;
  font-weight: 600;
  color: var(--ink-2);
}
em.open {
  color: var(--teal-text);
}
em.fault {
  color: var(--red-text);
}
p .mono {
  font-size: 11px;
  color: var(--ink-2);
  margin-left: 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
li {
  display: flex;
  align-items: center;
  gap: 6px;
}
small,
footer {
  color: var(--ink-2);
  font-size: 12px;
  line-height: 16px;
}
</style>
