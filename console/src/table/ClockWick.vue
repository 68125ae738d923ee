<script setup lang="ts">
import { computed, onUnmounted, ref } from 'vue';

/** The turn clock as a wick that burns down, with what it will play in words. */
const props = defineProps<{ clock: { seconds: number; until: number }; then: string }>();
const now = ref(Date.now());
const timer = setInterval(() => {
  now.value = Date.now();
}, 250);
onUnmounted(() => clearInterval(timer));
const left = computed(() => Math.max(0, (props.clock.until - now.value) / 1000));
const share = computed(() => Math.min(1, left.value / props.clock.seconds));
const words = computed(() => `${Math.ceil(left.value)} ${Math.ceil(left.value) === 1 ? 'second' : 'seconds'}, then ${props.then}`);
</script>

<template>
  <p class="words">{{ words }}</p>
  <div class="wick" role="timer" :aria-label="words"><span :style="{ width: `${share * 100}%` }" /></div>
</template>

<style scoped>
.words {
  color: var(--mist-2);
}
.wick {
  height: 3px;
  border-radius: 2px;
  background: rgb(223 230 234 / 0.18);
  margin-top: 8px;
  max-width: 190px;
}
.wick span {
  display: block;
  position: relative;
  height: 100%;
  border-radius: 2px;
  background: var(--marigold);
  transition: width 250ms linear;
}
.wick span::after {
  content: "";
  position: absolute;
  right: -4px;
  top: -5px;
  width: 8px;
  height: 13px;
  background: #ffd98a;
  clip-path: polygon(50% 0, 100% 50%, 50% 100%, 0 50%);
}
</style>
