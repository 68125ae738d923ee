<script setup lang="ts">
/** A page's own words for empty, loading and fault: a sentence and the next step. */
defineProps<{ title: string; text: string; tone?: 'plain' | 'loading' | 'fault'; whole?: boolean }>();
</script>

<template>
  <div class="wrap">
    <section class="notice on-paper" :class="tone" :role="tone === 'fault' ? 'alert' : undefined" :aria-busy="tone === 'loading' || undefined">
      <div v-if="tone === 'loading'" class="blanks" aria-hidden="true">
        <span v-for="i in 4" :key="i" :style="{ opacity: 1.15 - i * 0.22 }" />
      </div>
      <component :is="whole ? 'h1' : 'h2'" class="title">{{ title }}</component>
      <p>{{ text }}</p>
      <div class="next"><slot /></div>
      <svg v-if="tone !== 'loading' && tone !== 'fault'" class="ghost" viewBox="0 0 200 280" width="120" aria-hidden="true">
        <rect x="4" y="4" width="192" height="272" rx="14" fill="none" stroke="#8b8577" stroke-width="4" stroke-dasharray="13 10" />
        <path d="M100 104L126 140L100 176L74 140Z" fill="none" stroke="#8b8577" stroke-width="5" />
      </svg>
    </section>
  </div>
</template>

<style scoped>
.wrap {
  padding: 32px 20px;
  display: grid;
  justify-items: center;
}
.notice {
  position: relative;
  overflow: hidden;
  width: min(460px, 100%);
  min-height: 210px;
  background: var(--paper);
  border-radius: 16px;
  padding: 24px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.notice.fault {
  border-left: 6px solid var(--vermilion);
}
.title {
  font-size: 20px;
  line-height: 26px;
}
.notice p {
  color: var(--ink-2);
  max-width: 34ch;
}
.next {
  margin-top: auto;
  padding-top: 16px;
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
}
.next :deep(.notice-button) {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 9px 16px;
  border: 0;
  border-radius: 10px;
  background: var(--teal);
  color: #fff;
  font-weight: 600;
  text-decoration: none;
  cursor: pointer;
}
.next :deep(.notice-button.second) {
  background: none;
  color: var(--ink);
  border: 1px solid var(--field);
}
.ghost {
  position: absolute;
  right: -18px;
  bottom: -64px;
  transform: rotate(8deg);
  pointer-events: none;
}
.blanks {
  display: flex;
  gap: 12px;
  margin-bottom: 12px;
}
.blanks span {
  width: 56px;
  height: 78px;
  border-radius: 6px;
  background: #e6dcc4;
}
</style>
