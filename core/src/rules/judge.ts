/** Why a choice is refused: reads a choice as a client words it, and judges it. */
import type { Answer, Arg, Args, DomainCode, OptionCode } from '../machine/code.js';
import { ASK, OPENED, WAIT, WAIT_OVER } from '../machine/layout.js';
import { BUDGETS } from '../machine/prices.js';
import type { State } from '../machine/state.js';
import { type Piece, plural, render, wordsOf } from '../machine/text.js';
import { type At, lineOf, type Option, type Param, type Type } from '../program/types.js';
import { otherCopies } from './copies.js';
import { eachValue, inOrder, isIn, mayStand } from './domains.js';
import { asSeen } from './handles.js';
import { isLegal } from './legal.js';
import { renderingFor } from './rendering.js';
import type { Rules } from './rules.js';
import type { Naming } from './values.js';
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

const NO_ARGS: Args = [];

/** The first need that fails once `depth` parameters are bound, or −1. */
function failing(option: Option, code: OptionCode, s: State, seat: number, args: Args, depth: number): number {
  if (option.needs.length === 0) return -1;
  const [a = 0, b = 0, c = 0, d = 0] = args;
  for (let i = 0; i < option.needs.length; i++)
    if (option.needs[i]?.depth === depth && !code.needs[i]?.holds(s, seat, a, b, c, d)) return i;
  return -1;
}

/** Whether an option is present for this seat: `when` may hide it. */
const isThere = (code: OptionCode, s: State, seat: number): boolean => code.when === null || code.when(s, seat);

function needReason(
  rules: Rules,
  option: Option,
  code: OptionCode,
  i: number,
  s: State,
  seat: number,
  args: Args,
): Refusal {
  const need = option.needs[i];
  const text = code.needs[i]?.text?.(s, seat, ...args);
  const reason = text ? say(rules, seat, text) : `"${wordsOf(option.name)}" needs this: ${need?.source}.`;
  return {
    kind: 'illegal',
    reason,
    option: option.name,
    line: lineOf(need?.at ?? option.at),
    ...(need ? { need: need.at } : {}),
  };
}

const say = (rules: Rules, seat: number, pieces: readonly Piece[]): string => render(pieces, renderingFor(rules, seat));

/** Why an option cannot be chosen now; `null` where it can, or where it is absent. */
export function whyNot(rules: Rules, s: State, ask: number, index: number, seat: number): Refusal | null {
  const option = rules.program.asks[ask]?.options[index];
  const code = rules.code.options[ask]?.[index];
  if (!option || !code || !isThere(code, s, seat)) return null;
  const first = failing(option, code, s, seat, NO_ARGS, 0);
  if (first >= 0) return needReason(rules, option, code, first, s, seat, NO_ARGS);
  if (isLegal(rules, s, ask, index, seat)) return null;
  return firstReason(rules, option, code, s, seat, []);
}

/** Nouns for what is chosen from the table; other parameters are called by their own names. */
const NOUNS: Partial<Record<Type, string>> = { card: 'card', 'list:card': 'card', pile: 'pile', seat: 'seat' };

function nothingFor(option: Option, param: Param | undefined): string {
  const noun = param ? (NOUNS[param.t] ?? wordsOf(param.name)) : 'choice';
  return `There is no ${noun} for "${wordsOf(option.name)}" now.`;
}

/** The reason of the first value that fails a need, the first values before it being bound. */
function firstReason(rules: Rules, option: Option, code: OptionCode, s: State, seat: number, args: Args): Refusal {
  const depth = args.length;
  let reason: Refusal | undefined;
  eachValue(rules, code.domains[depth] as DomainCode, s, seat, args, (value) => {
    const bound = [...args, value];
    const need = failing(option, code, s, seat, bound, depth + 1);
    if (need >= 0) reason = needReason(rules, option, code, need, s, seat, bound);
    else if (depth + 1 < option.params.length) reason = firstReason(rules, option, code, s, seat, bound);
    return reason !== undefined;
  });
  return (
    reason ?? {
      kind: 'illegal',
      reason: nothingFor(option, option.params[depth]),
      option: option.name,
      line: lineOf(option.at),
    }
  );
}

/** A choice as a client words it. */
export interface WireChoice {
  readonly ask: number;
  readonly option: string;
  readonly args?: Readonly<Record<string, unknown>>;
}

/**
 * Reads a choice and judges it: an answer to carry out, or the refusal.
 * @param naming how it names cards: as its seat does, or as records do
 */
export function judge(
  rules: Rules,
  s: State,
  seat: number,
  choice: WireChoice,
  naming: Naming = asSeen(rules, s, seat),
): Answer | Refusal {
  rules.code.begin(BUDGETS.judging);
  const name = rules.layout.seats[seat];
  const asked = rules.asked(s);
  if (!asked.includes(seat)) {
    const who = asked.map((other) => rules.layout.seats[other]);
    const reason =
      who.length > 0
        ? `It is not ${name}'s turn: ${who.join(' and ')} ${who.length === 1 ? 'is' : 'are'} asked.`
        : s.f[WAIT] === WAIT_OVER
          ? 'The game is over: nothing more can be chosen.'
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
  const options = rules.program.asks[ask]?.options ?? [];
  const index = options.findIndex((option) => option.name === choice.option);
  const option = options[index];
  const code = rules.code.options[ask]?.[index];
  if (!option || !code) {
    const there = options
      .filter((_, i) => isThere(rules.code.options[ask]?.[i] as OptionCode, s, seat))
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
  if (first >= 0) return needReason(rules, option, code, first, s, seat, NO_ARGS);
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
    const value = Object.hasOwn(given, param.name) ? given[param.name] : undefined;
    if (value === undefined)
      return {
        kind: 'malformed',
        reason: `"${option.name}" needs its "${param.name}".`,
        option: option.name,
        line: lineOf(option.at),
      };
    const first = readArg(rules, naming, param.t, value, candidates);
    // A face stands for a copy that can be chosen, where several packs hold it.
    const read =
      typeof first === 'string'
        ? first
        : (firstOf(
            otherCopies(
              rules,
              param.t,
              value,
              first,
              (candidates ?? []).filter((c) => naming.isNamed(c)),
            ),
            (copy) =>
              isIn(rules, domain, s, seat, args, copy) && failing(option, code, s, seat, [...args, copy], i + 1) < 0,
          ) ?? first);
    if (typeof read === 'string')
      return {
        kind: 'malformed',
        reason: `The "${param.name}" of "${option.name}" does not fit: ${read}.`,
        option: option.name,
        line: lineOf(option.at),
      };
    if (!isIn(rules, domain, s, seat, args, read)) {
      // What sets grow under says less than the need that they fail.
      const need = mayStand(domain, s, seat, args, read)
        ? failing(option, code, s, seat, [...args, inOrder(rules, domain, s, seat, args, read)], i + 1)
        : -1;
      if (need >= 0) return needReason(rules, option, code, need, s, seat, [...args, read]);
      return {
        kind: 'illegal',
        reason: outside(rules, s, seat, option, domain, args, i, value, naming),
        option: option.name,
        line: lineOf(option.at),
      };
    }
    args.push(inOrder(rules, domain, s, seat, args, read));
    const need = failing(option, code, s, seat, args, i + 1);
    if (need >= 0) return needReason(rules, option, code, need, s, seat, args);
  }
  return { option: index, args };
}

function firstOf<T>(items: Iterable<T>, fits: (item: T) => boolean): T | undefined {
  for (const item of items) if (fits(item)) return item;
  return undefined;
}

function outside(
  rules: Rules,
  s: State,
  seat: number,
  option: Option,
  domain: DomainCode,
  args: Args,
  i: number,
  value: unknown,
  naming: Naming,
): string {
  const param = option.params[i];
  if (domain.k === 'range') {
    const from = domain.from(s, seat, ...args);
    const to = domain.to(s, seat, ...args);
    const by = domain.by?.(s, seat, ...args) ?? 1;
    if (from > to) return nothingFor(option, param);
    return `The ${param?.name} is from ${from} to ${to}${by > 1 ? ` in steps of ${by}` : ''}, not ${String(value)}.`;
  }
  if (domain.k === 'cards')
    return outsideSet(rules, s, seat, option, domain, args, Array.isArray(value) ? value : [value], naming);
  return `${String(value)} is not among what "${wordsOf(option.name)}" may choose for its ${param?.name}.`;
}

/** Why several cards may not be chosen together. */
function outsideSet(
  rules: Rules,
  s: State,
  seat: number,
  option: Option,
  domain: Extract<DomainCode, { k: 'cards' }>,
  args: Args,
  value: readonly unknown[],
  naming: Naming,
): string {
  const words = wordsOf(option.name);
  const list = domain.list(s, seat, ...args);
  const cards = readArg(rules, naming, 'list:card', value, list);
  if (Array.isArray(cards))
    for (const [i, card] of (cards as readonly number[]).entries()) {
      if (!list.includes(card)) return `${String(value[i])} is not among the cards for "${words}".`;
      if (cards.indexOf(card) !== i) return `${String(value[i])} stands here twice.`;
    }
  if (domain.shapes) {
    const names = domain.shapes.map((i) => wordsOf(rules.program.shapes[i]?.name ?? ''));
    return `These cards are no ${names.join(' and no ')}, or not all of them may be taken for "${words}".`;
  }
  const many = list.length;
  const least = domain.least(s, seat, ...args);
  const most = Math.min(many, domain.most?.(s, seat, ...args) ?? many);
  if (value.length < least || value.length > most) {
    const range = least === most ? plural(least, 'card') : `${least} to ${plural(most, 'card')}`;
    return `"${words}" takes ${range}, not ${value.length}.`;
  }
  return `These cards cannot be chosen together for "${words}".`;
}

export const isRefusal = (judged: Answer | Refusal): judged is Refusal => 'kind' in judged;
