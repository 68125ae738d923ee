import { eachExpr, eachStmt } from '@wily-jester/core';
import type { AstNode } from '#langium';
import type { Sheet } from '../symbols/scope.js';

/** How many defs, or routines, may call each other, one inside the other. */
export const DEEPEST_CALLS = 64;

/** Insists that no call goes too deep: a step must end the same everywhere, and never for want of a stack. */
export function checkCallDepth(sheet: Sheet, nodeOf: (name: string) => AstNode | undefined): void {
  const defCalls = sheet.defs.map((def) => {
    const called = new Set<number>();
    eachExpr(def.body, (e) => {
      if (e.k === 'call') called.add(e.def);
    });
    return called;
  });
  const defDepths = depths(defCalls);
  const routineCalls = sheet.routines.map((routine) => {
    const called = new Set<number>();
    eachStmt(routine.body, sheet.asks, (s) => {
      if (s.s === 'call') called.add(s.routine);
    });
    return called;
  });
  const tooDeep = (name: string): void => {
    const node = nodeOf(name);
    if (node) sheet.error(node, `"${name}" calls others more than ${DEEPEST_CALLS} deep: make the chain shorter.`);
  };
  const first = (found: readonly number[], names: readonly { readonly name: string }[]): void => {
    const i = found.findIndex((depth) => depth > DEEPEST_CALLS);
    if (i >= 0) tooDeep(names[i]?.name ?? '');
  };
  first(defDepths, sheet.defs);
  first(depths(routineCalls), sheet.routines);
}

/** How deep each calls others, itself counted. A circle is told of elsewhere, and ends here. */
function depths(calls: readonly ReadonlySet<number>[]): number[] {
  const found: number[] = [];
  const visit = (i: number): number => {
    const known = found[i];
    if (known !== undefined) return known;
    found[i] = 1;
    let deepest = 0;
    for (const called of calls[i] ?? []) deepest = Math.max(deepest, visit(called));
    found[i] = deepest + 1;
    return deepest + 1;
  };
  return calls.map((_, i) => visit(i));
}
