import type { Chance, Generator, KeyedChance } from './generator.js';

/** A chance that goes on with another one from some point: tables that branch off are dealt anew there. */
export class TurningChance implements Chance {
  /** That of the beginning: a table's header names it. */
  readonly name: Chance['name'];

  constructor(public now: Chance) {
    this.name = now.name;
  }

  stream(purpose: string, count: number): Generator {
    return this.now.stream(purpose, count);
  }

  get keyed(): KeyedChance | undefined {
    return this.now.keyed;
  }
}
