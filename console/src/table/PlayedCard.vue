<script setup lang="ts">
import CardFace from '../parts/CardFace.vue';

/** One card of a pile, in its place: a button where it may be chosen. */
defineProps<{
  face: string | null;
  width: number;
  /** Its position in the pile, from 1. */
  at: number;
  lit: boolean;
  held: boolean;
  open: boolean;
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
    :class="{ lit, held }"
    :aria-pressed="lit ? held : undefined"
    :data-at="at"
    @click="lit && emit('card')"
    @dblclick="lit && emit('double')"
  >
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
.place.held {
  transform: translateY(-13px) rotate(-2.5deg);
  box-shadow: 0 0 0 2px #fff, 0 18px 34px 6px #050c1499;
}
</style>
