import {
  columnOf,
  type Expr,
  eachExprIn,
  eachStmt,
  exprsOfBlock,
  exprsOfBot,
  innerBlocks,
  lineOf,
  type Program,
  type Stmt,
} from '@wily-jester/core';
import type { Sheet } from '../symbols/scope.js';

/** Whether this finds nothing where nothing fits. */
const mayBeNothing = (e: Expr): boolean => (e.k === 'choose' && e.f === 'find') || (e.k === 'fn' && e.f === 'nextRank');

/** What must be there for an expression to have a value. */
function needed(e: Expr): readonly (Expr | null)[] {
  switch (e.k) {
    case 'field':
    case 'owner':
    case 'cards':
      return [e.of];
    case 'pile':
    case 'var':
    case 'family':
      return [e.owner];
    default:
      return [];
  }
}

/** What must be there for a statement to be carried out. */
function neededBy(s: Stmt): readonly (Expr | null)[] {
  switch (s.s) {
    case 'deal':
      return [s.from, s.to.k === 'pile' ? s.to.pile : null];
    case 'move':
      return [s.to, s.what.k === 'all' ? s.what.pile : null];
    case 'gather':
      return [s.to];
    case 'set':
      return [s.target.k === 'local' ? null : s.target.owner];
    default:
      return [];
  }
}

const FINDS = 'finds nothing where nothing fits, and the step would stop here.';

/** Values that may be nothing, used where there must be something, with nothing asked before. */
export function unguarded(sheet: Sheet, program: Program): void {
  const warn = (e: Expr, message: string): void => {
    const column = columnOf(e.at);
    sheet.warn({ line: lineOf(e.at), column, endColumn: column + 1 }, message);
  };
  for (const routine of program.routines) {
    const found = new Map<number, string>();
    const asked = new Set<number>();
    eachStmt(routine.body, program.asks, (s) => {
      if (s.s === 'let' && mayBeNothing(s.e)) found.set(s.local, routine.locals[s.local]?.name ?? '');
    });
    const pieces = exprsOfBlock(routine.body, program.asks);
    eachExprIn(pieces, (e) => {
      if (e.k !== 'op' || (e.op !== '==' && e.op !== '!=' && e.op !== 'in')) return;
      for (const side of [e.a, e.b]) if (side.k === 'local') asked.add(side.i);
    });
    const look = (e: Expr | null): void => {
      if (e?.k === 'local' && found.has(e.i) && !asked.has(e.i))
        warn(
          e,
          `"${found.get(e.i)}" may be nothing: what it comes from ${FINDS} Ask first: if ${found.get(e.i)} != nothing { … }.`,
        );
    };
    eachExprIn(pieces, (e) => needed(e).forEach(look));
    eachStmt(routine.body, program.asks, (s) => neededBy(s).forEach(look));
  }
  const direct = (e: Expr | null): void => {
    if (e && mayBeNothing(e)) warn(e, `This ${FINDS} Give it a name, and ask first whether it is nothing.`);
  };
  const clauses = [
    ...program.routines.flatMap((routine) => exprsOfBlock(routine.body, program.asks)),
    ...program.defs.map((def) => def.body),
    ...program.bots.flatMap(exprsOfBot),
  ];
  eachExprIn(clauses, (e) => needed(e).forEach(direct));
}

/** Breaks in an option that leave a loop in which something stands behind the ask. */
export function skipped(sheet: Sheet, program: Program): void {
  const visit = (body: readonly Stmt[]): void => {
    for (const [i, s] of body.entries()) {
      for (const block of innerBlocks(s)) visit(block);
      const next = body[i + 1];
      if (s.s !== 'ask' || !next) continue;
      for (const option of program.asks[s.ask]?.options ?? [])
        for (const last of option.body)
          if (last.s === 'break') {
            const column = columnOf(last.at);
            sheet.warn(
              { line: lineOf(last.at), column, endColumn: column + 5 },
              `This "break" leaves the loop, and what stands behind the ask from line ${lineOf(next.at)} on is skipped after "${option.name}".`,
            );
          }
    }
  };
  for (const routine of program.routines) visit(routine.body);
}
