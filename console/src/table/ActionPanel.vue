<script setup lang="ts">
import type { OfferedOption, TableView } from '@wily-jester/protocol';
import { computed, onMounted, onUnmounted, reactive, ref, watch } from 'vue';
import AmountChoice from './AmountChoice.vue';
import ClockWick from './ClockWick.vue';
import HintBadge from './HintBadge.vue';
import { markOfOption, useHinted } from './hinted';
import { type Finisher, isSet } from './piles';
import { type Refused, TAKE_SEAT } from './shown';
import { useSteps } from './useSteps';
import { offerWords, valueWords } from './words';

const props = defineProps<{
  offers: readonly OfferedOption[];
  view: TableView;
  /** Ranks from low to high, as the game orders them. */
  ranks: readonly string[];
  viewerName: string | null;
  isMine: boolean;
  standIn: string | null;
  clock: { ask: number; seconds: number; until: number } | null;
  sent: string | null;
  refused: Refused | null;
  status: string;
  /** How many cards were picked up. */
  picked: number;
  finishers: readonly Finisher[];
  /** Letters press buttons: where there is one panel on the page. */
  keyed: boolean;
}>();
const emit = defineEmits<{ choose: [option: string, args: Record<string, string | number | boolean | null | readonly string[]>]; aim: [option: string]; playSet: [option: string]; takeSeat: []; forget: []; explain: [offer: OfferedOption | null] }>();

const hint = useHinted();
const amounts = reactive<Record<string, number>>({});
const explained = ref<string | null>(null);
const { isByStep, begunOf, nextValues, stepWords, takeStep, beginAgain, forgetAll } = useSteps(
  () => props.view,
  () => props.ranks,
);

watch(
  () => props.offers,
  (offers) => {
    explained.value = null;
    forgetAll();
    for (const offer of offers)
      for (const param of offer.params) {
        if (param.kind !== 'range') continue;
        const key = `${offer.option} ${param.name}`;
        const from = param.from ?? 0;
        const to = param.to ?? 0;
        const now = amounts[key];
        if (now === undefined || now < from || now > to) amounts[key] = param.landmarks?.[0]?.value ?? from;
      }
  },
  { immediate: true },
);

const isRange = (offer: OfferedOption): boolean => offer.params.length === 1 && offer.params[0]?.kind === 'range';
/** Options that are chosen by touching cards or piles. */
const needsCards = (offer: OfferedOption): boolean => offer.params.some((param) => param.kind === 'values' && (param.type === 'card' || param.type === 'pile'));
const plainValues = (offer: OfferedOption): { value: unknown; text: string }[] => {
  const [param] = offer.params;
  if (offer.params.length !== 1 || param?.kind !== 'values' || needsCards(offer)) return [];
  return (param.values ?? []).map(({ value }) => ({ value, text: valueWords(props.view, param.type, value) }));
};
const legal = computed(() => props.offers.filter((offer) => offer.legal));
const notNow = computed(() => props.offers.filter((offer) => !offer.legal));
const amountOf = (offer: OfferedOption): number => amounts[`${offer.option} ${offer.params[0]?.name}`] ?? 0;
function setAmount(offer: OfferedOption, value: number): void {
  amounts[`${offer.option} ${offer.params[0]?.name}`] = value;
}
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const wordsFor = (offer: OfferedOption): string => capital(offer.label.replace(/\{(\w+)\}/g, () => String(amountOf(offer))));
/** How many cards a choice of several takes, beside how many were picked up. */
const setWords = (offer: OfferedOption): string => {
  const { least = 0, most } = offer.params[0] ?? {};
  const range = most === null || most === undefined ? '' : least === most ? ` of ${most}` : ` of ${least} to ${most}`;
  return `${props.picked}${range}`;
};
const plainWords = (offer: OfferedOption): string => capital(offerWords(offer.label));

/** A key for each button: the first letter of its words that is still free. */
const keys = computed(() => {
  const used = new Set<string>();
  const found = new Map<string, string>();
  for (const offer of legal.value) {
    if (needsCards(offer) || isByStep(offer) || plainValues(offer).length > 0) continue;
    const letter = [...offer.label.toLowerCase(), ...offer.option.toLowerCase()].find((c) => /[a-z]/.test(c) && !used.has(c));
    if (letter === undefined) continue;
    used.add(letter);
    found.set(offer.option, letter);
  }
  return found;
});

function press(offer: OfferedOption): void {
  explained.value = null;
  const [param] = offer.params;
  if (isRange(offer) && param) emit('choose', offer.option, { [param.name]: amountOf(offer) });
  else if (isSet(offer)) emit('playSet', offer.option);
  else if (needsCards(offer)) emit('aim', offer.option);
  else emit('choose', offer.option, {});
}
function pressStep(offer: OfferedOption, value: unknown): void {
  const args = takeStep(offer, value);
  if (args) emit('choose', offer.option, args);
}
function pressValue(offer: OfferedOption, value: unknown): void {
  const [param] = offer.params;
  if (param) emit('choose', offer.option, { [param.name]: value as string });
}
function typed(event: KeyboardEvent): void {
  const target = event.target as HTMLElement | null;
  if (!props.keyed || event.ctrlKey || event.metaKey || event.altKey || target?.closest('input, textarea, select, [contenteditable], [role=slider], [role=listbox], [role=dialog]')) return;
  const offer = legal.value.find((o) => keys.value.get(o.option) === event.key.toLowerCase());
  if (!offer) return;
  event.preventDefault();
  press(offer);
}
onMounted(() => addEventListener('keydown', typed));
onUnmounted(() => removeEventListener('keydown', typed));
const reasonFor = (option: string): string | null => (props.refused?.option === option ? props.refused.reason : explained.value === option ? (props.offers.find((o) => o.option === option)?.reason ?? null) : null);
const clockPlays = computed(() => {
  const offer = props.offers.find((o) => o.byClock);
  if (offer) return `you ${offerWords(offer.label)}`;
  const otherwise = props.view.waiting.clock?.otherwise ?? '';
  const [, bot] = /^bot (\w+)$/.exec(otherwise) ?? [];
  if (otherwise === 'stuck') return 'nobody was first';
  return bot === undefined ? otherwise : `the bot “${bot}” plays`;
});
</script>

<template>
  <section class="panel" :class="{ compact: !keyed }" :aria-label="keyed || viewerName === null ? 'Your choices' : `Choices of ${viewerName}`">
    <div class="turn">
      <div class="head">
        <h2>{{ offers.length === 0 ? status : view.waiting.how === 'any' ? 'Be first' : 'Your turn' }}</h2>
        <slot name="beside" />
      </div>
      <ClockWick v-if="clock" :clock="clock" :then="clockPlays" />
      <p v-else-if="offers.length > 0" class="calm">Take your time.</p>
      <p v-else-if="standIn !== null" class="calm">The bot “{{ standIn }}” plays for you.</p>
      <p v-else-if="!isMine && viewerName" class="calm">You look with {{ viewerName }}'s eyes.</p>
    </div>
    <div v-if="standIn !== null" class="one">
      <button type="button" class="choice" data-take-seat @click="emit('takeSeat')">Take your seat back</button>
      <p v-if="refused?.option === TAKE_SEAT" class="bubble" role="status">{{ refused.reason }}</p>
    </div>
    <button v-if="view.undo && isMine" type="button" class="undo" :disabled="sent !== null" data-option="undo" @click="emit('choose', 'undo', {})">Take back</button>
    <div v-if="offers.length > 0" class="choices">
      <template v-for="offer in legal" :key="offer.option">
        <AmountChoice v-if="isRange(offer)" :param="offer.params[0]" :amount="amountOf(offer)" :refused="refused?.option === offer.option" :slim="!keyed" @change="setAmount(offer, $event)">
          <button type="button" class="choice flat" :class="{ sent: sent === offer.option }" :disabled="sent !== null" :data-option="offer.option" @click="press(offer)">{{ wordsFor(offer) }}<HintBadge :mark="markOfOption(hint, offer.option, { [offer.params[0]?.name ?? '']: amountOf(offer) })" /><kbd v-if="keyed && keys.get(offer.option)">{{ keys.get(offer.option) }}</kbd></button>
          <p v-if="reasonFor(offer.option)" class="bubble" role="status">{{ reasonFor(offer.option) }}</p>
        </AmountChoice>
        <div v-else-if="plainValues(offer).length > 0" class="values">
          <span>{{ plainWords(offer) }}</span>
          <button v-for="v in plainValues(offer)" :key="v.text" type="button" class="choice" :disabled="sent !== null" :data-option="offer.option" @click="pressValue(offer, v.value)">{{ v.text }}<HintBadge :mark="markOfOption(hint, offer.option, { [offer.params[0]?.name ?? '']: v.value as string })" /></button>
          <p v-if="reasonFor(offer.option)" class="bubble" role="status">{{ reasonFor(offer.option) }}</p>
        </div>
        <div v-else-if="isByStep(offer)" class="values">
          <span>{{ stepWords(offer) }}</span>
          <button v-for="v in nextValues(offer)" :key="v.text" type="button" class="choice" :disabled="sent !== null" :data-option="offer.option" @click="pressStep(offer, v.value)">{{ v.text }}</button>
          <button v-if="begunOf(offer).length > 0" type="button" class="choice outline again" aria-label="Begin again" @click="beginAgain(offer)">×</button>
          <p v-if="reasonFor(offer.option)" class="bubble" role="status">{{ reasonFor(offer.option) }}</p>
        </div>
        <div v-else-if="isSet(offer)" class="one">
          <button type="button" class="choice" :class="{ outline: picked === 0, sent: sent === offer.option, refused: refused?.option === offer.option }" :disabled="sent !== null" :data-option="offer.option" @click="press(offer)">{{ plainWords(offer) }} <span class="count">{{ setWords(offer) }}</span><HintBadge :mark="markOfOption(hint, offer.option)" /><kbd v-if="keyed && keys.get(offer.option)">{{ keys.get(offer.option) }}</kbd></button>
          <p v-if="reasonFor(offer.option)" class="bubble" role="status">{{ reasonFor(offer.option) }}</p>
        </div>
        <div v-else class="one">
          <button type="button" class="choice" :class="{ outline: offer.byClock, sent: sent === offer.option, refused: refused?.option === offer.option }" :disabled="sent !== null" :data-option="offer.option" @click="press(offer)">{{ plainWords(offer) }}<template v-if="needsCards(offer) && !plainWords(offer).includes('…')"> …</template><HintBadge :mark="markOfOption(hint, offer.option)" /><kbd v-if="keyed && keys.get(offer.option)">{{ keys.get(offer.option) }}</kbd></button>
          <p v-if="reasonFor(offer.option)" class="bubble" role="status">{{ reasonFor(offer.option) }}</p>
        </div>
      </template>
      <button v-for="finisher in finishers" :key="`${finisher.option} ${finisher.words}`" type="button" class="choice" :disabled="sent !== null" :data-finish="finisher.option" @click="emit('choose', finisher.option, finisher.args)">{{ capital(finisher.words) }}</button>
      <div v-for="offer in notNow" :key="offer.option" class="one">
        <button type="button" class="choice not-now" aria-disabled="true" :aria-describedby="`why-${offer.option}`" @click="explained = explained === offer.option ? null : offer.option; emit('forget'); emit('explain', explained === null ? null : offer)">{{ plainWords(offer) }}</button>
        <span :id="`why-${offer.option}`" class="visually-hidden">Not now: {{ offer.reason }}</span>
        <p v-if="reasonFor(offer.option)" class="bubble" role="status">{{ reasonFor(offer.option) }}</p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.panel {
  background: var(--abyss);
  color: var(--mist);
  border-radius: 20px;
  padding: 16px 20px;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 14px 24px;
  min-height: 86px;
}
/* Beside a text, or a log on a small screen: the words in one line, and all choices in the next. */
@container table (min-width: 561px) and (max-width: 760px) {
  .panel {
    gap: 8px 20px;
    padding: 12px 16px;
    border-radius: 16px;
  }
  .turn {
    display: flex;
    flex: 1 1 100%;
    align-items: baseline;
    gap: 4px 14px;
  }
  .choices {
    flex: 1 1 100%;
    gap: 8px;
  }
  .choices :deep(.slide) {
    min-width: 120px;
  }
}
.compact.panel {
  gap: 8px 12px;
  min-height: 62px;
  padding: 10px 14px;
  border-radius: 14px;
}
.compact.panel .turn {
  flex: 1 1 110px;
  min-width: 100px;
}
.compact.panel .turn h2 {
  font-size: 16px;
  line-height: 20px;
}
.compact.panel .calm,
.compact.panel :deep(.words) {
  font-size: 13px;
  line-height: 17px;
}
/* Choices flow around the words: a pane has little height. */
.compact.panel .choices {
  display: contents;
}
.compact.panel .choice,
.compact.panel .undo {
  min-height: 36px;
  padding: 5px 12px;
  font-size: 14px;
}
.turn {
  flex: 1 1 190px;
  min-width: 170px;
}
.turn h2 {
  color: var(--paper);
}
.head {
  display: flex;
  align-items: center;
  gap: 4px 14px;
}
.calm {
  color: var(--mist-3);
}
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  justify-content: flex-end;
}
.one,
.values {
  position: relative;
}
.choice {
  min-height: 46px;
  padding: 9px 18px;
  border-radius: 10px;
  border: 2px solid var(--marigold);
  background: var(--marigold);
  color: var(--ink);
  font-weight: 600;
  font-size: 15px;
  display: inline-flex;
  align-items: center;
  gap: 8px;
  white-space: nowrap;
  cursor: pointer;
  box-shadow: 0 0 20px 1px #e3a03a40;
}
.count {
  font-weight: 500;
  opacity: 0.8;
}
.choice.outline {
  background: rgb(223 230 234 / 0.06);
  color: var(--soft-marigold);
  box-shadow: none;
}
.choice.sent,
.choice.outline.sent {
  background: var(--sent);
  border-color: var(--sent);
  color: #fff4dc;
  box-shadow: none;
}
.choice.refused {
  box-shadow: 0 0 0 3px var(--refused);
}
.choice.not-now {
  background: none;
  border-color: rgb(223 230 234 / 0.35);
  color: var(--mist-3);
  box-shadow: none;
}
.choice:disabled {
  cursor: progress;
}
.undo {
  min-height: 44px;
  padding: 6px 14px;
  border-radius: 10px;
  border: 1px solid rgb(223 230 234 / 0.35);
  background: none;
  color: var(--mist);
  font-weight: 600;
  cursor: pointer;
}
kbd {
  font: 500 11px/16px var(--mono);
  text-transform: uppercase;
  padding: 0 5px;
  border-radius: 4px;
  border: 1px solid currentcolor;
  opacity: 0.65;
}
.choice.flat {
  border-radius: 0 6px 6px 0;
  min-height: 56px;
  box-shadow: none;
}
.values {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.bubble {
  position: absolute;
  bottom: calc(100% + 10px);
  right: 0;
  z-index: 5;
  width: max-content;
  max-width: 280px;
  background: var(--paper);
  color: var(--ink);
  border-left: 4px solid var(--vermilion);
  border-radius: 8px;
  padding: 8px 12px;
  font-size: 13px;
  line-height: 18px;
  box-shadow: 0 6px 18px #050c1466;
}
@media (max-width: 700px) {
  .panel {
    border-radius: 20px 20px 0 0;
    padding: 14px 16px 16px;
  }
  .turn {
    flex-basis: 100%;
  }
  .choices {
    width: 100%;
    justify-content: stretch;
  }
  .choices > * {
    flex: 1 1 40%;
  }
  .choices > .amount,
  .choices > .values,
  .values > span {
    flex: 1 1 100%;
  }
  .values > .choice {
    flex: 1 1 16%;
    width: auto;
    padding-inline: 8px;
  }
  .values > .again {
    flex: 0 0 54px;
  }
  /* No keys to press there. */
  kbd {
    display: none;
  }
  .choice {
    width: 100%;
    min-height: 54px;
    justify-content: center;
  }
  /* It fills the lower right corner of its amount there. */
  .choice.flat {
    width: auto;
    border-radius: 6px 0 6px 0;
  }
}
</style>
