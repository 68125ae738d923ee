<script setup lang="ts">
import { ref } from 'vue';
import { RouterLink } from 'vue-router';
import { download } from '../parts/download';
import { client } from '../session';
import { type DraftTexts, type FileName, fileStem, textOf } from './files';
import { zipOf } from './taking';

/** The head of a draft: its name, whether it is kept, and what may be done with it as a whole. */
const props = defineProps<{
  id: string;
  title: string;
  words: string;
  texts: DraftTexts;
  file: FileName;
  look: boolean;
  mayCopy: boolean;
  mayShelve: boolean;
  /** Why it cannot be put on the shelf now. */
  whyNot: string;
  busy: boolean;
  problem: string;
  shelf: string | null;
  /** Whether what stands there is on the shelf. */
  isShelved: boolean;
}>();
const emit = defineEmits<{ history: []; shelve: []; copy: []; format: []; learn: []; part: [name: string] }>();

const isOpen = ref(false);
const link = ref('');
const copied = ref(false);
const part = ref('');
const wrong = ref('');

function takeFile(): void {
  const stem = fileStem(props.title);
  const name = props.file === 'sheet' ? `${stem}.motley` : props.file === 'rehearsals' ? `${stem}.rehearsal.motley` : `${props.file.slice(5)}.motley`;
  download(name, textOf(props.texts, props.file), 'text/plain');
}
function takeZip(): void {
  const { name, bytes } = zipOf(props.texts);
  download(name, bytes as Uint8Array<ArrayBuffer>, 'application/zip');
}
async function share(): Promise<void> {
  wrong.value = '';
  try {
    link.value = `${location.origin}/workshop/look/${props.id}#${await client.value.shareDraft(props.id)}`;
    copied.value = false;
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
}
async function copy(): Promise<void> {
  await navigator.clipboard?.writeText(link.value).catch(() => undefined);
  copied.value = true;
}
async function endLinks(): Promise<void> {
  await client.value.endLooks(props.id).catch(() => undefined);
  link.value = '';
}
function addPart(): void {
  if (!/^[a-z][a-z0-9-]{0,39}$/.test(part.value)) {
    wrong.value = 'A part is called by small letters, digits and lines: side-pots.';
    return;
  }
  wrong.value = '';
  emit('part', part.value);
  part.value = '';
  isOpen.value = false;
}
</script>

<template>
  <header class="head">
    <h1>{{ title }}</h1>
    <span v-if="look" class="tag">You look on</span>
    <span v-else class="words" :class="{ cut: words.startsWith('Kept in this') }" role="status">{{ words }}<template v-if="isShelved && shelf">, <RouterLink :to="`/games/${shelf}`">on the shelf</RouterLink></template></span>
    <div class="does">
      <template v-if="look"><button v-if="mayCopy" type="button" class="go" @click="emit('copy')">Take a copy</button><button type="button" class="plain" @click="takeZip">Take the files</button></template>
      <template v-else>
        <div class="more" @keydown.esc="isOpen = false">
          <button type="button" class="plain" aria-label="More" :aria-expanded="isOpen" @click="isOpen = !isOpen"><svg width="16" height="4" viewBox="0 0 16 4" aria-hidden="true"><path d="M2 0l2 2-2 2-2-2zM8 0l2 2-2 2-2-2zM14 0l2 2-2 2-2-2z" fill="currentColor" /></svg></button>
          <div v-if="isOpen" class="menu">
            <button type="button" @click="isOpen = false; emit('learn')">Reference and examples <kbd>F1</kbd></button>
            <button type="button" @click="share">Share a link to look</button>
            <p v-if="link" class="link"><input readonly :value="link" aria-label="Link to look" @focus="($event.target as HTMLInputElement).select()" /><button type="button" @click="copy">{{ copied ? 'Copied' : 'Copy' }}</button><small>Whoever opens it reads and plays this draft as it is then, and changes nothing. <button type="button" class="quiet end" @click="endLinks">End all links</button></small></p>
            <button type="button" @click="takeFile">Take this file</button>
            <button type="button" @click="takeZip">Take all files as a zip</button>
            <button type="button" @click="emit('format')">Lay the text out <kbd>Shift Alt F</kbd></button>
            <form @submit.prevent="addPart"><input v-model="part" placeholder="A new part’s name" aria-label="A new part’s name" /><button type="submit">Add</button></form>
            <RouterLink v-if="shelf" :to="`/games/${shelf}`">On the shelf: open its page</RouterLink>
            <p v-if="wrong" role="alert" class="wrong">{{ wrong }}</p>
          </div>
        </div>
        <button type="button" class="plain" @click="emit('history')">History</button>
        <span class="shelf"><button type="button" class="go" :class="{ rests: !mayShelve }" :disabled="busy" :aria-disabled="!mayShelve" :aria-describedby="mayShelve ? undefined : 'why-not'" @click="mayShelve && emit('shelve')">{{ busy ? 'Checking …' : 'Put on the shelf' }}</button><span v-if="!mayShelve && whyNot" id="why-not" class="why">{{ whyNot }}</span></span>
      </template>
    </div>
    <p v-if="problem" class="wrong whole" role="alert">{{ problem }}</p>
  </header>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  min-height: 36px;
}
h1 {
  overflow: hidden;
  max-width: 46%;
  font-size: 24px;
  line-height: 30px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.words {
  color: var(--ink-2);
  font-size: 13px;
}
.words a {
  color: var(--teal-text);
  font-weight: 600;
}
.words.cut {
  color: #a3322b;
}
.tag {
  padding: 2px 10px;
  border-radius: 8px;
  background: #e9dfe7;
  color: var(--plum);
  font-weight: 600;
  font-size: 13px;
}
.does {
  display: flex;
  gap: 6px;
  margin-left: auto;
}
.plain,
.go {
  min-height: 36px;
  padding: 6px 11px;
  border: 1px solid var(--field);
  border-radius: 10px;
  background: none;
  color: var(--ink);
  font-weight: 600;
  font-size: 14px;
  cursor: pointer;
}
.go {
  border-color: transparent;
  background: var(--teal);
  color: #fff;
}
.go.rests {
  background: #ddd3bd;
  color: #4a5263;
}
.shelf {
  position: relative;
}
.why {
  position: absolute;
  z-index: 6;
  top: 40px;
  right: 0;
  display: none;
  padding: 6px 12px;
  border-radius: 8px;
  background: var(--ink);
  color: var(--paper);
  font-size: 13px;
  white-space: nowrap;
}
.shelf:focus-within .why,
.shelf:hover .why {
  display: block;
}
.more {
  position: relative;
}
.menu {
  position: absolute;
  z-index: 20;
  top: 42px;
  right: 0;
  display: grid;
  width: 330px;
  padding: 8px;
  border: 1px solid var(--line);
  border-radius: 12px;
  background: var(--paper);
  box-shadow: 0 10px 28px #050c1440;
}
.menu > button,
.menu > a {
  padding: 8px 10px;
  border: 0;
  border-radius: 8px;
  background: none;
  color: var(--ink);
  font-weight: 500;
  text-align: left;
  text-decoration: none;
  cursor: pointer;
}
.menu > button:hover,
.menu > a:hover {
  background: var(--paper-2);
}
.menu kbd {
  float: right;
  color: var(--ink-2);
  font: 500 11px/18px var(--mono);
}
.link,
form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px;
  padding: 4px 10px 8px;
}
.link input,
form input {
  min-width: 0;
  padding: 6px 8px;
  border: 1px solid var(--field);
  border-radius: 8px;
  background: var(--code);
  color: var(--ink);
  font: 400 13px/18px var(--sans);
}
.link small {
  grid-column: 1 / 3;
  color: var(--ink-2);
}
.link > button,
form button {
  padding: 4px 12px;
  border: 1px solid var(--field);
  border-radius: 8px;
  background: none;
  font-weight: 600;
  cursor: pointer;
}
.end {
  color: #a3322b;
  text-decoration: underline;
}
.wrong {
  color: var(--red-text);
}
.whole {
  flex-basis: 100%;
}
</style>
