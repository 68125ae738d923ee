<script setup lang="ts">
import type { Plan } from '@wily-jester/protocol';
import { computed, provide, ref, watch } from 'vue';
import { RouterLink } from 'vue-router';
import ActionPanel from './ActionPanel.vue';
import { seatedAround } from './around';
import type { Eyes } from './eyes';
import HintRows from './HintRows.vue';
import { HINTED } from './hinted';
import { useMarked } from './marked';
import OvalWater from './OvalWater.vue';
import PileView from './PileView.vue';
import { type DrawnPile, middleOf, seatPilesOf, spottedOf } from './piles';
import SeatZone from './SeatZone.vue';
import type { Shown } from './shown';
import { type HintQuestion, useHint } from './useHint';
import { useSizes } from './useSizes';
import { useTouch } from './useTouch';
import { useTravel } from './useTravel';
import { drawnFigures, statusOf } from './words';

/** The table itself, seen from one seat, with what may be done under it. */
const props = defineProps<{
  shown: Shown;
  /** Whose eyes; those who watch sit where seat 1 sits. */
  eyes: Eyes;
  /** All hands lie open. */
  open: boolean;
  /** One of several on a page: no keys, less room. */
  compact?: boolean;
  /** Nothing can be chosen. */
  still?: boolean;
  /** Nobody is asked for a hint: there is no service behind this table. */
  noHints?: boolean;
}>();
const emit = defineEmits<{ narrow: [isNarrow: boolean]; explain: [line: number | null] }>();

const { plan, table, view, clock, sent, refused, isMine, standIn, offers } = props.shown;
/** What a hint would be about: only where this page is the seat's own, and something is asked of it. */
const question = computed<HintQuestion | null>(() =>
  !props.noHints && !props.still && !props.compact && isMine.value && offers.value.length > 0 && table.value?.hints && typeof props.eyes === 'number' ? { table: table.value.id, ask: view.value?.waiting.ask ?? 0, seat: props.eyes } : null,
);
const { hint, isThinking, wrong: noHint, askForHint } = useHint(() => question.value);
provide(HINTED, hint);
const stage = ref<HTMLElement | null>(null);
const ownSeat = computed(() => (props.eyes === 'watch' ? 1 : props.eyes));
const others = computed(() => {
  const seats = table.value?.seats.map((seat) => seat.seat) ?? [];
  const at = seats.indexOf(ownSeat.value);
  return [...seats.slice(at + 1), ...seats.slice(0, at)];
});
const around = computed(() => seatedAround(others.value));
const spotted = computed(() => (view.value && plan.value ? spottedOf(view.value, plan.value) : null));
const middle = computed(() => (view.value && plan.value ? middleOf(view.value, plan.value, props.open) : []));
const { size, isNarrow, isTight, isAlone, isFew, isCrowded, isMeasuring, fit, cardWidth, ownWidth, ownRoom, stretch, spotsHeight } = useSizes(stage, {
  isCompact: () => props.compact === true,
  ownSeat,
  others,
  around,
  plan,
  view,
  spotted,
  middle,
});
watch(isNarrow, (now) => emit('narrow', now), { immediate: true });
/** On a phone all others stand in rows above the cards. */
const sides = computed(() => (isNarrow.value ? { left: [], top: others.value, right: [] } : around.value));

const { picked, finishers, playSet, lit, targets, optionOn, refusedOn, heldIn, touchPile, touchCard, touchTwice, aim } = useTouch(
  offers,
  view,
  refused,
  (option, args) => props.shown.choose(option, args),
);
props.shown.onHappened(useTravel(stage));

/** What every seat is drawn from, and what a touch there does. */
const seatProps = computed(() => ({
  lit,
  heldIn,
  optionOn,
  targets: targets.value,
  compact: isTight.value,
  cardWidth: cardWidth.value,
  room: isNarrow.value ? (isTight.value ? size.value.width * 0.16 : 92) : size.value.width * 0.2 * Math.max(0.5, fit.value),
}));
const seatTouches = { pile: touchPile, card: touchCard, double: touchTwice };
const heldBy = (seat: number) => table.value?.seats[seat - 1];
/** Who is here now says nothing of the past. */
const holderOf = (seat: number) => (props.still ? undefined : heldBy(seat));
/** What a pile in the middle is drawn from, and what a touch there does. */
const pileProps = (pile: DrawnPile) => ({
  pile,
  width: cardWidth.value,
  option: optionOn(pile.path),
  refused: refusedOn(pile.path),
  lit: lit(pile),
  target: targets.value.has(pile.path),
  held: heldIn(pile.path),
});
const pileTouches = (path: string) => ({
  pile: () => touchPile(path),
  card: (at: number) => touchCard(`${path}#${at}`),
  double: (at: number) => touchTwice(`${path}#${at}`),
});
const spotStyle = (pile: DrawnPile) => ({
  left: `${((pile.spot?.[0] ?? 0) * cardWidth.value) / 2}px`,
  top: `${((pile.spot?.[1] ?? 0) * cardWidth.value * 1.4 * stretch.value) / 4}px`,
});
const isHollow = (name: string): boolean => plan.value?.piles.find((p) => p.name === name)?.many !== null;

/** Nothing lies open yet, and nobody holds a card: then the game says in a sentence what it is. */
const firstWords = computed(() => {
  const now = view.value;
  if (!now || !plan.value || now.number > 0 || now.waiting.kind === 'over') return '';
  const laid = [...middle.value.flat(), ...(spotted.value ? [spotted.value.piles] : [])].flatMap((cell) => cell ?? []);
  const held = now.seats.flatMap(({ seat }) => seatPilesOf(now, plan.value as Plan, seat));
  const isBare = [...held, ...laid.filter(({ facing }) => facing !== 'down')].every(({ state }) => state.size === 0);
  return isBare ? (/^.*?[.!?](?=\s|$)/.exec(plan.value.blurb)?.[0] ?? plan.value.blurb) : '';
});
const { isPointed, was } = useMarked();
const status = computed(() => statusOf(view.value, table.value));
const winners = computed(() => (view.value?.result?.winners ?? []).map((seat) => heldBy(seat)?.name).join(' and '));
const tableValues = computed(() => drawnFigures(view.value?.values ?? {}, plan.value?.labels.table ?? {}));
const fault = computed(() => table.value?.fault ?? null);
</script>

<template>
  <div v-if="view && plan && table" class="whole" :class="{ narrow: isNarrow, tight: isTight, few: isFew, many: isNarrow && others.length > 4 }">
    <div ref="stage" class="stage" :style="{ '--stage': `${size.width}px` }" :class="{ measuring: isMeasuring }" :data-fit="fit.toFixed(2)">
      <OvalWater :width="isNarrow && !compact ? size.width * 1.35 : size.width" :height="size.height" :style="isNarrow && !compact ? { left: `${-size.width * 0.175}px` } : {}" />
      <div v-for="side in ['left', 'top', 'right'] as const" :key="side" class="sides" :class="side">
        <SeatZone v-for="seat in sides[side]" :key="seat" data-zone v-bind="seatProps" :beside="side === 'top' && !isTight" :view="view" :plan="plan" :seat="seat" :own="false" :holder="holderOf(seat)" v-on="seatTouches" />
      </div>
      <div class="middle" :class="{ alone: isAlone }">
        <div v-if="spotted" class="spots" data-zone :style="{ width: `${(spotted.width * cardWidth) / 2}px`, height: `${spotsHeight}px` }">
          <PileView v-for="pile in spotted.piles" :key="pile.path" class="spot" v-bind="pileProps(pile)" :style="spotStyle(pile)" :hollow="isHollow(pile.name)" v-on="pileTouches(pile.path)" />
        </div>
        <div v-for="(row, r) in middle" :key="r" class="row" data-zone>
          <template v-for="(cell, c) in row" :key="c">
            <span v-if="cell === null" class="gap" />
            <PileView v-for="pile in cell ?? []" :key="pile.path" v-bind="pileProps(pile)" :room="isTight ? size.width * 0.45 : isNarrow ? cardWidth * 1.9 : size.width * 0.24" :tall="size.height * 0.58" :named="isCrowded ? 'size' : true" v-on="pileTouches(pile.path)" />
          </template>
        </div>
        <p v-if="tableValues.length > 0" class="values" data-zone>
          <span v-for="{ name, words, value } in tableValues" :key="name" :class="{ pointed: isPointed(name) }">
            {{ words }} <b v-if="value">{{ value }}</b><em v-if="was.has(name)" class="was">was {{ was.get(name) }}</em>
          </span>
        </p>
        <p v-if="firstWords !== ''" class="first" data-zone>{{ firstWords }}</p>
        <p v-if="view.waiting.kind === 'over'" class="over" role="status" data-zone><b class="serif">The game is over.</b> {{ winners ? `${winners} ${view.result?.winners.length === 1 ? 'wins' : 'win'}.` : '' }}</p>
      </div>
      <div class="mine"><SeatZone data-zone v-bind="{ ...seatProps, cardWidth: ownWidth, room: ownRoom }" :view="view" :plan="plan" :seat="ownSeat" :own="eyes !== 'watch'" :holder="holderOf(ownSeat)" v-on="seatTouches" /><span v-if="offers.length > 0 && !isAlone && !isTight" class="glow" aria-hidden="true" /></div>
    </div>
    <div v-if="fault && !still" class="fault" role="alert">
      <b class="serif">The sheet made a fault.</b> Line {{ fault.line }}: {{ fault.message }} The table stands where it stood, at choice {{ fault.number }}. Nothing is lost.
      <RouterLink :to="{ path: `/games/${table.sheet}`, query: { line: fault.line } }">Open line {{ fault.line }}</RouterLink>
    </div>
    <ActionPanel
      v-if="!still"
      :offers="offers"
      :view="view"
      :ranks="plan.ranks"
      :viewer-name="eyes === 'watch' ? null : (heldBy(eyes)?.name ?? null)"
      :is-mine="isMine"
      :stand-in="standIn"
      :clock="clock"
      :sent="sent"
      :refused="refused"
      :status="status"
      :picked="picked.length"
      :finishers="finishers"
      :keyed="compact !== true"
      @choose="(option, args) => shown.choose(option, args)"
      @take-seat="shown.takeSeat()"
      @aim="aim"
      @play-set="playSet"
      @forget="refused = null"
      @explain="emit('explain', $event?.line ?? null)"
    >
      <template #beside>
        <button v-if="question && !hint" type="button" class="ask-hint" :disabled="isThinking" data-hint @click="askForHint">{{ isThinking ? 'Thinking …' : 'Hint' }}</button>
      </template>
    </ActionPanel>
    <HintRows :hint="hint" :wrong="noHint" @choose="(option, args) => shown.choose(option, args)" />
  </div>
</template>

<style scoped>
.ask-hint {
  min-height: 26px;
  padding: 2px 12px;
  border: 1px solid rgb(223 230 234 / 0.35);
  border-radius: 9px;
  background: none;
  color: var(--mist);
  font-weight: 600;
  font-size: 13px;
  cursor: pointer;
}
.whole {
  container: table / inline-size;
  flex: 1 1 0;
  min-width: 0;
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 10px;
}
.stage {
  position: relative;
  flex: 1 1 0;
  min-height: 0;
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  grid-template-rows: auto minmax(0, 1fr) auto;
}
.measuring :deep(*) {
  transition: none !important;
}
.sides,
.middle,
.mine {
  position: relative;
}
.sides {
  display: flex;
  justify-content: space-evenly;
}
.sides.left,
.sides.right {
  flex-direction: column;
  grid-row: 2 / 4;
  padding-bottom: 30px;
}
.sides.left,
.sides.right {
  max-width: calc(var(--stage) * 0.27);
}
.few .sides.left,
.few .sides.right {
  grid-row: 2;
  padding-bottom: 0;
}
.few .mine {
  grid-column: 1 / 4;
}
.sides.left {
  grid-column: 1;
}
.sides.right {
  grid-column: 3;
}
.sides.top {
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 4px 10px;
  grid-column: 1 / 4;
  grid-row: 1;
  padding: 14px 6% 0;
}
.middle {
  grid-column: 2;
  grid-row: 2;
  display: flex;
  flex-direction: column;
  justify-content: safe center;
  align-items: center;
  gap: 14px;
}
.middle.alone {
  grid-column: 1 / 4;
}
.middle.alone .row {
  gap: 1.6%;
  width: 100%;
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
.was {
  margin-left: 6px;
  color: var(--soft-teal);
  font-style: normal;
}
.pointed {
  padding: 0 5px;
  border-radius: 8px;
  box-shadow: 0 0 0 2.5px var(--soft-teal);
}
.values b {
  color: var(--paper);
  font-weight: 600;
}
.first {
  max-width: 44ch;
  color: var(--mist-2);
  font-size: 15px;
  text-align: center;
}
.over {
  background: var(--abyss);
  border-radius: 10px;
  padding: 8px 16px;
}
.mine {
  grid-column: 2;
  grid-row: 3;
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
.narrow .stage {
  overflow: hidden;
}
.narrow .sides.top {
  padding: 8px 4px 0;
}
.narrow .mine :deep(.hands) {
  padding-inline: 4px;
}
.narrow .middle {
  justify-content: flex-start;
  grid-column: 1 / 4;
  padding-top: 8px;
}
.narrow .row {
  gap: 14px;
  /* Lit piles stand so close there that their rims would touch. */
  --reach: 3px;
}
.narrow .mine {
  grid-column: 1 / 4;
  padding-bottom: 14px;
}
.narrow .panel {
  margin-top: auto;
}
.tight .sides {
  gap: 0;
  padding-top: 4px;
}
/* So many on a phone: each in two lines. */
.many .sides :deep(.who > div) {
  display: flex;
  flex-wrap: wrap;
  gap: 0 6px;
  max-width: 116px;
}
.many .sides :deep(.who b) {
  flex-basis: 100%;
}
.many .sides :deep(.standing) {
  display: none;
}
.many .sides :deep(.seat) {
  padding-block: 1px;
}
.tight .middle {
  gap: 4px;
  padding-top: 8px;
}
.tight .values {
  font-size: 12px;
}
.tight .mine {
  padding-bottom: 4px;
}
</style>
