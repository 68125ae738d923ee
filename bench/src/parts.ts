/** Copying a state, and shuffling, against the barest thing that does the same. */
import { chacha20 } from '@noble/ciphers/chacha.js';
import { type Chance, chachaChance, Game, quickChance, State, seedFrom, shufflePlaces } from '@wily-jester/core';
import { lantern } from './rounds.js';
import { processorSeconds } from './timing.js';

export interface Part {
  readonly name: string;
  /** Nanoseconds each. */
  readonly baseline: number;
  readonly ours: number;
  readonly ratio: number;
}

/** Processor time of a piece of work in nanoseconds: the median over rounds of many repetitions. */
function timed(repeat: number, work: () => void): number {
  const times: number[] = [];
  for (let round = 0; round < 31; round++) {
    const start = processorSeconds();
    for (let i = 0; i < repeat; i++) work();
    times.push(((processorSeconds() - start) * 1e9) / repeat);
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

const places = Uint16Array.from({ length: 52 }, (_, i) => i);

/** A shuffle of one pack with a generator of its own each time, in nanoseconds. */
function shuffling(chance: Chance): number {
  let count = 0;
  return timed(4_000, () => shufflePlaces(places, 0, 52, chance.stream('shuffle', count++)));
}

function quickShuffle(): Part {
  const baseline = timed(20_000, () => {
    for (let i = 51; i > 0; i--) {
      const j = Math.floor(Math.random() * (i + 1));
      const held = places[i] as number;
      places[i] = places[j] as number;
      places[j] = held;
    }
  });
  const ours = shuffling(quickChance(1));
  return {
    name: 'a 52-card shuffle with the quick generator, against one with Math.random',
    baseline,
    ours,
    ratio: ours / baseline,
  };
}

/** A shuffle draws 51 words. */
function secureShuffle(): Part {
  const [key, nonce, from, to] = [new Uint8Array(32), new Uint8Array(12), new Uint8Array(204), new Uint8Array(204)];
  const baseline = timed(4_000, () => void chacha20(key, nonce, from, to, 0));
  const ours = shuffling(chachaChance(seedFrom('bench')));
  return {
    name: 'a 52-card shuffle with ChaCha20 and a key of its own, against the ChaCha20 bytes that it draws',
    baseline,
    ours,
    ratio: ours / baseline,
  };
}

export function measureParts(): Part[] {
  return [copying(1), copying(6), quickShuffle(), secureShuffle()];
}
