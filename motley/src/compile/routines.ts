import { eachStmt } from '@wily-jester/core';
import type * as ast from '../grammar/generated/ast.js';
import { Frame, type Sheet } from '../symbols/scope.js';
import type { ExprContext } from './context.js';
import { Statements } from './statements.js';

/** Declares the script and all routines, so that each may run those that stand behind it. */
export function declareRoutines(sheet: Sheet, nodes: readonly ast.Routine[]): void {
  sheet.routines.push({ name: 'play', params: [], locals: [], body: [], waits: false, at: 0 });
  for (const node of nodes) {
    sheet.declare(node.name, node, 'routine', { k: 'routine', i: sheet.routines.length });
    const locals = node.params.map((param) => ({
      name: param.name,
      t: sheet.typeNamed(param.type, param.type.name),
      inner: false,
    }));
    sheet.routines.push({
      name: node.name,
      params: locals.map((_, i) => i),
      locals,
      body: [],
      waits: false,
      at: sheet.at(node),
    });
  }
}

/** Compiles the script and all routines, and finds which of them wait. */
export function lowerRoutines(x: ExprContext, play: ast.Play | undefined, nodes: readonly ast.Routine[]): void {
  const { sheet } = x;
  const everyCalls: Statements['callsInEvery'] = [];
  const lower = (i: number, body: ast.Block, params: readonly ast.TypedParam[]): void => {
    const frame = new Frame('routine', false);
    const routine = sheet.routines[i];
    if (!routine) return;
    for (const [p, param] of params.entries()) {
      if (sheet.declared.has(param.name)) sheet.refuseHiding(param, param.name);
      frame.add(param.name, routine.locals[p]?.t ?? 'int');
    }
    const st = new Statements(x, frame);
    routine.body = st.block(body, { routine: i, inLoop: false, inEvery: false });
    routine.locals = frame.locals;
    everyCalls.push(...st.callsInEvery);
  };
  if (play) {
    const routine = sheet.routines[0];
    if (routine) routine.at = sheet.at(play);
    if (play.body) lower(0, play.body, []);
  }
  for (const [i, node] of nodes.entries()) lower(i + 1, node.body, node.params);
  findWaits(sheet, nodes);
  for (const call of everyCalls)
    if (sheet.routines[call.routine]?.waits)
      sheet.error(
        call.node,
        `"${sheet.routines[call.routine]?.name}" waits, and the answers to an "ask every" run in one go.`,
      );
}

/** Finds the routines that wait, through calls too, and refuses circles. */
function findWaits(sheet: Sheet, nodes: readonly ast.Routine[]): void {
  const calls = sheet.routines.map((routine) => {
    const called = new Set<number>();
    eachStmt(routine.body, sheet.asks, (s) => {
      if (s.s === 'call') called.add(s.routine);
      if (s.s === 'ask' || s.s === 'pause') routine.waits = true;
    });
    return called;
  });
  const path: number[] = [];
  const state: number[] = [];
  const visit = (i: number): void => {
    if (state[i] === 2) return;
    if (path.includes(i)) {
      const names = [...path.slice(path.indexOf(i)), i].map((r) => sheet.routines[r]?.name ?? '');
      const node = nodes[i - 1];
      if (node) sheet.error(node, `Routines run in a circle: ${names.join(' → ')}. Use a loop instead.`);
      return;
    }
    path.push(i);
    for (const called of calls[i] ?? []) {
      visit(called);
      const routine = sheet.routines[i];
      if (routine && sheet.routines[called]?.waits) routine.waits = true;
    }
    path.pop();
    state[i] = 2;
  };
  for (const i of sheet.routines.keys()) visit(i);
}

/** The routine that runs when a deal finds a pile empty. */
export function setRefill(sheet: Sheet, node: ast.PileDecl, i: number): void {
  if (node.refill === undefined) return;
  const meaning = sheet.names.get(node.refill);
  const pile = sheet.piles[i];
  if (meaning?.k !== 'routine' || !pile) {
    sheet.unknown(
      node,
      node.refill,
      sheet.routines.map((r) => r.name),
      'routine',
    );
    return;
  }
  sheet.use(node.refill);
  const routine = sheet.routines[meaning.i];
  if (routine && routine.params.length > 0)
    sheet.error(node, `"${node.refill}" refills a pile, so it takes no values.`);
  if (routine?.waits)
    sheet.error(node, `"${node.refill}" refills a pile in the middle of a deal, so it cannot ask or pause.`);
  sheet.piles[i] = { ...pile, refill: meaning.i };
}
