import type { Hint } from '@wily-jester/protocol';
import { ref, watch } from 'vue';
import { client } from '../session';

/** The question that a hint is about: the table, the open ask, and for whom it is. */
export interface HintQuestion {
  readonly table: string;
  readonly ask: number;
  readonly seat: number;
}

/** A hint for the question at hand: asked for, thought about for a moment, and gone with its question. */
export function useHint(question: () => HintQuestion | null) {
  const hint = ref<Hint | null>(null);
  const isThinking = ref(false);
  const wrong = ref('');

  const same = (a: HintQuestion | null, b: HintQuestion | null): boolean =>
    a?.table === b?.table && a?.ask === b?.ask && a?.seat === b?.seat;
  watch(question, (now, before) => {
    if (same(now, before)) return;
    hint.value = null;
    wrong.value = '';
  });

  async function askForHint(): Promise<void> {
    const asked = question();
    if (!asked || isThinking.value) return;
    isThinking.value = true;
    wrong.value = '';
    try {
      const found = await client.value.hint(asked.table, { seat: asked.seat });
      if (same(asked, question()) && found.ask === asked.ask) hint.value = found;
    } catch (error) {
      wrong.value = error instanceof Error ? error.message : String(error);
    } finally {
      isThinking.value = false;
    }
  }

  return { hint, isThinking, wrong, askForHint };
}
