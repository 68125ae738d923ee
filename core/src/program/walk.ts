import type { Program, Stmt } from './types.js';

/** Calls back for each statement of a block and all blocks inside it, the options of its asks included. */
export function eachStmt(body: readonly Stmt[], asks: Program['asks'], visit: (s: Stmt) => void): void {
  for (const s of body) {
    visit(s);
    if (s.s === 'if') {
      eachStmt(s.yes, asks, visit);
      if (s.no) eachStmt(s.no, asks, visit);
    } else if (s.s === 'while' || s.s === 'repeat' || s.s === 'each' || s.s === 'for') eachStmt(s.body, asks, visit);
    else if (s.s === 'ask') {
      const ask = asks[s.ask];
      for (const option of ask?.options ?? []) eachStmt(option.body, asks, visit);
      if (ask?.stuck) eachStmt(ask.stuck, asks, visit);
    }
  }
}
