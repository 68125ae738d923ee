<script setup lang="ts">
import type { Step } from '@wily-jester/protocol';
import { computed } from 'vue';
import type { Chapter } from '../table/chapters';

/** The record as a rail: a stretch for each chapter, a dot for each choice, a knob where one looks. */
const props = defineProps<{ chapters: readonly Chapter[]; steps: readonly Step[]; number: number; last: number }>();
const emit = defineEmits<{ go: [number: number] }>();

const share = (n: number): number => (props.last === 0 ? 0 : (n / props.last) * 100);
const stretches = computed(() => {
  const starts = props.chapters.map((chapter) => chapter.from);
  return props.chapters.map((chapter, i) => {
    const from = i === 0 ? 0 : chapter.from;
    const to = starts[i + 1] ?? props.last;
    return { title: chapter.title || 'The start', from: chapter.from, left: share(from), width: share(to - from), here: props.number >= from && (props.number < to || i === starts.length - 1) };
  });
});
/** Where choices are so many that dots would touch, only some are drawn. */
const dots = computed(() => {
  const every = Math.ceil(props.steps.length / 160);
  return props.steps
    .filter((step) => step.number % every === 0)
    .map((step) => ({ number: step.number, left: share(step.number), isChoice: step.events.some((event) => event.kind === 'chosen') }));
});
const here = computed(() => stretches.value.find((stretch) => stretch.here));
const move = (event: Event): void => emit('go', Number((event.target as HTMLInputElement).value));
</script>

<template>
  <div class="rail">
    <div class="track" aria-hidden="true">
      <i v-for="(stretch, i) in stretches" :key="i" class="stretch" :class="{ here: stretch.here }" :style="{ left: `${stretch.left}%`, width: `calc(${stretch.width}% - 2px)` }" />
      <i v-for="dot in dots" :key="dot.number" class="dot" :class="{ choice: dot.isChoice, past: dot.number <= number }" :style="{ left: `${dot.left}%` }" />
      <i class="knob" :style="{ left: `${share(number)}%` }" />
    </div>
    <input type="range" min="0" :max="last" :value="number" aria-label="The number to look at" :aria-valuetext="`number ${number} of ${last}, ${here?.title ?? ''}`" @input="move" />
    <div class="ends"><span>0</span><span>{{ here?.title }}</span><span>{{ last }}</span></div>
  </div>
</template>

<style scoped>
.rail {
  position: relative;
  flex: 1 1 320px;
  min-width: 0;
}
.track {
  position: relative;
  height: 34px;
  margin: 0 8px;
}
.track > i {
  position: absolute;
}
.stretch {
  top: 13px;
  height: 8px;
  background: rgb(223 230 234 / 0.16);
  border-radius: 3px;
}
.stretch.here {
  background: rgb(223 230 234 / 0.34);
}
.dot {
  top: 15px;
  width: 4px;
  height: 4px;
  margin-left: -2px;
  border-radius: 50%;
  background: var(--mist-3);
  opacity: 0.6;
}
.dot.past {
  background: var(--soft-teal);
  opacity: 1;
}
.dot:not(.choice) {
  background: none;
  box-shadow: inset 0 0 0 1px var(--mist-3);
}
.knob {
  top: 4px;
  width: 18px;
  height: 26px;
  margin-left: -9px;
  background: #fff;
  clip-path: polygon(50% 0, 100% 50%, 50% 100%, 0 50%);
}
input {
  position: absolute;
  inset: 0 0 auto;
  width: 100%;
  height: 34px;
  margin: 0;
  opacity: 0;
  cursor: pointer;
}
.rail:focus-within .knob {
  outline: 3px solid #fff;
  outline-offset: 3px;
  background: var(--soft-marigold);
}
.ends {
  display: flex;
  justify-content: space-between;
  font: 500 11px/14px var(--mono);
  color: var(--mist-3);
}
.ends span:nth-child(2) {
  font: 500 13px/16px var(--sans);
  color: var(--mist);
}
</style>
