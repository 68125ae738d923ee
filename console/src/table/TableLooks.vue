<script setup lang="ts">
import { ref } from 'vue';
import { client } from '../session';

/** Who looked at a table with other eyes than their own: read when it is opened. */
const props = defineProps<{ table: string }>();
type Looks = Awaited<ReturnType<typeof client.value.looks>>;
const looks = ref<Looks | null>(null);
const wrong = ref('');
const when = (at: string): string => new Date(at).toLocaleTimeString('en', { hour12: false });

async function read(event: Event): Promise<void> {
  if (!(event.target as HTMLDetailsElement).open) return;
  wrong.value = '';
  try {
    looks.value = await client.value.looks(props.table);
  } catch (error) {
    wrong.value = error instanceof Error ? error.message : String(error);
  }
}
</script>

<template>
  <details class="looks" @toggle="read">
    <summary>Looks with other eyes</summary>
    <p v-if="wrong" role="alert">{{ wrong }}</p>
    <p v-else-if="looks?.length === 0">Nobody has looked with other eyes than their own.</p>
    <ol v-else-if="looks" aria-label="Looks, the latest first">
      <li v-for="(look, i) in looks" :key="i">
        <span class="mono">{{ when(look.at) }}</span> <template v-if="look.by">{{ look.by }}: </template>{{ look.what }} <small>at number {{ look.number }}</small>
      </li>
    </ol>
  </details>
</template>

<style scoped>
.looks {
  margin-top: 12px;
  font-size: 14px;
}
summary {
  cursor: pointer;
  font-weight: 600;
  min-height: 28px;
}
ol {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  max-height: 180px;
  overflow-y: auto;
}
li {
  padding: 2px 0;
}
small,
.mono {
  color: var(--ink-2);
}
p {
  margin: 4px 0 0;
}
</style>
