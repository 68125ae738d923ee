<script setup lang="ts">
import { computed, nextTick, provide, ref, toRef, useTemplateRef, watch } from 'vue';
import { glide } from '../motion/motion';
import { CARD } from '../parts/dragged';
import { MARKED } from '../table/marked';
import TablePlay from '../table/TablePlay.vue';
import BenchRail from './BenchRail.vue';
import type { BenchHere } from './useBench';

/** The table of the text beside it: played, gone back in, kept as a rehearsal. */
const props = defineProps<{
  bench: BenchHere;
  /** The line at which a mistake keeps it from being played, and when the text last checked. */
  waitsFor: number | null;
  waitsSince: number;
  hasRehearsals: boolean;
  /** The name under the pointer in the text: its twin at the table is marked. */
  pointed: string | null;
  readOnly?: boolean;
  /** The text of one of the sheet's lines. */
  lineText: (line: number) => string;
}>();
const emit = defineEmits<{ toLine: [line: number]; takeBack: []; keep: []; drawer: [] }>();
const { look, fault, shown, changes, played, isStill, eyes } = props.bench;

/** A card of the stacked pack that is dragged onto a pile comes there; the pile is lit meanwhile. */
const pileUnder = (event: DragEvent): string | null => (event.target as Element | null)?.closest('[data-pile]')?.getAttribute('data-pile') ?? null;
function light(event: DragEvent | null): void {
  for (const lit of stage.value?.querySelectorAll('[data-lit]') ?? []) lit.removeAttribute('data-lit');
  if (event) (event.target as Element | null)?.closest('[data-pile]')?.setAttribute('data-lit', '');
}
function over(event: DragEvent): void {
  if (!event.dataTransfer?.types.includes(CARD)) return;
  light(event);
  if (pileUnder(event) === null) return;
  event.preventDefault();
  event.dataTransfer.dropEffect = 'copy';
}
function drop(event: DragEvent): void {
  light(null);
  const [face, path] = [event.dataTransfer?.getData(CARD), pileUnder(event)];
  if (!face || path === null) return;
  event.preventDefault();
  const gets = props.bench.setup.value?.gets ?? {};
  props.bench.stack({ ...gets, [path]: [...(gets[path] ?? []), face] });
}
const isWaiting = computed(() => props.waitsFor !== null);
const seen = computed<number | 'watch'>(() => {
  const now = look.value;
  if (eyes.value === 'watch') return 'watch';
  if (typeof eyes.value === 'number') return eyes.value + 1;
  const viewer = now?.view.viewer;
  return typeof viewer === 'number' ? viewer : (now?.seat ?? 0) + 1;
});
const names = computed(() => props.bench.setup.value?.seats.map(({ name }) => name) ?? []);
const eyesWords = computed(() => (eyes.value === 'open' ? 'all hands open' : eyes.value === 'watch' ? 'as a watcher sees it' : `with ${names.value[Number(seen.value) - 1] ?? ''}’s eyes`));
const broken = computed(() => look.value?.broken ?? null);
const ago = ref('');
watch(
  () => [props.waitsFor, props.waitsSince] as const,
  () => {
    const seconds = Math.round((Date.now() - props.waitsSince) / 1_000);
    ago.value = seconds < 2 ? 'a moment ago' : seconds < 90 ? `${seconds} seconds ago` : `${Math.round(seconds / 60)} minutes ago`;
  },
);
const counted = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`;
const news = computed(() => {
  if (isWaiting.value) return look.value ? `As it stood ${ago.value}` : '';
  if (fault.value) return 'As it stood before the fault';
  const now = played.value;
  if (!now || now.choices === 0) {
    const last = look.value?.last ?? 0;
    if (!look.value || props.readOnly) return '';
    return last === 0 ? 'Make a choice, then change a rule: the table plays it again.' : `Now change a rule: ${last === 1 ? 'this choice is' : `these ${last} choices are`} played again on it.`;
  }
  const what = changes.value.length === 0 ? '' : changes.value.length === 1 ? ` ${changeWords(changes.value[0]?.where ?? '')} changed.` : ` ${changes.value.length} figures changed.`;
  return `Played again on this text, ${counted(now.choices, 'choice')} in ${Math.max(1, Math.round(now.milliseconds))} ms.${what}`;
});
/** Whose figure it is, in words. */
function changeWords(where: string): string {
  const [, seat, name] = /^(\d+) (.+)$/.exec(where) ?? [];
  const words = seat === undefined ? where.replace(/\/[^ /]* /, ' ') : `${names.value[Number(seat) - 1]}’s ${name}`;
  return words.charAt(0).toUpperCase() + words.slice(1);
}
const lastSaid = computed(() => look.value?.said.filter(({ kind }) => kind !== 'chapter' && kind !== 'dealt').at(-1)?.text ?? '');
const stage = useTemplateRef<HTMLElement>('stage');
/** The cards that are seen, by their faces; of equal ones the first, the second and so on. */
function cardsSeen(): [string, Element][] {
  const seen = new Map<string, number>();
  return [...(stage.value?.querySelectorAll('[data-pile] [data-at]') ?? [])].flatMap((element): [string, Element][] => {
    const face = element.querySelector('[data-face]')?.getAttribute('data-face') ?? 'back';
    if (face === 'back') return [];
    seen.set(face, (seen.get(face) ?? 0) + 1);
    return [[`${face} ${seen.get(face)}`, element]];
  });
}
// A new text, and a step back, have cards elsewhere: those that are seen travel there. Steps forward are moves of the game.
watch(look, (now, before) => {
  if (now && before && now.at <= before.at) void glide(cardsSeen, () => nextTick());
});
const marks = computed(() => new Map(changes.value.map(({ where, was }) => [where, was])));
/** What the names on a line that made a fault were worth as the table stood. */
const around = ref<readonly { readonly name: string; readonly words: string }[]>([]);
watch(
  () => [fault.value, broken.value] as const,
  async () => {
    const line = fault.value?.line ?? (broken.value?.isFault ? broken.value.line : null);
    around.value = [];
    if (line === null || !look.value) return;
    const names = [...new Set(props.lineText(line).match(/[A-Za-z]\w*/g) ?? [])].slice(0, 12);
    const found: { name: string; words: string }[] = [];
    for (const name of names) {
      const now = await props.bench.ask((bench) => bench.value(name)).catch(() => null);
      const [first, ...more] = now?.values ?? [];
      if (first && first.words.length < 60) found.push({ name: first.of === null ? name : `${first.of}’s ${name}`, words: `${first.words}${more.length > 0 ? ', …' : ''}` });
    }
    around.value = found.slice(0, 5);
  },
);
provide(MARKED, { pointed: toRef(props, 'pointed'), was: marks });
</script>

<template>
  <section class="water" aria-label="The table">
    <header>
      <h2>{{ look?.view.chapter.title || look?.plan.name || 'The table' }}</h2>
      <button v-if="look" type="button" class="quiet eyes" :title="'E changes eyes'" @click="bench.nextEyes()">{{ eyesWords }}</button>
      <button type="button" class="tab" @click="emit('drawer')"><span aria-hidden="true">‹</span> Seats, eyes, settings</button>
    </header>
    <p v-show="news !== ''" class="news" :class="{ quietly: isWaiting }" role="status"><svg width="9" height="13" viewBox="0 0 10 14" aria-hidden="true"><path d="M5 0L10 7L5 14L0 7Z" fill="currentColor" /></svg> {{ news }}</p>
    <div v-if="!look && !fault" class="laying" aria-busy="true"><span v-for="i in 3" :key="i" class="blank" /><p>{{ isWaiting ? `The table waits for line ${waitsFor}.` : 'Laying the table.' }}</p></div>
    <div v-else ref="stage" class="play" :class="{ greyed: isWaiting }" @dragover="over" @dragleave.self="light(null)" @drop="drop">
      <TablePlay v-if="look" :shown="shown" :eyes="seen" :open="eyes === 'open'" no-hints :still="isWaiting || isStill" @explain="bench.explain($event)" />
    </div>
    <div v-if="isWaiting" class="waits on-paper" role="status">
      <div><b class="serif">The table waits for line {{ waitsFor }}</b><p>Mend it and the table plays on by the new rules. {{ look && look.last > 0 ? `Your ${counted(look.last, 'choice')} ${look.last === 1 ? 'is' : 'are'} kept.` : '' }}</p></div>
      <button v-if="!readOnly" type="button" class="plain" @click="emit('takeBack')">Take the text back</button>
      <button type="button" class="go" @click="emit('toLine', waitsFor ?? 1)">Go to line {{ waitsFor }}</button>
    </div>
    <div v-else-if="fault" class="waits fault on-paper" role="alert">
      <div><b class="serif">{{ fault.where === '' ? 'The table cannot be laid' : 'The sheet made a fault' }}</b><p>{{ fault.where === '' ? '' : `In ${fault.where}: ` }}{{ fault.message }}</p><dl v-if="around.length > 0"><template v-for="one in around" :key="one.name"><dt>{{ one.name }}</dt><dd>{{ one.words }}</dd></template></dl></div>
      <button v-if="look === null" type="button" class="plain" @click="bench.beginAnew()">Begin anew</button>
      <button v-else type="button" class="plain" @click="bench.go(look.at)">As it stood</button>
      <button v-if="fault.line !== null" type="button" class="go" @click="emit('toLine', fault.line)">Open line {{ fault.line }}</button>
    </div>
    <div v-else-if="broken" class="waits fault on-paper" role="alert">
      <div><b class="serif">Choice {{ broken.choice }} {{ broken.isFault ? 'makes a fault' : 'is refused by the new text' }}</b><p>{{ broken.words }}. {{ broken.reason }}</p><dl v-if="around.length > 0"><template v-for="one in around" :key="one.name"><dt>{{ one.name }}</dt><dd>{{ one.words }}</dd></template></dl></div>
      <button v-if="broken.line !== null" type="button" class="plain" @click="emit('toLine', broken.line)">Line {{ broken.line }}</button>
      <button type="button" class="plain" @click="bench.beginAnew()">Begin anew</button>
      <button type="button" class="go" @click="bench.backTo(broken.choice - 1)">{{ broken.choice === 1 ? 'Back to the start' : `Back to choice ${broken.choice - 1}` }}</button>
    </div>
    <BenchRail v-if="look" :look="look" :off="isWaiting" :may-keep="look.last > 0 && !readOnly" :urged="!hasRehearsals && look.last > 2" @go="bench.go" @keep="emit('keep')" />
    <p class="said">{{ lastSaid }}</p>
  </section>
</template>

<style scoped>
.water {
  display: flex;
  flex-direction: column;
  gap: 6px;
  min-width: 0;
  min-height: 0;
  padding: 12px 16px 10px 20px;
  color: var(--mist);
  background: radial-gradient(ellipse 80% 70% at 50% 40%, #1d3347, var(--deep) 80%);
}
header {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 36px;
}
h2 {
  overflow: hidden;
  color: var(--paper);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.eyes {
  color: var(--mist-2);
  font-size: 13px;
  white-space: nowrap;
}
.eyes:hover {
  color: #fff;
}
.tab {
  flex: none;
  margin: 0 -16px 0 auto;
  min-height: 36px;
  padding: 6px 14px;
  border: 0;
  border-radius: 10px 0 0 10px;
  background: var(--paper);
  color: var(--ink);
  font-weight: 600;
  font-size: 14px;
  cursor: pointer;
}
.news {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 20px;
  color: var(--soft-teal);
  font-size: 13px;
}
.news.quietly {
  color: var(--mist-3);
}
.play {
  flex: 1 1 0;
  display: flex;
  min-height: 0;
  transition:
    opacity 160ms,
    filter 160ms;
}
.play :deep([data-lit]) {
  border-radius: 8px;
  outline: 2px solid var(--marigold);
  outline-offset: 5px;
}
.greyed {
  filter: saturate(0.33);
  transition-delay: 300ms;
}
.greyed :deep(.card),
.greyed :deep(.water-lines) {
  opacity: 0.66;
}
.laying {
  flex: 1;
  display: grid;
  grid-template-columns: repeat(3, 64px);
  place-content: center;
  gap: 14px;
}
.blank {
  height: 90px;
  border: 2px dashed rgb(223 230 234 / 0.3);
  border-radius: 8px;
}
.laying p {
  grid-column: 1 / 4;
  text-align: center;
}
.waits {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px 14px;
  padding: 14px 20px;
  border-radius: 16px;
  background: var(--paper);
  color: var(--ink);
}
.waits > div {
  flex: 1 1 240px;
}
.waits b {
  font-size: 18px;
  line-height: 24px;
}
.waits p {
  color: var(--ink-2);
  font-size: 13px;
  line-height: 18px;
}
.waits dl {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  margin: 4px 0 0;
  font-size: 13px;
}
.waits dt {
  font-family: var(--mono);
}
.waits dd {
  margin: 0 10px 0 0;
  font-weight: 600;
}
.fault {
  border-left: 6px solid var(--vermilion);
}
.waits button {
  min-height: 40px;
  padding: 6px 14px;
  border: 1px solid var(--field);
  border-radius: 10px;
  background: none;
  color: var(--ink);
  font-weight: 600;
  font-size: 14px;
  cursor: pointer;
}
.waits .go {
  border-color: var(--teal);
  background: var(--teal);
  color: #fff;
}
.said {
  min-height: 20px;
  overflow: hidden;
  color: var(--mist-2);
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
@media (max-width: 600px) {
  /* The drawer says it too. */
  .eyes {
    display: none;
  }
}
@media (prefers-reduced-motion: reduce) {
  .play {
    transition: none;
  }
}
</style>
