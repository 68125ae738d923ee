/**
 * The only walks through a program's tree. Whatever looks into expressions or statements starts here, so that a new
 * form is added in one place: its type in `expressions.ts` or `types.ts`, and a row or case below.
 */
import type { Expr, Lambda } from './expressions.js';
import type { Ask, Bot, Domain, Option, Program, Stmt, Target } from './types.js';

type ExprFields = { readonly [K in Expr['k']]: readonly string[] };

/** The fields of each form that hold expressions: one, none (`null`), several, or several among texts. */
const OPERANDS: ExprFields = {
  lit: [],
  text: ['parts'],
  setting: [],
  local: [],
  me: [],
  var: ['owner', 'second'],
  pile: ['owner', 'index'],
  cell: ['index'],
  cellKey: ['of'],
  fresh: [],
  family: ['owner'],
  cards: ['of'],
  seats: [],
  suits: [],
  ranks: [],
  teams: [],
  field: ['of'],
  owner: ['of'],
  op: ['a', 'b'],
  not: ['a'],
  neg: ['a'],
  if: ['c', 'a', 'b'],
  call: ['args'],
  list: ['items'],
  item: ['of', 'n'],
  is: ['of'],
  face: [],
  fits: ['of'],
  largest: ['of'],
  ways: ['of', 'sizes'],
  arranged: ['of', 'weights'],
  hand: ['of'],
  bestFive: ['of'],
  can: ['args'],
  key: ['items'],
  fold: ['of'],
  choose: ['of'],
  sift: ['of'],
  fn: ['args'],
};

type Fields = Readonly<Record<string, unknown>>;

const isExpr = (value: unknown): value is Expr => typeof value === 'object' && value !== null;

/** The expressions directly inside one that are evaluated with it, at most once each; a short function is not among them. */
export function operandsOf(e: Expr): Expr[] {
  const found: Expr[] = [];
  for (const name of OPERANDS[e.k]) {
    const value = (e as unknown as Fields)[name];
    if (Array.isArray(value)) found.push(...value.filter(isExpr));
    else if (isExpr(value)) found.push(value);
  }
  return found;
}

/** The short function of a fold, choice or sift, which is evaluated once for each item. */
export const lambdaOf = (e: Expr): Lambda | null => ('by' in e ? e.by : null);

/** All expressions directly inside one, the body of its short function last. */
export function childrenOf(e: Expr): Expr[] {
  const lambda = lambdaOf(e);
  return lambda ? [...operandsOf(e), lambda.body] : operandsOf(e);
}

/** The same expression with each operand and its short function replaced. */
export function withChildren<E extends Expr>(e: E, child: (e: Expr) => Expr, lambda: (by: Lambda) => Lambda): E {
  const copy: Record<string, unknown> = { ...e };
  for (const name of OPERANDS[e.k]) {
    const value = copy[name];
    if (Array.isArray(value)) copy[name] = value.map((part: unknown) => (isExpr(part) ? child(part) : part));
    else if (isExpr(value)) copy[name] = child(value);
  }
  if ('by' in e) copy.by = lambda(e.by);
  return copy as unknown as E;
}

/** Calls back for an expression and everything inside it. */
export function eachExpr(e: Expr, visit: (e: Expr) => void): void {
  visit(e);
  for (const child of childrenOf(e)) eachExpr(child, visit);
}

/** Calls back for expressions and everything inside them; `null` stands for a clause that is not there. */
export function eachExprIn(roots: Iterable<Expr | null>, visit: (e: Expr) => void): void {
  for (const root of roots) if (root) eachExpr(root, visit);
}

/** The locals that an expression reads. */
export function localsIn(e: Expr): Set<number> {
  const found = new Set<number>();
  eachExpr(e, (inner) => {
    if (inner.k === 'local') found.add(inner.i);
  });
  return found;
}

/** An expression as a text that is the same for two that differ only in where they stand. */
export const exprKey = (e: Expr): string => JSON.stringify(e, (key, value) => (key === 'at' ? undefined : value));

/** Whether two expressions are the same but for where they stand. */
export const sameExpr = (a: Expr, b: Expr): boolean => exprKey(a) === exprKey(b);

type MaybeExprs = readonly (Expr | null)[];

const ownerOf = (target: Target): Expr | null => (target.k === 'local' ? null : target.owner);
const secondOf = (target: Target): Expr | null => (target.k === 'var' ? (target.second ?? null) : null);

/** The expressions of a statement itself, without those of statements inside it; an ask's are {@link exprsOfAsk}. */
export function exprsOf(s: Stmt): MaybeExprs {
  switch (s.s) {
    case 'shuffle':
      return [s.pile];
    case 'pick':
      return [ownerOf(s.target), secondOf(s.target), s.from];
    case 'deal': {
      const { to } = s;
      const where = to.k === 'pile' ? [to.pile] : to.k === 'piles' ? [to.piles] : [to.of, to.starting];
      return [s.count, s.from, ...where, s.facingWhen];
    }
    case 'move':
      return [s.what.k === 'all' ? s.what.pile : s.what.cards, s.to, s.facingWhen];
    case 'gather':
      return [...s.piles, s.to];
    case 'turn':
      return [s.what];
    case 'reveal':
    case 'show':
      return [s.what, s.to];
    case 'set':
      return [ownerOf(s.target), secondOf(s.target), s.e];
    case 'let':
      return [s.e];
    case 'if':
    case 'while':
      return [s.c];
    case 'repeat':
      return [s.until];
    case 'each':
      return [s.list, s.where];
    case 'for':
      return [s.from, s.to];
    case 'call':
      return s.args;
    case 'say':
      return [s.text, s.to];
    case 'chapter':
      return [s.text];
    case 'tally':
      return [s.e, s.per, ...s.by];
    case 'reset':
    case 'break':
    case 'return':
    case 'pause':
    case 'finish':
    case 'ask':
      return [];
  }
}

/** The blocks of statements directly inside one, without those of an ask's options. */
export function innerBlocks(s: Stmt): readonly (readonly Stmt[])[] {
  switch (s.s) {
    case 'if':
      return s.no ? [s.yes, s.no] : [s.yes];
    case 'while':
    case 'repeat':
    case 'each':
    case 'for':
      return [s.body];
    default:
      return [];
  }
}

/** All blocks directly inside a statement: those of an ask's options and its `stuck` part too. */
export function blocksOf(s: Stmt, asks: Program['asks']): readonly (readonly Stmt[])[] {
  if (s.s !== 'ask') return innerBlocks(s);
  const ask = asks[s.ask];
  if (!ask) return [];
  const bodies = ask.options.map((option) => option.body);
  return ask.stuck ? [...bodies, ask.stuck] : bodies;
}

/** Calls back for each statement of a block and of all blocks inside it. */
export function eachStmt(body: readonly Stmt[], asks: Program['asks'], visit: (s: Stmt) => void): void {
  for (const s of body) {
    visit(s);
    for (const block of blocksOf(s, asks)) eachStmt(block, asks, visit);
  }
}

/** The expressions of a domain. */
export function exprsOfDomain(domain: Domain): MaybeExprs {
  switch (domain.k) {
    case 'range':
      return [domain.from, domain.to, domain.by, ...domain.landmarks.map((mark) => mark.e)];
    case 'values':
      return [domain.list];
    case 'cards':
      return [domain.list, domain.least, domain.most, domain.grow];
  }
}

/** The clauses of an option, without its body. */
export const exprsOfOption = (option: Option): MaybeExprs => [
  option.label,
  option.on,
  option.when,
  ...option.params.flatMap((param) => exprsOfDomain(param.domain)),
  ...option.needs.flatMap((need) => [need.e, need.text]),
];

/** The clauses of an ask and of its options, without their bodies. */
export function exprsOfAsk(ask: Ask): MaybeExprs {
  const { who } = ask;
  const asked = who.k === 'one' ? [who.seat] : [who.list, who.where];
  return [...asked, ask.about, ...ask.options.flatMap(exprsOfOption)];
}

/** The clauses of a bot's lines. */
export const exprsOfBot = (bot: Bot): MaybeExprs =>
  bot.lines.flatMap((line) => [...(line.args ?? []), line.when, line.prefer]);

/** All expressions at the top of a block's statements, the clauses of its asks included. */
export function exprsOfBlock(body: readonly Stmt[], asks: Program['asks']): (Expr | null)[] {
  const found: (Expr | null)[] = [];
  eachStmt(body, asks, (s) => {
    found.push(...exprsOf(s));
    const ask = s.s === 'ask' ? asks[s.ask] : undefined;
    if (ask) found.push(...exprsOfAsk(ask));
  });
  return found;
}
