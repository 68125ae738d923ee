<script setup lang="ts">
import { fixed, signed } from '@wily-jester/charts';
import type { Analysis } from '@wily-jester/protocol';
import { computed } from 'vue';

/** What each choice at one ask was worth, with the one that was made and the bot's; a press plays on with it. */
const props = defineProps<{ analysis: Analysis | null; name: string; you: boolean; mayPlayOn: boolean; busy: boolean }>();
const emit = defineEmits<{ play: [option: string, args: Analysis['choices'][number]['args']] }>();

/** So many are drawn: the best ones, and the one that was made. */
const MOST = 4;
const shown = computed(() => {
  const all = props.analysis?.choices ?? [];
  const first = all.slice(0, MOST);
  const taken = all.find((choice) => choice.taken);
  return taken && !first.includes(taken) ? [...first.slice(0, MOST - 1), taken] : first;
});
/** All bars stand on one scale from zero. */
const scale = computed(() => Math.max(1e-9, ...shown.value.map(({ mean, error }) => Math.abs(mean) + 1.96 * (error ?? 0))));
const half = (error: number | null): number => 1.96 * (error ?? 0);
const doubt = (error: number | null): string => (error === null ? 'too few games' : error === 0 ? 'certain' : `± ${fixed(half(error), 1)}`);
const at = (mean: number): number => 50 + (48 * mean) / scale.value;
const bar = (mean: number): { x: number; width: number } => ({ x: Math.min(50, at(mean)), width: Math.abs(at(mean) - 50) });
</script>

<template>
  <section class="choices" aria-label="What each choice was worth">
    <div class="asked">
      <h3>{{ you ? 'You were asked' : `${name} was asked` }}</h3>
      <p v-if="!analysis">Not weighed yet.</p>
      <p v-else-if="shown.length === 0">There was nothing else to choose.</p>
      <p v-else>What each choice was worth, in points.{{ mayPlayOn ? ' Press one to play on from here.' : '' }}</p>
    </div>
    <component
      :is="mayPlayOn ? 'button' : 'div'"
      v-for="(choice, i) in shown"
      :key="choice.words"
      class="choice"
      :class="{ best: i === 0 }"
      :type="mayPlayOn ? 'button' : undefined"
      :disabled="mayPlayOn ? busy : undefined"
      @click="mayPlayOn && emit('play', choice.option, choice.args)"
    >
      <span class="line"><b>{{ choice.words }}</b><b>{{ signed(choice.mean, 1) }}</b></span>
      <svg viewBox="0 0 100 12" preserveAspectRatio="none" aria-hidden="true">
        <line x1="0" x2="100" y1="6" y2="6" class="axis" />
        <line x1="50" x2="50" y1="0" y2="12" class="zero" />
        <rect :x="bar(choice.mean).x" y="3.5" :width="bar(choice.mean).width" height="5" />
        <line :x1="at(choice.mean - half(choice.error))" :x2="at(choice.mean + half(choice.error))" y1="6" y2="6" class="half" />
      </svg>
      <span class="line"><span>{{ doubt(choice.error) }}</span><span class="tags"><i v-if="choice.taken" :class="{ bot: i === 0 }" :title="i === 0 ? 'The bot would have done the same' : undefined">{{ i === 0 ? '✓ ' : '' }}{{ you ? 'yours' : `${name}’s` }}</i><i v-else-if="i === 0" class="bot">the bot’s</i></span></span>
    </component>
  </section>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: minmax(150px, 200px);
  grid-auto-columns: minmax(0, 1fr);
  grid-auto-flow: column;
  gap: 12px;
  padding: 12px 20px;
  border-radius: 20px;
  background: var(--abyss);
  color: var(--mist);
}
.asked h3 {
  color: #fff;
}
.asked p {
  font-size: 13px;
  line-height: 18px;
  color: var(--mist-2);
}
.choice {
  display: grid;
  gap: 4px;
  align-content: space-between;
  min-height: 84px;
  min-width: 0;
  padding: 8px 12px;
  border: 0;
  border-radius: 12px;
  background: var(--marigold);
  color: var(--ink);
  font: 400 13px/18px var(--sans);
  text-align: left;
}
button.choice {
  cursor: pointer;
}
.choice.best {
  box-shadow: 0 0 0 2px var(--soft-marigold), 0 0 18px rgb(227 160 58 / 0.5);
}
.line {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
.line > b:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 15px;
}
.line > b:last-child {
  flex: none;
  font: 560 16px/20px var(--serif);
}
svg {
  width: 100%;
  height: 12px;
}
svg * {
  vector-effect: non-scaling-stroke;
}
.axis {
  stroke: rgb(28 34 51 / 0.3);
  stroke-width: 1.5;
}
.zero,
.half {
  stroke: var(--ink);
  stroke-width: 2;
}
rect {
  fill: var(--ink);
  opacity: 0.7;
}
.tags {
  display: flex;
  gap: 4px;
}
.tags i {
  padding: 0 7px;
  border-radius: 6px;
  box-shadow: inset 0 0 0 1px var(--ink);
  font-style: normal;
  font-weight: 600;
  white-space: nowrap;
}
.tags .bot {
  background: var(--abyss);
  color: #fff;
}
@media (max-width: 700px) {
  .choices {
    grid-auto-flow: row;
    grid-template-columns: 1fr;
  }
}
</style>
