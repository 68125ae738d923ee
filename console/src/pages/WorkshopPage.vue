<script setup lang="ts">
import type { DraftSummary, SheetSummary } from '@wily-jester/protocol';
import { onMounted, ref } from 'vue';
import { RouterLink, useRoute, useRouter } from 'vue-router';
import DeleteForGood from '../parts/DeleteForGood.vue';
import PageNotice from '../parts/PageNotice.vue';
import { client, role } from '../session';
import StarterTile from '../workshop/StarterTile.vue';
import { EMPTY, STARTERS } from '../workshop/starters';
import { textsInFiles } from '../workshop/taking';

/** Where a game begins: three that work, any on the shelf, a file that is dropped; and what was begun before. */
const route = useRoute();
const router = useRouter();
const drafts = ref<readonly DraftSummary[] | null>(null);
const sheets = ref<readonly SheetSummary[]>([]);
const wrong = ref('');
const isOver = ref(false);

async function load(): Promise<void> {
  wrong.value = '';
  try {
    drafts.value = await client.value.drafts();
    sheets.value = await client.value.sheets();
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
}
async function begin(texts: { sheet: string; rehearsals?: string | undefined; parts?: Readonly<Record<string, string>> | undefined }): Promise<void> {
  wrong.value = '';
  try {
    const { sheet, rehearsals, parts } = texts;
    const draft = await client.value.addDraft({ sheet, ...(rehearsals === undefined ? {} : { rehearsals }), ...(parts === undefined ? {} : { parts }) });
    await router.push({ path: `/workshop/${draft.id}`, query: route.query.tour === undefined ? {} : { tour: route.query.tour } });
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
}
/** A copy of a sheet on the shelf, by its hash or name. */
async function copyOf(word: string): Promise<void> {
  const sheet = await client.value.sheet(word).catch((error: unknown) => {
    wrong.value = error instanceof Error ? error.message : String(error);
    return null;
  });
  if (sheet) await begin({ sheet: sheet.source, rehearsals: sheet.rehearsals ?? '' });
}
async function take(files: FileList | null | undefined): Promise<void> {
  isOver.value = false;
  if (!files || files.length === 0) return;
  const found = await textsInFiles([...files]);
  if ('problem' in found) wrong.value = found.problem;
  else await begin(found);
}
onMounted(async () => {
  if (role.value !== 'developer') return;
  const named = route.query.sheet;
  if (typeof named === 'string') {
    await copyOf(named);
    return;
  }
  await load();
});
const when = (at: string): string => new Date(at).toLocaleString('en', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false });
</script>

<template>
  <PageNotice v-if="role !== 'developer'" title="The workshop is for developers" text="Games are written here. With your key you play at a table." />
  <main v-else class="page on-paper" @dragover.prevent="isOver = true" @dragleave.self="isOver = false" @drop.prevent="take($event.dataTransfer?.files)">
    <h1>Workshop</h1>
    <p class="lead">Begin with one that works. Change a line and look right.</p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <ul class="starters" aria-label="Games to begin with">
      <li v-for="starter in STARTERS" :key="starter.name"><StarterTile :starter="starter" @begin="begin(starter)" /></li>
    </ul>
    <div class="ways">
      <button type="button" class="way" @click="begin({ sheet: EMPTY })"><b>An empty page</b><span>A deck and hands, and no rule yet.</span></button>
      <RouterLink class="way" to="/workshop/tour"><b>Take the tour</b><span>A game of your own in nine steps, on this very page.</span></RouterLink>
      <label class="way" :class="{ over: isOver }"><b>Drop a file here</b><span>A sheet, its rehearsals, its parts, or a zip of them; or choose them.</span><input type="file" accept=".motley,.zip" multiple class="visually-hidden" @change="take(($event.target as HTMLInputElement).files)" /></label>
      <label class="way shelf"><b>A copy of one on the shelf</b><select aria-label="A copy of one on the shelf" @change="copyOf(($event.target as HTMLSelectElement).value)"><option value="">Choose a game …</option><option v-for="sheet in sheets" :key="sheet.hash" :value="sheet.hash">{{ sheet.name }}</option></select></label>
    </div>
    <section v-if="drafts && drafts.length > 0" aria-labelledby="drafts">
      <h2 id="drafts">Your drafts</h2>
      <ul class="drafts">
        <li v-for="draft in drafts" :key="draft.id">
          <RouterLink :to="`/workshop/${draft.id}`"><b class="serif">{{ draft.title }}</b></RouterLink>
          <span>{{ draft.lines }} lines, kept {{ when(draft.changed) }}<template v-if="draft.shelf">, on the shelf</template><template v-if="draft.origin">, in step with {{ draft.origin }}</template></span>
          <DeleteForGood :what="`the draft ${draft.title}`" note="The draft goes with its history." :remove="() => client.deleteDraft(draft.id)" @deleted="load" />
        </li>
      </ul>
    </section>
    <p v-else-if="drafts" class="none">No draft yet: the first one stays here.</p>
  </main>
</template>

<style scoped>
.page {
  flex: 1;
  width: 100%;
  padding: 24px max(28px, calc((100% - 1100px) / 2)) 40px;
  background: var(--paper);
}
.lead {
  margin: 2px 0 18px;
  color: var(--ink-2);
  font-size: 15px;
}
.starters {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 18px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.ways {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: 14px;
  margin: 20px 0 28px;
}
.way {
  background: none;
  font: inherit;
  text-align: left;
  display: grid;
  align-content: start;
  gap: 4px;
  padding: 16px 18px;
  border: 1.5px dashed var(--field);
  border-radius: 14px;
  color: var(--ink);
  text-decoration: none;
  cursor: pointer;
}
.way:hover,
.way.over,
.way:focus-within {
  border-color: var(--teal);
  background: #eef6f3;
}
.way span {
  color: var(--ink-2);
  font-size: 13px;
}
.shelf select {
  min-height: 38px;
  padding: 6px 8px;
  border: 1px solid var(--field);
  border-radius: 10px;
  background: var(--code);
  color: var(--ink);
  font: inherit;
}
.drafts {
  margin: 6px 0 0;
  padding: 0;
  list-style: none;
}
.drafts li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  padding: 10px 0;
  border-bottom: 1px solid var(--line);
}
.drafts a {
  color: var(--ink);
  font-size: 17px;
  text-decoration-color: var(--field);
  text-underline-offset: 3px;
}
.drafts span {
  flex: 1;
  color: var(--ink-2);
  font-size: 13px;
}
.none {
  color: var(--ink-2);
}
.wrong {
  margin-bottom: 12px;
  color: var(--red-text);
}
</style>
