<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { client, role } from '../../session';
import type { DraftTexts } from '../files';
import SideDrawer from '../SideDrawer.vue';
import { SECTIONS, sectionsWith } from './reference';

/** The reference over the table: searched by words, each example tried with one press. */
const emit = defineEmits<{ close: [] }>();
const router = useRouter();
const wanted = ref('');
const open = ref('');
const wrong = ref('');
const input = ref<HTMLInputElement | null>(null);
const shown = computed(() => sectionsWith(wanted.value));
/** What is searched for is read at once where few sections have it. */
const isOpen = (title: string): boolean => open.value === title || (wanted.value.trim().length > 1 && shown.value.length <= 2);
onMounted(() => input.value?.focus());

async function tryOut(texts: DraftTexts): Promise<void> {
  wrong.value = '';
  try {
    const draft = await client.value.addDraft(texts);
    await router.push(`/workshop/${draft.id}`);
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
}
</script>

<template>
  <SideDrawer title="Reference and examples" wide @close="emit('close')">
    <input ref="input" v-model="wanted" type="search" placeholder="What are you looking for?" aria-label="Search the reference" />
    <p v-if="wrong" role="alert" class="wrong">{{ wrong }}</p>
    <p v-if="shown.length === 0">No section has these words: there are {{ SECTIONS.length }} in all.</p>
    <section v-for="section in shown" :key="section.title">
      <h3><button type="button" class="quiet" :aria-expanded="isOpen(section.title)" @click="open = open === section.title ? '' : section.title">{{ section.title }}</button></h3>
      <template v-if="isOpen(section.title)">
        <div v-for="(piece, i) in section.pieces" :key="i" class="piece">
          <!-- Made of our own page, without HTML of its own. -->
          <div v-html="piece.html" />
          <button v-if="piece.texts && role === 'developer'" type="button" class="try" @click="tryOut(piece.texts)">Try it as a draft</button>
        </div>
      </template>
    </section>
  </SideDrawer>
</template>

<style scoped>
input {
  width: 100%;
  margin: 6px 0 8px;
  padding: 9px 12px;
  border: 1px solid var(--field);
  border-radius: 10px;
  background: var(--code);
  color: var(--ink);
  font: inherit;
}
h3 button {
  width: 100%;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
  text-align: left;
}
.piece {
  position: relative;
}
.try {
  position: absolute;
  top: 6px;
  right: 6px;
  min-height: 28px;
  padding: 3px 10px;
  border: 0;
  border-radius: 8px;
  background: var(--teal);
  color: #fff;
  font-weight: 600;
  font-size: 12.5px;
  cursor: pointer;
}
.piece :deep(pre) {
  margin: 8px 0;
  padding: 12px 14px;
  border: 1px solid var(--line);
  border-radius: 12px;
  background: var(--code);
  font: 400 12px/18px var(--mono);
  font-variant-ligatures: none;
  overflow-x: auto;
}
.piece :deep(code) {
  font-family: var(--mono);
  font-size: 12px;
  font-variant-ligatures: none;
}
.piece :deep(p),
.piece :deep(li) {
  margin: 6px 0;
}
.piece :deep(table) {
  width: 100%;
  border-collapse: collapse;
  font-size: 13px;
}
.piece :deep(td),
.piece :deep(th) {
  padding: 4px 8px;
  border-bottom: 1px solid var(--line);
  text-align: left;
  vertical-align: top;
}
.wrong {
  color: var(--red-text);
}
</style>
