<script setup lang="ts">
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import PageNotice from '../parts/PageNotice.vue';
import RecordRail from '../past/RecordRail.vue';
import { usePast } from '../past/usePast';
import { client, role } from '../session';
import { type Eyes, eyesIn, firstEyes } from '../table/eyes';
import TableHead from '../table/TableHead.vue';
import TablePlay from '../table/TablePlay.vue';

/** A table's record, to go through choice by choice from any seat's eyes, and to go on from. */
const route = useRoute();
const router = useRouter();
const id = String(route.params.table);
const past = usePast(id);
const { plan, table, view, step, steps, number, problem, chapters, isReading } = past;
const isDeveloper = computed(() => role.value === 'developer');
const open = ref(false);
const lastSeat = ref<Eyes>('watch');
const anew = ref(true);
const busy = ref(false);
const isNarrow = ref(false);
const wrong = ref('');

onMounted(() => {
  const at = Number(route.query.at);
  void past.open((summary) => {
    lastSeat.value = firstEyes(summary, route.query.eyes);
    return lastSeat.value;
  }, route.query.at === undefined || Number.isNaN(at) ? undefined : at);
});
watch([open, lastSeat], ([isOpen, seat]) => void past.look(isOpen ? 'open' : seat));

const last = computed(() => table.value?.number ?? 0);
const chapterStarts = computed(() => chapters.value.map((chapter) => chapter.from));
const toChapter = (by: 1 | -1): void => {
  const starts = chapterStarts.value;
  const to = by > 0 ? starts.find((start) => start > number.value) : starts.findLast((start) => start < number.value);
  void past.go(to ?? (by > 0 ? last.value : 0));
};
function typed(event: KeyboardEvent): void {
  if ((event.target as HTMLElement | null)?.closest('input, button, [role=radiogroup]')) return;
  if (event.key === 'ArrowLeft') void past.go(number.value - 1);
  if (event.key === 'ArrowRight') void past.go(number.value + 1);
}
onMounted(() => addEventListener('keydown', typed));
onUnmounted(() => removeEventListener('keydown', typed));

const lines = computed(() => step.value?.lines.filter((line) => line.kind !== 'chapter') ?? []);
async function goOn(): Promise<void> {
  busy.value = true;
  wrong.value = '';
  try {
    const { table: made } = await client.value.branch(id, { number: number.value, same: !anew.value });
    await router.push({ path: `/tables/${made.id}`, query: eyesIn(lastSeat.value) });
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <PageNotice v-if="problem && !view" tone="fault" title="The past of this table cannot be shown" :text="problem"><RouterLink class="notice-button" :to="`/tables/${id}`">To the table</RouterLink></PageNotice>
  <PageNotice v-else-if="!view || !plan || !table" tone="loading" title="Reading the record" text="Choice by choice." />
  <main v-else class="page">
    <TableHead v-model:eyes="lastSeat" v-model:open="open" :table="table" :words="['looking back', view.chapter.title].filter(Boolean).join(' · ')" :narrow="isNarrow"><RouterLink :to="{ path: `/tables/${id}`, query: eyesIn(lastSeat) }" class="to">To the table</RouterLink></TableHead>
    <TablePlay :class="{ reading: isReading }" :aria-busy="isReading" :shown="past.shown" :eyes="lastSeat" :open="open" still @narrow="isNarrow = $event" />
    <section class="panel" aria-label="The record">
      <div class="steps">
        <button type="button" aria-label="The chapter before" :disabled="number === 0" @click="toChapter(-1)">«</button>
        <button type="button" aria-label="The choice before" :disabled="number === 0" @click="past.go(number - 1)">‹</button>
        <b class="mono">{{ number }}</b>
        <button type="button" aria-label="The next choice" :disabled="number >= last" @click="past.go(number + 1)">›</button>
        <button type="button" aria-label="The next chapter" :disabled="number >= last" @click="toChapter(1)">»</button>
      </div>
      <RecordRail :chapters="chapters" :steps="steps" :number="number" :last="last" @go="past.go" />
      <div v-if="isDeveloper" class="branch">
        <ToggleSwitch v-model="anew" input-id="anew" /><label for="anew">Deal anew what no player has seen</label>
        <button type="button" class="go" :disabled="busy" @click="goOn">Go on from here</button>
      </div>
      <p class="said" role="status"><template v-if="wrong || problem"><b class="wrong">{{ wrong || problem }}</b></template><template v-else-if="lines.length > 0"><span v-for="(line, i) in lines" :key="i">{{ line.text }}</span></template><template v-else>Number {{ number }}.</template></p>
    </section>
  </main>
</template>

<style scoped>
/* Only a wait that can be felt is shown. */
.reading {
  opacity: 0.45;
  transition: opacity 120ms 250ms;
}
.page {
  flex: none;
  display: flex;
  flex-direction: column;
  gap: 10px;
  height: calc(100dvh - var(--bar));
  min-height: 600px;
  padding: 14px 24px 20px;
  color: var(--mist);
  background: radial-gradient(ellipse 80% 70% at 50% 40%, #1d3347, var(--deep) 80%);
}
.panel {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px 22px;
  padding: 14px 20px;
  border-radius: 20px;
  background: var(--abyss);
}
.steps {
  display: flex;
  align-items: center;
  gap: 4px;
}
.steps button {
  width: 40px;
  height: 40px;
  border: 0;
  border-radius: 10px;
  background: rgb(223 230 234 / 0.12);
  color: #fff;
  font-size: 20px;
  line-height: 20px;
  cursor: pointer;
}
.steps button:disabled {
  opacity: 0.35;
  cursor: default;
}
.steps b {
  min-width: 52px;
  text-align: center;
  color: #fff;
  font-size: 15px;
}
.branch {
  display: flex;
  align-items: center;
  gap: 10px;
  font-size: 13px;
}
.go {
  min-height: 44px;
  padding: 8px 18px;
  border: 0;
  border-radius: 10px;
  background: var(--teal);
  color: #fff;
  font-weight: 600;
  font-size: 15px;
  cursor: pointer;
}
.said span {
  margin-right: 6px;
}
.said {
  flex: 1 1 100%;
  min-height: 20px;
  color: var(--mist-2);
}
.wrong {
  color: var(--soft-red);
}
.to {
  color: var(--soft-teal);
  font-weight: 600;
}
@media (max-width: 700px) {
  .panel {
    border-radius: 20px 20px 0 0;
  }
  .page {
    padding: 10px 0 14px;
    min-height: 780px;
  }
  .branch {
    flex-wrap: wrap;
  }
}
</style>
