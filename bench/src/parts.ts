/** Copying a state, and shuffling, against the barest thing that does the same. */
import { chachaChance, Game, quickChance, State, seedFrom, shufflePlaces } from '@wily-jester/core';
import { lantern } from './rounds.js';

export interface Part {
  readonly name: string;
  /** Nanoseconds each. */
  readonly baseline: number;
  readonly ours: number;
  readonly ratio: number;
}

/** Median time of a piece of work in nanoseconds, over rounds of many repetitions. */
function timed(repeat: number, work: () => void): number {
  const times: number[] = [];
  for (let round = 0; round < 31; round++) {
    const start = performance.now();
    for (let i = 0; i < repeat; i++) work();
    times.push(((performance.now() - start) * 1e6) / repeat);
  }
  return [...times].sort((a, b) => a - b)[10] ?? 0;
}

function copying(decks: number): Part {
  const game = new Game(lantern(), { seats: ['Wren'], settings: { decks }, chance: quickChance(1) });
  const state = game.open();
  const pooled = new State(state.form);
  const from = new Uint8Array(state.byteLength);
  const to = new Uint8Array(state.byteLength);
  const baseline = timed(100_000, () => to.set(from));
  const ours = timed(100_000, () => void pooled.copyFrom(state));
  return {
    name: `copying a state of ${decks * 52} cards (${state.byteLength} bytes) into a pooled one, against a bare set`,
    baseline,
    ours,
    ratio: ours / baseline,
  };
}

function shuffling(name: string, next: (count: number) => ReturnType<ReturnType<typeof quickChance>['stream']>): Part {
  const places = Uint16Array.from({ length: 52 }, (_, i) => i);
  const baseline = timed(20_000, () => {
    for (let i = 51; i > 0; i--) {
      const j = Math.floor(Math.random() * (i + 1));
      const held = places[i] as number;
      places[i] = places[j] as number;
      places[j] = held;
    }
  });
  let count = 0;
  const ours = timed(2_000, () => shufflePlaces(places, 0, 52, next(count++)));
  return {
    name: `a 52-card shuffle with ${name}, against one with Math.random`,
    baseline,
    ours,
    ratio: ours / baseline,
  };
}

export function measureParts(): Part[] {
  const quick = quickChance(1);
  const cha = chachaChance(seedFrom('bench'));
  return [
    copying(1),
    copying(6),
    shuffling('the quick generator', (count) => quick.stream('shuffle', count)),
    shuffling('ChaCha20 and a key of its own', (count) => cha.stream('shuffle', count)),
  ];
}
