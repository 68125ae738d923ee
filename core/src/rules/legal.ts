import { below, type Generator } from '../chance/generator.js';
import type { DomainCode, OptionCode } from '../machine/codegen/assemble.js';
import { ASK, OPENED } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { type Piece, plural, render } from '../machine/text.js';
import { type At, lineOf, type Option, type Param, type Type } from '../program/types.js';
import { type Arg, type Args, inOrder, isEmpty, isIn, MOST_TESTED, mayStand, sameArg, valuesOf } from './domains.js';
import type { Answer, Game } from './game.js';
import { renderingFor } from './rendering.js';
import { readArg } from './values.js';

/** A choice that is not allowed now. Nothing was changed. */
export interface Refusal {
  readonly kind: 'turn' | 'stale' | 'unknown' | 'malformed' | 'illegal';
  readonly reason: string;
  readonly option?: string;
  /** The line of the sheet's clause that refuses. */
  readonly line?: number;
  /** The place of the need that refuses, where one does. */
  readonly need?: At;
}

/** Greatest number of ways that a random choice is taken from. */
const MOST_SAMPLED = 512;

const NO_ARGS: Args = [];

/** The first need that fails once `depth` parameters are bound, or −1. */
function failing(option: Option, code: OptionCode, s: State, seat: number, args: Args, depth: number): number {
  if (option.needs.length === 0) return -1;
  const [a = 0, b = 0, c = 0, d = 0] = args;
  for (let i = 0; i < option.needs.length; i++)
    if (option.needs[i]?.depth === depth && !code.needs[i]?.holds(s, seat, a, b, c, d)) return i;
  return -1;
}

/** Whether an option is there at all for this seat: hidden by `when` is absent. */
const isThere = (code: OptionCode, s: State, seat: number): boolean => code.when === null || code.when(s, seat);

/** All legal ways to choose an option, lazily. */
export function* waysOf(
  game: Game,
  s: State,
  ask: number,
  index: number,
  seat: number,
  budget = { left: MOST_TESTED },
): Iterable<Arg[]> {
  const option = game.program.asks[ask]?.options[index];
  const code = game.code.options[ask]?.[index];
  if (!option || !code || !isThere(code, s, seat) || failing(option, code, s, seat, NO_ARGS, 0) >= 0) return;
  yield* bind(game, option, code, s, seat, [], budget);
}

function* bind(
  game: Game,
  option: Option,
  code: OptionCode,
  s: State,
  seat: number,
  args: Arg[],
  budget: { left: number },
): Iterable<Arg[]> {
  const depth = args.length;
  const domain = code.domains[depth];
  if (!domain) {
    yield [...args];
    return;
  }
  for (const v of valuesOf(game, domain, s, seat, args)) {
    if (budget.left-- <= 0) return;
    args.push(v);
    if (failing(option, code, s, seat, args, depth + 1) < 0) yield* bind(game, option, code, s, seat, args, budget);
    args.pop();
  }
}

/** Whether an option has a legal way for this seat. */
export function isLegal(game: Game, s: State, ask: number, index: number, seat: number): boolean {
  const option = game.program.asks[ask]?.options[index];
  const code = game.code.options[ask]?.[index];
  if (!option || !code || !isThere(code, s, seat) || failing(option, code, s, seat, NO_ARGS, 0) >= 0) return false;
  if (option.params.length === 0) return true;
  if (option.params.length === 1 && option.needs.length === 0)
    return !isEmpty(game, code.domains[0] as DomainCode, s, seat);
  for (const _ of waysOf(game, s, ask, index, seat)) return true;
  return false;
}

/** Whether an answer is legal for a seat that is asked: nothing is listed, only this one way is tested. */
export function allows(game: Game, s: State, seat: number, { option, args }: Answer): boolean {
  return game.code.legal[(s.f[ASK] as number) | 0]?.(s, seat, option, args) ?? false;
}

/** The same for an option with values out of lists or sets, as generated code asks it. */
export function allowsListed(game: Game, s: State, seat: number, index: number, args: Args): boolean {
  const ask = (s.f[ASK] as number) | 0;
  const option = game.program.asks[ask]?.options[index];
  const code = game.code.options[ask]?.[index];
  if (!option || !code || args.length !== option.params.length || !isThere(code, s, seat)) return false;
  if (failing(option, code, s, seat, NO_ARGS, 0) >= 0) return false;
  for (let i = 0; i < args.length; i++) {
    const bound = i === 0 ? NO_ARGS : args.slice(0, i);
    if (!isIn(game, code.domains[i] as DomainCode, s, seat, bound, args[i] as Arg)) return false;
    if (option.needs.length > 0 && failing(option, code, s, seat, args.slice(0, i + 1), i + 1) >= 0) return false;
  }
  return true;
}

/** Whether a seat has any legal choice that counts as a move left. */
export function choosable(game: Game, s: State, ask: number, seat: number): boolean {
  const declared = game.program.asks[ask];
  if (!declared) return false;
  const { options, stuck } = declared;
  for (let i = 0; i < options.length; i++)
    if (!(stuck !== null && options[i]?.aside) && isLegal(game, s, ask, i, seat)) return true;
  return false;
}

/** How many legal ways there are: exact, or at least so many. */
export function countWays(
  game: Game,
  s: State,
  ask: number,
  index: number,
  seat: number,
  most = MOST_TESTED,
): { count: number; exact: boolean } {
  const budget = { left: most };
  let count = 0;
  for (const _ of waysOf(game, s, ask, index, seat, budget)) count++;
  return { count, exact: budget.left >= 0 };
}

/**
 * A legal choice at random: the option evenly among those that are legal, then its values.
 * @param asides whether asides count where something else is legal
 * @returns `null` where nothing is legal
 */
export function sampleChoice(game: Game, s: State, seat: number, generator: Generator, asides = true): Answer | null {
  const ask = s.f[ASK] as number;
  const options = game.program.asks[ask]?.options ?? [];
  const legal = options.flatMap((_, i) => (isLegal(game, s, ask, i, seat) ? [i] : []));
  const moves = legal.filter((i) => !options[i]?.aside);
  const among = asides || moves.length === 0 ? legal : moves;
  const option = among[among.length === 0 ? 0 : below(generator, among.length)];
  if (option === undefined) return null;
  const ways: Arg[][] = [];
  for (const way of waysOf(game, s, ask, option, seat)) if (ways.push(way) >= MOST_SAMPLED) break;
  return { option, args: ways[below(generator, ways.length)] ?? [] };
}

/** What an option's words are without a label: `sitOut` is "sit out". */
export const wordsOf = (name: string): string => name.replace(/([A-Z])/g, (_, c: string) => ` ${c.toLowerCase()}`);

function needReason(
  game: Game,
  option: Option,
  code: OptionCode,
  i: number,
  s: State,
  seat: number,
  args: Args,
): Refusal {
  const need = option.needs[i];
  const text = code.needs[i]?.text?.(s, seat, ...args);
  const reason = text ? say(game, seat, text) : `"${wordsOf(option.name)}" needs this: ${need?.source}.`;
  return {
    kind: 'illegal',
    reason,
    option: option.name,
    line: lineOf(need?.at ?? option.at),
    ...(need ? { need: need.at } : {}),
  };
}

const say = (game: Game, seat: number, pieces: readonly Piece[]): string => render(pieces, renderingFor(game, seat));

/** Why an option cannot be chosen now; `null` where it can, or where it is absent. */
export function whyNot(game: Game, s: State, ask: number, index: number, seat: number): Refusal | null {
  const option = game.program.asks[ask]?.options[index];
  const code = game.code.options[ask]?.[index];
  if (!option || !code || !isThere(code, s, seat)) return null;
  const first = failing(option, code, s, seat, NO_ARGS, 0);
  if (first >= 0) return needReason(game, option, code, first, s, seat, NO_ARGS);
  if (isLegal(game, s, ask, index, seat)) return null;
  return firstReason(game, option, code, s, seat, []);
}

/** What is chosen from the table is named as what it is; what is chosen from figures and words bears its name. */
const NOUNS: Partial<Record<Type, string>> = { card: 'card', 'list:card': 'card', pile: 'pile', seat: 'seat' };

function nothingFor(option: Option, param: Param | undefined): string {
  const noun = param ? (NOUNS[param.t] ?? wordsOf(param.name)) : 'choice';
  return `There is no ${noun} for "${wordsOf(option.name)}" now.`;
}

function firstReason(game: Game, option: Option, code: OptionCode, s: State, seat: number, args: Arg[]): Refusal {
  const depth = args.length;
  for (const v of valuesOf(game, code.domains[depth] as DomainCode, s, seat, args)) {
    args.push(v);
    const need = failing(option, code, s, seat, args, depth + 1);
    if (need >= 0) return needReason(game, option, code, need, s, seat, args);
    if (depth + 1 < option.params.length) return firstReason(game, option, code, s, seat, args);
    args.pop();
  }
  const param = option.params[depth];
  return {
    kind: 'illegal',
    reason: nothingFor(option, param),
    option: option.name,
    line: lineOf(option.at),
  };
}

/** A choice as a client words it. */
export interface WireChoice {
  readonly ask: number;
  readonly option: string;
  readonly args?: Readonly<Record<string, unknown>>;
}

/** Reads a choice and judges it: an answer to carry out, or the refusal. */
export function judge(game: Game, s: State, seat: number, choice: WireChoice): Answer | Refusal {
  game.code.begin();
  const name = game.layout.seats[seat];
  const asked = game.asked(s);
  if (!asked.includes(seat)) {
    const who = asked.map((other) => game.layout.seats[other]);
    const reason =
      who.length > 0
        ? `It is not ${name}'s turn: ${who.join(' and ')} ${who.length === 1 ? 'is' : 'are'} asked.`
        : `${name} is not asked anything now.`;
    return { kind: 'turn', reason, option: choice.option };
  }
  const opened = s.f[OPENED] as number;
  if (choice.ask !== opened)
    return {
      kind: 'stale',
      reason: `The question of number ${choice.ask} is no longer open; the open one is of number ${opened}.`,
      option: choice.option,
    };
  const ask = s.f[ASK] as number;
  const options = game.program.asks[ask]?.options ?? [];
  const index = options.findIndex((option) => option.name === choice.option);
  const option = options[index];
  const code = game.code.options[ask]?.[index];
  if (!option || !code) {
    const there = options
      .filter((_, i) => isThere(game.code.options[ask]?.[i] as OptionCode, s, seat))
      .map((o) => o.name);
    return {
      kind: 'unknown',
      reason: `There is no option "${choice.option}" here. There ${there.length === 1 ? 'is' : 'are'} ${there.join(', ')}.`,
      option: choice.option,
    };
  }
  if (!isThere(code, s, seat))
    return {
      kind: 'illegal',
      reason: `"${wordsOf(option.name)}" is not open to ${name} now.`,
      option: option.name,
      line: lineOf(option.at),
    };
  const first = failing(option, code, s, seat, NO_ARGS, 0);
  if (first >= 0) return needReason(game, option, code, first, s, seat, NO_ARGS);
  const given = choice.args ?? {};
  const stranger = Object.keys(given).find((key) => !option.params.some((param) => param.name === key));
  if (stranger !== undefined)
    return {
      kind: 'malformed',
      reason: `"${option.name}" takes no "${stranger}"${option.params.length > 0 ? `, only ${option.params.map((p) => p.name).join(', ')}` : ''}.`,
      option: option.name,
    };
  const args: Arg[] = [];
  for (const [i, param] of option.params.entries()) {
    const domain = code.domains[i] as DomainCode;
    const candidates = domain.k === 'range' ? null : domain.list(s, seat, ...args);
    const value = given[param.name];
    if (value === undefined)
      return {
        kind: 'malformed',
        reason: `"${option.name}" needs its "${param.name}".`,
        option: option.name,
        line: lineOf(option.at),
      };
    const read = readArg(game, s, param.t, value, candidates);
    if (typeof read === 'string')
      return {
        kind: 'malformed',
        reason: `The "${param.name}" of "${option.name}" does not fit: ${read}.`,
        option: option.name,
        line: lineOf(option.at),
      };
    if (!isIn(game, domain, s, seat, args, read)) {
      // What sets grow under says less than the need that they fail.
      const need = mayStand(domain, s, seat, args, read)
        ? failing(option, code, s, seat, [...args, inOrder(domain, s, seat, args, read)], i + 1)
        : -1;
      if (need >= 0) return needReason(game, option, code, need, s, seat, [...args, read]);
      return {
        kind: 'illegal',
        reason: outside(game, s, seat, option, domain, args, i, value),
        option: option.name,
        line: lineOf(option.at),
      };
    }
    args.push(inOrder(domain, s, seat, args, read));
    const need = failing(option, code, s, seat, args, i + 1);
    if (need >= 0) return needReason(game, option, code, need, s, seat, args);
  }
  return { option: index, args };
}

function outside(
  game: Game,
  s: State,
  seat: number,
  option: Option,
  domain: DomainCode,
  args: Args,
  i: number,
  value: unknown,
): string {
  const param = option.params[i];
  if (domain.k === 'range') {
    const from = domain.from(s, seat, ...args);
    const to = domain.to(s, seat, ...args);
    const by = domain.by?.(s, seat, ...args) ?? 1;
    if (from > to) return nothingFor(option, param);
    return `The ${param?.name} is from ${from} to ${to}${by > 1 ? ` in steps of ${by}` : ''}, not ${String(value)}.`;
  }
  if (domain.k === 'cards') return outsideSet(game, s, seat, option, domain, args, value as readonly unknown[]);
  return `${String(value)} is not among what "${wordsOf(option.name)}" may choose for its ${param?.name}.`;
}

/** Why several cards may not be chosen together. */
function outsideSet(
  game: Game,
  s: State,
  seat: number,
  option: Option,
  domain: Extract<DomainCode, { k: 'cards' }>,
  args: Args,
  value: readonly unknown[],
): string {
  const words = wordsOf(option.name);
  if (domain.shapes) {
    const names = domain.shapes.map((i) => wordsOf(game.program.shapes[i]?.name ?? ''));
    return `These cards are no ${names.join(' and no ')}, or not all of them may be taken for "${words}".`;
  }
  const many = domain.list(s, seat, ...args).length;
  const least = domain.least(s, seat, ...args);
  const most = Math.min(many, domain.most?.(s, seat, ...args) ?? many);
  if (value.length < least || value.length > most) {
    const range = least === most ? plural(least, 'card') : `${least} to ${plural(most, 'card')}`;
    return `"${words}" takes ${range}, not ${value.length}.`;
  }
  return `These cards cannot be chosen together for "${words}".`;
}

/**
 * Whether the open ask has an option of this name that a seat may choose with these values, as `can` in a
 * sheet asks; `null` leaves a value free.
 */
export function canChoose(game: Game, s: State, seat: number, name: string, wanted: readonly (Arg | null)[]): boolean {
  const ask = s.f[ASK] as number;
  const index = game.program.asks[ask]?.options.findIndex((option) => option.name === name) ?? -1;
  if (index < 0) return false;
  if (wanted.every((value) => value === null)) return isLegal(game, s, ask, index, seat);
  if (wanted.every((value) => value !== null)) return allows(game, s, seat, { option: index, args: wanted as Args });
  for (const way of waysOf(game, s, ask, index, seat))
    if (wanted.every((value, i) => value === null || sameArg(value, way[i] as Arg))) return true;
  return false;
}

export const isRefusal = (judged: Answer | Refusal): judged is Refusal => 'kind' in judged;
