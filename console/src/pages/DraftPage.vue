<script setup lang="ts">
import type { SoakFailure } from '@wily-jester/core';
import { computed, nextTick, onMounted, onUnmounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import PageNotice from '../parts/PageNotice.vue';
import { client, role, useKey } from '../session';
import BenchTable from '../workshop/BenchTable.vue';
import DraftHead from '../workshop/DraftHead.vue';
import type { Helpers } from '../workshop/editor/help';
import SheetEditor from '../workshop/editor/SheetEditor.vue';
import { type FileName, filesIn, textOf, titleIn, withText } from '../workshop/files';
import HistoryDialog from '../workshop/HistoryDialog.vue';
import KeepDialog from '../workshop/KeepDialog.vue';
import LearnDrawer from '../workshop/learn/LearnDrawer.vue';
import TourCard from '../workshop/learn/TourCard.vue';
import { firstErrorOf, marksFor, verdictOf } from '../workshop/markings';
import OutlineRow from '../workshop/OutlineRow.vue';
import { justBefore, type Placed, whereItEnded } from '../workshop/placing';
import RehearsalPanel from '../workshop/RehearsalPanel.vue';
import RenameBar from '../workshop/RenameBar.vue';
import SetupDrawer from '../workshop/SetupDrawer.vue';
import SoakPanel from '../workshop/SoakPanel.vue';
import { useBench } from '../workshop/useBench';
import { useDraft } from '../workshop/useDraft';
import { useLanguage } from '../workshop/useLanguage';
import { useNames } from '../workshop/useNames';
import { useProofs } from '../workshop/useProofs';
import { useSeam } from '../workshop/useSeam';
import type { FilePlace } from '../workshop/workers/language.worker';
import type { Rehearsed } from '../workshop/workers/proof.worker';

/** Where a game comes to be: its text, and beside it the table of this very text. */
const route = useRoute();
const router = useRouter();
const id = String(route.params.draft);
const isLook = route.name === 'look';
const draft = useDraft(id, isLook);
const { texts, meanwhile, takenOver } = draft;
const language = useLanguage(texts);
const { read } = language;
const bench = useBench();
const proofs = useProofs();
const seam = useSeam();

const file = ref<FileName>('sheet');
const caret = ref(0);
const pointed = ref<string | null>(null);
const editor = ref<InstanceType<typeof SheetEditor> | null>(null);
const outlineRow = ref<InstanceType<typeof OutlineRow> | null>(null);
const isDrawn = ref(false);
const isLearning = ref(false);
const isTouring = ref(route.query.tour !== undefined && !isLook);
const isKeeping = ref(false);
const isLookingBack = ref(false);
const isMeeting = ref(false);
const shown = ref<'text' | 'table' | 'rehearsals'>('text');
const problem = ref('');
/** The text that was played last, to go back to. */
let goodSheet = '';
const goodSince = ref(Date.now());

onMounted(async () => {
  if (isLook) {
    const key = route.hash.slice(1);
    history.replaceState(history.state, '', route.path);
    // A developer reads every draft, and may take a copy.
    if (key !== '' && role.value !== 'developer' && !(await useKey(key).catch(() => false))) {
      problem.value = 'This link is unknown, or has ended. Ask whoever shared it for a new one.';
      return;
    }
  }
  await draft.load();
});
/** On a phone the text is read, and the table played. */
const phone = matchMedia('(max-width: 600px)');
const isPhone = ref(phone.matches);
const onPhone = (): void => {
  isPhone.value = phone.matches;
};
phone.addEventListener('change', onPhone);
onUnmounted(() => phone.removeEventListener('change', onPhone));
const isReadOnly = computed(() => isLook || isPhone.value);

const firstError = computed(() => (read.value && texts.value ? firstErrorOf(read.value, texts.value) : null));
const waitsFor = computed(() => (read.value && read.value.program === null ? (firstError.value?.line ?? 1) : null));
watch(waitsFor, (line, before) => {
  if (line !== null && before === null) goodSince.value = Date.now();
});

watch(read, async (found) => {
  const of = language.of.value;
  if (!found?.program || !of) return;
  const isNewText = goodSheet !== '' && goodSheet !== of.sheet;
  const isNewProgram = bench.program.value === null || goodSheet !== of.sheet || (!found.isWhole && Object.keys(of.parts).length > 0);
  goodSheet = of.sheet;
  if (isNewProgram) await bench.lay(found.program, isNewText);
  if (found.isWhole) void proofs.take(found);
});

const helpers: Helpers = {
  file: () => file.value,
  suggestions: (name, offset, text) => language.ask((it) => it.suggestions(name, offset, text)) as ReturnType<Helpers['suggestions']>,
  hover: (name, offset, text) => language.ask((it) => it.hover(name, offset, text)),
  signature: (name, offset, text) => language.ask((it) => it.signature(name, offset, text)),
  value: (name) => bench.ask((it) => it.value(name)).catch(() => null),
  pointed: (name) => {
    pointed.value = name;
  },
};

const marks = computed(() =>
  marksFor({
    file: file.value,
    read: read.value,
    isWaiting: waitsFor.value !== null,
    look: bench.look.value,
    fault: bench.fault.value,
    refusal: bench.refusedLine.value,
    results: proofs.results.value,
    reach: proofs.reach.value,
    names: bench.setup.value?.seats.map(({ name }) => name) ?? [],
    good: goodSheet,
    now: language.of.value?.sheet ?? '',
  }),
);
const verdict = computed(() => verdictOf(read.value, texts.value, file.value, language.problem.value));

// What just ran is brought into sight, unless somebody is writing.
watch(
  () => bench.look.value,
  (now, before) => {
    const line = now?.waits ?? now?.ran.at(-1) ?? null;
    if (now && line !== null && file.value === 'sheet' && before !== null && now.at !== before.at) editor.value?.reveal(line);
  },
);
function change(text: string): void {
  if (texts.value) draft.set(withText(texts.value, file.value, text));
}
async function show(name: FileName): Promise<void> {
  file.value = name;
  shown.value = 'text';
  await nextTick();
}
async function toLine(line: number, name: FileName = 'sheet'): Promise<void> {
  await show(name);
  editor.value?.toLine(line);
}
async function toPlace({ file: name, from, to }: FilePlace): Promise<void> {
  await show(name);
  editor.value?.goTo(from, to);
}
const toMistake = (line: number): Promise<void> => {
  const inThis = read.value?.problems[file.value]?.some((one) => one.line === line) === true;
  return toLine(line, inThis ? file.value : (firstError.value?.file ?? 'rehearsals'));
};
const { renaming, define, askName, rename, format } = useNames({ language, texts, file, isReadOnly, set: draft.set, goTo: toPlace, focus: () => editor.value?.focus() });
async function addPart(name: string): Promise<void> {
  if (!texts.value) return;
  draft.set({ ...texts.value, parts: { [name]: `part "${name}" {\n}\n`, ...texts.value.parts } });
  await show(`part ${name}`);
}
function takeBack(): void {
  if (texts.value && goodSheet !== '') draft.set({ ...texts.value, sheet: goodSheet });
}

const whole = (): Promise<string> => language.ask((it) => it.whole());
/** A rehearsal out of what was played, behind the others. */
async function keepRehearsal(text: string): Promise<void> {
  if (!texts.value) return;
  const before = texts.value.rehearsals.trimEnd();
  const rehearsals = before === '' ? text : `${before}\n\n${text}`;
  draft.set({ ...texts.value, rehearsals });
}
const lineOfTitle = (title: string): number => {
  const lines = (texts.value?.rehearsals ?? '').split('\n');
  return lines.findIndex((line) => line.includes(`"${title}"`)) + 1;
};
/** Puts the table where a rehearsal ended, or to just before a soaked game went wrong. */
async function put({ setup, made }: Placed): Promise<void> {
  await bench.relay(setup, made);
  shown.value = 'table';
}

const shelfProblem = ref('');
const shelfBusy = ref(false);
/** The text that was put on the shelf here last: as long as it stays so, the page says that it is there. */
const shelved = ref<string | null>(null);
const isShelved = computed(() => shelved.value !== null && shelved.value === JSON.stringify(texts.value));
async function shelve(): Promise<void> {
  if (!texts.value) return;
  shelfBusy.value = true;
  shelfProblem.value = '';
  try {
    await draft.keep();
    const given = JSON.stringify(texts.value);
    const { rehearsals } = texts.value;
    const done = await client.value.shelveDraft(id, { source: await whole(), ...(rehearsals.trim() === '' ? {} : { rehearsals }) });
    draft.summary.value = done.draft;
    shelved.value = given;
  } catch (error) {
    shelfProblem.value = error instanceof Error ? error.message : String(error);
  } finally {
    shelfBusy.value = false;
  }
}
async function takeCopy(): Promise<void> {
  if (!texts.value) return;
  const { sheet, rehearsals, parts } = texts.value;
  const copy = await client.value.addDraft({ sheet, rehearsals, parts });
  await router.push(`/workshop/${copy.id}`);
}

const NEXT = ['[data-editor] .cm-content', '.water', '[aria-label="Rehearsals"]', '.drawer'];
const FIRST = 'button:not(:disabled), [tabindex="0"], input, select';
function typed(event: KeyboardEvent): void {
  if (event.key === 'F1') {
    event.preventDefault();
    isLearning.value = !isLearning.value;
    return;
  }
  if (event.key === 'F6') {
    event.preventDefault();
    // A place where nothing can be reached is passed over.
    const places = NEXT.flatMap((selector) => {
      const place = document.querySelector<HTMLElement>(selector);
      const first = place?.matches('[contenteditable]') ? place : place?.querySelector<HTMLElement>(FIRST);
      return place && first ? [{ place, first }] : [];
    });
    const at = places.findIndex(({ place }) => place.contains(document.activeElement));
    const target = places[(at + (event.shiftKey ? places.length - 1 : 1)) % places.length]?.first;
    target?.focus();
    return;
  }
  const target = event.target as HTMLElement | null;
  if (event.ctrlKey || event.metaKey || event.altKey || target?.closest('input, textarea, select, [contenteditable], [role=dialog], .paper')) return;
  const { look } = bench;
  if (event.key === 'ArrowLeft' && look.value && look.value.at > 0) void bench.go(look.value.at - 1);
  else if (event.key === 'ArrowRight' && look.value && look.value.at < look.value.last) void bench.go(look.value.at + 1);
  else
    queueMicrotask(() => {
      // A letter that presses a choice is that choice's.
      if (event.defaultPrevented) return;
      if (event.key === 'e') void bench.nextEyes();
      if (event.key === 'k' && (look.value?.last ?? 0) > 0 && !isReadOnly.value) isKeeping.value = true;
    });
}
onMounted(() => addEventListener('keydown', typed));
onUnmounted(() => removeEventListener('keydown', typed));
watch(isKeeping, (isOpen) => bench.rest(isOpen));
const title = computed(() => titleIn(texts.value?.sheet ?? ''));
watch(title, (now) => {
  document.title = `${now} · Workshop · Wily Jester`;
});
const otherAt = computed(() => (meanwhile.value ?? null)?.at.toLocaleTimeString('en', { hour: '2-digit', minute: '2-digit', hour12: false }) ?? '');
const takenAt = computed(() => takenOver.value?.toLocaleTimeString('en', { hour: '2-digit', minute: '2-digit', hour12: false }) ?? '');
function settle(chosen: Parameters<typeof draft.settle>[0]): void {
  if (meanwhile.value) draft.settle(chosen);
  else void draft.replace(chosen);
}
</script>

<template>
  <PageNotice v-if="problem || (draft.problem.value && !texts)" tone="fault" title="This draft cannot be shown" :text="problem || draft.problem.value"><RouterLink class="notice-button" to="/workshop">To the workshop</RouterLink></PageNotice>
  <PageNotice v-else-if="!texts" tone="loading" title="Fetching the draft" text="The text comes first." />
  <main v-else class="workshop" :data-played-at="bench.played.value?.at ?? ''" :data-played-ms="Math.round(bench.played.value?.milliseconds ?? 0)" :data-read-ms="Math.round(language.took.value)" :data-mistakes="firstError?.message ?? ''" :data-shown="shown" :style="{ '--paper-share': `${seam.share.value}%` }">
    <nav class="tabs" aria-label="What is shown"><button v-for="one in ['text', 'table', 'rehearsals'] as const" :key="one" type="button" class="quiet" :aria-pressed="shown === one" @click="shown = one">{{ one.charAt(0).toUpperCase() + one.slice(1) }}</button></nav>
    <section class="paper on-paper" aria-label="The text and its rehearsals">
      <DraftHead
        :id="id"
        :title="title"
        :words="draft.words.value"
        :texts="texts"
        :file="file"
        :look="isLook"
        :may-copy="role === 'developer'"
        :may-shelve="waitsFor === null && read !== null"
        :why-not="waitsFor === null ? '' : `Line ${waitsFor} waits to be mended.`"
        :busy="shelfBusy"
        :problem="shelfProblem || draft.problem.value"
        :shelf="draft.summary.value?.shelf ?? null"
        :is-shelved="isShelved"
        @history="isLookingBack = true"
        @shelve="shelve"
        @copy="takeCopy"
        @format="format"
        @learn="isLearning = true"
        @part="addPart"
      />
      <OutlineRow ref="outlineRow" :outline="read?.outline ?? []" :caret="caret" :files="filesIn(texts)" :file="file" :verdict="verdict" :waiting="language.isReading.value && read === null" @jump="(from: number) => editor?.goTo(from)" @file="show" @to-line="toMistake" />
      <p v-if="meanwhile" class="strip" role="alert">Changed in another window at {{ otherAt }}. <button type="button" @click="isMeeting = true">See both</button></p>
      <p v-else-if="takenOver" class="strip quietly" role="status">Changed in another window at {{ takenAt }}: this is that text. <button type="button" @click="takenOver = null">Good</button></p>
      <TourCard v-if="isTouring" :draft="id" :texts="texts" :checks="waitsFor === null && read !== null" :look="bench.look.value" :results="proofs.results.value" :shelf="draft.summary.value?.shelf ?? null" @write="draft.set" @end="isTouring = false" />
      <RenameBar v-if="renaming" :name="renaming.name" :rename="rename" @close="renaming = null" />
      <SheetEditor ref="editor" class="text" :file="file" :text="textOf(texts, file)" :marks="marks" :read-only="isReadOnly" :helpers="helpers" @change="change" @moved="caret = $event" @define="define" @rename="askName" @outline="outlineRow?.open()" @format="format" />
      <div class="below">
        <RehearsalPanel
          :results="proofs.results.value"
          :reach="proofs.reach.value"
          :running="proofs.isRunning.value"
          :waits-for="waitsFor"
          :has-text="texts.rehearsals.trim() !== ''"
          :wrong="read?.problems.rehearsals.find(({ severity }) => severity === 'error') ? 'a mistake in their text' : ''"
          @show="(result: Rehearsed) => toLine(result.failure?.line ?? lineOfTitle(result.title), 'rehearsals')"
          @put="(result: Rehearsed) => put(whereItEnded(result))"
          :read-only="isReadOnly"
          @open="file = 'rehearsals'"
          @empty="texts && draft.set({ ...texts, rehearsals: '' })"
        />
        <SoakPanel :proofs="proofs" :waits-for="waitsFor" :on-shelf="draft.summary.value?.shelf ?? null" @put="(failure: SoakFailure) => put(justBefore(failure))" @to-line="(line: number) => toLine(line)" />
      </div>
    </section>
    <div class="seam" role="separator" tabindex="0" aria-orientation="vertical" aria-label="Between text and table" :aria-valuenow="Math.round(seam.share.value)" aria-valuemin="36" aria-valuemax="64" @pointerdown="seam.grab" @dblclick="seam.reset" @keydown="seam.typed" />
    <BenchTable class="side" :bench="bench" :waits-for="waitsFor" :waits-since="goodSince" :has-rehearsals="texts.rehearsals.trim() !== ''" :pointed="pointed" :read-only="isReadOnly" :line-text="(line: number) => (texts?.sheet.split('\n')[line - 1] ?? '')" @to-line="toMistake" @take-back="takeBack" @keep="isKeeping = true" @drawer="isDrawn = !isDrawn" />
    <LearnDrawer v-if="isLearning" @close="isLearning = false" />
    <SetupDrawer v-if="isDrawn" :bench="bench" @close="isDrawn = false" />
    <KeepDialog v-model:visible="isKeeping" :bench="bench" :whole="whole" @keep="keepRehearsal" />
    <HistoryDialog v-if="!isLook" v-model:visible="isLookingBack" :draft="id" :now="texts" :theirs="null" @take="settle" />
    <HistoryDialog v-if="meanwhile" v-model:visible="isMeeting" :draft="id" :now="texts" :theirs="meanwhile.texts" @take="settle" />
  </main>
</template>

<style scoped>
.workshop {
  position: relative;
  flex: none;
  display: grid;
  grid-template-columns: var(--paper-share) 0 minmax(0, 1fr);
  grid-template-rows: minmax(0, 1fr);
  height: calc(100dvh - var(--bar));
  min-height: 520px;
  overflow-x: clip;
}
.paper {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-width: 0;
  min-height: 0;
  padding: 12px 16px 12px 20px;
  background: var(--paper);
}
.text {
  flex: 1 1 0;
}
.below {
  flex: none;
  display: grid;
  grid-template-columns: minmax(0, 1.72fr) minmax(0, 1fr);
  height: 140px;
}
.below > :last-child {
  margin-left: 20px;
  padding-left: 20px;
  border-left: 1px solid var(--line);
}
.seam {
  position: relative;
  z-index: 5;
  width: 9px;
  margin-left: -4px;
  cursor: col-resize;
  touch-action: none;
}
.seam:hover,
.seam:focus-visible {
  background: var(--teal);
}
.strip {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 6px 14px;
  border-left: 4px solid var(--vermilion);
  border-radius: 8px;
  background: #f7e4df;
}
.strip.quietly {
  border-left-color: var(--teal);
  background: #e6f1ee;
}
.strip button {
  min-height: 30px;
  padding: 3px 12px;
  border: 1px solid var(--field);
  border-radius: 8px;
  background: var(--paper);
  font-weight: 600;
  cursor: pointer;
}
.tabs {
  display: none;
}
@media (max-width: 900px) {
  .workshop {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto minmax(0, 1fr) minmax(0, 1.1fr);
    height: auto;
    min-height: calc(100dvh - var(--bar));
  }
  .seam {
    display: none;
  }
  .tabs {
    display: flex;
    gap: 4px;
    padding: 6px 12px;
    background: var(--paper);
  }
  .tabs button {
    min-height: 38px;
    padding: 4px 14px;
    border-radius: 9px;
    font-weight: 600;
  }
  .tabs button[aria-pressed="true"] {
    background: #e9dfe7;
    color: var(--plum);
  }
  .workshop .text {
    min-height: 360px;
  }
  .below {
    display: none;
  }
  [data-shown="rehearsals"] .below {
    display: grid;
    height: auto;
    min-height: 240px;
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
  }
  [data-shown="rehearsals"] .below > :last-child {
    margin: 0;
    padding: 0;
    border: 0;
  }
  [data-shown="rehearsals"] .text {
    display: none;
  }
  .side {
    min-height: 620px;
  }
}
@media (max-width: 900px) and (min-width: 601px) {
  /* On a tablet in portrait the text stands above the table; only rehearsals are behind a tab. */
  .tabs button:nth-child(2) {
    display: none;
  }
}
@media (max-width: 600px) {
  [data-shown="text"] .side,
  [data-shown="rehearsals"] .side,
  [data-shown="table"] .paper {
    display: none;
  }
  .workshop {
    grid-template-rows: auto minmax(0, 1fr);
  }
  .paper {
    padding: 8px 10px;
  }
}
</style>
