import {
  deckFaces,
  type Expr,
  eachExprIn,
  eachStmt,
  exprsOfBlock,
  exprsOfBot,
  type Program,
  standardLimits,
} from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import type { Sheet } from '../symbols/scope.js';
import { skipped, unguarded } from './guards.js';
import { secrets } from './secrets.js';
import { tooManyWays } from './ways.js';

/** Checks that need the whole program: what is never used, what cannot be dealt, what would leak. */
export function checkFlow(sheet: Sheet, program: Program, game: ast.Game): void {
  // While something is wrong, what seems unused may only be misspelt.
  const sound = !sheet.problems.some((p) => p.severity === 'error');
  if (sound) unused(sheet, program);
  if (sound) deals(sheet, program, game);
  secrets(sheet, program);
  if (sound) unguarded(sheet, program);
  if (sound) skipped(sheet, program);
  if (sound) tooManyWays(sheet, program);
}

const WARN_UNUSED = new Set(['setting', 'variable', 'def', 'routine', 'pile']);

function unused(sheet: Sheet, program: Program): void {
  const read = new Set<number>();
  const clauses = [
    ...program.routines.flatMap((routine) => exprsOfBlock(routine.body, program.asks)),
    ...program.defs.map((def) => def.body),
    ...program.needs.flatMap((need) => [need.e, need.text]),
    ...program.always.map((declared) => declared.e),
    ...program.bots.flatMap(exprsOfBot),
  ];
  eachExprIn(clauses, (e) => {
    if (e.k === 'var') read.add(e.i);
  });
  for (const declared of sheet.declared.values()) {
    if (!WARN_UNUSED.has(declared.what)) continue;
    if (declared.what === 'variable') {
      const i = sheet.vars.findIndex((v) => v.name === declared.name);
      const variable = sheet.vars[i];
      if (variable && !read.has(i) && variable.label === null)
        sheet.warn(declared.node, `"${declared.name}" is never read, and has no label to be drawn under.`);
    } else if (declared.uses === 0) sheet.warn(declared.node, `The ${declared.what} "${declared.name}" is never used.`);
  }
}

const constant = (program: Program, e: Expr | null): number | undefined => {
  if (e === null) return 1;
  if (e.k === 'lit') return e.v;
  if (e.k === 'setting') return standardLimits(program)[e.i]?.standard;
  return undefined;
};

/** A single deal round the table that the deck could never serve at the largest number of seats. */
function deals(sheet: Sheet, program: Program, game: ast.Game): void {
  let size = 0;
  if (program.decks.length === 0) return;
  for (const deck of program.decks) {
    const copies = constant(program, deck.copies);
    const jokers = deck.jokers ? constant(program, deck.jokers) : 0;
    if (copies === undefined || jokers === undefined || deck.when !== null) return;
    try {
      size += deckFaces([{ form: deck.form, copies, jokers }]).length;
    } catch (error) {
      sheet.error(game.title, `The deck cannot be made: ${error instanceof Error ? error.message : String(error)}`);
      return;
    }
  }
  const seats = Math.max(...program.seats);
  for (const routine of program.routines)
    eachStmt(routine.body, program.asks, (s) => {
      if (s.s !== 'deal' || s.upTo || s.to.k !== 'seats' || s.to.of.k !== 'seats') return;
      const each = constant(program, s.count);
      if (s.count === null || each === undefined || each * seats <= size) return;
      const place = { line: Math.floor(s.at / 4096), column: s.at % 4096, endColumn: (s.at % 4096) + 4 };
      sheet.error(place, `With ${seats} seats this deals ${each * seats} cards, and the deck has ${size}.`);
    });
}
