<script setup lang="ts">
import type { SheetSummary } from '@wily-jester/protocol';
import { computed, useTemplateRef } from 'vue';
import { stillOf } from '../art/still';
import CardFace from './CardFace.vue';
import { useNear } from './useNear';

/** A small still life for a game's tile: its own table, with cards that are always the same. */
const props = defineProps<{ sheet: SheetSummary }>();
/** What a tile has room for, and the widest that a card is drawn, in pixels. */
const ROOM = { width: 142, height: 84, card: 30 };
const vignette = useTemplateRef('vignette');
const isNear = useNear(vignette);
const still = computed(() => stillOf(props.sheet.look, Math.max(...props.sheet.seats), Number.parseInt(props.sheet.hash.slice(0, 6), 16)));
const card = computed(() => Math.min(ROOM.card, ROOM.width / still.value.width, ROOM.height / still.value.height));
const at = (n: number): string => `${n * card.value}px`;
</script>

<template>
  <div ref="vignette" class="vignette" aria-hidden="true">
    <div v-if="isNear" class="cards" :style="{ width: at(still.width), height: at(still.height) }">
      <template v-for="({ x, y, face }, i) in still.cards" :key="i">
        <i v-if="face === undefined" class="place" :style="{ left: at(x), top: at(y), width: at(1), height: at(1.4) }" />
        <CardFace v-else :face="face" :width="card" :style="{ left: at(x), top: at(y) }" />
      </template>
    </div>
  </div>
</template>

<style scoped>
.vignette {
  height: 96px;
  overflow: hidden;
  background: radial-gradient(ellipse 80% 90% at 50% 40%, var(--water), #2a4860 80%);
  display: grid;
  place-items: center;
}
.cards {
  position: relative;
}
.cards > * {
  position: absolute;
}
.place {
  border: 1px dashed rgb(223 230 234 / 0.4);
  border-radius: 2px;
}
</style>
