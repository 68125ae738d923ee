import { SeatChance } from '@wily-jester/core';
import type { GatheringView } from '@wily-jester/protocol';
import { onUnmounted, reactive, ref, shallowRef } from 'vue';
import { client, role } from '../session';

/** How often it is asked how things stand, in milliseconds. */
const BEAT = 400;
const random = (): Uint8Array => crypto.getRandomValues(new Uint8Array(32));

/** A table that gathers chance, and the part in it of the seats that this browser speaks for. */
export function useGathering(table: string, opened: () => void) {
  const view = shallowRef<GatheringView | null>(null);
  const problem = ref('');
  /** The seats that this browser speaks for, from 1. */
  const here = reactive(new Set<number>());
  const chances = new Map<number, SeatChance>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isOver = false;

  async function parts(now: GatheringView): Promise<GatheringView> {
    let latest = now;
    for (const seat of here) {
      const chance = chances.get(seat) ?? new SeatChance(seat, random);
      chances.set(seat, chance);
      const move = chance.next(latest);
      if (!move) continue;
      const part =
        move.kind === 'promise' ? { kind: move.kind, value: move.promise } : { kind: move.kind, value: move.bytes };
      latest = await client.value.giveChance(table, role.value === 'developer' ? { ...part, seat } : part);
    }
    return latest;
  }
  async function look(): Promise<void> {
    try {
      view.value = await parts(await client.value.gathering(table));
      problem.value = '';
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error);
    }
    if (isOver) return;
    if (view.value?.phase === 'open' && problem.value === '') {
      isOver = true;
      opened();
    } else timer = setTimeout(() => void look(), BEAT);
  }
  async function dealNow(): Promise<void> {
    await client.value.dealNow(table).catch((error: unknown) => {
      problem.value = error instanceof Error ? error.message : String(error);
    });
  }
  onUnmounted(() => {
    isOver = true;
    clearTimeout(timer);
  });
  return { view, problem, here, look, dealNow };
}
