/** Ranking seven cards: against chained random reads, and all of them counted. */
import { categoryOf, census, quickChance, quickRanker, shufflePlaces } from '@wily-jester/core';

const HANDS = 1_000_000;
const CARDS = 7;
const ROUNDS = 15;
/** 256 KiB of numbers. */
const CHAIN = 1 << 16;

export interface RankingRate {
  readonly name: string;
  /** Each in nanoseconds. */
  readonly baseline: number;
  readonly ours: number;
  readonly ratio: number;
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

/** One cycle through a table in random order: every read waits for the one before. */
function randomCycle(): Int32Array {
  const order = Int32Array.from({ length: CHAIN }, (_, i) => i);
  shufflePlaces(order, 0, CHAIN, quickChance(2).stream('chain', 0));
  const chain = new Int32Array(CHAIN);
  for (let i = 0; i < CHAIN; i++) chain[order[i] as number] = order[(i + 1) % CHAIN] as number;
  return chain;
}

function randomHands(): Uint8Array {
  const generator = quickChance(3).stream('hands', 0);
  const deck = Uint8Array.from({ length: 52 }, (_, i) => i);
  const hands = new Uint8Array(HANDS * CARDS);
  for (let i = 0; i < HANDS; i++) {
    shufflePlaces(deck, 0, 52, generator);
    hands.set(deck.subarray(0, CARDS), i * CARDS);
  }
  return hands;
}

export function measureRanking(): RankingRate {
  const { seven } = quickRanker();
  const chain = randomCycle();
  const hands = randomHands();
  let at = 0;
  const read = (): number => {
    let sum = 0;
    for (let i = 0; i < HANDS; i++) {
      at = chain[at] as number;
      at = chain[at] as number;
      at = chain[at] as number;
      at = chain[at] as number;
      at = chain[at] as number;
      at = chain[at] as number;
      at = chain[at] as number;
      sum = (sum + at) | 0;
    }
    return sum;
  };
  const rank = (): number => {
    let sum = 0;
    for (let i = 0; i < HANDS; i++) sum = (sum + seven(hands, i * CARDS)) | 0;
    return sum;
  };
  const times: { baseline: number; ours: number }[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const start = performance.now();
    read();
    const middle = performance.now();
    rank();
    times.push({ baseline: middle - start, ours: performance.now() - middle });
  }
  const counted = times.slice(ROUNDS / 3);
  const each = 1e6 / HANDS;
  return {
    name: 'a random hand of seven ranked, against seven chained random reads in 256 KiB (more is better)',
    baseline: median(counted.map((t) => t.baseline)) * each,
    ours: median(counted.map((t) => t.ours)) * each,
    ratio: median(counted.map((t) => t.baseline / t.ours)),
  };
}

/** Ranks all 133,784,560 hands of seven and checks the totals against the census. @returns seconds */
export function countAllSevens(): number {
  const { seven, scoreOf } = quickRanker();
  const byClass = new Float64Array(8192);
  const cards = new Uint8Array(CARDS);
  const start = performance.now();
  const go = (place: number, from: number): void => {
    if (place === CARDS - 1) {
      for (let card = from; card < 52; card++) {
        cards[place] = card;
        const found = seven(cards, 0);
        byClass[found] = (byClass[found] as number) + 1;
      }
      return;
    }
    for (let card = from; card < 52; card++) {
      cards[place] = card;
      go(place + 1, card + 1);
    }
  };
  go(0, 0);
  const seconds = (performance.now() - start) / 1000;
  const counts = new Array<number>(9).fill(0);
  for (let i = 1; i < byClass.length; i++) {
    const hands = byClass[i] as number;
    if (hands === 0) continue;
    const category = categoryOf(scoreOf(i));
    counts[category] = (counts[category] as number) + hands;
  }
  if (JSON.stringify(counts) !== JSON.stringify(census(7)))
    throw new Error(`the hands of seven were counted wrongly: ${JSON.stringify(counts)}`);
  return seconds;
}
