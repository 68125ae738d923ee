import type { Analysis } from '@wily-jester/protocol';
import { onUnmounted, ref, shallowRef, watch } from 'vue';
import { client } from '../session';

/** What is looked back at: a seat's choices in one chapter of a table. */
export interface Asked {
  readonly table: string;
  readonly seat: number;
  readonly numbers: readonly number[];
}

const keyOf = (asked: Asked | null): string => (asked ? `${asked.table} ${asked.seat} ${asked.numbers.join(' ')}` : '');

/** Has a seat's choices weighed one after the other, from the last one back; what was found stays. */
export function useAnalysis(asked: () => Asked | null) {
  const found = shallowRef<ReadonlyMap<number, Analysis>>(new Map());
  const wrong = ref('');
  let round = 0;

  async function weigh(now: Asked, mine: number): Promise<void> {
    for (const number of [...now.numbers].reverse()) {
      if (found.value.has(number)) continue;
      const analysis = await client.value.analysis(now.table, number);
      if (mine !== round) return;
      found.value = new Map(found.value).set(number, analysis);
    }
  }
  function start(): void {
    const now = asked();
    const mine = ++round;
    wrong.value = '';
    if (!now) return;
    weigh(now, mine).catch((error: unknown) => {
      if (mine === round) wrong.value = error instanceof Error ? error.message : String(error);
    });
  }
  watch(
    () => keyOf(asked()),
    () => start(),
    { immediate: true },
  );
  onUnmounted(() => {
    round++;
  });
  return { found, wrong, again: start };
}
