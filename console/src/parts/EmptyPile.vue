<script setup lang="ts">
import { computed } from 'vue';
import { drawEmpty } from '../art/card';

const props = defineProps<{ width: number; suit?: number | null; label: string }>();
const svg = computed(() => drawEmpty(props.suit ?? null, props.width < 64));
</script>

<template>
  <svg viewBox="0 0 200 280" :width="width" :height="width * 1.4" role="img" :aria-label="`${label}, empty`" class="empty" v-html="svg" />
</template>

<style scoped>
.empty {
  display: block;
  flex: none;
}
</style>
