<script setup lang="ts">
import { ref } from 'vue';

/** Deletes something once that was said twice. */
const props = defineProps<{
  /** What is deleted, for those who hear the page. */
  what: string;
  /** What goes with it. */
  note: string;
  remove: () => Promise<void>;
}>();
const emit = defineEmits<{ deleted: [] }>();
const isSure = ref(false);
const busy = ref(false);
const wrong = ref('');

async function go(): Promise<void> {
  busy.value = true;
  wrong.value = '';
  try {
    await props.remove();
    emit('deleted');
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="delete">
    <button v-if="!isSure" type="button" :aria-label="`Delete ${what}`" @click="isSure = true">
      Delete
    </button>
    <template v-else>
      <span>{{ note }}</span>
      <button type="button" class="sure" :disabled="busy" @click="go">Delete for good</button>
      <button type="button" @click="isSure = false">Keep it</button>
    </template>
    <p v-if="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.delete {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: flex-end;
  gap: 4px 8px;
  padding: 4px 4px 0;
  font-size: 14px;
}
button {
  min-height: 32px;
  padding: 4px 12px;
  border: 0;
  border-radius: 8px;
  background: color-mix(in srgb, currentcolor 12%, transparent);
  color: inherit;
  font: inherit;
  font-weight: 600;
  cursor: pointer;
}
button.sure {
  background: var(--refused);
  color: var(--abyss);
}
p {
  margin: 0;
}
</style>
