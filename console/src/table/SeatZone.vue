<script setup lang="ts">
import type { Plan, TableSummary, TableView } from '@wily-jester/protocol';
import { computed } from 'vue';
import CounterStack from '../parts/CounterStack.vue';
import SeatMark from '../parts/SeatMark.vue';
import { useMarked } from './marked';
import PileView from './PileView.vue';
import { type DrawnPile, notesOf, seatPilesOf } from './piles';
import { drawnFigures, figureWords } from './words';

const props = defineProps<{
  view: TableView;
  plan: Plan;
  seat: number;
  own: boolean;
  /** Who holds the seat. */
  holder: TableSummary['seats'][number] | undefined;
  cardWidth: number;
  room: number;
  /** One of several tables on a page: figures instead of counters, less room. */
  compact?: boolean;
  /** The name stands beside the cards, as there is less room above each other. */
  beside?: boolean;
  lit: (pile: DrawnPile) => ReadonlySet<number>;
  heldIn: (path: string) => ReadonlySet<number>;
  targets: ReadonlySet<string>;
  optionOn: (path: string) => string | undefined;
}>();
const emit = defineEmits<{ pile: [path: string]; card: [handle: string]; double: [handle: string] }>();

const { isPointed, was } = useMarked();
const shown = computed(() => props.view.seats.find((s) => s.seat === props.seat));
const piles = computed(() => seatPilesOf(props.view, props.plan, props.seat));
/** Empty piles take no room beside others, unless something may be done with them. */
const shownPiles = computed(() => {
  const filled = piles.value.filter((pile) => pile.state.size > 0 || props.targets.has(pile.path) || props.optionOn(pile.path) !== undefined);
  return filled.length > 0 ? filled : piles.value.slice(0, 1);
});
const asked = computed(() => props.view.waiting.kind === 'ask' && props.view.waiting.seats?.includes(props.seat) === true);
const answered = computed(() => props.view.waiting.answered?.includes(props.seat) === true);
/** Figures in words: numbers stand before what they count. */
const figuresThat = (isDrawn: (name: string, value: unknown) => boolean) => {
  const values = Object.entries(shown.value?.values ?? {}).filter(([name, value]) => isDrawn(name, value));
  return drawnFigures(Object.fromEntries(values), props.plan.labels.seat).map(({ name, words, value }) => ({
    name,
    text: /^[−\d]/.test(value) ? `${value} ${words}` : `${words} ${value}`,
  }));
};
const counters = computed(() => Object.entries(shown.value?.values ?? {}).filter(([name]) => props.plan.counters.includes(name)));
const figures = computed(() => figuresThat((name) => !props.plan.counters.includes(name)));
/** Where there is little room, counters are figures like others, and what is nothing is left out. */
const inWords = computed(() => (props.compact ? figuresThat((_, value) => value !== 0) : figures.value));
const seatNotes = computed(() => notesOf(props.view, props.plan, `seat/${props.seat}`));
/** What is said of whoever holds the seat. */
const standing = computed(() => {
  const { held, bot, away, present } = props.holder ?? {};
  if (held === 'free') return 'has left';
  if (bot) return 'bot';
  if (away) return 'away';
  return present === false && !props.own ? 'not here' : '';
});
/** Beside so many cards there is no room for the name: it stands above them, in one line. */
const isLong = computed(() => props.own && shownPiles.value.reduce((sum, pile) => sum + pile.state.size, 0) > 6);
const won = computed(() => props.view.result?.winners.includes(props.seat) === true);
</script>

<template>
  <section class="seat" :class="{ own, asked, compact, beside, long: isLong, away: holder?.away }" :aria-label="`${shown?.name}${own ? ', you' : ''}`" :data-seat="seat">
    <div class="hands">
      <PileView
        v-for="pile in shownPiles"
        :key="pile.path"
        :pile="pile"
        :width="cardWidth"
        :room="room"
        :lit="lit(pile)"
        :held="heldIn(pile.path)"
        :target="targets.has(pile.path)"
        :option="optionOn(pile.path)"
        named="size"
        @pile="emit('pile', pile.path)"
        @card="emit('card', `${pile.path}#${$event}`)"
        @double="emit('double', `${pile.path}#${$event}`)"
      />
    </div>
    <div class="who">
      <SeatMark :seat="seat" :width="compact ? 20 : own ? 30 : 26" />
      <div>
        <b class="serif">{{ shown?.name }}<template v-if="own">, you</template></b>
        <span v-for="{ name, text } in inWords" :key="name" :class="{ pointed: isPointed(name) }">
          {{ text }}<em v-if="was.has(`${seat} ${name}`)" class="was">was {{ was.get(`${seat} ${name}`) }}</em>
        </span>
        <span v-for="note in seatNotes" :key="note.name">{{ figureWords(note.value) }}{{ note.isNamed ? ` ${note.words}` : '' }}</span>
        <span v-if="shown && shown.score !== 0 && figures.length === 0 && !(compact && counters.length > 0)">score {{ figureWords(shown.score) }}</span>
        <span v-if="won" class="won">wins</span>
        <span v-else-if="answered">has answered</span>
        <span v-else-if="asked && holder?.bot" class="thinking"><i /><i /><i /><span class="visually-hidden">thinking</span></span>
        <span v-else-if="asked && !own">is asked</span>
        <span v-if="standing" class="standing">{{ standing }}</span>
      </div>
      <template v-for="[name, value] in compact ? [] : counters" :key="name"><CounterStack v-if="Number(value) > 0" :class="{ pointed: isPointed(name) }" :amount="Number(value)" :label="plan.labels.seat[name] ?? name" /><em v-if="was.has(`${seat} ${name}`)" class="was">was {{ was.get(`${seat} ${name}`) }}</em></template>
    </div>
  </section>
</template>

<style scoped>
.seat {
  display: grid;
  justify-items: center;
  gap: 10px;
  padding: 10px 12px;
  border-radius: 16px;
  color: var(--mist-2);
}
.seat.asked:not(.own) {
  box-shadow: 0 0 0 2px var(--marigold);
}
.hands {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 12px;
  padding-right: 36px;
}
.own .hands {
  padding-left: 36px;
}
/* Seats reach to the edge of a phone. */
.seat.asked.compact:not(.own) {
  box-shadow: inset 0 0 0 2px var(--marigold);
}
.beside {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  align-items: center;
  gap: 6px 16px;
  padding: 6px 12px;
}
.beside .hands {
  order: 2;
  padding-right: 0;
}
.compact {
  gap: 4px;
  padding: 4px 8px;
}
.compact .hands,
.compact.own .hands {
  padding: 0;
  gap: 6px;
}
.compact:not(.own) {
  column-gap: 8px;
  grid-template-columns: auto auto;
  align-items: center;
}
.compact:not(.own) .who {
  order: -1;
}
.compact.own {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  align-items: center;
  gap: 6px 12px;
}
.compact.own .who b {
  max-width: none;
}
.compact.own .who {
  order: -1;
}
.who {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  align-items: center;
  gap: 4px 12px;
}
.who > div {
  display: grid;
  font-size: 13px;
  line-height: 18px;
}
.who b {
  color: var(--paper);
  font-size: 16px;
  line-height: 19px;
  max-width: 180px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.own .who b {
  font-size: 18px;
  line-height: 22px;
}
.won {
  color: var(--soft-teal);
  font-weight: 600;
}
.was {
  margin-left: 5px;
  color: var(--soft-teal);
  font-style: normal;
}
.pointed {
  border-radius: 6px;
  box-shadow: 0 0 0 2.5px var(--soft-teal);
}
.standing {
  color: var(--mist-3);
}
.away .who {
  opacity: 0.75;
}
.away .who :deep(svg) {
  opacity: 0.4;
}
.thinking {
  display: flex;
  gap: 5px;
  height: 18px;
  align-items: center;
}
.thinking i {
  width: 8px;
  height: 12px;
  background: var(--mist);
  clip-path: polygon(50% 0, 100% 50%, 50% 100%, 0 50%);
  animation: fade 1.2s infinite;
}
.thinking i:nth-child(2) {
  animation-delay: 0.2s;
}
.thinking i:nth-child(3) {
  animation-delay: 0.4s;
}
@keyframes fade {
  0%,
  60%,
  100% {
    opacity: 0.25;
  }
  30% {
    opacity: 1;
  }
}
@media (prefers-reduced-motion: reduce) {
  .thinking i {
    animation: none;
    opacity: 0.7;
  }
}
.compact:not(.own) :deep(.note) {
  left: auto;
  right: -6px;
  top: -8px;
  padding: 0 6px;
  font-size: 14px;
  line-height: 20px;
}
.compact .who b {
  font-size: 15px;
  max-width: 90px;
}
.compact .who > div {
  font-size: 12px;
  line-height: 15px;
}
.compact .who {
  gap: 2px 7px;
}
.compact.long .who > div {
  display: flex;
  align-items: baseline;
  gap: 8px;
}
</style>
