import { cardTests } from '../../program/card-tests.js';
import { preferredOf } from '../../program/preferred.js';
import type { Bot, BotLine, Expr, Lambda } from '../../program/types.js';
import { ASK } from '../layout.js';
import type { OfItem } from './fill.js';
import type { Module } from './module.js';
import type { AskCode } from './options.js';
import type { Place } from './places.js';
import { BRANCH, called } from './walk.js';
import { bestAmount, bestSum, bestWay } from './ways.js';

/** The functions of one line, whatever ask it answers. */
interface LineFunctions {
  /** For each parameter what the line gives, or `null`. */
  readonly given: readonly (string | null)[];
  readonly when: string | null;
  readonly prefer: string | null;
}

/** The functions that a scripted bot becomes. */
interface BotCode {
  /** Finds what it plays: the first of its lines that has a legal choice; among those the most preferred; ties by its own chance. */
  readonly plays: string;
  /** Gives for each of its lines the function that finds what it would play by itself; `null` for those that do not answer the open ask. */
  readonly lines: string;
}

export function botCode(module: Module, bot: Bot, asks: readonly AskCode[]): BotCode {
  const lines = bot.lines.map((line) => lineFunctions(module, bot, line));
  const cases = asks.flatMap((ask, number) => {
    const byLine = bot.lines.map((line, i) => {
      const option = ask.walked.findIndex((walked) => walked.option.name === line.option);
      return option < 0 ? null : lineCode(module, ask, option, line, lines[i] as LineFunctions);
    });
    return byLine.every((fn) => fn === null) ? [] : [{ number, byLine }];
  });
  const first = cases.map(
    ({ number, byLine }) =>
      `case ${number}:{let a;${byLine.map((fn) => (fn ? `if((a=${fn}(s,v,g))!==null)return a;` : '')).join('')}break;}`,
  );
  const each = cases.map(
    ({ number, byLine }) => `case ${number}:return [${byLine.map((fn) => fn ?? 'null').join(',')}];`,
  );
  return {
    plays: module.helper(
      (name) => `function ${name}(s,v,g){dice.use(g);switch(s.f[${ASK}]|0){${first.join('')}}return null;}`,
    ),
    lines: module.helper(
      (name) => `function ${name}(s,g){dice.use(g);switch(s.f[${ASK}]|0){${each.join('')}}return [];}`,
    ),
  };
}

function lineFunctions(module: Module, bot: Bot, line: BotLine): LineFunctions {
  const nowhere = new Map<number, Place>();
  const bound = new Map<number, Place>();
  for (const [i, local] of line.locals.entries())
    bound.set(local, { js: bot.locals[local]?.t === 'flag' ? `(${BRANCH[i]}!==0)` : (BRANCH[i] as string) });
  const read = (e: Expr | null): string | null => (e ? module.fn('t', ['s', 'v', ...BRANCH], bound, e, true) : null);
  return {
    given: (line.args ?? []).map((arg) => (arg ? numeric(module, nowhere, arg) : null)),
    when: read(line.when),
    prefer: read(line.prefer),
  };
}

/** The function that finds what a line plays in one ask. */
function lineCode(
  module: Module,
  ask: AskCode,
  option: number,
  line: BotLine,
  { given, when, prefer }: LineFunctions,
): string {
  const walked = ask.walked[option] as AskCode['walked'][number];
  const many = walked.option.params.length;
  // What is given whole needs no search.
  if (given.length > 0 && given.every((fn) => fn !== null)) {
    const answer = module.helper(
      (name) =>
        `const ${name}={option:${option},args:[${BRANCH.slice(0, many)
          .map(() => '0')
          .join(',')}]};`,
    );
    const bound = given.map((fn, i) => {
      const value = called(fn as string, 0);
      const isSet = walked.option.params[i]?.t === 'list:card';
      if (!isSet) return `const a${i}=${value};`;
      const among = module.fn('q', ['s', 'v', ...BRANCH], walked.places, listOf(walked.option, i), true);
      return `const a${i}=inOrderOf(${among}(${['s', 'v', ...BRANCH.slice(0, i)].join(',')}),${value});`;
    });
    const test = `${called(ask.tests[option] as string, many)}${when ? `&&${called(when, many)}` : ''}`;
    return module.helper(
      (name) =>
        `function ${name}(s,v,g){${bound.join('')}if(!(${test}))return null;${BRANCH.slice(0, many)
          .map((a, i) => `${answer}.args[${i}]=${a};`)
          .join('')}return ${answer};}`,
    );
  }
  const { lengths } = module;
  const only = onlyOf(module, walked.option, line);
  const weighed = {
    given,
    when,
    prefer,
    weight: lengths.weightOf(line.when) + lengths.weightOf(line.prefer),
    isNumber: line.prefer !== null && !isKey(line.prefer),
    only,
  };
  const preferred = preferredOf(module.program, walked.option, line);
  if (preferred?.k === 'amount') return bestAmount(walked, option, preferred.least, weighed);
  if (preferred?.k === 'size')
    return bestSum(walked, option, preferred.least, only, { of: () => '1', weight: 1 }, null);
  const oneByOne = bestWay(walked, option, weighed);
  return preferred ? bestSum(walked, option, preferred.least, only, ofCard(module, preferred.by), oneByOne) : oneByOne;
}

/** A short function of a card, in generated code. */
function ofCard(module: Module, { params, body }: Lambda): OfItem {
  const places = new Map<number, Place>([[params[0] as number, { js: 'c', isThere: true }]]);
  const fn = module.fn('t', ['s', 'v', 'c'], places, body, true);
  return { of: (card) => `${fn}(s,v,${card})`, weight: 1 + module.lengths.weightOf(body) };
}

/** What a line asks of each card of its set. */
function onlyOf(module: Module, option: AskCode['walked'][number]['option'], line: BotLine): OfItem | null {
  const tests = cardTests(module.program, option, line).each.map((test) => ofCard(module, test));
  if (tests.length === 0) return null;
  return {
    of: (card) => tests.map(({ of }) => of(card)).join('&&'),
    weight: tests.reduce((sum, { weight }) => sum + weight, 0),
  };
}

const isKey = (e: Expr): boolean => e.t === 'key' || e.t.startsWith('list:');

/** The list out of which a parameter of several cards is chosen. */
function listOf(option: AskCode['walked'][number]['option'], i: number): Expr {
  const domain = option.params[i]?.domain;
  if (domain?.k !== 'cards') throw new Error(`parameter ${i} of ${option.name} is not several cards`);
  return domain.list;
}

/** A value as the number that states keep: flags become 0 and 1. */
function numeric(module: Module, places: ReadonlyMap<number, Place>, e: Expr): string {
  const name = module.fn('t', ['s', 'v'], places, e, true);
  return e.t === 'flag' ? module.helper((h) => `function ${h}(s,v){return Number(${name}(s,v));}`) : name;
}
