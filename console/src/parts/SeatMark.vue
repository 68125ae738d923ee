<script setup lang="ts">
import { computed } from 'vue';
import { drawSeat } from '../art/card';

const props = defineProps<{ seat: number; width: number }>();
const svg = computed(() => drawSeat(props.seat));
</script>

<template>
  <svg viewBox="-50 -65 100 130" :width="width" :height="width * 1.3" aria-hidden="true" class="mark" v-html="svg" />
</template>

<style scoped>
.mark {
  display: block;
  flex: none;
}
</style>
