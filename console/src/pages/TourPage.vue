<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import PageNotice from '../parts/PageNotice.vue';
import { client } from '../session';
import { FIRST } from '../workshop/learn/tour';

/** Where the tour begins, or goes on: its draft is found again. */
const KEPT = 'wily-jester tour draft';
const router = useRouter();
const wrong = ref('');
onMounted(async () => {
  try {
    const known = localStorage.getItem(KEPT);
    const drafts = await client.value.drafts();
    const found = drafts.find(({ id }) => id === known);
    const id = found?.id ?? (await client.value.addDraft(FIRST)).id;
    localStorage.setItem(KEPT, id);
    await router.replace({ path: `/workshop/${id}`, query: { tour: '' } });
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
});
</script>

<template>
  <PageNotice v-if="wrong" tone="fault" title="The tour cannot begin" :text="wrong" />
  <PageNotice v-else tone="loading" title="Beginning the tour" text="A game of your own, step by step." />
</template>
