/** How random players written by hand draw: the same numbers for the same choices as the engine's random policy. */
import { below, type Chance, type Generator } from '@wily-jester/core';

/** After how many items a reservoir of one that has seen `seen` of them takes the next one. */
const skip = (generator: Generator, seen: number): number =>
  Math.floor((seen * 0x1_0000_0000) / (generator.next() + 1)) + 1;

/** A reservoir of one: counts ways as they come, and tells which of them to keep. */
export class Reservoir {
  seen = 0;
  private next = 1;

  begin(): void {
    this.seen = 0;
    this.next = 1;
  }
  /** Whether this way takes the place of the one that was kept. */
  takes(generator: Generator): boolean {
    if (++this.seen !== this.next) return false;
    this.next = skip(generator, this.seen);
    return true;
  }
}

/** Options in random order: the first that has a legal way is chosen. */
export class OptionOrder {
  private readonly order: number[];
  private left = 0;

  constructor(private readonly options: readonly number[]) {
    this.order = [...options];
  }
  begin(): void {
    for (let i = 0; i < this.options.length; i++) this.order[i] = this.options[i] as number;
    this.left = this.options.length;
  }
  /** The next option to try, or −1. */
  next(generator: Generator): number {
    if (this.left === 0) return -1;
    const at = this.left === 1 ? 0 : below(generator, this.left);
    this.left--;
    const option = this.order[at] as number;
    this.order[at] = this.order[this.left] as number;
    return option;
  }
}

/** Shuffles the first `count` of a row, as a sheet's `shuffle` does. */
export function shuffle(row: Uint8Array, count: number, chance: Chance, times: number): void {
  const generator = chance.stream('shuffle', times);
  for (let i = count - 1; i > 0; i--) {
    const j = below(generator, i + 1);
    const held = row[i] as number;
    row[i] = row[j] as number;
    row[j] = held;
  }
}

/** What came of a game that was played by hand, or by the engine. */
export interface Played {
  readonly choices: number;
  /** Whatever tells two games apart: scores, banks, cards that are home. */
  readonly outcome: readonly number[];
}
