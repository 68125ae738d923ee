<script setup lang="ts">
import type { TableSummary } from '@wily-jester/protocol';
import SelectButton from 'primevue/selectbutton';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed } from 'vue';
import { role } from '../session';
import type { Eyes } from './eyes';

/** The head of a table's page: its game, its chapter, and for developers whose eyes are used. */
const props = defineProps<{ table: TableSummary; words: string; narrow?: boolean }>();
const eyes = defineModel<Eyes>('eyes', { required: true });
const open = defineModel<boolean>('open', { required: true });
const choices = computed(() => [
  ...props.table.seats.map((seat) => ({ name: seat.name, value: seat.seat as Eyes })),
  { name: 'watchers', value: 'watch' as const },
]);
</script>

<template>
  <header class="head" :class="{ narrow }">
    <div class="title"><h1>{{ table.game }}</h1><p>{{ words }}</p></div>
    <div class="eyes">
      <template v-if="role === 'developer'">
        <span id="seen-by">Seen by</span>
        <SelectButton v-model="eyes" :options="choices" option-label="name" option-value="value" :allow-empty="false" aria-labelledby="seen-by" class="seen" />
        <span class="pair"><ToggleSwitch v-model="open" input-id="open-hands" /><label for="open-hands">Open hands</label></span>
      </template>
      <slot />
    </div>
  </header>
</template>

<style scoped>
.pair {
  display: inline-flex;
  align-items: center;
  gap: 10px;
}
.narrow #seen-by {
  position: absolute;
  clip-path: inset(50%);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px 16px;
  flex-wrap: wrap;
}
.title {
  display: flex;
  align-items: baseline;
  gap: 14px;
}
.title h1 {
  font-size: 24px;
  line-height: 30px;
  color: var(--paper);
}
.title p {
  color: var(--mist-3);
}
.eyes {
  display: flex;
  align-items: center;
  gap: 10px;
  color: var(--mist-2);
  font-size: 13px;
}
.seen {
  background: rgb(10 20 30 / 0.45);
  border-radius: 10px;
  padding: 3px;
}
.seen :deep(.p-togglebutton) {
  background: none;
  border: 0;
  color: var(--mist-2);
  padding: 0;
}
.seen :deep(.p-togglebutton-content) {
  padding: 5px 11px;
  border-radius: 7px;
  background: none;
  box-shadow: none;
}
.seen :deep(.p-togglebutton-checked .p-togglebutton-content) {
  background: var(--mist);
  color: var(--ink);
  font-weight: 600;
}
.head.narrow {
  padding: 0 16px;
}
.narrow .title {
  gap: 10px;
}
.narrow .eyes {
  flex-wrap: wrap;
}
</style>
