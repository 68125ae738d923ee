<script setup lang="ts">
import type { SheetSummary } from '@wily-jester/protocol';
import { computed } from 'vue';
import CardFace from './CardFace.vue';

/** A small still life for a game's tile: cards of its own, always the same ones. */
const props = defineProps<{ sheet: SheetSummary }>();
const FACES = 'A♠ K♥ Q♦ J♣ 10♥ 9♣ 8♠ 7♦ 6♥ 5♣ 4♠ 3♦ 2♥ K♠ 9♦ A♥ Q♣ J♥ 8♦ 7♣ 6♠ 5♥ 4♦ 3♣'.split(' ');
const faces = computed(() => {
  const at = Number.parseInt(props.sheet.hash.slice(0, 6), 16);
  return (i: number): string => FACES[(at + i * 7) % FACES.length] ?? 'A♠';
});
const hands = computed(() => Math.min(3, Math.max(...props.sheet.seats)));
</script>

<template>
  <div class="vignette" aria-hidden="true">
    <div class="top"><CardFace :face="null" :width="26" /><span class="pair"><CardFace :face="faces(0)" :width="30" /><CardFace :face="null" :width="30" /></span></div>
    <div class="bottom">
      <span v-for="h in hands" :key="h" class="pair"><CardFace :face="faces(h * 2)" :width="30" /><CardFace :face="faces(h * 2 + 1)" :width="30" /></span>
    </div>
  </div>
</template>

<style scoped>
.vignette {
  height: 96px;
  padding: 8px 20px 0;
  overflow: hidden;
  background: radial-gradient(ellipse 80% 90% at 50% 40%, var(--water), #2a4860 80%);
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.top,
.bottom {
  display: flex;
  justify-content: center;
  gap: 22px;
}
.bottom {
  justify-content: space-evenly;
}
.pair {
  display: flex;
}
.pair > :last-child {
  margin-left: -10px;
}
</style>
