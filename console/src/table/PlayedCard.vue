<script setup lang="ts">
import CardFace from '../parts/CardFace.vue';
import type { HintMark } from './hinted';

/** One card of a pile, in its place: a button where it may be chosen. */
defineProps<{
  face: string | null;
  width: number;
  /** Its position in the pile, from 1. */
  at: number;
  lit: boolean;
  held: boolean;
  open: boolean;
  /** What a hint says of it. */
  hint?: HintMark | null;
  wide?: boolean;
  /** Little of it is seen beside the next one. */
  slim?: boolean;
  label?: string | undefined;
}>();
const emit = defineEmits<{ card: []; double: [] }>();
</script>

<template>
  <component
    :is="lit ? 'button' : 'span'"
    :type="lit ? 'button' : undefined"
    class="place"
    :class="{ lit, held, best: hint?.isBest }"
    :aria-pressed="lit ? held : undefined"
    :data-at="at"
    @click="lit && emit('card')"
    @dblclick="lit && emit('double')"
  >
    <em v-if="hint && hint.words !== ''" class="weighed" aria-hidden="true">{{ hint.words }}</em>
    <CardFace :face="face" :width="width" :wide="wide === true" :slim="slim === true" :open="open" :label="label" />
  </component>
</template>

<style scoped>
.place {
  position: absolute;
  padding: 0;
  border: 0;
  background: none;
  line-height: 0;
  border-radius: 8px;
  transition: transform 120ms;
}
button.place {
  cursor: pointer;
}
.place.lit {
  box-shadow: 0 0 0 3px var(--marigold), 0 0 20px 3px #e3a03a73;
}
.place.best {
  box-shadow: 0 0 0 3px var(--soft-teal), 0 0 20px 3px #7fd3c573;
}
.weighed {
  position: absolute;
  left: 0;
  bottom: calc(100% + 5px);
  padding: 0 5px;
  border-radius: 7px;
  background: var(--abyss);
  color: var(--mist);
  font: 600 11px/17px var(--sans);
  white-space: nowrap;
}
.best > .weighed {
  color: var(--soft-teal);
}
.place.held {
  transform: translateY(-13px) rotate(-2.5deg);
  box-shadow: 0 0 0 2px #fff, 0 18px 34px 6px #050c1499;
}
</style>
