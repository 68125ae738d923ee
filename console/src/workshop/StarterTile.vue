<script setup lang="ts">
import CardFace from '../parts/CardFace.vue';
import type { Starter } from './starters';

/** A game to begin with, with its table drawn. */
defineProps<{ starter: Starter }>();
const emit = defineEmits<{ begin: [] }>();
/** What lies on each table, and where: left and top in hundredths, `null` for a back. */
const DRAWN: Readonly<Record<string, readonly (readonly [face: string | null, x: number, y: number])[]>> = {
  'High Heron': [[null, 12, 22], ['9♠', 44, 40], ['K♦', 62, 22], ['3♣', 80, 40]],
  'Between the Banks': [[null, 8, 30], ['4♠', 34, 30], ['8♥', 53, 20], ['J♦', 72, 30]],
  'Nine Stones': [['4♠', 8, 12], ['7♥', 24, 12], ['2♣', 40, 12], ['9♦', 56, 12], ['A♠', 72, 12], ['5♥', 16, 52], ['6♦', 32, 52], ['10♣', 48, 52], ['3♠', 64, 52]],
};
</script>

<template>
  <button type="button" class="tile" @click="emit('begin')">
    <span class="water" aria-hidden="true"><span v-for="([face, x, y], i) in DRAWN[starter.name]" :key="i" class="card" :style="{ left: `${x}%`, top: `${y}%` }"><CardFace :face="face" :width="44" label=" " /></span></span>
    <b class="serif">{{ starter.name }}</b>
    <em>{{ starter.kind }}</em>
    <span>{{ starter.words }}</span>
  </button>
</template>

<style scoped>
.tile {
  display: grid;
  gap: 2px;
  width: 100%;
  padding: 0 0 16px;
  border: 1px solid var(--line);
  border-radius: 16px;
  background: var(--code);
  text-align: left;
  overflow: hidden;
  cursor: pointer;
}
.tile:hover {
  border-color: var(--teal);
}
.tile > :not(.water) {
  padding: 0 18px;
}
.tile b {
  margin-top: 12px;
  font-size: 19px;
  line-height: 25px;
}
.tile em {
  color: var(--plum);
  font-style: normal;
  font-weight: 600;
  font-size: 13px;
}
.tile span {
  color: var(--ink-2);
}
.water {
  position: relative;
  height: 132px;
  background: radial-gradient(ellipse 80% 90% at 50% 45%, #24425c, var(--deep));
}
.card {
  position: absolute;
}
</style>
