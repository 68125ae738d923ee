<script setup lang="ts">
import { computed } from 'vue';
import { drawCounters } from '../art/card';

const props = defineProps<{ amount: number; label: string }>();
const drawn = computed(() => drawCounters(props.amount));
</script>

<template>
  <span class="counters">
    <svg :viewBox="`0 0 34 ${drawn.height}`" width="34" :height="drawn.height" aria-hidden="true" v-html="drawn.svg" />
    <span class="figure"><small>{{ label }}</small><b>{{ amount }}</b></span>
  </span>
</template>

<style scoped>
.counters {
  display: inline-flex;
  align-items: flex-end;
  gap: 8px;
}
.figure {
  display: grid;
  line-height: 18px;
}
small {
  font-size: 13px;
  color: var(--mist-2);
}
b {
  font-size: 15px;
  font-weight: 600;
}
</style>
