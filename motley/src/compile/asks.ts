import { type Ask, type Clock, lineOf, localsIn, type Need, type Option, type Param } from '@wily-jester/core';
import type { AstNode } from '#langium';
import type * as ast from '../grammar/generated/ast.js';
import { sourceOf } from '../grammar/places.js';
import { article } from '../symbols/wording.js';
import { type Around, secondsOf } from './clauses.js';
import type { StmtContext } from './context.js';
import { lowerParam } from './domains.js';
import { compileText, plainText } from './texts.js';

const MOST_OPTIONS = 32;
const MOST_PARAMS = 4;

/** Compiles an ask with its options, and gives its number. */
export function lowerAsk(st: StmtContext, node: ast.Ask, around: Around): number {
  const { sheet, x, frame } = st;
  const index = sheet.asks.length;
  sheet.asks.push({
    routine: around.routine,
    at: sheet.at(node),
    about: null,
    clock: null,
    options: [],
    stuck: null,
    who: { k: 'one', seat: x.hole(node, 'seat') },
  });
  frame.open();
  let who: Ask['who'];
  const several = node.every ? 'every' : node.any ? 'any' : null;
  if (several && node.list && node.name !== undefined) {
    const list = x.want(node.list, frame, 'list:seat', 'Who is asked');
    if (frame.find(node.name) !== undefined || sheet.names.has(node.name)) sheet.refuseHiding(node, node.name);
    const local = frame.add(node.name, 'seat');
    const where = node.where ? x.want(node.where, frame, 'flag', 'The condition') : null;
    who = { k: several, local, list, where };
    if (several === 'any' && list.k === 'list' && list.items.length < 2)
      sheet.error(
        node.list,
        'Nobody is there to race: "ask any" asks several seats. Write ask with the one that is asked.',
      );
  } else who = { k: 'one', seat: node.who ? x.want(node.who, frame, 'seat', 'Who is asked') : x.hole(node, 'seat') };
  const about = node.about ? x.want(node.about, frame, 'pile', 'What the ask is about') : null;
  if (node.because) {
    if (several) sheet.error(node.because, 'Several seats see different cards: "because" goes with an ask of one.');
    sheet.looks.push({
      ask: index,
      node: node.because,
      line: lineOf(sheet.at(node)),
      reason: plainText(sheet, node.because),
    });
  }
  const inside: Around = node.every ? { ...around, inEvery: true } : around;
  const options = node.options.map((option) => lowerOption(st, option, inside));
  if (options.length === 0) sheet.error(node, 'An ask needs one option or more.');
  if (options.length > MOST_OPTIONS) sheet.error(node, `An ask has at most ${MOST_OPTIONS} options.`);
  for (const [i, option] of options.entries()) {
    const twice = options.findIndex((other) => other.name === option.name);
    if (twice < i) sheet.error(node.options[i] as AstNode, `This ask has an option "${option.name}" already.`);
  }
  if (node.any) checkRace(st, node, options);
  const stuck = node.stuck ? st.block(node.stuck, inside) : null;
  frame.close();
  sheet.asks[index] = {
    routine: around.routine,
    who,
    about,
    clock: clockOf(st, node, options),
    options,
    stuck,
    at: sheet.at(node),
  };
  return index;
}

/** Whoever steps aside leaves the ask open for the others, so that little can happen there. */
const ASIDE_STATEMENTS = new Set(['say', 'finish']);

/** What holds of an ask whose first answer counts. */
function checkRace({ sheet }: StmtContext, node: ast.Ask, options: readonly Option[]): void {
  if (options.length > 0 && options.every((option) => option.aside))
    sheet.error(node, 'Somebody must be able to answer: here all options are asides, with which a seat steps aside.');
  for (const [i, option] of options.entries()) {
    const done = option.aside ? option.body.findIndex(({ s }) => !ASIDE_STATEMENTS.has(s)) : -1;
    const statement = node.options[i]?.body.statements[done];
    if (statement)
      sheet.error(
        statement,
        `With "${option.name}" a seat steps aside, and the others may still answer: there only "say", "tell" and "finish" may stand.`,
      );
  }
}

function clockOf(st: StmtContext, node: ast.Ask, options: readonly Option[]): Clock | null {
  const { sheet } = st;
  if (node.time === undefined) return null;
  const seconds = secondsOf(node.time);
  if (seconds < 1) sheet.error(node, 'A turn clock runs one second or longer.');
  if (node.elseStuck) {
    if (!node.any)
      sheet.error(
        node,
        '"else stuck" goes with "ask any". Name an option that the clock plays, or write "else bot …".',
      );
    else if (!node.stuck)
      sheet.error(node, 'There is no "stuck" part for the clock to run: write stuck { … } behind the options.');
    return { seconds, otherwise: 'stuck' };
  }
  if (node.bot !== undefined) {
    const bot = sheet.bots.findIndex((b) => b.name === node.bot);
    if (bot < 0)
      sheet.unknown(
        node,
        node.bot,
        sheet.bots.map((b) => b.name),
        'bot',
      );
    return { seconds, otherwise: { bot: Math.max(0, bot) } };
  }
  for (const name of node.otherwise) {
    const option = options.find((o) => o.name === name);
    if (!option)
      sheet.unknown(
        node,
        name,
        options.map((o) => o.name),
        'option',
      );
    else if (option.params.length > 0)
      sheet.error(
        node,
        `The clock cannot play "${name}": it needs a choice of ${option.params[0]?.name}. Name another option, or write "else bot …".`,
      );
  }
  const last = options.find((o) => o.name === node.otherwise.at(-1));
  if (last && (last.when !== null || last.needs.length > 0))
    sheet.warn(
      node,
      `When the clock runs out, "${last.name}" may not be allowed. Add an option after it that always is.`,
    );
  return { seconds, otherwise: node.otherwise };
}

function lowerOption(st: StmtContext, node: ast.Option, around: Around): Option {
  const { sheet, x, frame } = st;
  frame.open();
  const on = node.on ? x.lower(node.on, frame) : null;
  if (on && on.t !== 'pile' && on.t !== 'list:pile')
    sheet.error(node.on as AstNode, `After "on" stands a pile, and this is ${article(on.t)}.`);
  const when = node.condition ? x.want(node.condition, frame, 'flag', 'The condition') : null;
  if (when?.k === 'lit' && when.v === 0 && when.t === 'flag')
    sheet.error(node.condition as AstNode, `"${node.name}" can never be chosen: its condition is always false.`);
  const params = node.params.map((param): Param => {
    if (frame.find(param.name) !== undefined || sheet.names.has(param.name)) sheet.refuseHiding(param, param.name);
    return lowerParam(st, param);
  });
  if (params.length > MOST_PARAMS) sheet.error(node, `An option has at most ${MOST_PARAMS} parameters.`);
  const label = node.label ? compileText(x, frame, node.label) : null;
  const needOf = (condition: ast.Expr, text: ast.Text | undefined, place: AstNode): Need => {
    const e = x.want(condition, frame, 'flag', 'What is needed');
    const read = localsIn(e);
    const depth = params.reduce((most, param, i) => (read.has(param.local) ? i + 1 : most), 0);
    return {
      e,
      text: text ? compileText(x, frame, text) : null,
      source: sourceOf(condition).replace(/\s+/g, ' '),
      depth,
      at: sheet.at(place),
    };
  };
  // Which sets of cards are in a domain is asked of whole sets: it is needed like any other condition.
  const sets = node.params.flatMap(({ domain }, i) => {
    const where = params[i]?.domain.k === 'cards' ? whereOf(domain) : undefined;
    return where ? [needOf(where, undefined, where)] : [];
  });
  const needs = [...sets, ...node.needs.map((need) => needOf(need.condition, need.text, need))];
  const body = st.block(node.body, around);
  frame.close();
  rememberParams(st, node, params);
  return {
    name: node.name,
    params,
    label,
    on,
    when,
    quick: node.quick,
    aside: node.aside,
    needs,
    body,
    at: sheet.at(node),
  };
}

const whereOf = (domain: ast.Domain): ast.Expr | undefined => ('where' in domain ? domain.where : undefined);

/** Options of one name take the same parameters everywhere, so that bots and rehearsals can call them by name. */
function rememberParams(st: StmtContext, node: ast.Option, params: readonly Param[]): void {
  const { sheet } = st;
  sheet.optionNames.add(node.name);
  const before = sheet.optionParams.get(node.name);
  const now = params.map(({ name, t, local }) => ({ name, t, tail: st.frame.tails.has(local) }));
  if (!before) sheet.optionParams.set(node.name, now);
  else if (before.length !== now.length || before.some((p, i) => p.name !== now[i]?.name || p.t !== now[i]?.t))
    sheet.error(
      node,
      `An option "${node.name}" stands elsewhere with other parameters. Options of one name take the same ones.`,
    );
}
