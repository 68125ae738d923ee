<script setup lang="ts">
import { onMounted, ref } from 'vue';

/** Another name for what stands at the caret, in all files at once. */
const props = defineProps<{ name: string; rename: (name: string) => Promise<string | null> }>();
const emit = defineEmits<{ close: [] }>();
const wanted = ref(props.name);
const problem = ref('');
const input = ref<HTMLInputElement | null>(null);
onMounted(() => input.value?.select());
async function go(): Promise<void> {
  if (wanted.value === props.name) emit('close');
  else problem.value = (await props.rename(wanted.value.trim())) ?? '';
}
</script>

<template>
  <form class="bar" @submit.prevent="go" @keydown.esc="emit('close')">
    <label for="new-name">Another name for <code>{{ name }}</code></label>
    <input id="new-name" ref="input" v-model="wanted" autocomplete="off" spellcheck="false" />
    <button type="submit">Rename everywhere</button>
    <p v-if="problem" role="alert">{{ problem }}</p>
  </form>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  padding: 8px 12px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--code);
  font-size: 13px;
}
input,
code {
  font: 500 13px/20px var(--mono);
}
input {
  padding: 4px 8px;
  border: 1px solid var(--field);
  border-radius: 8px;
}
button {
  min-height: 30px;
  padding: 3px 12px;
  border: 0;
  border-radius: 8px;
  background: var(--ink);
  color: var(--paper);
  font-weight: 600;
  cursor: pointer;
}
p {
  flex-basis: 100%;
  color: #a3322b;
}
</style>
