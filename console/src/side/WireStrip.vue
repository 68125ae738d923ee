<script setup lang="ts">
import { computed, onUnmounted, ref, watch } from 'vue';
import type { Moving } from './roughLine';

/** The line between the service and one seat, with what is on its way. */
const props = defineProps<{ moving: readonly Moving[]; broken: boolean; lost: boolean; name: string }>();
const now = ref(performance.now());
let frame = 0;
const tick = (): void => {
  now.value = performance.now();
  frame = props.moving.length > 0 ? requestAnimationFrame(tick) : 0;
};
// Drawn anew only while something is on its way.
watch(
  () => props.moving.length,
  (many) => {
    if (many > 0 && frame === 0) tick();
  },
  { immediate: true },
);
onUnmounted(() => cancelAnimationFrame(frame));

const LEFT = 14;
const RIGHT = 346;
const dots = computed(() =>
  props.moving.slice(-12).map(({ key, out, words, sentAt, due }) => {
    const done = Math.min(1, Math.max(0, (now.value - sentAt) / Math.max(1, due - sentAt)));
    return { key, out, words, x: LEFT + (RIGHT - LEFT) * (out ? 1 - done : done) };
  }),
);
const words = computed(() => {
  if (props.broken) return 'the line is broken';
  if (props.moving.length > 0) return `${props.moving.length} on the way`;
  return props.lost ? 'the line is whole, and soon tried' : 'nothing on its way';
});
</script>

<template>
  <svg class="wire" viewBox="0 0 360 44" role="img" :aria-label="`Between the service and ${name}: ${words}`">
    <line :x1="LEFT" y1="14" :x2="RIGHT" y2="14" :class="{ broken }" />
    <path d="M8 14L14 6L20 14L14 22Z" class="service" />
    <path d="M340 14L346 6L352 14L346 22Z" class="seat" />
    <path v-if="broken" d="M174 8L186 20M186 8L174 20" class="cross" />
    <g v-for="dot in dots" :key="dot.key">
      <circle :cx="dot.x" cy="14" r="5" :class="dot.out ? 'out' : 'in'" />
    </g>
    <text x="8" y="40">service</text>
    <text x="180" y="40" text-anchor="middle">{{ words }}</text>
    <text x="352" y="40" text-anchor="end">{{ name }}</text>
  </svg>
</template>

<style scoped>
.wire {
  width: 100%;
  height: auto;
}
line {
  stroke: #3c5468;
  stroke-width: 1.5;
  stroke-dasharray: 2 4;
}
line.broken {
  stroke: var(--refused);
}
.service {
  fill: var(--plum-dark);
}
.seat {
  fill: var(--mist);
}
.in {
  fill: var(--soft-teal);
}
.out {
  fill: none;
  stroke: var(--soft-marigold);
  stroke-width: 2;
}
.cross {
  stroke: var(--soft-red);
  stroke-width: 3;
  stroke-linecap: round;
}
text {
  fill: var(--mist-3);
  font: 11px/1 var(--mono);
}
</style>
