<script setup lang="ts">
import { chachaChance, type DeckForm, deckFaces, faceName, faceText, REGULARS, shufflePlaces } from '@wily-jester/core';
import Button from 'primevue/button';
import InputNumber from 'primevue/inputnumber';
import Select from 'primevue/select';
import SelectButton from 'primevue/selectbutton';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, nextTick, ref, shallowRef } from 'vue';
import { glide, travelFrom, turnOver } from '../motion/motion';
import CardFace from '../parts/CardFace.vue';
import SeatMark from '../parts/SeatMark.vue';

interface Held {
  readonly id: number;
  readonly face: string;
  readonly name: string;
  up: boolean;
}
const FORMS: { name: string; form: DeckForm }[] = [
  { name: 'Standard, 52', form: { kind: 'standard' } },
  { name: 'Short, 7 to ace', form: { kind: 'ranks', ranks: [7, 8, 9, 10, 11, 12, 13, 1], suits: [0, 1, 2, 3] } },
  { name: 'Numbered, 1 to 60', form: { kind: 'numbered', from: 1, to: 60 } },
];

const form = ref(FORMS[0]?.name ?? '');
const copies = ref(1);
const jokers = ref(0);
const four = ref(false);
const seats = ref(5);
const each = ref(6);
const way = ref<'one at a time' | 'in packets'>('one at a time');
const order = ref<'in order' | 'shuffled'>('shuffled');
const pack = shallowRef<Held[]>([]);
const hands = shallowRef<Held[][]>([]);
const said = ref<string[]>([]);
const busy = ref(false);
const status = ref('');
const stage = ref<HTMLElement | null>(null);

const dealt = computed(() => hands.value.length > 0);
const total = computed(() => pack.value.length + hands.value.reduce((sum, hand) => sum + hand.length, 0));
const cardWidth = computed(() => (dealt.value ? 58 : 64));
const facesUp = computed(() => pack.value.filter((card) => card.up).length);

/** Lays out the deck anew, in deck order, face up. */
function layOut(): void {
  const chosen = FORMS.find((f) => f.name === form.value)?.form ?? { kind: 'standard' as const };
  const faces = deckFaces([{ form: chosen, copies: copies.value, jokers: jokers.value }]);
  pack.value = faces.map((face, id) => ({ id, face: faceText(face), name: faceName(face), up: true }));
  hands.value = [];
  said.value = [];
  status.value = `${faces.length} cards, in deck order.`;
}
layOut();

function* elements(): Iterable<[string, Element]> {
  for (const element of stage.value?.querySelectorAll('[data-card]') ?? []) yield [element.getAttribute('data-card') ?? '', element];
}

function shuffledOrder(cards: readonly Held[]): Held[] {
  const places = cards.map((_, i) => i);
  shufflePlaces(places, 0, places.length, chachaChance(crypto.getRandomValues(new Uint8Array(32))).stream('shuffle', 0));
  return places.map((i) => cards[i] as Held);
}

async function shuffle(): Promise<void> {
  if (dealt.value) layOut();
  await glide(elements, async () => {
    pack.value = shuffledOrder(pack.value);
    await nextTick();
  });
  status.value = `${pack.value.length} cards, shuffled: Fisher–Yates with draws from ChaCha20.`;
}

function turn(card: Held, event: Event): void {
  card.up = !card.up;
  pack.value = [...pack.value];
  hands.value = [...hands.value];
  status.value = card.up ? `${card.name}, face up.` : 'A card, face down.';
  const element = (event.currentTarget as Element | null)?.firstElementChild;
  void nextTick().then(() => element && turnOver(element));
}

function turnAll(up: boolean): void {
  for (const card of [...pack.value, ...hands.value.flat()]) card.up = up;
  pack.value = [...pack.value];
  hands.value = [...hands.value];
  status.value = up ? 'All cards lie face up.' : 'All cards lie face down.';
}

const tooMany = computed(() => {
  const need = seats.value * each.value;
  return need > total.value ? `${seats.value} seats with ${each.value} cards each need ${need} cards, and this deck has ${total.value}.` : '';
});
const pauseBetween = (): Promise<void> => new Promise((done) => setTimeout(done, matchMedia('(prefers-reduced-motion: reduce)').matches ? 0 : 60));

/** Deals from the top, card by card, so that one can watch the deck shrink and the hands grow. */
async function deal(): Promise<void> {
  if (tooMany.value) return;
  layOut();
  if (order.value === 'shuffled') pack.value = shuffledOrder(pack.value);
  for (const card of pack.value) card.up = false;
  hands.value = Array.from({ length: seats.value }, () => []);
  busy.value = true;
  await nextTick();
  const turns = way.value === 'in packets' ? Array.from({ length: seats.value * each.value }, (_, i) => Math.floor(i / each.value)) : Array.from({ length: seats.value * each.value }, (_, i) => i % seats.value);
  for (const seat of turns) {
    const from = stage.value?.querySelector('[data-top]')?.getBoundingClientRect();
    const card = pack.value.at(-1) as Held;
    card.up = true;
    pack.value = pack.value.slice(0, -1);
    hands.value = hands.value.map((hand, i) => (i === seat ? [...hand, card] : hand));
    said.value.push(`${REGULARS[seat]} draws ${card.face} and holds ${hands.value[seat]?.length}.`);
    await nextTick();
    const element = stage.value?.querySelector(`[data-card="${card.id}"]`);
    if (element && from) travelFrom(element, from);
    await pauseBetween();
  }
  busy.value = false;
  status.value = `${seats.value} hands of ${each.value}; ${pack.value.length} cards are left.`;
}

/** Arrow keys go through the cards as they are laid out. */
function arrows(event: KeyboardEvent): void {
  const step = { ArrowRight: 1, ArrowLeft: -1, Home: -1e6, End: 1e6 }[event.key];
  if (step === undefined) return;
  const all = [...(stage.value?.querySelectorAll<HTMLElement>('button[data-card]') ?? [])];
  const at = all.indexOf(document.activeElement as HTMLElement);
  if (at < 0) return;
  event.preventDefault();
  all[Math.min(all.length - 1, Math.max(0, at + step))]?.focus();
}
</script>

<template>
  <main class="page">
    <section class="tools on-paper" aria-label="Deck and deal">
      <h1>Cards</h1>
      <div class="row">
        <label>
          <span>Deck</span>
          <Select v-model="form" :options="FORMS.map((f) => f.name)" aria-label="Deck" @change="layOut" />
        </label>
        <label><span>Copies</span><InputNumber v-model="copies" :min="1" :max="8" show-buttons button-layout="horizontal" aria-label="Copies" @update:model-value="layOut" /></label>
        <label><span>Jokers</span><InputNumber v-model="jokers" :min="0" :max="4" show-buttons button-layout="horizontal" aria-label="Jokers" @update:model-value="layOut" /></label>
        <label class="switch"><span>Four colours</span><ToggleSwitch v-model="four" aria-label="Four colours" /></label>
      </div>
      <div class="row actions">
        <Button label="Lay out" severity="secondary" outlined :disabled="busy" @click="layOut" />
        <Button label="Shuffle" :disabled="busy" @click="shuffle" />
        <Button label="Turn all down" severity="secondary" outlined :disabled="busy" @click="turnAll(false)" />
        <Button label="Turn all up" severity="secondary" outlined :disabled="busy" @click="turnAll(true)" />
      </div>
      <h2>Deal</h2>
      <div class="row">
        <label><span>Seats</span><InputNumber v-model="seats" :min="1" :max="8" show-buttons button-layout="horizontal" aria-label="Seats" /></label>
        <label><span>Cards each</span><InputNumber v-model="each" :min="1" :max="20" show-buttons button-layout="horizontal" aria-label="Cards each" /></label>
      </div>
      <SelectButton v-model="way" :options="['one at a time', 'in packets']" :allow-empty="false" aria-label="How to deal" />
      <SelectButton v-model="order" :options="['shuffled', 'in order']" :allow-empty="false" aria-label="Order of the deck" />
      <p v-if="tooMany" class="wrong" role="alert">{{ tooMany }}</p>
      <Button class="deal" label="Deal" :loading="busy" :disabled="tooMany !== ''" @click="deal" />
      <div v-if="said.length > 0" class="said">
        <h3>Card by card</h3>
        <ol>
          <li v-for="(line, i) in [...said].reverse()" :key="said.length - i">{{ line }}</li>
        </ol>
      </div>
    </section>

    <section ref="stage" class="stage" aria-label="The cards" @keydown="arrows">
      <p class="status" role="status">{{ status }}</p>
      <template v-if="dealt">
        <div class="left">
          <div class="pile" data-top>
            <CardFace v-if="pack.length > 0" :face="null" :width="76" :label="`${pack.length} cards left, face down`" />
            <div v-else class="gone" :style="{ width: '76px', height: '106px' }" />
          </div>
          <p><b class="serif">{{ pack.length }}</b> left in the deck</p>
        </div>
        <div class="hands">
          <section v-for="(hand, seat) in hands" :key="seat" class="hand" :aria-label="`${REGULARS[seat]}, ${hand.length} cards`">
            <header><SeatMark :seat="seat + 1" :width="22" /><b class="serif">{{ REGULARS[seat] }}</b><span>{{ hand.length }} {{ hand.length === 1 ? 'card' : 'cards' }}</span></header>
            <div class="fan">
              <button v-for="card in hand" :key="card.id" type="button" class="quiet" :data-card="card.id" :aria-label="card.up ? `${card.name}, turn down` : 'a card face down, turn up'" @click="turn(card, $event)">
                <CardFace :face="card.up ? card.face : null" :width="cardWidth" :four="four" />
              </button>
            </div>
          </section>
        </div>
        <h3 v-if="pack.length > 0" class="rest">What is left, the next card first</h3>
      </template>
      <p v-else class="hint">Click a card to turn it, or walk with the arrow keys and press Enter. {{ facesUp }} lie face up.</p>
      <div class="grid" :style="{ '--w': `${dealt ? 44 : cardWidth}px` }">
        <button v-for="card in dealt ? [...pack].reverse() : pack" :key="card.id" type="button" class="quiet" :data-card="card.id" :aria-label="card.up ? `${card.name}, turn down` : 'a card face down, turn up'" @click="turn(card, $event)">
          <CardFace :face="card.up ? card.face : null" :width="dealt ? 44 : cardWidth" :four="four" />
        </button>
      </div>
    </section>
  </main>
</template>

<style scoped>
.page {
  flex: 1;
  display: grid;
  grid-template-columns: 316px minmax(0, 1fr);
}
.tools {
  background: var(--paper);
  padding: 24px;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: flex-end;
}
label {
  display: grid;
  gap: 4px;
  font-weight: 600;
}
label :deep(.p-inputnumber-input) {
  width: 52px;
  text-align: center;
}
.switch {
  align-items: center;
}
.actions {
  padding-bottom: 14px;
  border-bottom: 1px solid var(--line);
}
.wrong {
  color: var(--red-text);
}
.deal {
  min-height: 44px;
}
.said {
  min-height: 0;
  flex: 1 1 120px;
  display: flex;
  flex-direction: column;
}
.said ol {
  margin: 6px 0 0;
  padding: 0;
  list-style: none;
  flex: 1 1 0;
  min-height: 120px;
  overflow: auto;
  color: var(--ink-2);
}
.stage {
  padding: 20px 24px 32px;
  color: var(--mist);
  background: radial-gradient(ellipse 90% 80% at 50% 30%, #2b4860, var(--night) 70%);
}
.status {
  font: 560 18px/24px var(--serif);
  font-variation-settings: "SOFT" 40;
  color: var(--paper);
  min-height: 24px;
}
.hint {
  color: var(--mist-2);
  margin: 2px 0 16px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, var(--w));
  justify-content: start;
  gap: 10px 6px;
}
.grid button,
.fan button {
  line-height: 0;
  border-radius: 7px;
}
.left {
  display: flex;
  gap: 14px;
  align-items: center;
  margin: 14px 0;
}
.left b {
  font-size: 24px;
  color: var(--paper);
}
.gone {
  border: 2px dashed rgb(223 230 234 / 0.42);
  border-radius: 8px;
}
.hands {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 18px 24px;
}
.hand header {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-bottom: 8px;
}
.hand header b {
  font-size: 16px;
  color: var(--paper);
}
.hand header span {
  color: var(--mist-2);
}
.fan {
  display: flex;
  min-height: 82px;
  padding-right: 24px;
}
.fan button {
  flex: 0 1 auto;
  min-width: 20px;
  width: 62px;
}
.rest {
  margin: 22px 0 10px;
  color: var(--paper);
}
@media (max-width: 900px) {
  .page {
    grid-template-columns: 1fr;
  }
  .said {
    display: none;
  }
  .stage {
    padding: 16px;
  }
}
</style>
