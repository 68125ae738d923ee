<script setup lang="ts">
/** Over the table, from the right edge: closed with its button, or with Escape. */
defineProps<{ title: string; wide?: boolean }>();
const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <aside class="drawer on-paper" :class="{ wide }" :aria-label="title" @keydown.esc="emit('close')">
    <header><h2>{{ title }}</h2><button type="button" class="quiet close" aria-label="Close" @click="emit('close')">×</button></header>
    <slot />
  </aside>
</template>

<style scoped>
.drawer {
  position: absolute;
  z-index: 15;
  inset: 0 0 0 auto;
  width: min(380px, 100%);
  padding: 14px 20px 32px;
  overflow-y: auto;
  background: var(--paper);
  color: var(--ink);
  box-shadow: -10px 0 28px #050c1466;
  font-size: 14px;
}
.wide {
  z-index: 16;
  width: min(620px, 100%);
}
header {
  display: flex;
  justify-content: space-between;
}
h2 {
  font-size: 18px;
}
.close {
  width: 32px;
  height: 32px;
  font-size: 22px;
}
</style>
