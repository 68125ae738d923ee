<script setup lang="ts">
import { readFairness, verifyFairness } from '@wily-jester/core';
import { ref, watch } from 'vue';
import { client } from '../session';

/** What was promised before the deal, and whether the cards that were seen since agree with it: checked here, in the browser. */
const props = defineProps<{ table: string; viewer: number | 'watch' | undefined; commitment: string; number: number }>();
const said = ref('');
const isWrong = ref(false);
const head = ref('');
const busy = ref(false);

async function check(): Promise<void> {
  busy.value = true;
  try {
    const verdict = verifyFairness(readFairness(await client.value.fairness(props.table, props.viewer)));
    const { agrees, cards, checks, isWhole } = verdict;
    isWrong.value = !agrees;
    head.value = verdict.head;
    const others = cards.seenNotOpened > 0 ? ` ${cards.seenNotOpened} came by way of another hand.` : '';
    said.value = agrees
      ? `${cards.agree} of ${cards.opened} cards that you saw agree.${others}${isWhole ? ' So do all orders, with the seed.' : ''}`
      : `It does not agree: ${checks.find((one) => !one.agrees)?.wrong}.`;
  } catch (error) {
    isWrong.value = true;
    said.value = error instanceof Error ? error.message : String(error);
  } finally {
    busy.value = false;
  }
}
// What was said is about the table as it stood.
watch(
  () => props.number,
  () => {
    said.value = '';
  },
);
</script>

<template>
  <div class="fair">
    Promised before the deal<br /><span class="mono" :title="commitment">{{ commitment.slice(0, 4) }} {{ commitment.slice(4, 8) }} … {{ commitment.slice(-4) }}</span>
    <button type="button" class="quiet" :disabled="busy" @click="check">Check it</button>
    <p v-if="said" role="status" :class="{ wrong: isWrong }">{{ said }}<br v-if="head && !isWrong" /><span v-if="head && !isWrong" class="mono head" title="Whoever has the same was promised the same">{{ head.slice(0, 5) }} {{ head.slice(5, 10) }} … {{ head.slice(-5) }}</span></p>
  </div>
</template>

<style scoped>
button {
  color: var(--teal-text);
  font-weight: 600;
  text-decoration: underline;
  margin-left: 10px;
}
p {
  margin-top: 4px;
}
.wrong {
  color: var(--red-text);
}
.head {
  color: var(--ink-2);
}
</style>
