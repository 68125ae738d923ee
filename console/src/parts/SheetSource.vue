<script setup lang="ts">
import { highlight } from '@wily-jester/motley/highlight';
import { computed, nextTick, ref, watch } from 'vue';

const props = defineProps<{ source: string; line?: number | undefined }>();
const lines = computed(() => highlight(props.source));
const box = ref<HTMLElement | null>(null);

watch(
  () => [props.line, props.source],
  async () => {
    await nextTick();
    box.value?.querySelector('.marked')?.scrollIntoView({ block: 'center' });
  },
  { immediate: true },
);
</script>

<template>
  <pre ref="box" class="source mono" tabindex="0" role="region" aria-label="The sheet's text"><span v-for="(pieces, i) in lines" :key="i" class="line" :class="{ marked: line === i + 1 }"><span class="number" aria-hidden="true">{{ i + 1 }}</span><span class="text"><span v-for="(piece, p) in pieces" :key="p" :class="`is-${piece.kind}`">{{ piece.text }}</span>
</span></span></pre>
</template>

<style scoped>
.source {
  margin: 0;
  padding: 12px 0;
  background: var(--code);
  border: 1px solid var(--line);
  border-radius: 16px;
  font-size: 12.5px;
  line-height: 19px;
  color: var(--ink);
  overflow: auto;
}
.line {
  display: flex;
  min-height: 19px;
  width: max-content;
  min-width: 100%;
}
.marked {
  background: #f7e8cb;
}
.number {
  flex: none;
  width: 42px;
  padding-right: 14px;
  text-align: right;
  color: #6e6856;
  font-size: 11px;
  user-select: none;
}
.text {
  white-space: pre;
  padding-right: 16px;
}
.is-keyword {
  color: var(--plum);
}
.is-text {
  color: var(--teal-text);
}
.is-number {
  color: var(--amber-text);
}
.is-comment {
  color: #5f6573;
  font-style: italic;
}
.is-declared {
  font-weight: 700;
}
.is-option {
  color: var(--red-text);
  font-weight: 700;
}
.is-value {
  color: #2d5f86;
}
</style>
