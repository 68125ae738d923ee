<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import PageNotice from '../parts/PageNotice.vue';
import { type Eyes, firstEyes } from '../table/eyes';
import SpokenLog from '../table/SpokenLog.vue';
import TableHead from '../table/TableHead.vue';
import TableHost from '../table/TableHost.vue';
import TablePlay from '../table/TablePlay.vue';
import { useTable } from '../table/useTable';
import { offerWords, statusOf } from '../table/words';

const route = useRoute();
const live = useTable(String(route.params.table));
const { plan, table, view, connection, problem, offers, chapters } = live;
const open = ref(false);
const lastSeat = ref<Eyes>('watch');
const logShown = ref(false);
const isNarrow = ref(false);

onMounted(() => {
  void live.open((summary) => {
    lastSeat.value = firstEyes(summary, route.query.eyes);
    return lastSeat.value;
  });
});

watch([open, lastSeat], ([isOpen, seat]) => live.look(isOpen ? 'open' : seat));

const names = computed(() => table.value?.seats.map((s) => s.name) ?? []);
const prompt = computed(() => {
  if (offers.value.length === 0) return view.value?.waiting.kind === 'ask' ? `${statusOf(view.value, table.value)}.` : null;
  const words = offers.value.filter((o) => o.legal).map((o) => offerWords(o.label));
  return `You are asked: ${words.length > 1 ? `${words.slice(0, -1).join(', ')} or ${words.at(-1)}` : words[0]}.`;
});
const log = computed(() => ({
  chapters: chapters.value,
  names: names.value,
  prompt: prompt.value,
  number: view.value?.number ?? 0,
  commitment: table.value?.commitment ?? '',
  fair: table.value?.promisesFairness === true,
  branched: Boolean(table.value?.parent),
  table: table.value?.id ?? '',
  eyes: lastSeat.value,
}));
</script>

<template>
  <PageNotice v-if="problem" tone="fault" title="This table cannot be shown" :text="problem"><RouterLink class="notice-button" to="/tables">See the tables</RouterLink></PageNotice>
  <PageNotice v-else-if="!view || !plan || !table" tone="loading" title="Fetching the table" text="The cards are on their way." />
  <main v-else class="page" :class="{ narrow: isNarrow }">
    <section class="play">
      <TableHead v-model:eyes="lastSeat" v-model:open="open" :table="table" :words="view.chapter.title" :narrow="isNarrow">
        <TableHost :table="table" :plan="plan" :eyes="lastSeat" />
        <button v-if="isNarrow" type="button" class="quiet said" :aria-expanded="logShown" @click="logShown = !logShown">{{ logShown ? 'Table' : 'What was said' }}</button>
      </TableHead>
      <p v-if="connection === 'lost'" class="lost" role="status">The connection is lost. Trying again; nothing that was answered is lost.</p>
      <TablePlay v-show="!(isNarrow && logShown)" :shown="live" :eyes="lastSeat" :open="open" @narrow="isNarrow = $event" />
      <SpokenLog v-if="isNarrow && logShown" v-bind="log" />
    </section>
    <SpokenLog v-if="!isNarrow" v-bind="log" />
  </main>
</template>

<style scoped>
.page {
  flex: none;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 316px;
  grid-template-rows: minmax(0, 1fr);
  height: calc(100dvh - var(--bar));
  min-height: 560px;
}
.page.narrow {
  grid-template-columns: minmax(0, 1fr);
}
.play {
  display: flex;
  flex-direction: column;
  gap: 10px;
  padding: 14px 24px 20px;
  color: var(--mist);
  background: radial-gradient(ellipse 80% 70% at 50% 40%, #1d3347, var(--deep) 80%);
  min-height: 0;
  overflow: hidden;
}
.said {
  color: var(--mist);
  min-height: 44px;
  text-decoration: underline;
}
.lost {
  background: var(--abyss);
  border-left: 4px solid var(--refused);
  border-radius: 8px;
  padding: 8px 14px;
}
.narrow .play {
  padding: 10px 0 0;
}
</style>
