<script setup lang="ts">
import { CATEGORY_NAMES, census, choose, faceName, faceText, suited } from '@wily-jester/core';
import Button from 'primevue/button';
import SelectButton from 'primevue/selectbutton';
import { computed, ref } from 'vue';
import { MOST_HANDS, type Spot, useHands } from '../hands/useHands';
import CardFace from '../parts/CardFace.vue';

const RANKS = [1, 13, 12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2];
const deck = [0, 1, 2, 3].map((suit) => RANKS.map((rank) => suited(rank, suit)));
const { hands, board, spot, odds, counting, used, names, isWhole, touch, touchSpot, add, remove, setAny, clear } = useHands();

const isHere = (hand: Spot['hand'], place: number): boolean => spot.value.hand === hand && spot.value.place === place;
const percent = (share: number): string => `${(100 * share).toFixed(share > 0 && share < 0.001 ? 2 : 1)} %`;
const status = computed(() => {
  if (counting.value) return 'Counting …';
  if (!isWhole.value) return 'Two cards for each hand; a board if you like.';
  const { value } = odds;
  if (!value) return '';
  const deals = value.deals.toLocaleString('en');
  if (value.exact) return value.deals === 1 ? 'The board is complete.' : `All ${deals} deals counted.`;
  const most = Math.max(...value.hands.map((hand) => hand.error));
  return `${deals} deals drawn; shares lie within ${(196 * most).toFixed(2)} points in 95 of 100 runs.`;
});

const many = ref<5 | 6 | 7>(5);
const SIZES = [5, 6, 7];
const categories = computed(() => {
  const counts = census(many.value);
  const all = choose(52, many.value);
  return counts
    .map((found, i) => ({ name: CATEGORY_NAMES[i] ?? '', found, share: found / all }))
    .reverse();
});
const shareText = (share: number): string => `${(100 * share).toFixed(share < 0.01 ? 4 : 2)} %`;
</script>

<template>
  <main class="page">
    <section class="table" aria-labelledby="hands-title">
      <header class="head">
        <div><h1 id="hands-title">Hands</h1><p role="status">{{ status }}</p></div>
        <Button label="Clear" severity="secondary" size="small" @click="clear" />
      </header>
      <ol class="hands">
        <li v-for="(hand, h) in hands" :key="h" :data-hand="h + 1">
          <div class="pair">
            <template v-if="hand.any"><span v-for="p in 2" :key="p" class="any" aria-hidden="true">?</span></template>
            <template v-else>
              <button v-for="(face, p) in hand.cards" :key="p" type="button" class="spot" :class="{ on: isHere(h, p), full: face !== null }" :aria-label="face === null ? `Hand ${h + 1}, card ${p + 1}: empty` : `Hand ${h + 1}: ${faceName(face)}`" :aria-pressed="isHere(h, p)" @click="touchSpot({ hand: h, place: p })">
                <CardFace v-if="face !== null" :face="faceText(face)" :width="46" />
              </button>
            </template>
          </div>
          <div class="worth">
            <b>{{ hand.any ? 'any two cards' : (names[h] ?? `hand ${h + 1}`) }}</b>
            <span class="bar" aria-hidden="true"><i class="win" :style="{ width: `${100 * (odds?.hands[h]?.win ?? 0)}%` }" /><i class="tie" :style="{ width: `${100 * ((odds?.hands[h]?.share ?? 0) - (odds?.hands[h]?.win ?? 0))}%` }" /></span>
            <small v-if="odds">wins {{ percent(odds.hands[h]?.win ?? 0) }}, ties {{ percent(odds.hands[h]?.tie ?? 0) }}</small>
            <small v-else>&nbsp;</small>
          </div>
          <strong class="share">{{ odds ? percent(odds.hands[h]?.share ?? 0) : '–' }}</strong>
          <div class="tools">
            <button type="button" class="quiet" :aria-pressed="hand.any" @click="setAny(h, !hand.any)">{{ hand.any ? 'choose cards' : 'any two' }}</button>
            <button v-if="hands.length > 2" type="button" class="quiet" :aria-label="`Take hand ${h + 1} away`" @click="remove(h)">away</button>
          </div>
        </li>
      </ol>
      <div class="below">
        <div class="board"><span>Board</span>
          <button v-for="(face, p) in board" :key="p" type="button" class="spot" :class="{ on: isHere('board', p), full: face !== null }" :aria-label="face === null ? `Board, card ${p + 1}: empty` : `Board: ${faceName(face)}`" :aria-pressed="isHere('board', p)" @click="touchSpot({ hand: 'board', place: p })">
            <CardFace v-if="face !== null" :face="faceText(face)" :width="46" />
          </button>
        </div>
        <Button v-if="hands.length < MOST_HANDS" label="One more hand" severity="secondary" size="small" @click="add" />
      </div>
      <div class="deck" role="group" aria-label="The deck: touch a card to lay it where the frame is">
        <div v-for="(row, s) in deck" :key="s" class="suit">
          <button v-for="face in row" :key="face" type="button" :class="{ used: used.has(face) }" :aria-label="`${faceName(face)}${used.has(face) ? ', in use' : ''}`" :data-card="faceText(face)" @click="touch(face)"><CardFace :face="faceText(face)" :width="44" /></button>
        </div>
      </div>
    </section>
    <aside class="census" aria-labelledby="census-title">
      <h2 id="census-title">How often each is dealt</h2>
      <label class="of"><span>The best five of</span><SelectButton v-model="many" :options="SIZES" :allow-empty="false" aria-label="How many cards" /><span>cards</span></label>
      <table>
        <tbody>
          <tr v-for="row in categories" :key="row.name">
            <th scope="row">{{ row.name }}</th>
            <td class="figure">{{ row.found.toLocaleString('en') }}</td>
            <td class="figure share">{{ shareText(row.share) }}</td>
          </tr>
        </tbody>
        <tfoot><tr><th scope="row">all hands</th><td class="figure">{{ choose(52, many).toLocaleString('en') }}</td><td /></tr></tfoot>
      </table>
      <p class="note">Counted here from the ranks, and checked by ranking every one of them. In a sheet: <code>pokerHigh(s.hand + board)</code>.</p>
    </aside>
  </main>
</template>

<style scoped>
.page {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 392px;
}
.table {
  padding: 20px 28px 28px;
  color: var(--mist);
  background: radial-gradient(ellipse 90% 80% at 50% 30%, #2b4860, var(--night) 70%);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: flex-start;
}
.head h1 {
  color: var(--paper);
}
.head p {
  color: var(--mist-2);
  min-height: 22px;
}
.hands {
  list-style: none;
  margin: 14px 0 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(380px, 1fr));
  gap: 10px 20px;
}
.hands li {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) 74px auto;
  gap: 12px;
  align-items: center;
  background: rgb(10 20 30 / 0.35);
  border-radius: 12px;
  padding: 10px 12px;
}
.pair,
.board,
.suit {
  display: flex;
  gap: 5px;
}
.spot,
.any {
  width: 50px;
  height: 69px;
  padding: 0;
  display: grid;
  place-items: center;
  border: 2px dashed rgb(223 230 234 / 0.42);
  border-radius: 8px;
  background: none;
  color: var(--mist-2);
  line-height: 0;
  cursor: pointer;
}
.any {
  font: 560 26px/1 var(--serif);
  border-style: solid;
  cursor: default;
}
.spot.full {
  border-color: transparent;
}
.spot.on {
  border: 2px solid var(--marigold);
  box-shadow: 0 0 16px 2px #e3a03a66;
}
.worth {
  display: grid;
  gap: 3px;
  min-width: 0;
}
.worth b {
  color: var(--paper);
  font-size: 14px;
  line-height: 17px;
  overflow: hidden;
  text-overflow: ellipsis;
  display: -webkit-box;
  -webkit-line-clamp: 3;
  -webkit-box-orient: vertical;
}
.worth small {
  color: var(--mist-2);
  font-size: 12px;
}
.bar {
  display: flex;
  height: 8px;
  border-radius: 4px;
  overflow: hidden;
  background: rgb(223 230 234 / 0.16);
}
.win {
  background: var(--marigold);
}
.tie {
  background: #8a4f80;
}
.share {
  text-align: right;
}
.hands .share {
  font: 560 19px/24px var(--serif);
  color: var(--paper);
}
.tools {
  display: grid;
  gap: 2px;
  justify-items: end;
}
.tools .quiet {
  color: var(--mist);
  font-size: 13px;
  min-height: 26px;
  text-decoration: underline;
}
.below {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 12px;
  margin: 16px 0;
  flex-wrap: wrap;
}
.board {
  align-items: center;
}
.board span {
  margin-right: 8px;
  color: var(--paper);
  font-weight: 600;
}
.deck {
  display: grid;
  gap: 6px;
  max-width: 680px;
}
.suit button {
  padding: 0;
  border: 0;
  background: none;
  line-height: 0;
  border-radius: 6px;
  cursor: pointer;
  flex: 0 1 auto;
  min-width: 0;
}
.suit button:hover {
  transform: translateY(-3px);
}
.suit .used {
  opacity: 0.28;
}
.census {
  background: var(--paper);
  padding: 24px 26px;
}
.of {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 10px 0 12px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 9px 0;
  border-bottom: 1px solid var(--line);
  text-align: left;
  font-weight: 500;
}
th::first-letter {
  text-transform: uppercase;
}
.figure {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
td.share {
  width: 96px;
  color: var(--ink-2);
}
tfoot th,
tfoot td {
  border: 0;
  font-weight: 600;
}
.note {
  margin-top: 12px;
  color: var(--ink-2);
  font-size: 14px;
}
@media (prefers-reduced-motion: reduce) {
  .suit button:hover {
    transform: none;
  }
}
@media (max-width: 900px) {
  .page {
    grid-template-columns: minmax(0, 1fr);
  }
  .table {
    padding: 16px 14px 20px;
  }
  .hands {
    grid-template-columns: minmax(0, 1fr);
  }
  .hands li {
    grid-template-columns: auto minmax(0, 1fr) auto;
  }
  .hands .tools {
    grid-column: 1 / 4;
    display: flex;
    justify-content: flex-end;
    gap: 14px;
  }
  .suit {
    gap: 2px;
  }
  .suit button :deep(svg) {
    width: 100%;
    height: auto;
  }
}
</style>
