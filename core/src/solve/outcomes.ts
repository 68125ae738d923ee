import type { Chance, Generator } from '../chance/generator.js';

/** One way in which chance may fall, with its probability. */
export interface Outcome<T> {
  readonly value: T;
  readonly probability: number;
}

/** More outcomes of one step are not gone through. */
export const MOST_OUTCOMES = 50_000;

/** A game that is not solved: too much would have to be gone through, or it is of a kind that is not. */
export class Unsolved extends Error {
  override readonly name = 'Unsolved';
}

/** Chance that goes through all of its outcomes: each draw is settled by a script, the first time by 0. */
export class Enumerated implements Chance {
  readonly name = 'quick';
  private script: number[] = [];
  private sizes: number[] = [];
  private at = 0;
  private readonly generator: Generator = {
    next: () => {
      throw new Unsolved('This game draws numbers that cannot be gone through one by one.');
    },
    choose: (n) => this.draw(n),
  };

  stream(): Generator {
    return this.generator;
  }

  private draw(n: number): number {
    const i = this.at++;
    if (i >= this.script.length) this.script.push(0);
    this.sizes[i] = n;
    return this.script[i] as number;
  }

  /** What comes of something for each way in which chance may fall in it, as {@link each} finds it. */
  all<T>(run: () => T): Outcome<T>[] {
    return [...this.each(run)];
  }

  /**
   * Does something once for each way in which chance may fall in it. Nothing else is gone through meanwhile.
   * @throws Unsolved where there are more than {@link MOST_OUTCOMES} of them
   */
  *each<T>(run: () => T): Iterable<Outcome<T>> {
    let count = 0;
    this.script = [];
    for (;;) {
      this.at = 0;
      this.sizes = [];
      const value = run();
      const probability = this.sizes.reduce((product, n) => product / n, 1);
      if (++count > MOST_OUTCOMES)
        throw new Unsolved(
          `One step has more than ${MOST_OUTCOMES.toLocaleString('en')} outcomes of chance: this game is too large to be solved. A smaller deck may do.`,
        );
      yield { value, probability };
      // The last draw that has another outcome takes it; what came after it is drawn anew.
      let last = this.at - 1;
      while (last >= 0 && (this.script[last] as number) + 1 >= (this.sizes[last] as number)) last--;
      if (last < 0) return;
      this.script = this.script.slice(0, last + 1);
      this.script[last] = (this.script[last] as number) + 1;
    }
  }
}
