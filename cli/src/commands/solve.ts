import { writeFile } from 'node:fs/promises';
import { signed } from '@wily-jester/charts';
import {
  bestResponse,
  decisionsOf,
  exploitabilityOf,
  type Program,
  ScriptedPolicy,
  Solver,
  type Strategy,
  solvableTree,
  type Tree,
  Unsolved,
  valuesOf,
} from '@wily-jester/core';
import type { Command } from 'commander';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { programIn } from '../files.js';
import { paint } from '../show/paint.js';
import { print, printJson } from '../show/print.js';
import { wholeNumber } from '../words.js';
import { settingsOf } from './seating.js';

interface SolveWishes {
  set?: string[];
  seats?: string;
  until: string;
  passes: string;
  bot?: string;
  out?: string;
  all?: boolean;
  json?: boolean;
}

/** So many passes are made between two looks. */
const STRIDE = 50;
/** So many rows of the strategy are printed where not all are asked for. */
const SHOWN = 24;

const figure = (n: number): string => n.toLocaleString('en');
const worth = (n: number): string => signed(n, 5);

/** Builds the tree. @throws Exit where the game cannot be solved */
function built(program: Program, wishes: SolveWishes) {
  const settings = settingsOf(program, wishes.set);
  const least = Math.min(...program.seats);
  const seats =
    wishes.seats === undefined ? least : wholeNumber('--seats', wishes.seats, least, Math.max(...program.seats));
  const policy = wishes.bot === undefined ? null : new ScriptedPolicy({ program }, wishes.bot);
  try {
    return solvableTree(program, { settings, seats }, policy);
  } catch (error) {
    if (error instanceof Unsolved) throw new Exit(error.message, NO);
    throw error;
  }
}

async function solve(file: string, wishes: SolveWishes): Promise<void> {
  const { program } = await programIn(file);
  const until = Number(wishes.until);
  if (!(until > 0)) throw new Exit(`--until takes a number above 0, such as 0.001, not "${wishes.until}".`, WRONG_USE);
  const most = wholeNumber('--passes', wishes.passes, 1, 1_000_000);
  const began = performance.now();
  const { tree, shares } = built(program, wishes);
  const say = (words: string): void => {
    if (!wishes.json) print(words);
  };
  say(
    `${paint.bold(program.name)}: ${figure(tree.nodes)} places, ${figure(tree.infos.length)} decisions that look different.`,
  );
  if (wishes.bot !== undefined) {
    tellBot(
      tree,
      tree.infos.map((_, i) => shares.get(i) ?? []),
      wishes,
    );
    return;
  }
  const solver = new Solver(tree);
  let standing = solver.standing;
  let told = 0;
  while (standing.exploitability > until && standing.passes < most) {
    solver.run(Math.min(STRIDE, most - standing.passes));
    standing = solver.standing;
    if (standing.passes < 2 * told) continue;
    told = standing.passes;
    say(
      paint.dim(
        `  ${figure(standing.passes).padStart(7)} passes   ${standing.exploitability.toExponential(1)} to be gained on it`,
      ),
    );
  }
  const { strategy } = solver;
  const seconds = (performance.now() - began) / 1000;
  if (wishes.out) await writeFile(wishes.out, `${JSON.stringify(fileOf(program, tree, strategy), null, 1)}\n`);
  if (wishes.json) {
    printJson({
      game: program.name,
      places: tree.nodes,
      ...standing,
      seconds,
      strategy: fileOf(program, tree, strategy).decisions,
    });
    return;
  }
  table(tree, strategy, wishes.all === true);
  print(`Worth ${standing.values.map((value, seat) => `${worth(value)} to ${tree.seats[seat]}`).join(', ')}.`);
  const kept = standing.exploitability <= until;
  print(
    `${kept ? paint.green('✓') : paint.yellow('!')} ${figure(standing.passes)} passes: a perfect opponent gains ${standing.exploitability.toExponential(1)} a game on it${kept ? '' : `, more than ${wishes.until}`}; ${seconds.toFixed(1)} s.`,
  );
  if (wishes.out)
    print(
      `The strategy stands in ${wishes.out}. Play with it: ./wily match ${file} --bots solved:${wishes.out},random`,
    );
  if (!kept) throw new Exit('More passes would bring it closer: --passes.', NO);
}

const fileOf = (program: Program, tree: Tree, strategy: Strategy) => ({
  game: program.name,
  decisions: decisionsOf(tree, strategy).map(({ seat, holding, choices }) => ({
    seat: seat + 1,
    holding,
    choices: Object.fromEntries(Object.entries(choices).map(([choice, share]) => [choice, Number(share.toFixed(6))])),
  })),
});

/** What is done with which cards after what was done. */
function table(tree: Tree, strategy: Strategy, all: boolean): void {
  const rows = tree.infos.map(({ seat, words, choices }, i) => ({
    seat,
    depth: words.split(',').length,
    place: `${tree.seats[seat]}  ${words}`,
    does: choices
      .map((choice, a) => ({ choice, share: strategy[i]?.[a] ?? 0 }))
      .filter(({ share }) => share >= 0.005)
      .map(({ choice, share }) => (share > 0.995 ? choice : `${choice} ${Math.round(100 * share)} %`))
      .join(', '),
  }));
  rows.sort((a, b) => a.seat - b.seat || a.depth - b.depth || a.place.localeCompare(b.place));
  const shown = all ? rows : rows.slice(0, SHOWN);
  for (const { place, does } of shown) print(`  ${place} → ${paint.bold(does)}`);
  if (shown.length < rows.length)
    print(paint.dim(`  … and ${figure(rows.length - shown.length)} more: --all, or --out strategy.json`));
}

/** How far a scripted bot is from being unbeatable. */
function tellBot(tree: Tree, strategy: Strategy, wishes: SolveWishes): void {
  const values = valuesOf(tree, strategy);
  const exploitability = exploitabilityOf(tree, strategy);
  const gains = tree.seats.map((_, seat) => bestResponse(tree, strategy, seat));
  if (wishes.json) {
    printJson({ bot: wishes.bot, values, exploitability, bestResponses: gains });
    return;
  }
  table(tree, strategy, wishes.all === true);
  print(
    `Against itself ${wishes.bot} gets ${values.map((value, seat) => `${worth(value)} as ${tree.seats[seat]}`).join(', ')}.`,
  );
  for (const [seat, gain] of gains.entries())
    print(`A perfect opponent as ${tree.seats[seat]} would get ${worth(gain)}.`);
  print(
    `${exploitability < 1e-9 ? paint.green('✓ There is nothing to be gained on it.') : `It gives away ${exploitability.toFixed(5)} a game.`}`,
  );
}

/** `solve`: small games to their end. */
export function addSolveCommand(program: Command): void {
  program
    .command('solve <file>')
    .description('solve a small game: what it is worth, and how it is played so that nothing can be gained on it')
    .option('--set <setting...>', 'settings, such as rounds=1')
    .option('--seats <count>', 'one or two seats')
    .option('--until <gain>', 'until a perfect opponent gains no more than this', '0.001')
    .option('--passes <count>', 'at most so many passes over the tree', '20000')
    .option('--bot <name>', 'do not solve it: say how far this bot of the sheet is from perfect')
    .option('--out <file>', 'write the strategy as JSON')
    .option('--all', 'print the whole strategy')
    .option('--json', 'as JSON')
    .addHelpText(
      'after',
      '\nExamples:\n  ./wily solve sheets/three-card-duel.motley --until 0.0002\n  ./wily solve sheets/three-card-duel.motley --bot balanced',
    )
    .action(solve);
}
