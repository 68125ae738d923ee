<script setup lang="ts">
import { computed } from 'vue';
import CardFace from '../parts/CardFace.vue';
import EmptyPile from '../parts/EmptyPile.vue';
import { markOfCard, useHinted } from './hinted';
import { useMarked } from './marked';
import PlayedCard from './PlayedCard.vue';
import type { DrawnPile } from './piles';
import { figureWords } from './words';

const props = defineProps<{
  pile: DrawnPile;
  width: number;
  /** Words of the option that this pile would play. */
  option?: string | undefined;
  refused?: string | undefined;
  /** Positions (from 1) that may be chosen now. */
  lit?: ReadonlySet<number>;
  /** Positions that were picked up. */
  held?: ReadonlySet<number> | undefined;
  target?: boolean;
  /** Its name stands below it, or its size alone. */
  named?: boolean | 'size';
  /** An empty place of a family leaves no outline. */
  hollow?: boolean;
  /** Greatest width that a fan may take. */
  room?: number;
  /** Greatest height that a cascade may take. */
  tall?: number;
}>();
const emit = defineEmits<{ pile: []; card: [position: number]; double: [position: number] }>();

const { isPointed } = useMarked();
const hint = useHinted();
const size = computed(() => props.pile.state.size);
const cards = computed<(string | null)[]>(() => props.pile.state.cards?.slice() ?? new Array<null>(Math.min(size.value, 24)).fill(null));
/** Cards with their positions, in the order in which they are drawn. */
const drawn = computed(() => cards.value.map((face, i) => {
  const at = props.pile.order[i] ?? i + 1;
  return { at, face: props.pile.state.cards ? (props.pile.state.cards[at - 1] ?? null) : face };
}));
const closed = computed(() => new Set(props.pile.state.closed ?? []));
/** A pile that nobody looks into, or whose cards lie squarely on each other. */
const isStack = computed(() => size.value > 0 && (props.pile.shape === 'stack' || (props.pile.state.cards === undefined && size.value > 13)) && !(props.pile.state.closed && size.value <= 12));
const layers = computed(() => Math.min(5, Math.max(1, Math.round(size.value / 60) + 1)));
const isCascade = computed(() => props.pile.shape === 'cascade' && size.value > 0);
/** How far a fan's cards lie apart. */
const step = computed(() => {
  const natural = props.width * (props.pile.shape === 'row' ? 1.08 : 0.66);
  const most =
    props.room === undefined
      ? Number.POSITIVE_INFINITY
      : (props.room - props.width) / Math.max(1, cards.value.length - 1);
  // Backs need not be told apart.
  const least = cards.value.some((face) => face !== null) ? 10 : 3;
  return Math.max(least, Math.min(natural, most));
});
const isSlim = computed(() => !isCascade.value && step.value < props.width * 0.6);
/** Where each card of a fan or cascade lies: a strip of every card stays seen, and more of those that lie face up. */
const places = computed<{ left: number; top: number }[]>(() => {
  if (!isCascade.value) return cards.value.map((_, i) => ({ left: i * step.value, top: 0 }));
  const strips = cards.value.slice(0, -1).map((face) => props.width * (face === null ? 0.2 : 0.36));
  const whole = strips.reduce((sum, strip) => sum + strip, 0);
  const most = (props.tall ?? Number.POSITIVE_INFINITY) - props.width * 1.4;
  const squeeze = whole > most ? Math.max(0.3, most / whole) : 1;
  let top = 0;
  return cards.value.map((_, i) => {
    const place = { left: 0, top };
    top += (strips[i] ?? 0) * squeeze;
    return place;
  });
});
const extent = computed(() => {
  const last = places.value.at(-1) ?? { left: 0, top: 0 };
  return { width: `${props.width + last.left}px`, height: `${props.width * 1.4 + last.top}px` };
});
/** How many cards there are is not seen by itself. */
const isCounted = computed(() => (isStack.value && (size.value > 1 || cards.value[0] === null)) || size.value === 0);
/** A word beside the cards has room, a sentence only below them. */
const isShort = (value: unknown): boolean => figureWords(value).length <= 6;
const unnamed = computed(() => props.pile.notes.filter((note) => !note.isNamed && isShort(note.value)));
const figures = computed(() => props.pile.notes.filter((note) => note.isNamed || !isShort(note.value)));
const isLit = computed(() => props.option !== undefined || props.target === true);
/** What a card in a position is: whether it may be chosen, was picked up, is seen by all, and what a hint says of it. */
const placed = (at: number) => ({ at, width: props.width, lit: props.lit?.has(at) === true, held: props.held?.has(at) === true, open: closed.value.has(at), hint: markOfCard(hint.value, `${props.pile.path}#${at}`) });
const words = computed(() => `${props.pile.label}, ${size.value} ${size.value === 1 ? 'card' : 'cards'}${props.option === undefined ? '' : `: ${props.option}`}`);
</script>

<template>
  <div class="pile" :class="{ lit: isLit, refused: refused !== undefined, pointed: isPointed(pile.name) }" :data-pile="pile.path">
    <div class="body">
      <button v-if="isLit" type="button" class="touch" :aria-label="words" @click="emit('pile')" />
      <span v-if="size === 0 && hollow" :style="{ display: 'block', width: `${width}px`, height: `${width * 1.4}px` }" />
      <EmptyPile v-else-if="size === 0" :width="width" :suit="pile.suit" :label="pile.label" />
      <div v-else-if="isStack" class="stack" :style="{ width: `${width + (layers - 1) * 2}px`, height: `${width * 1.4 + (layers - 1) * 2.5}px` }">
        <CardFace
          v-for="layer in layers - 1"
          :key="layer"
          :face="null"
          :width="width"
          :style="{ right: `${(layers - layer) * 2}px`, bottom: `${(layers - layer) * 2.5}px` }"
          label=" "
        />
        <PlayedCard v-bind="placed(size)" :face="cards.at(-1) ?? null" :label="words" :style="{ right: 0, bottom: 0 }" @card="emit('card', size)" @double="emit('double', size)" />
      </div>
      <div v-else class="fan" :style="extent">
        <PlayedCard
          v-for="({ face, at }, i) in drawn"
          :key="at"
          v-bind="placed(at)"
          :face="face"
          :wide="isCascade"
          :slim="isSlim"
          :style="{ left: `${places[i]?.left ?? 0}px`, top: `${places[i]?.top ?? 0}px` }"
          @card="emit('card', at)"
          @double="emit('double', at)"
        />
      </div>
      <span v-for="note in unnamed" :key="note.name" class="note" :title="note.words" :aria-label="`${note.words} ${note.value}`">{{ figureWords(note.value) }}</span>
    </div>
    <span v-if="option !== undefined" class="tag" aria-hidden="true">{{ option }}</span>
    <div v-if="named === true || (named === 'size' && isCounted && size > 0) || figures.length > 0" class="caption">
      <span v-if="named" class="name"><template v-if="named === true">{{ `${pile.label} ` }}</template><b v-if="isCounted">{{ size }}</b></span>
      <span v-for="note in figures" :key="note.name" class="name figure">{{ note.isNamed ? note.words : '' }} <b>{{ figureWords(note.value) }}</b></span>
    </div>
    <p v-if="refused !== undefined" class="bubble" role="status">{{ refused }}</p>
  </div>
</template>

<style scoped>
.pile {
  position: relative;
  display: grid;
  justify-items: center;
  gap: 6px;
}
.pointed .body {
  border-radius: 10px;
  box-shadow: 0 0 0 2.5px var(--soft-teal);
}
.body {
  position: relative;
}
.stack,
.fan {
  position: relative;
}
.stack > * {
  position: absolute;
}
.touch {
  position: absolute;
  inset: calc(-1 * var(--reach, 8px));
  z-index: 2;
  border: 0;
  background: none;
  border-radius: 12px;
  box-shadow: 0 0 0 3px var(--marigold), 0 0 20px 3px #e3a03a73;
  cursor: pointer;
}
.refused .touch,
.refused .body {
  border-radius: 12px;
  box-shadow: 0 0 0 3px var(--refused);
}
.tag {
  background: var(--marigold);
  color: var(--ink);
  font-weight: 600;
  font-size: 13px;
  line-height: 18px;
  padding: 2px 14px;
  border-radius: 6px;
  margin-top: 6px;
  white-space: nowrap;
}
.caption {
  display: flex;
  align-items: center;
  gap: 8px;
}
.lit > .caption {
  margin-top: 4px;
}
.name {
  color: var(--mist-2);
  font-size: 13px;
  line-height: 18px;
  text-align: center;
}
.name b {
  color: var(--paper);
  font-weight: 600;
}
.note {
  position: absolute;
  left: calc(100% + 8px);
  top: 0;
  background: var(--abyss);
  color: var(--paper);
  font: 600 17px/26px var(--serif);
  padding: 0 9px;
  border-radius: 6px;
}
.figure {
  background: var(--abyss);
  padding: 0 8px;
  border-radius: 6px;
  white-space: nowrap;
}
.bubble {
  position: absolute;
  top: calc(100% + 6px);
  z-index: 5;
  width: max-content;
  max-width: 240px;
  background: var(--paper);
  color: var(--ink);
  border-left: 4px solid var(--vermilion);
  border-radius: 8px;
  padding: 8px 12px;
  font-size: 13px;
  line-height: 18px;
}
</style>
