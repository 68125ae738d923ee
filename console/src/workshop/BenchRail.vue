<script setup lang="ts">
import { computed } from 'vue';
import type { Look } from './workers/table.worker';

/** The choices so far, to go back and forward in: a stretch for each chapter, a dot for each choice. */
const props = defineProps<{ look: Look; off: boolean; mayKeep: boolean; urged: boolean }>();
const emit = defineEmits<{ go: [at: number]; keep: [] }>();

const all = computed(() => Math.max(1, props.look.last));
const share = (at: number): number => (100 * at) / all.value;
const stretches = computed(() => {
  const { chapters, last } = props.look;
  const begins = chapters.length === 0 ? [{ at: 0, title: '' }] : chapters;
  return begins.map(({ at, title }, i) => {
    const from = i === 0 ? 0 : at;
    const to = begins[i + 1]?.at ?? Math.max(last, from);
    return { title, left: share(from), width: share(to - from), here: props.look.at >= from && (props.look.at < to || i === begins.length - 1) };
  });
});
const dots = computed(() => {
  const every = Math.ceil(props.look.last / 80);
  return props.look.made.slice(0, props.look.last).flatMap((_, i) => ((i + 1) % every === 0 ? [{ at: i + 1, left: share(i + 1) }] : []));
});
const here = computed(() => stretches.value.find((stretch) => stretch.here));
</script>

<template>
  <div class="rail" :class="{ off }">
    <button type="button" class="step" aria-label="A choice back" :disabled="off || look.at === 0" @click="emit('go', look.at - 1)">‹</button>
    <button type="button" class="step" aria-label="A choice forward" :disabled="off || look.at >= look.last" @click="emit('go', look.at + 1)">›</button>
    <div class="line">
      <div class="track" aria-hidden="true">
        <i v-for="(stretch, i) in stretches" :key="i" class="stretch" :class="{ here: stretch.here }" :style="{ left: `${stretch.left}%`, width: `calc(${stretch.width}% - 2px)` }" />
        <i v-for="dot in dots" :key="dot.at" class="dot" :class="{ past: dot.at <= look.at }" :style="{ left: `${dot.left}%` }" />
        <i class="knob" :style="{ left: `${share(look.at)}%` }" />
      </div>
      <input type="range" min="0" :max="look.last" :value="look.at" :disabled="off" aria-label="After how many choices" :aria-valuetext="`after ${look.at} of ${look.last} choices`" @input="emit('go', Number(($event.target as HTMLInputElement).value))" />
      <div class="ends"><span>{{ here?.title || (look.last === 0 ? 'No choice yet' : '') }}</span><span>{{ look.at }} of {{ look.last }}</span></div>
    </div>
    <button type="button" class="keep" :class="{ urged }" :disabled="off || !mayKeep" @click="emit('keep')"><svg width="10" height="14" viewBox="0 0 10 14" aria-hidden="true"><path d="M5 1L9 7L5 13L1 7Z" fill="none" stroke="currentColor" stroke-width="1.6" /></svg> Keep this as a rehearsal</button>
  </div>
</template>

<style scoped>
.rail {
  display: flex;
  align-items: center;
  gap: 8px;
  color: var(--mist);
}
.step {
  flex: none;
  width: 40px;
  height: 40px;
  border: 0;
  border-radius: 10px;
  background: rgb(223 230 234 / 0.14);
  color: #fff;
  font-size: 20px;
  line-height: 20px;
  cursor: pointer;
}
.step:disabled {
  opacity: 0.4;
  cursor: default;
}
.line {
  position: relative;
  flex: 1 1 120px;
  min-width: 0;
  padding: 0 12px;
}
.track {
  position: relative;
  height: 26px;
}
.track > i {
  position: absolute;
}
.stretch {
  top: 9px;
  height: 8px;
  border-radius: 3px;
  background: rgb(223 230 234 / 0.16);
}
.stretch.here {
  background: rgb(223 230 234 / 0.34);
}
.dot {
  top: 11px;
  width: 4px;
  height: 4px;
  margin-left: -2px;
  border-radius: 50%;
  background: var(--mist-3);
}
.dot.past {
  background: var(--soft-teal);
}
.knob {
  top: 0;
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
  height: 26px;
  margin: 0;
  opacity: 0;
  cursor: pointer;
}
.line:focus-within .knob {
  background: var(--soft-marigold);
}
.ends {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  overflow: hidden;
  font-size: 12.5px;
  line-height: 15px;
  white-space: nowrap;
}
.ends span:last-child {
  color: var(--mist-3);
}
.keep {
  display: inline-flex;
  flex: none;
  align-items: center;
  gap: 8px;
  min-height: 38px;
  padding: 6px 14px;
  border: 0;
  border-radius: 10px;
  background: rgb(223 230 234 / 0.14);
  color: var(--mist);
  font-weight: 600;
  font-size: 14px;
  cursor: pointer;
}
.keep.urged {
  background: var(--teal);
  color: #fff;
}
.keep svg {
  color: var(--soft-teal);
}
.keep.urged svg {
  color: #fff;
}
.keep:disabled {
  opacity: 0.5;
  cursor: default;
}
.off {
  opacity: 0.6;
}
@media (max-width: 600px) {
  /* There the text is read, and nothing is kept. */
  .keep {
    display: none;
  }
}
</style>
