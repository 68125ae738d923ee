<script setup lang="ts">
import type { HintMark } from './hinted';

/** What a hint says of a button: the list below says the same in words. */
defineProps<{ mark: HintMark | null }>();
</script>

<template>
  <em v-if="mark && mark.words !== ''" class="badge" :class="{ best: mark.isBest }" aria-hidden="true" data-weighed>{{ mark.words }}</em>
</template>

<style scoped>
.badge {
  padding: 0 6px;
  border-radius: 7px;
  background: var(--abyss);
  color: var(--mist);
  font: 600 12px/18px var(--sans);
}
.badge.best {
  color: var(--soft-teal);
}
</style>
