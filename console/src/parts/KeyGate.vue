<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { ref } from 'vue';
import { refusal, useKey } from '../session';

const key = ref('');
const wrong = ref('');
const busy = ref(false);

async function send(): Promise<void> {
  busy.value = true;
  try {
    wrong.value = (await useKey(key.value.trim())) ? '' : 'The service does not know this key.';
  } catch {
    wrong.value = 'The service does not answer. Is it running?';
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <main class="gate on-paper">
    <h1>A key, please</h1>
    <p v-if="refusal" class="wrong" role="alert">{{ refusal }}</p>
    <p>
      The console asks who you are. On the service's own machine <span class="mono">./wily open</span> prints a link that
      comes in by itself; the developer key is in the data folder, in <span class="mono">developer.key</span>; a seat or
      watch key was given to you.
    </p>
    <form @submit.prevent="send">
      <label for="key">Key</label>
      <InputText id="key" v-model="key" autocomplete="off" :invalid="wrong !== ''" />
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <Button type="submit" label="Come in" :loading="busy" :disabled="key.trim() === ''" />
    </form>
  </main>
</template>

<style scoped>
.gate {
  width: min(440px, calc(100% - 40px));
  margin: 48px auto;
  padding: 24px;
  background: var(--paper);
  border-radius: 16px;
}
p {
  color: var(--ink-2);
  margin: 8px 0 16px;
}
form {
  display: grid;
  gap: 8px;
}
label {
  font-weight: 600;
}
.wrong {
  color: var(--red-text);
  margin: 0;
}
</style>
