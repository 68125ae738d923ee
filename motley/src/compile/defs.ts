import type { Expr } from '@wily-jester/core';
import { DEEPEST_CALLS } from '../check/depth.js';
import type * as ast from '../grammar/generated/ast.js';
import { sourceOf } from '../grammar/places.js';
import { Frame, type Sheet } from '../symbols/scope.js';
import type { ExprContext } from './context.js';

/** Declares all defs, and compiles each when its type is first needed, so that their order is free. */
export function declareDefs(x: ExprContext, nodes: readonly ast.Def[]): void {
  const { sheet } = x;
  const state: ('waiting' | 'running' | 'done')[] = [];
  const frames: Frame[] = [];
  /** Defs under way, each for the sake of the one before. */
  let running = 0;
  for (const [i, node] of nodes.entries()) {
    const frame = new Frame('def', false);
    const params = node.params.map((param) => {
      const t = sheet.typeNamed(param.type, param.type.name);
      return { local: frame.add(param.name, t), t };
    });
    for (const param of node.params) if (sheet.declared.has(param.name)) sheet.refuseHiding(param, param.name);
    const t = node.type ? sheet.typeNamed(node.type, node.type.name) : 'nothing';
    sheet.declare(node.name, node, 'def', { k: 'def', i });
    sheet.defs.push({ name: node.name, params, t, locals: frame.locals, body: x.hole(node) });
    frames.push(frame);
    state.push('waiting');
  }
  sheet.ensureDef = (i) => {
    const node = nodes[i];
    const def = sheet.defs[i];
    const frame = frames[i];
    if (!node || !def || !frame || state[i] === 'done') return;
    if (state[i] === 'running') {
      sheet.error(node, `"${node.name}" calls itself, here or through other defs. A def never comes back to itself.`);
      return;
    }
    if (running >= DEEPEST_CALLS) {
      sheet.error(node, `Defs call each other more than ${DEEPEST_CALLS} deep here: make the chain shorter.`);
      return;
    }
    state[i] = 'running';
    running++;
    const wanted = node.type ? def.t : undefined;
    const body = lowerWays(x, frame, node, wanted);
    def.body = wanted ? x.fit(body, wanted, node, `What ${node.name} gives`) : body;
    def.t = def.body.t;
    running--;
    state[i] = 'done';
  };
}

/** The most ways of a def: each stands inside the one before it. */
const MOST_WAYS = 64;

/** A def of several ways as one expression: the first whose condition holds. */
function lowerWays(x: ExprContext, frame: Frame, node: ast.Def, wanted: Expr['t'] | undefined): Expr {
  const { sheet } = x;
  const [first, ...more] = node.ways;
  if (!first) return x.hole(node);
  if (more.length === 0 && !first.when && !first.otherwise) return x.lower(first.value, frame, wanted);
  if (node.ways.length > MOST_WAYS) sheet.error(node, `A def has at most ${MOST_WAYS} ways.`);
  const last = node.ways.at(-1) as ast.Way;
  if (!last.otherwise)
    sheet.error(last, `The last of several ways says "otherwise", so that "${node.name}" always has a value.`);
  let t = wanted;
  const values = node.ways.map((way, i) => {
    if (way.otherwise && i < node.ways.length - 1) sheet.error(way, 'What stands after "otherwise" is never reached.');
    else if (!way.when && !way.otherwise) sheet.error(way, 'Each of several ways says "when" it holds.');
    const c = way.condition ? x.want(way.condition, frame, 'flag', 'The condition') : null;
    const e = x.lower(way.value, frame, t);
    if (t === undefined || t === 'nothing') t = e.t;
    return { way, c, e };
  });
  let result: Expr | undefined;
  for (const { way, c, e } of values.reverse()) {
    const value = x.fit(e, t ?? 'int', way.value, 'Each way');
    result = result && c ? { k: 'if', t: value.t, at: sheet.at(way), c, a: value, b: result } : (result ?? value);
  }
  return result ?? x.hole(node);
}

/** A part leaves a def or a variable to its sheet: there must be one, and it must fit. */
export function checkHole(sheet: Sheet, node: ast.Hole): void {
  const wanted = sourceOf(node)
    .replace(/\s+/g, ' ')
    .replace(/^needs | =.*$/g, '');
  if (node.variable) {
    checkVariable(sheet, node, wanted);
    return;
  }
  const def = sheet.defs.find(({ name }) => name === node.name);
  if (!def) {
    sheet.error(node, `This needs ${wanted}, and the sheet has no def "${node.name}".`);
    return;
  }
  sheet.use(node.name);
  const types = [
    ...node.params.map(({ type }) => sheet.typeNamed(type, type.name)),
    sheet.typeNamed(node.type, node.type.name),
  ];
  const given = [...def.params.map(({ t }) => t), def.t];
  if (types.length !== given.length || types.some((t, i) => t !== given[i]))
    sheet.error(node, `This needs ${wanted}; the sheet's "${node.name}" is another one.`);
}

function checkVariable(sheet: Sheet, node: ast.Hole, wanted: string): void {
  const variable = sheet.vars.find(({ name }) => name === node.name);
  if (!variable) {
    sheet.error(node, `This needs ${wanted}, and the sheet has no var "${node.name}".`);
    return;
  }
  sheet.use(node.name);
  const { of } = variable;
  const key = of.k === 'kind' ? of.kind : of.k;
  if (key !== (node.each ?? 'table') || variable.t !== sheet.typeNamed(node.type, node.type.name))
    sheet.error(node, `This needs ${wanted}; the sheet's "${node.name}" is another one.`);
}
