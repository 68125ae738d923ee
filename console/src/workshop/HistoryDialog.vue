<script setup lang="ts">
import { MergeView } from '@codemirror/merge';
import { EditorState } from '@codemirror/state';
import { EditorView, lineNumbers } from '@codemirror/view';
import type { EditionSummary } from '@wily-jester/protocol';
import Dialog from 'primevue/dialog';
import { computed, nextTick, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { client } from '../session';
import './editor/editor.css';
import { colours } from './editor/colours';
import { look } from './editor/look';
import { type DraftTexts, type FileName, filesIn, fileWords, textOf } from './files';

/** Two texts side by side: an edition and the draft as it is, or what two windows wrote. */
const props = defineProps<{
  draft: string;
  now: DraftTexts;
  /** What another window wrote: then the choice is between these two. */
  theirs: DraftTexts | null;
}>();
const visible = defineModel<boolean>('visible', { required: true });
const emit = defineEmits<{ take: [texts: DraftTexts] }>();

const editions = ref<readonly EditionSummary[]>([]);
const chosen = ref<number | null>(null);
const old = shallowRef<DraftTexts | null>(null);
const file = ref<FileName>('sheet');
const wrong = ref('');
const host = ref<HTMLElement | null>(null);
let merge: MergeView | null = null;
const left = computed(() => props.theirs ?? old.value);
/** What stands on the right: the draft as it is, or another edition, such as a version that is on the shelf. */
const against = ref<number | null>(null);
const other = shallowRef<DraftTexts | null>(null);
const right = computed(() => other.value ?? props.now);

watch(visible, async (isOpen) => {
  if (!isOpen) {
    merge?.destroy();
    merge = null;
    return;
  }
  wrong.value = '';
  file.value = 'sheet';
  against.value = null;
  other.value = null;
  if (props.theirs) {
    await draw();
    return;
  }
  try {
    editions.value = await client.value.editions(props.draft);
    await choose(editions.value[1]?.number ?? editions.value[0]?.number ?? null);
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
});
async function choose(number: number | null): Promise<void> {
  chosen.value = number;
  if (number === null) return;
  old.value = await textsOf(number);
  await draw();
}
async function textsOf(number: number): Promise<DraftTexts> {
  const { sheet, rehearsals, parts } = await client.value.edition(props.draft, number);
  return { sheet, rehearsals, parts };
}
async function compareWith(number: number | null): Promise<void> {
  against.value = number;
  other.value = number === null ? null : await textsOf(number);
  await draw();
}
watch(file, draw);

async function draw(): Promise<void> {
  await nextTick();
  merge?.destroy();
  merge = null;
  if (!host.value || !left.value) return;
  const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? '';
  const extensions = [lineNumbers(), colours, look, EditorState.readOnly.of(true), EditorView.editable.of(false), EditorView.cspNonce.of(nonce)];
  merge = new MergeView({
    a: { doc: textOf(left.value, file.value), extensions },
    b: { doc: textOf(right.value, file.value), extensions },
    parent: host.value,
    gutter: true,
    collapseUnchanged: { margin: 3, minSize: 8 },
  });
}
onBeforeUnmount(() => merge?.destroy());
const when = (at: string): string => new Date(at).toLocaleString('en', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false });
function take(texts: DraftTexts | null): void {
  if (!texts) return;
  emit('take', texts);
  visible.value = false;
}
</script>

<template>
  <Dialog v-model:visible="visible" modal dismissable-mask :header="theirs ? 'Two windows wrote' : 'History'" class="on-paper" :style="{ width: 'min(1180px, calc(100vw - 24px))' }">
    <div class="whole" :class="{ two: theirs }">
      <ol v-if="!theirs" aria-label="Editions, the latest first">
        <li v-for="edition in editions" :key="edition.number"><button type="button" class="quiet" :aria-pressed="edition.number === chosen" @click="choose(edition.number)"><b>{{ when(edition.at) }}</b><span>{{ edition.lines }} lines<template v-if="edition.shelf">, put on the shelf</template></span></button></li>
      </ol>
      <section>
        <div class="heads"><b>{{ theirs ? 'The other window' : 'As it was' }}</b><b v-if="theirs">This window</b><select v-else aria-label="Compare with" :value="against ?? ''" @change="compareWith(Number(($event.target as HTMLSelectElement).value) || null)"><option value="">As it is</option><option v-for="edition in editions" :key="edition.number" :value="edition.number">{{ when(edition.at) }}{{ edition.shelf ? ', on the shelf' : '' }}</option></select></div>
        <div v-if="filesIn(right).length > 1" class="files" role="group" aria-label="Files"><button v-for="one in filesIn(right)" :key="one" type="button" class="quiet" :aria-pressed="one === file" @click="file = one">{{ fileWords(one) }}</button></div>
        <div ref="host" class="merge" />
        <p v-if="wrong" role="alert">{{ wrong }}</p>
        <footer v-if="theirs"><button type="button" @click="take(theirs)">Take the other window’s</button><button type="button" class="go" @click="take(now)">Keep this window’s</button></footer>
        <footer v-else><p>What is there now stays in the history.</p><button type="button" class="go" :disabled="!old" @click="take(old)">Go back to this</button></footer>
      </section>
    </div>
  </Dialog>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: 180px minmax(0, 1fr);
  gap: 18px;
}
.whole.two {
  grid-template-columns: minmax(0, 1fr);
}
ol {
  max-height: 520px;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}
li button {
  display: grid;
  width: 100%;
  padding: 7px 10px;
  border-radius: 9px;
  text-align: left;
}
li button[aria-pressed="true"] {
  background: #e9dfe7;
}
li span {
  color: var(--ink-2);
  font-size: 12.5px;
}
.heads {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.heads select {
  justify-self: start;
  max-width: 100%;
  padding: 4px 8px;
  border: 1px solid var(--field);
  border-radius: 8px;
  background: var(--code);
  color: var(--ink);
  font: 600 14px/20px var(--sans);
}
.files button {
  padding: 3px 10px;
  border-radius: 8px;
}
.files button[aria-pressed="true"] {
  background: #e9dfe7;
  color: var(--plum);
}
.merge {
  height: 440px;
  margin-top: 6px;
  border: 1px solid var(--line);
  border-radius: 12px;
  overflow: auto;
}
footer {
  display: flex;
  justify-content: flex-end;
  align-items: center;
  gap: 12px;
  padding-top: 12px;
  color: var(--ink-2);
}
footer button {
  min-height: 42px;
  padding: 8px 18px;
  border: 1px solid var(--field);
  border-radius: 10px;
  background: none;
  color: var(--ink);
  font-weight: 600;
  cursor: pointer;
}
footer .go {
  border-color: var(--teal);
  background: var(--teal);
  color: #fff;
}
</style>
