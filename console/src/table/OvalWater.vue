<script setup lang="ts">
import { computed } from 'vue';

/** The water that a table stands on: an oval with a lozenge rim and broken ripples. */
const props = defineProps<{ width: number; height: number }>();

const ripples = computed(() => {
  // Always the same ripples: a small generator with a fixed start.
  let state = 7;
  const random = (): number => {
    state = (state * 16807) % 2147483647;
    return state / 2147483647;
  };
  return Array.from({ length: 7 }, (_, i) => ({
    k: 0.24 + i * 0.105,
    dash: Array.from({ length: 8 }, () => `${Math.round(20 + random() * 150)} ${Math.round(14 + random() * 90)}`).join(' '),
    opacity: 0.16 - 0.012 * i,
  }));
});
const rim = computed(() => {
  const { width: w, height: h } = props;
  const count = Math.round((w + h) * 0.092);
  return Array.from({ length: count }, (_, i) => {
    const even = (i / count) * Math.PI * 2;
    const t = even - ((w - h) / (w + h)) * 0.5 * Math.sin(2 * even);
    const x = w / 2 + (w / 2 - 15) * Math.cos(t);
    const y = h / 2 + (h / 2 - 15) * Math.sin(t);
    const turn = (Math.atan2((h / 2) * Math.cos(t), -(w / 2) * Math.sin(t)) * 180) / Math.PI;
    return { at: `translate(${x.toFixed(1)} ${y.toFixed(1)}) rotate(${turn.toFixed(1)})`, odd: i % 2 === 1 };
  });
});
</script>

<template>
  <svg v-if="width > 60 && height > 60" class="water" :width="width" :height="height" :viewBox="`0 0 ${width} ${height}`" aria-hidden="true">
    <defs>
      <radialGradient id="water" cx=".5" cy=".42" r=".62">
        <stop offset="0" stop-color="#345571" />
        <stop offset=".6" stop-color="#274259" />
        <stop offset="1" stop-color="#20384c" />
      </radialGradient>
    </defs>
    <ellipse :cx="width / 2" :cy="height / 2" :rx="width / 2 - 2" :ry="height / 2 - 2" fill="url(#water)" stroke="#3d5d76" stroke-width="1.5" />
    <ellipse :cx="width / 2" :cy="height / 2" :rx="width / 2 - 27" :ry="height / 2 - 27" fill="none" stroke="#10202f" stroke-opacity=".35" />
    <path v-for="(part, i) in rim" :key="i" :transform="part.at" d="M-9 0L0 -5L9 0L0 5Z" :fill="part.odd ? '#6b3a63' : '#3f6079'" :opacity="part.odd ? 0.8 : 0.55" />
    <ellipse v-for="ripple in ripples" :key="ripple.k" :cx="width / 2" :cy="height / 2" :rx="(width / 2 - 14) * ripple.k" :ry="(height / 2 - 14) * ripple.k" fill="none" stroke="#9fc0d2" :stroke-dasharray="ripple.dash" stroke-linecap="round" :opacity="ripple.opacity" />
  </svg>
</template>

<style scoped>
.water {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
</style>
