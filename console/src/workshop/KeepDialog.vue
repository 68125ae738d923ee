<script setup lang="ts">
import Dialog from 'primevue/dialog';
import InputText from 'primevue/inputtext';
import { computed, ref, watch } from 'vue';
import type { BenchHere } from './useBench';

/** What was played becomes a rehearsal: a name, and what it expects at the end. */
const props = defineProps<{ bench: BenchHere; whole: () => Promise<string> }>();
const visible = defineModel<boolean>('visible', { required: true });
const emit = defineEmits<{ keep: [text: string] }>();

const title = ref('');
const lines = ref<readonly { readonly text: string; readonly isTicked: boolean }[]>([]);
const text = ref('');
const failure = ref<string | null>(null);
const busy = ref(false);
let sheet = '';

/** A sentence as a title: small, unless it begins with somebody's name. */
function titleOf(said: string): string {
  const isName = props.bench.setup.value?.seats.some(({ name }) => said.startsWith(name)) === true;
  return isName ? said : said.replace(/^./, (first) => first.toLowerCase());
}
watch(visible, async (isOpen) => {
  if (!isOpen) return;
  const said = props.bench.look.value?.said.filter(({ kind }) => kind === 'said').at(-1)?.text ?? '';
  title.value = said ? titleOf(said.replace(/[.!]$/, '')) : 'as it was played';
  sheet = await props.whole();
  const found = await props.bench.ask((bench) => bench.expectations());
  lines.value = found.map((line, i) => ({ text: line, isTicked: i < 2 || line.startsWith('expect refused') }));
  await write();
});
const ticked = computed(() => lines.value.filter(({ isTicked }) => isTicked).map((line) => line.text));
let turn = 0;
async function write(): Promise<void> {
  const mine = ++turn;
  busy.value = true;
  const kept = await props.bench.ask((bench) => bench.keep(sheet, title.value.trim() || 'as it was played', ticked.value));
  if (mine !== turn) return;
  text.value = kept.text;
  failure.value = kept.failure;
  busy.value = false;
}
/** Of a dialog that is opened, the first field is where one begins. */
const FIRST = { autofocus: true };
function tick(i: number): void {
  lines.value = lines.value.map((line, at) => (at === i ? { ...line, isTicked: !line.isTicked } : line));
  void write();
}
async function keep(): Promise<void> {
  await write();
  emit('keep', text.value);
  visible.value = false;
}
</script>

<template>
  <Dialog v-model:visible="visible" modal dismissable-mask header="Keep this as a rehearsal" class="on-paper" :style="{ width: 'min(860px, calc(100vw - 24px))' }">
    <form @submit.prevent="keep">
      <label for="rehearsal-title">What it shows</label>
      <InputText id="rehearsal-title" v-model="title" v-bind="FIRST" maxlength="100" @update:model-value="write" />
      <div class="columns">
        <fieldset>
          <legend>What is expected at the end</legend>
          <label v-for="(line, i) in lines" :key="line.text" class="line"><input type="checkbox" :checked="line.isTicked" @change="tick(i)" /> <code>{{ line.text.replace(/^expect /, '') }}</code></label>
        </fieldset>
        <pre class="mono" tabindex="0" role="region" aria-label="The rehearsal">{{ text }}</pre>
      </div>
      <footer>
        <p v-if="failure" class="bad" role="alert">Run with another shuffle it fails: {{ failure }} You can keep it and mend its text.</p>
        <p v-else-if="!busy" class="good" role="status">It passes, whatever the shuffle: the cards that came are promised in it.</p>
        <button type="submit" :disabled="text === ''">Keep it</button>
      </footer>
    </form>
  </Dialog>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
}
form > label,
legend {
  font-weight: 600;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 18px;
  margin-top: 6px;
}
fieldset {
  max-height: 340px;
  margin: 0;
  padding: 0;
  border: 0;
  overflow-y: auto;
}
.line {
  display: flex;
  align-items: flex-start;
  gap: 8px;
  padding: 3px 0;
  font-size: 13px;
}
.line input {
  width: 16px;
  height: 16px;
  margin: 2px 0 0;
  accent-color: var(--teal);
}
code {
  font: 500 12.5px/20px var(--mono);
  font-variant-ligatures: none;
}
pre {
  max-height: 340px;
  margin: 0;
  padding: 12px 14px;
  border: 1px solid var(--line);
  border-radius: 12px;
  background: var(--code);
  font-size: 12px;
  line-height: 18px;
  overflow: auto;
}
footer {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  min-height: 46px;
}
.good {
  color: var(--teal-text);
}
.bad {
  color: #a3322b;
}
button {
  flex: none;
  min-height: 42px;
  margin-left: auto;
  padding: 8px 20px;
  border: 0;
  border-radius: 10px;
  background: var(--teal);
  color: #fff;
  font-weight: 600;
  cursor: pointer;
}
@media (max-width: 700px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
