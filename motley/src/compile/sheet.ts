import { type Always, type DeckDecl, type Expr, eachStmt, type Need, type Program, SEMANTICS } from '@wily-jester/core';
import { checkFlow } from '../check/flow.js';
import type * as ast from '../grammar/generated/ast.js';
import { parse, sourceOf } from '../grammar/parse.js';
import { bundledParts, type Parts } from '../parts/library.js';
import { paste } from '../parts/paste.js';
import type { Problem } from '../problems.js';
import { lowerBot } from './bots.js';
import {
  declareMember,
  lowerDeck,
  lowerLayout,
  lowerOrders,
  lowerPile,
  lowerShape,
  lowerVariable,
  seatCounts,
} from './declarations.js';
import { Expressions } from './expressions.js';
import { Frame, Sheet } from './scope.js';
import { lowerSetting } from './settings.js';
import { Statements } from './statements.js';
import { compileText, plainText } from './texts.js';
import { article, counted } from './wording.js';

const MOST_DECLARATIONS = 500;

/** What checking a sheet gives: its problems, and the program where there is no error. */
export interface Checked {
  readonly program: Program | undefined;
  readonly problems: readonly Problem[];
  readonly lines: number;
  /** The sheet as it is kept: with the parts that it uses pasted in. */
  readonly text: string;
}

/** A sheet in the middle of being compiled, for rehearsals that look into it. */
export interface Compiled extends Checked {
  readonly sheet: Sheet | undefined;
  /** The errors in one of its parts, as they stand there. */
  inPart(name: string): readonly Problem[];
}

/** Checks and compiles the text of a rule sheet, with the parts that it uses. Never throws. */
export function compileSheet(text: string, parts: Parts = bundledParts): Compiled {
  const lines = text.split('\n').length;
  const failed = (problems: readonly Problem[]): Compiled => ({
    program: undefined,
    problems,
    lines,
    text,
    sheet: undefined,
    inPart: () => [],
  });
  const { document, problems } = parse(text);
  if (problems.length > 0) return failed(problems);
  if (!document?.game) return failed([noSheet(document)]);
  const pasted = paste(text, document.game, parts);
  if (pasted.problems.length > 0) return failed(pasted.problems);
  const whole = pasted.text === text ? { document, problems } : parse(pasted.text);
  if (!whole.document?.game) return failed(pasted.relocated(whole.problems));
  const sheet = new Sheet();
  const program = {
    ...lowerGame(sheet, whole.document.game, blurbOf(text)),
    ...(pasted.parts.length > 0 ? { parts: pasted.parts } : {}),
  };
  const found = pasted.relocated(sheet.problems);
  found.sort((a, b) => a.line - b.line || a.column - b.column);
  const wrong = found.some((p) => p.severity === 'error');
  return {
    program: wrong ? undefined : program,
    problems: found,
    lines,
    text: pasted.text,
    sheet,
    inPart: (name) => pasted.inPart(name, sheet.problems),
  };
}

const noSheet = (document: ast.Document | undefined): Problem => ({
  severity: 'error',
  line: 1,
  column: 1,
  endColumn: 2,
  message: document?.part
    ? 'This is a part, and no sheet: a sheet pastes it in with use "its-name".'
    : 'This is not a rule sheet: it should begin with game "Name" for … seats { … }.',
});

/** The comment at the head of a sheet. */
function blurbOf(text: string): string {
  const lines: string[] = [];
  for (const line of text.split('\n')) {
    const comment = /^\s*\/\/\s?(.*)$/.exec(line);
    if (!comment) break;
    lines.push(comment[1]?.trim() ?? '');
  }
  return lines.join(' ').trim();
}

function partsOf<T extends ast.Part['$type']>(game: ast.Game, type: T): Extract<ast.Part, { $type: T }>[] {
  return game.parts.filter((part) => part.$type === type) as Extract<ast.Part, { $type: T }>[];
}

function lowerGame(sheet: Sheet, game: ast.Game, blurb: string): Program {
  const x = new Expressions(sheet);
  if (game.parts.length > MOST_DECLARATIONS)
    sheet.error(game, `A sheet has at most ${MOST_DECLARATIONS} declarations.`);
  const seats = seatCounts(sheet, game.seats);
  for (const part of partsOf(game, 'Shape')) lowerShape(sheet, part);

  const settings = partsOf(game, 'Setting');
  for (const [i, node] of settings.entries()) {
    const later = settings.slice(i).map((other) => other.name);
    sheet.settings.push(lowerSetting(x, node, later));
    sheet.declare(node.name, node, 'setting', { k: 'setting', i: sheet.settings.length - 1 });
  }
  for (const node of partsOf(game, 'KindDecl')) {
    if (!/^[A-Z][a-z]/.test(node.name))
      sheet.error(node, `A kind's name starts with a capital, and is longer than one letter: "${node.name}" does not.`);
    sheet.declare(node.name, node, 'kind', null);
    sheet.kinds.push({
      name: node.name,
      members: node.members.map((m) => ({ name: m.name, label: m.label ? plainText(sheet, m.label) : null })),
    });
    for (const [v, member] of node.members.entries()) declareMember(sheet, member, member.name, node.name, v);
  }
  sheet.piles.push({
    name: 'pack',
    label: null,
    perSeat: false,
    by: null,
    many: null,
    open: false,
    cells: null,
    spots: null,
    sorted: null,
    facing: 'down',
    refill: null,
    shape: 'stack',
    alike: false,
    at: sheet.at(game),
  });
  const pileNodes = partsOf(game, 'PileDecl');
  for (const node of pileNodes) lowerPile(sheet, node);
  const decks = partsOf(game, 'Deck').map((node): DeckDecl => lowerDeck(x, node));
  if (decks.length === 0)
    sheet.error(game.title, 'This sheet has no deck. Add a line such as: deck standard', 'deck standard');

  declareDefs(x, game);
  for (const node of partsOf(game, 'VarDecl')) lowerVariable(x, node);
  const routineNodes = partsOf(game, 'Routine');
  declareRoutines(sheet, routineNodes);
  for (const node of partsOf(game, 'BotDecl')) {
    if (sheet.bots.some((bot) => bot.name === node.name)) sheet.error(node, `There is a bot "${node.name}" already.`);
    sheet.bots.push({ name: node.name, locals: [], lines: [] });
  }
  for (const i of sheet.defs.keys()) sheet.ensureDef(i);
  for (const node of partsOf(game, 'Hole')) checkHole(sheet, node);
  lowerRoutines(x, game, routineNodes);
  for (const [i, node] of pileNodes.entries()) setRefill(sheet, node, i + 1);
  for (const [i, node] of partsOf(game, 'BotDecl').entries()) sheet.bots[i] = lowerBot(x, node);

  const top = new Frame('top', false);
  const needs = partsOf(game, 'TopNeeds').map(
    (node): Need => ({
      e: x.want(node.condition, top, 'flag', 'What is needed'),
      text: compileText(x, top, node.text),
      source: sourceOf(node.condition),
      depth: 0,
      at: sheet.at(node),
    }),
  );
  const always = partsOf(game, 'Always').map(
    (node): Always => ({
      name: plainText(sheet, node.title),
      e: x.want(node.condition, top, 'flag', 'What always holds'),
      at: sheet.at(node),
    }),
  );
  checkCans(x);
  const [undo] = partsOf(game, 'Undo');
  if (undo && undo.how !== 'free') sheet.unknown(undo, undo.how, ['free'], 'way to undo');
  const [wins] = partsOf(game, 'Wins');
  if (wins && wins.which !== 'least' && wins.which !== 'most')
    sheet.unknown(wins, wins.which, ['least', 'most'], 'way to win');
  const layouts = partsOf(game, 'Layout');
  for (const extra of layouts.slice(1)) sheet.error(extra, 'There is a layout already: a sheet has one.');
  const program: Program = {
    semantics: SEMANTICS,
    name: plainText(sheet, game.title),
    blurb,
    seats,
    teams: sheet.teams,
    winsLeast: wins?.which === 'least',
    undoFree: undo !== undefined,
    settings: sheet.settings,
    needs,
    decks,
    ...lowerOrders(sheet, partsOf(game, 'Order')),
    kinds: sheet.kinds,
    shapes: sheet.shapes,
    piles: sheet.piles,
    vars: sheet.vars,
    ...lowerLayout(sheet, layouts[0]),
    defs: sheet.defs,
    routines: sheet.routines,
    asks: sheet.asks,
    always,
    bots: sheet.bots,
    probes: [],
  };
  checkFlow(sheet, program, game);
  return program;
}

/** `can` names an option and values for its parameters: both are known once all asks are compiled. */
function checkCans({ sheet }: Expressions): void {
  for (const { node, args } of sheet.cans) {
    const params = sheet.optionParams.get(node.option);
    if (!params) sheet.unknown(node, node.option, sheet.optionNames, 'option');
    else if (args.length > 0 && args.length !== params.length)
      sheet.error(
        node,
        `"${node.option}" takes ${counted(params.length, 'value')}, and here there are ${args.length}.`,
      );
    else
      for (const [i, arg] of args.entries()) {
        const given = node.args[i];
        const param = params[i]?.name ?? '';
        if (arg === null && given?.$type === 'Ref' && given.name !== param) sheet.unknown(given, given.name, [param]);
        if (arg && arg.t !== params[i]?.t)
          sheet.error(
            node,
            `The ${params[i]?.name} of ${node.option} is ${article(params[i]?.t ?? 'int')}, not ${article(arg.t)}.`,
          );
      }
  }
}

/** A part leaves a def to its sheet: there must be one, and it must fit. */
function checkHole(sheet: Sheet, node: ast.Hole): void {
  const wanted = sourceOf(node)
    .replace(/\s+/g, ' ')
    .replace(/^needs /, '');
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

/** Declares all defs, and compiles each when its type is first needed, so that their order is free. */
function declareDefs(x: Expressions, game: ast.Game): void {
  const { sheet } = x;
  const nodes = partsOf(game, 'Def');
  const state: ('waiting' | 'running' | 'done')[] = [];
  const frames: Frame[] = [];
  for (const [i, node] of nodes.entries()) {
    const frame = new Frame('def', false);
    const params = node.params.map((param) => {
      const t = sheet.typeNamed(param.type, param.type.name);
      return { local: frame.add(param.name, t), t };
    });
    for (const param of node.params)
      if (sheet.declared.has(param.name))
        sheet.error(
          param,
          `"${param.name}" means something else here already. Nothing may be hidden by another of the same name.`,
        );
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
    state[i] = 'running';
    const wanted = node.type ? def.t : undefined;
    const body = lowerWays(x, frame, node, wanted);
    def.body = wanted ? x.fit(body, wanted, node, `What ${node.name} gives`) : body;
    def.t = def.body.t;
    state[i] = 'done';
  };
}

function lowerWays(x: Expressions, frame: Frame, node: ast.Def, wanted: Expr['t'] | undefined): Expr {
  const { sheet } = x;
  const [first, ...more] = node.ways;
  if (!first) return x.hole(node);
  if (more.length === 0 && !first.when && !first.otherwise) return x.lower(first.value, frame, wanted);
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

function declareRoutines(sheet: Sheet, nodes: readonly ast.Routine[]): void {
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

function lowerRoutines(x: Expressions, game: ast.Game, nodes: readonly ast.Routine[]): void {
  const { sheet } = x;
  const plays = partsOf(game, 'Play');
  const [play, ...others] = plays;
  for (const extra of others) sheet.error(extra, 'There is a "play" already: a sheet has one script.');
  if (!play) sheet.error(game.title, 'This sheet has no script: add play { … }, which says how the game runs.');
  const everyCalls: Statements['callsInEvery'] = [];
  const lower = (i: number, body: ast.Block, params: readonly ast.TypedParam[]): void => {
    const frame = new Frame('routine', false);
    const routine = sheet.routines[i];
    if (!routine) return;
    for (const [p, param] of params.entries()) {
      if (sheet.declared.has(param.name))
        sheet.error(
          param,
          `"${param.name}" means something else here already. Nothing may be hidden by another of the same name.`,
        );
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

function setRefill(sheet: Sheet, node: ast.PileDecl, i: number): void {
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
