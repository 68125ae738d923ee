<script setup lang="ts">
import { computed } from 'vue';
import CardFace from '../parts/CardFace.vue';
import EmptyPile from '../parts/EmptyPile.vue';
import type { DrawnPile } from './piles';

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
  named?: boolean;
  /** An empty place of a family leaves no outline. */
  hollow?: boolean;
  /** Greatest width that a fan may take. */
  room?: number;
  /** Greatest height that a cascade may take. */
  tall?: number;
}>();
const emit = defineEmits<{ pile: []; card: [position: number]; double: [position: number] }>();

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
  return Math.max(10, Math.min(natural, most));
});
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
const isLit = computed(() => props.option !== undefined || props.target === true);
const words = computed(() => `${props.pile.label}, ${size.value} ${size.value === 1 ? 'card' : 'cards'}${props.option === undefined ? '' : `: ${props.option}`}`);
</script>

<template>
  <div class="pile" :class="{ lit: isLit, refused: refused !== undefined }" :data-pile="pile.path">
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
        <component
          :is="lit?.has(size) ? 'button' : 'span'"
          :type="lit?.has(size) ? 'button' : undefined"
          class="place"
          :class="{ lit: lit?.has(size), held: held?.has(size) }"
          :aria-pressed="lit?.has(size) ? held?.has(size) === true : undefined"
          :style="{ right: 0, bottom: 0 }"
          :data-at="size"
          @click="lit?.has(size) && emit('card', size)"
          @dblclick="lit?.has(size) && emit('double', size)"
        >
          <CardFace :face="cards.at(-1) ?? null" :width="width" :open="closed.has(size)" :label="words" />
        </component>
      </div>
      <div v-else class="fan" :style="extent">
        <component
          :is="lit?.has(at) ? 'button' : 'span'"
          v-for="({ face, at }, i) in drawn"
          :key="at"
          :type="lit?.has(at) ? 'button' : undefined"
          class="place"
          :class="{ lit: lit?.has(at), held: held?.has(at) }"
          :aria-pressed="lit?.has(at) ? held?.has(at) === true : undefined"
          :style="{ left: `${places[i]?.left ?? 0}px`, top: `${places[i]?.top ?? 0}px` }"
          :data-at="at"
          @click="lit?.has(at) && emit('card', at)"
          @dblclick="lit?.has(at) && emit('double', at)"
        >
          <CardFace :face="face" :width="width" :wide="isCascade" :open="closed.has(at)" />
        </component>
      </div>
      <span v-for="note in pile.notes" :key="note.name" class="note" :title="note.name" :aria-label="`${note.name} ${note.value}`">{{ note.value }}</span>
    </div>
    <span v-if="option !== undefined" class="tag" aria-hidden="true">{{ option }}</span>
    <span v-if="named" class="name">{{ pile.label }} <b v-if="isStack || size === 0">{{ size }}</b></span>
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
.body {
  position: relative;
}
.stack,
.fan {
  position: relative;
}
.stack > *,
.place {
  position: absolute;
}
.place {
  padding: 0;
  border: 0;
  background: none;
  line-height: 0;
  border-radius: 8px;
  transition: transform 120ms;
}
button.place {
  cursor: pointer;
}
.place.lit {
  box-shadow: 0 0 0 3px var(--marigold), 0 0 20px 3px #e3a03a73;
}
.place.held {
  transform: translateY(-13px) rotate(-2.5deg);
  box-shadow: 0 0 0 2px #fff, 0 18px 34px 6px #050c1499;
}
.touch {
  position: absolute;
  inset: -8px;
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
.lit > .name {
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
