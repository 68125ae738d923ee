import type { Program } from '../program/types.js';
import type { Policy } from '../simulate/policy.js';
import { Unsolved } from './outcomes.js';
import { Solver } from './solve.js';
import { type Decision, decisionsOf } from './solved-policy.js';
import { type Tree, treeOf } from './tree.js';

/** So close to perfect a strategy is brought that is to be played, in points a game. */
const CLOSE = 0.001;
/** So many passes between two looks at how close it is, and at most. */
const STRIDE = 50;
const MOST_PASSES = 20_000;

/** The table that a strategy is for. */
export interface SolvedTable {
  readonly seats: number;
  readonly settings?: Readonly<Record<string, number | boolean | string>>;
}

/** Insists that what one seat wins the other loses, wherever the game ends. @throws Unsolved */
function demandZeroSum(tree: Tree): void {
  const walk = (node: Tree['root']): boolean =>
    node.kind === 'end' ? node.scores.reduce((sum, score) => sum + score, 0) === 0 : node.next.every(walk);
  if (tree.seats.length > 1 && !walk(tree.root))
    throw new Unsolved(
      'In this game both may win at once: only games in which one loses what the other wins are solved.',
    );
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
  demandZeroSum(found.tree);
  return found;
}

/** A strategy on which hardly anything is to be gained, for whoever plays by it. @throws Unsolved where the game cannot be solved */
export function solution(program: Program, table: SolvedTable): Decision[] {
  const { tree } = solvableTree(program, table);
  const solver = new Solver(tree);
  do solver.run(STRIDE);
  while (solver.standing.exploitability > CLOSE && solver.standing.passes < MOST_PASSES);
  return decisionsOf(tree, solver.strategy);
}
