<script setup lang="ts">
import type { Hint } from '@wily-jester/protocol';
import { computed } from 'vue';
import { rowsOf } from './hinted';
import { worthWords } from './words';

/** What thinking for a moment would choose, and what that is worth. */
const props = defineProps<{ hint: Hint | null; wrong: string }>();
const emit = defineEmits<{ choose: [option: string, args: Hint['choices'][number]['args']] }>();

const MOST = 4;
const rows = computed(() => (props.hint ? rowsOf(props.hint, MOST) : []));
const note = computed(() => {
  const { alone, playouts = 0 } = props.hint ?? {};
  if (alone) return 'There is nothing else to choose. Written down.';
  if (playouts === 0) return 'There was no time to weigh it against the others. Written down.';
  return `Points ahead of the others at the end of the chapter, from ${playouts.toLocaleString('en')} games played on. Written down.`;
});
/** All bars stand on one scale from zero. */
const scale = computed(() => Math.max(1e-9, ...rows.value.map(({ mean }) => Math.abs(mean ?? 0))));
const widthOf = (mean: number): string => `${(50 * Math.abs(mean)) / scale.value}%`;
</script>

<template>
  <div v-if="hint || wrong" class="hint">
    <p v-if="wrong" class="wrong" role="status">{{ wrong }}</p>
    <ol v-if="hint" aria-label="Hint: choices by what they are worth">
      <li v-for="(row, i) in rows" :key="row.words">
        <button type="button" :class="{ best: i === 0 }" data-hinted @click="emit('choose', row.option, row.args)">
          <span class="words">{{ row.words }}</span>
          <template v-if="row.mean !== null">
            <span class="bar" aria-hidden="true"><i :class="row.mean < 0 ? 'below' : 'above'" :style="{ width: widthOf(row.mean) }" /></span>
            <span class="worth">{{ worthWords(row.mean, row.error ?? 0) }}</span>
          </template>
        </button>
      </li>
    </ol>
    <p v-if="hint" class="note">{{ note }}</p>
  </div>
</template>

<style scoped>
.hint {
  color: var(--mist);
  font-size: 14px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 340px), 1fr));
  gap: 4px;
}
li button {
  display: grid;
  grid-template-columns: minmax(100px, 1fr) 90px 108px;
  gap: 12px;
  align-items: center;
  width: 100%;
  padding: 6px 12px;
  border: 0;
  border-radius: 10px;
  background: var(--abyss);
  color: var(--mist);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.best {
  box-shadow: inset 0 0 0 2px var(--soft-teal);
}
.bar {
  position: relative;
  height: 10px;
  border-radius: 3px;
  background: rgb(223 230 234 / 0.1);
}
.bar i {
  position: absolute;
  top: 0;
  bottom: 0;
  border-radius: 3px;
  background: var(--soft-teal);
}
.above {
  left: 50%;
}
.below {
  right: 50%;
  opacity: 0.55;
}
.worth {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.note,
.wrong {
  margin: 6px 2px 0;
  font-size: 12px;
  color: var(--mist-2);
}
.wrong {
  color: var(--marigold, #e9b44c);
}
@media (max-width: 700px) {
  .hint {
    margin-inline: 12px;
  }
  li button {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .bar {
    display: none;
  }
}
</style>
