import { type Face, handName, type Odds, pokerHigh } from '@wily-jester/core';
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue';
import type { Asked, Told } from './odds.worker';

/** A hand on the page: two places, or any two cards. */
export interface PageHand {
  readonly cards: readonly (Face | null)[];
  readonly any: boolean;
}
/** The place that the next card goes to: a hand's or the board's. */
export interface Spot {
  readonly hand: number | 'board';
  readonly place: number;
}

export const MOST_HANDS = 10;
const BOARD = 5;
const NO_HAND: PageHand = { cards: [null, null], any: false };

/** Hands and a board put together card by card, and their odds, counted again at each change. */
export function useHands() {
  const hands = ref<PageHand[]>([NO_HAND, NO_HAND]);
  const board = ref<(Face | null)[]>(new Array<Face | null>(BOARD).fill(null));
  const spot = ref<Spot>({ hand: 0, place: 0 });
  const odds = shallowRef<Odds | null>(null);
  const counting = ref(false);

  const cardAt = ({ hand, place }: Spot): Face | null =>
    (hand === 'board' ? board.value[place] : hands.value[hand]?.cards[place]) ?? null;
  const used = computed(() => new Set([...hands.value.flatMap((hand) => hand.cards), ...board.value]));
  /** All places in the order in which they fill. */
  const spots = computed<Spot[]>(() => [
    ...hands.value.flatMap((hand, i) => (hand.any ? [] : hand.cards.map((_, place) => ({ hand: i, place })))),
    ...board.value.map((_, place) => ({ hand: 'board' as const, place })),
  ]);

  function put({ hand, place }: Spot, face: Face | null): void {
    if (hand === 'board') board.value = board.value.map((old, i) => (i === place ? face : old));
    else
      hands.value = hands.value.map((old, i) =>
        i === hand ? { ...old, cards: old.cards.map((card, p) => (p === place ? face : card)) } : old,
      );
  }
  /** Goes on to the next empty place after the one that was filled, or to the first. */
  function goOn(): void {
    const at = spots.value.findIndex((s) => s.hand === spot.value.hand && s.place === spot.value.place);
    const after = [...spots.value.slice(at + 1), ...spots.value.slice(0, Math.max(0, at))];
    const next = after.find((s) => cardAt(s) === null);
    if (next) spot.value = next;
  }
  /** A card of the deck was touched: it goes to the place that waits, or back to the deck. */
  function touch(face: Face): void {
    if (used.value.has(face)) {
      const from = spots.value.find((s) => cardAt(s) === face);
      if (!from) return;
      put(from, null);
      spot.value = from;
      return;
    }
    put(spot.value, face);
    goOn();
  }
  /** A place was touched: it waits for a card, and gives back the one that it had. */
  function touchSpot(chosen: Spot): void {
    put(chosen, null);
    spot.value = chosen;
  }
  function add(): void {
    if (hands.value.length >= MOST_HANDS) return;
    hands.value = [...hands.value, NO_HAND];
    spot.value = { hand: hands.value.length - 1, place: 0 };
  }
  function remove(i: number): void {
    hands.value = hands.value.filter((_, at) => at !== i);
    spot.value = spots.value.find((s) => cardAt(s) === null) ?? { hand: 'board', place: 0 };
  }
  function setAny(i: number, any: boolean): void {
    hands.value = hands.value.map((hand, at) => (at === i ? { cards: [null, null], any } : hand));
    spot.value = any ? (spots.value.find((s) => cardAt(s) === null) ?? spot.value) : { hand: i, place: 0 };
  }
  function clear(): void {
    hands.value = [NO_HAND, NO_HAND];
    board.value = new Array<Face | null>(BOARD).fill(null);
    spot.value = { hand: 0, place: 0 };
  }

  const lying = computed(() => board.value.filter((face) => face !== null));
  /** What each hand makes with the board as it lies. */
  const names = computed(() =>
    hands.value.map((hand) => {
      const cards = [...hand.cards.filter((face) => face !== null), ...lying.value];
      return hand.any || cards.length === 0 ? null : handName(pokerHigh(cards));
    }),
  );
  const isWhole = computed(
    () => hands.value.length > 1 && hands.value.every((hand) => hand.any || hand.cards.every((face) => face !== null)),
  );

  const worker = new Worker(new URL('./odds.worker.ts', import.meta.url), { type: 'module' });
  let last = 0;
  worker.addEventListener('message', ({ data }: MessageEvent<Told>) => {
    if (data.id !== last) return;
    odds.value = data.odds;
    counting.value = false;
  });
  onUnmounted(() => worker.terminate());
  watch(
    [hands, board],
    () => {
      odds.value = null;
      counting.value = isWhole.value;
      last++;
      if (!isWhole.value) return;
      const question = {
        hands: hands.value.map((hand) => (hand.any ? null : hand.cards.filter((face) => face !== null))),
        board: lying.value,
      };
      const asked: Asked = { id: last, question };
      worker.postMessage(asked);
    },
    { deep: true },
  );

  return {
    hands,
    board,
    spot,
    odds,
    counting,
    used,
    names,
    isWhole,
    cardAt,
    touch,
    touchSpot,
    add,
    remove,
    setAny,
    clear,
  };
}
