import type { Program } from '../program/types.js';
import type { Policy } from '../simulate/policy.js';
import { Unsolved } from './outcomes.js';
import { Solver } from './solve.js';
import { type Decision, decisionsOf } from './solved-policy.js';
import { type Node, treeOf } from './tree.js';

/** So close to perfect a strategy is brought that is to be played: in points a game, or as a share of the most that is at stake. */
const CLOSE = 0.001;
const CLOSE_SHARE = 0.0001;
/** So many passes between two looks at how close it is, and at most. */
const STRIDE = 50;
const MOST_PASSES = 20_000;

/** The table that a strategy is for. */
export interface SolvedTable {
  readonly seats: number;
  readonly settings?: Readonly<Record<string, number | boolean | string>>;
}

/** Looks at the scores of every end of a game. */
function atEnds(node: Node, look: (scores: readonly number[]) => void): void {
  if (node.kind === 'end') look(node.scores);
  else for (const next of node.next) atEnds(next, look);
}

/**
 * The tree of a game that can be solved.
 * @param policy whose choices are looked at, too: how often it chooses what comes back beside the tree
 * @throws Unsolved where it cannot be
 */
export function solvableTree(
  program: Program,
  { seats, settings = {} }: SolvedTable,
  policy: Policy | null = null,
): ReturnType<typeof treeOf> {
  if (seats > 2) throw new Unsolved('Games of one or two seats are solved, not of more.');
  const found = treeOf(program, { seats, settings }, policy);
  atEnds(found.tree.root, (scores) => {
    if (seats > 1 && scores.reduce((sum, score) => sum + score, 0) !== 0)
      throw new Unsolved(
        'In this game both may win at once: only games in which one loses what the other wins are solved.',
      );
  });
  return found;
}

/** A strategy on which hardly anything is to be gained, for whoever plays by it. @throws Unsolved where the game cannot be solved */
export function solution(program: Program, table: SolvedTable): Decision[] {
  const { tree } = solvableTree(program, table);
  let stake = 0;
  atEnds(tree.root, (scores) => {
    stake = Math.max(stake, ...scores.map(Math.abs));
  });
  const close = Math.max(CLOSE, stake * CLOSE_SHARE);
  const solver = new Solver(tree);
  for (;;) {
    solver.run(STRIDE);
    const { exploitability, passes } = solver.standing;
    if (exploitability <= close) return decisionsOf(tree, solver.strategy);
    if (passes >= MOST_PASSES)
      throw new Unsolved(
        `After ${passes} passes a perfect opponent still gains ${exploitability.toPrecision(2)} points a game: this game is not solved closely enough.`,
      );
  }
}
