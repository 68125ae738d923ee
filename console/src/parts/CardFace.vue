<script setup lang="ts">
import { computed } from 'vue';
import { drawCard } from '../art/card';

const props = withDefaults(
  defineProps<{ face: string | null; width: number; wide?: boolean; slim?: boolean; four?: boolean; open?: boolean; label?: string }>(),
  { wide: false, slim: false, four: false, open: false, label: '' },
);
const small = computed(() => props.width < 64);
const drawn = computed(() => drawCard(props.face, { small: small.value, slim: props.slim && small.value, wide: props.wide && !small.value, four: props.four }));
/** A label of blanks is for a card that tells nothing beside another one. */
const name = computed(() => (props.label === '' ? drawn.value.name : props.label.trim()));
</script>

<template>
  <svg
    class="card"
    :class="{ small, open }"
    viewBox="0 0 200 280"
    :width="width"
    :height="width * 1.4"
    :role="name === '' ? undefined : 'img'"
    :aria-label="name === '' ? undefined : name"
    :aria-hidden="name === '' || undefined"
    :data-face="face ?? 'back'"
  >
    <rect
      x="1"
      y="1"
      width="198"
      height="278"
      :rx="small ? 20 : 15"
      :fill="drawn.paper"
      :stroke="drawn.edge"
      :stroke-width="small ? 3 : 2"
    />
    <g v-html="drawn.svg" />
    <g v-if="open" class="hatch" aria-hidden="true">
      <path
        v-for="i in 12"
        :key="i"
        :d="`M${i * 44 - 300} 280L${i * 44 - 20} 0`"
        stroke="#6b3a63"
        stroke-width="15"
        stroke-opacity=".16"
      />
      <rect x="3" y="3" width="194" height="274" rx="14" fill="none" stroke="#b98ab0" stroke-width="6" />
    </g>
  </svg>
</template>

<style scoped>
.card {
  display: block;
  flex: none;
  border-radius: 7.5%;
  overflow: hidden;
  filter: drop-shadow(0 1px 1px #08101a59) drop-shadow(0 5px 9px #08101a47);
}
.card.small {
  filter: drop-shadow(0 1px 1.5px #08101a73);
}
</style>
