import { type InfoSet, Solver, type Tree } from '@wily-jester/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

type Node = Tree['root'];
/** What each of the first seat's choices, and of the answers to it, leads to: what the first seat wins. */
type Played = number | readonly Played[];

const end = (wins: number): Node => ({ kind: 'end', scores: [wins, -wins] });

/** Games without chance or secrets, so many choices deep: the seats in turn. */
const games = (depth: number): fc.Arbitrary<Played> =>
  depth === 0
    ? fc.integer({ min: -1_000, max: 1_000 })
    : fc.array(games(depth - 1), { minLength: 2, maxLength: 3 }).map((next): Played => next);

/** The tree of such a game; a set for each place, unless places of other games share it. */
class Infos {
  readonly list: InfoSet[] = [];
  private readonly numbers = new Map<string, number>();

  number(seat: number, words: string, choices: number): number {
    const key = `${seat} ${words}`;
    const known = this.numbers.get(key) ?? this.list.length;
    if (known === this.list.length) {
      this.numbers.set(key, known);
      this.list.push({ seat, words, choices: Array.from({ length: choices }, (_, i) => `${i}`) });
    }
    return known;
  }
  treeOf(root: Node): Tree {
    return { seats: ['Wren', 'Otter'], root, infos: this.list, nodes: 0 };
  }
}

/** @param told what each seat knows besides the choices so far */
function nodeOf(game: Played, infos: Infos, told: readonly [string, string], way = '', seat = 0): Node {
  if (typeof game === 'number') return end(game);
  const info = infos.number(seat, `${told[seat]}${way}`, game.length);
  return { kind: 'decision', info, next: game.map((next, i) => nodeOf(next, infos, told, `${way}.${i}`, 1 - seat)) };
}

/** What the first seat wins where both choose as well as can be, from the last choice backwards (Zermelo 1913). */
function worthOf(game: Played, seat = 0): number {
  if (typeof game === 'number') return game;
  const worths = game.map((next) => worthOf(next, 1 - seat));
  return seat === 0 ? Math.max(...worths) : Math.min(...worths);
}

describe('solving', () => {
  it('comes to what is best wherever a game without secrets goes, after mistakes as well', () => {
    fc.assert(
      fc.property(games(4), (game) => {
        const infos = new Infos();
        const solver = new Solver(infos.treeOf(nodeOf(game, infos, ['', ''])));
        solver.run(600);
        const { values, exploitability } = solver.standing;
        const worth = worthOf(game);
        expect(Math.abs((values[0] ?? 0) - worth)).toBeLessThan(5);
        expect(exploitability).toBeLessThan(5);
        const check = (at: Played, way = '', seat = 0): void => {
          if (typeof at === 'number') return;
          const shares = solver.strategy[infos.number(seat, way, at.length)] ?? [];
          const reached = at.reduce<number>((sum, next, i) => sum + (shares[i] ?? 0) * worthOf(next, 1 - seat), 0);
          expect(Math.abs(reached - worthOf(at, seat)), `after ${way}`).toBeLessThan(100);
          for (const [i, next] of at.entries()) check(next, `${way}.${i}`, 1 - seat);
        };
        check(game);
      }),
      { numRuns: 60 },
    );
  });

  it('leaves hardly anything to be gained where one seat knows what the other does not', () => {
    const cards = fc.tuple(games(3), games(3));
    fc.assert(
      fc.property(cards, ([one, other]) => {
        // The same choices with either card: what they lead to differs, and only the first seat knows which it is.
        const shaped = (game: Played, shape: Played): Played =>
          typeof shape === 'number'
            ? typeof game === 'number'
              ? game
              : 0
            : shape.map((next, i) => shaped(typeof game === 'number' ? game : (game[i] ?? 0), next));
        const infos = new Infos();
        const next = [one, shaped(other, one)].map((game, i) => nodeOf(game, infos, [`card ${i}`, '']));
        const tree = infos.treeOf({ kind: 'chance', next, probabilities: [0.5, 0.5] });
        const solver = new Solver(tree);
        solver.run(1_500);
        const { exploitability } = solver.standing;
        expect(exploitability).toBeGreaterThan(-1e-9);
        expect(exploitability).toBeLessThan(10);
      }),
      { numRuns: 60 },
    );
  });
});
