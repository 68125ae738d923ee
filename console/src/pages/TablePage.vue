<script setup lang="ts">
import type { TableSummary } from '@wily-jester/protocol';
import SelectButton from 'primevue/selectbutton';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, onMounted, onUnmounted, ref, watch } from 'vue';
import { RouterLink, useRoute } from 'vue-router';
import PageNotice from '../parts/PageNotice.vue';
import { role } from '../session';
import ActionPanel from '../table/ActionPanel.vue';
import OvalWater from '../table/OvalWater.vue';
import PileView from '../table/PileView.vue';
import { middleOf, spottedOf } from '../table/piles';
import SeatZone from '../table/SeatZone.vue';
import SpokenLog from '../table/SpokenLog.vue';
import { useTable } from '../table/useTable';
import { useTouch } from '../table/useTouch';
import { useTravel } from '../table/useTravel';

const route = useRoute();
const live = useTable(String(route.params.table));
const { plan, table, view, clock, connection, problem, sent, refused, isMine, offers, chapters } = live;
const stage = ref<HTMLElement | null>(null);
const size = ref({ width: 900, height: 520 });
const open = ref(false);
const lastSeat = ref<number | 'watch'>('watch');
const logShown = ref(false);
const isNarrow = computed(() => size.value.width < 700);
const isDeveloper = computed(() => role.value === 'developer');

const firstEyes = (summary: TableSummary): number | 'watch' => {
  const people = summary.seats.filter((seat) => seat.bot === null);
  return people[0]?.seat ?? 'watch';
};
onMounted(() => {
  void live.open((summary) => {
    lastSeat.value = firstEyes(summary);
    return lastSeat.value;
  });
});
let observer: ResizeObserver | undefined;
watch(stage, (element) => {
  observer?.disconnect();
  if (!element) return;
  observer = new ResizeObserver(([entry]) => {
    if (entry) size.value = { width: entry.contentRect.width, height: entry.contentRect.height };
  });
  observer.observe(element);
});
onUnmounted(() => observer?.disconnect());

const eyes = computed(() => [...(table.value?.seats.map((seat) => ({ name: seat.name, value: seat.seat as number | 'watch' })) ?? []), { name: 'watchers', value: 'watch' as const }]);
function seenBy(as: number | 'watch'): void {
  lastSeat.value = as;
  live.look(open.value ? 'open' : as);
}
watch(open, (now) => live.look(now ? 'open' : lastSeat.value));

const ownSeat = computed(() => (lastSeat.value === 'watch' ? 1 : lastSeat.value));
const others = computed(() => {
  const seats = table.value?.seats.map((seat) => seat.seat) ?? [];
  const at = seats.indexOf(ownSeat.value);
  return [...seats.slice(at + 1), ...seats.slice(0, at)];
});
const leftSeats = computed(() => others.value.slice(0, Math.ceil(others.value.length / 2)).reverse());
const rightSeats = computed(() => others.value.slice(Math.ceil(others.value.length / 2)));
const botOf = (seat: number): string | null => table.value?.seats[seat - 1]?.bot ?? null;

const crowd = computed(() => Math.max(leftSeats.value.length, rightSeats.value.length, 1));
const spotted = computed(() => (view.value && plan.value ? spottedOf(view.value, plan.value) : null));
const middle = computed(() => (view.value && plan.value ? middleOf(view.value, plan.value, open.value) : []));
/** The most piles that stand side by side in the middle. */
const widest = computed(() =>
  Math.max(1, (spotted.value?.width ?? 0) / 2.44, ...middle.value.map((row) => row.reduce((sum, cell) => sum + (cell === null ? 0.3 : cell.length), 0))),
);
const isAlone = computed(() => others.value.length === 0);
const cardWidth = computed(() => {
  const { width, height } = size.value;
  const across = (width * (isAlone.value ? 0.9 : isNarrow.value ? 0.94 : 0.44)) / (widest.value * 1.22);
  if (isNarrow.value) return Math.round(Math.max(30, Math.min(crowd.value > 1 ? 36 : 46, across)));
  if (spotted.value) return Math.round(Math.max(34, Math.min(92, across, (height * 0.72) / ((spotted.value.height / 4) * 1.4))));
  const room = isAlone.value ? height / 7 : Math.min(width / 12.5, height / (4.2 + crowd.value * 1.6));
  return Math.round(Math.max(44, Math.min(76, room, Math.max(across, isAlone.value ? 44 : 56))));
});
const ownWidth = computed(() => Math.round(cardWidth.value * (isNarrow.value ? (crowd.value > 1 ? 1.9 : 1.7) : 1.4)));

const { picked, finishers, playSet, lit, targets, optionOn, refusedOn, heldIn, touchPile, touchCard, touchTwice, aim } = useTouch(
  offers,
  view,
  refused,
  live.choose,
);
live.onHappened(useTravel(stage));

// ---- words

const status = computed(() => {
  const now = view.value?.waiting;
  if (!now || !table.value) return '';
  if (table.value.status === 'closed') return 'The table is closed';
  if (now.kind === 'over') return 'The game is over';
  if (now.kind === 'pause') return 'A moment’s rest';
  const names = (now.seats ?? []).map((seat) => table.value?.seats[seat - 1]?.name);
  return names.length === 1 ? `${names[0]} is asked` : `${names.slice(0, -1).join(', ')} and ${names.at(-1)} are asked`;
});
const prompt = computed(() => {
  if (offers.value.length === 0) return view.value?.waiting.kind === 'ask' ? `${status.value}.` : null;
  const words = offers.value.filter((o) => o.legal).map((o) => o.label.replace(/ ?\{\w+\}/g, ''));
  return `You are asked: ${words.length > 1 ? `${words.slice(0, -1).join(', ')} or ${words.at(-1)}` : words[0]}.`;
});
const winners = computed(() => (view.value?.result?.winners ?? []).map((seat) => table.value?.seats[seat - 1]?.name).join(' and '));
const tableValues = computed(() => Object.entries(view.value?.values ?? {}));
const fault = computed(() => table.value?.fault ?? null);
</script>

<template>
  <PageNotice v-if="problem" tone="fault" title="This table cannot be shown" :text="problem"><RouterLink class="notice-button" to="/tables">See the tables</RouterLink></PageNotice>
  <PageNotice v-else-if="!view || !plan || !table" tone="loading" title="Fetching the table" text="The cards are on their way." />
  <main v-else class="page" :class="{ narrow: isNarrow }">
    <section class="play">
      <header class="head">
        <div class="title"><h1>{{ table.game }}</h1><p>{{ view.chapter.title }}</p></div>
        <div class="eyes">
          <template v-if="isDeveloper">
            <span id="seen-by">Seen by</span>
            <SelectButton :model-value="lastSeat" :options="eyes" option-label="name" option-value="value" :allow-empty="false" aria-labelledby="seen-by" class="seen" @update:model-value="seenBy" />
            <ToggleSwitch v-model="open" input-id="open-hands" /><label for="open-hands">Open hands</label>
          </template>
          <button v-if="isNarrow" type="button" class="quiet said" :aria-expanded="logShown" @click="logShown = !logShown">{{ logShown ? 'Table' : 'What was said' }}</button>
        </div>
      </header>
      <p v-if="connection === 'lost'" class="lost" role="status">The connection is lost. Trying again; nothing that was answered is lost.</p>
      <div v-show="!(isNarrow && logShown)" ref="stage" class="stage">
        <OvalWater :width="isNarrow ? size.width * 1.35 : size.width" :height="size.height" :style="isNarrow ? { left: `${-size.width * 0.175}px` } : {}" />
        <div class="sides left"><SeatZone v-for="seat in leftSeats" :key="seat" :view="view" :plan="plan" :seat="seat" :own="false" :bot="botOf(seat)" :card-width="cardWidth" :room="isNarrow ? 92 : size.width * 0.2" :lit="lit" :held-in="heldIn" :targets="targets" :option-on="optionOn" @pile="touchPile" @card="touchCard" @double="touchTwice" /></div>
        <div class="middle" :class="{ alone: isAlone }">
          <div v-if="spotted" class="spots" :style="{ width: `${(spotted.width * cardWidth) / 2}px`, height: `${(spotted.height * cardWidth * 1.4) / 4}px` }">
            <PileView
              v-for="pile in spotted.piles"
              :key="pile.path"
              class="spot"
              :style="{ left: `${((pile.spot?.[0] ?? 0) * cardWidth) / 2}px`, top: `${((pile.spot?.[1] ?? 0) * cardWidth * 1.4) / 4}px` }"
              :pile="pile"
              :width="cardWidth"
              :hollow="plan.piles.find((p) => p.name === pile.name)?.many !== null"
              :option="optionOn(pile.path)"
              :refused="refusedOn(pile.path)"
              :lit="lit(pile)"
              :target="targets.has(pile.path)"
              :held="heldIn(pile.path)"
              @pile="touchPile(pile.path)"
              @card="touchCard(`${pile.path}#${$event}`)"
              @double="touchTwice(`${pile.path}#${$event}`)"
            />
          </div>
          <div v-for="(row, r) in middle" :key="r" class="row">
            <template v-for="(cell, c) in row" :key="c">
              <span v-if="cell === null" class="gap" />
              <PileView
                v-for="pile in cell ?? []"
                :key="pile.path"
                :pile="pile"
                :width="cardWidth"
                :room="isNarrow ? cardWidth * 1.9 : size.width * 0.24"
                :tall="size.height * 0.58"
                named
                :option="optionOn(pile.path)"
                :refused="refusedOn(pile.path)"
                :lit="lit(pile)"
                :target="targets.has(pile.path)"
                :held="heldIn(pile.path)"
                @pile="touchPile(pile.path)"
                @card="touchCard(`${pile.path}#${$event}`)"
                @double="touchTwice(`${pile.path}#${$event}`)"
              />
            </template>
          </div>
          <p v-if="tableValues.length > 0" class="values"><span v-for="[name, value] in tableValues" :key="name">{{ plan.labels.table[name] }} <b>{{ value }}</b></span></p>
          <p v-if="view.waiting.kind === 'over'" class="over" role="status"><b class="serif">The game is over.</b> {{ winners ? `${winners} ${view.result?.winners.length === 1 ? 'wins' : 'win'}.` : '' }}</p>
        </div>
        <div class="sides right"><SeatZone v-for="seat in rightSeats" :key="seat" :view="view" :plan="plan" :seat="seat" :own="false" :bot="botOf(seat)" :card-width="cardWidth" :room="isNarrow ? 92 : size.width * 0.2" :lit="lit" :held-in="heldIn" :targets="targets" :option-on="optionOn" @pile="touchPile" @card="touchCard" @double="touchTwice" /></div>
        <div class="mine"><SeatZone :view="view" :plan="plan" :seat="ownSeat" :own="lastSeat !== 'watch'" :bot="botOf(ownSeat)" :card-width="ownWidth" :room="isNarrow ? size.width * 0.86 : Math.min(size.width * (leftSeats.length > 0 && rightSeats.length > 0 ? 0.54 : 0.62), 620)" :lit="lit" :held-in="heldIn" :targets="targets" :option-on="optionOn" @pile="touchPile" @card="touchCard" @double="touchTwice" /><span v-if="offers.length > 0" class="glow" aria-hidden="true" /></div>
      </div>
      <SpokenLog v-if="isNarrow && logShown" :chapters="chapters" :names="table.seats.map((s) => s.name)" :prompt="prompt" :number="view.number" :commitment="table.commitment" :fair="table.promisesFairness" />
      <div v-if="fault" class="fault" role="alert">
        <b class="serif">The sheet made a fault.</b> Line {{ fault.line }}: {{ fault.message }} The table stands where it stood, at choice {{ fault.number }}. Nothing is lost.
        <RouterLink :to="{ path: `/games/${table.sheet}`, query: { line: fault.line } }">Open line {{ fault.line }}</RouterLink>
      </div>
      <ActionPanel :offers="offers" :view="view" :viewer-name="lastSeat === 'watch' ? null : (table.seats[lastSeat - 1]?.name ?? null)" :is-mine="isMine" :clock="clock" :sent="sent" :refused="refused" :status="status" :picked="picked.length" :finishers="finishers" @choose="(option, args) => live.choose(option, args)" @aim="aim" @play-set="playSet" @forget="refused = null" />
    </section>
    <SpokenLog v-if="!isNarrow" :chapters="chapters" :names="table.seats.map((s) => s.name)" :prompt="prompt" :number="view.number" :commitment="table.commitment" :fair="table.promisesFairness" />
  </main>
</template>

<style scoped>
.page {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 316px;
  height: calc(100dvh - 56px);
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
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px 16px;
  flex-wrap: wrap;
}
.title {
  display: flex;
  align-items: baseline;
  gap: 14px;
}
.title h1 {
  font-size: 24px;
  line-height: 30px;
  color: var(--paper);
}
.title p {
  color: var(--mist-3);
}
.eyes {
  display: flex;
  align-items: center;
  gap: 10px;
  color: var(--mist-2);
  font-size: 13px;
}
.seen {
  background: rgb(10 20 30 / 0.45);
  border-radius: 10px;
  padding: 3px;
}
.seen :deep(.p-togglebutton) {
  background: none;
  border: 0;
  color: var(--mist-2);
  padding: 0;
}
.seen :deep(.p-togglebutton-content) {
  padding: 5px 11px;
  border-radius: 7px;
  background: none;
  box-shadow: none;
}
.seen :deep(.p-togglebutton-checked .p-togglebutton-content) {
  background: var(--mist);
  color: var(--ink);
  font-weight: 600;
}
.said {
  color: var(--mist);
  min-height: 44px;
  text-decoration: underline;
}
.stage {
  position: relative;
  flex: 1 1 0;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.55fr) minmax(0, 1fr);
  grid-template-rows: 1fr auto;
}
.sides,
.middle,
.mine {
  position: relative;
}
.sides {
  display: flex;
  flex-direction: column;
  justify-content: center;
  gap: 8px;
  grid-row: 1 / 3;
}
.sides.left {
  grid-column: 1;
  padding-bottom: 40px;
}
.sides.right {
  grid-column: 3;
  padding-bottom: 40px;
}
.middle {
  grid-column: 2;
  grid-row: 1;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 14px;
  padding-top: 26px;
}
.middle.alone {
  grid-column: 1 / 4;
}
.middle.alone .row {
  gap: 1.6%;
  width: 100%;
}
.narrow .middle.alone {
  grid-column: 1 / 3;
}
.row {
  display: flex;
  align-items: flex-start;
  justify-content: center;
  gap: 30px;
}
.spots {
  position: relative;
}
.spot {
  position: absolute !important;
}
.gap {
  width: 12px;
}
.values {
  display: flex;
  gap: 16px;
  color: var(--mist-2);
  font-size: 13px;
}
.values b {
  color: var(--paper);
  font-weight: 600;
}
.over {
  background: var(--abyss);
  border-radius: 10px;
  padding: 8px 16px;
}
.mine {
  grid-column: 1 / 4;
  grid-row: 2;
  display: grid;
  justify-items: center;
  padding-bottom: 22px;
  pointer-events: none;
}
.mine > * {
  pointer-events: auto;
}
.glow {
  position: absolute;
  bottom: 6px;
  width: 200px;
  height: 16px;
  background: repeating-linear-gradient(#e3a03a 0 2px, transparent 2px 6px);
  opacity: 0.32;
  clip-path: polygon(12% 0, 90% 0, 100% 40%, 80% 60%, 70% 100%, 24% 100%, 30% 60%, 0 40%);
  pointer-events: none;
}
.lost {
  background: var(--abyss);
  border-left: 4px solid var(--refused);
  border-radius: 8px;
  padding: 8px 14px;
}
.fault {
  background: var(--paper);
  color: var(--ink);
  border-left: 6px solid var(--vermilion);
  border-radius: 10px;
  padding: 12px 16px;
}
.fault a {
  font-weight: 600;
  margin-left: 8px;
}
.narrow .play {
  padding: 10px 0 0;
}
.narrow .head {
  padding: 0 16px;
}
.narrow .title {
  gap: 10px;
}
.narrow .stage {
  grid-template-columns: 1fr 1fr;
  grid-template-rows: auto 1fr auto;
  overflow: hidden;
}
.narrow .sides {
  grid-row: 1;
  padding: 10px 0 0;
  justify-content: flex-start;
}
.narrow .sides.left {
  grid-column: 1;
}
.narrow .sides.right {
  grid-column: 2;
}
.narrow .middle {
  grid-column: 1 / 3;
  grid-row: 2;
  padding-top: 8px;
}
.narrow .row {
  gap: 14px;
}
.narrow .mine {
  grid-column: 1 / 3;
  grid-row: 3;
  padding-bottom: 14px;
}
.narrow .eyes {
  flex-wrap: wrap;
}
.narrow .panel {
  margin-top: auto;
}
</style>
