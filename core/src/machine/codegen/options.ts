import { localsIn } from '../../program/tree.js';
import type { Ask, Expr, Option } from '../../program/types.js';
import { ExprWriter } from './expressions.js';
import { fill } from './fill.js';
import { inlined } from './fusion.js';
import type { Module } from './module.js';
import type { Place } from './places.js';
import { areThere, NOWHERE } from './presence.js';
import type { ScriptWriter } from './script.js';
import { countsNotAsMove } from './waiting.js';
import { BRANCH, called, type DomainFunctions, type OptionFunctions, type Walked } from './walk.js';
import { agreeingWay, anyWay, countWays, drawWay, listWays } from './ways.js';
import { js } from './written.js';

const PARAMS = ['s', 'v', ...BRANCH];

/** The functions of an ask: an object for each option, a test of answers, and whether a seat has a move left. */
export interface AskCode {
  readonly options: string;
  readonly legal: string;
  readonly choosable: string;
  /** Where the first answer counts: gives the seats in the order in which the sheet lists them; else `null`. */
  readonly racers: string;
  /** The functions that draw a way of each option. */
  readonly draws: readonly string[];
  /** Its options, for whatever else walks their ways. */
  readonly walked: readonly Walked[];
  /** The functions that test one way of each option. */
  readonly tests: readonly string[];
}

/** Writes the functions of an ask's options. */
export function askCode(module: Module, script: ScriptWriter, ask: Ask): AskCode {
  const options = ask.options.map((option, i) => optionCode(module, script, ask, option, i));
  const cases = options.map(
    ({ test, walked }, i) =>
      `case ${i}:return args.length===${walked.option.params.length}&&${test}(${['s', 'v', ...walked.option.params.map((_, p) => `args[${p}]`)].join(',')});`,
  );
  const legal = module.helper(
    (name) => `function ${name}(s,v,option,args){switch(option){${cases.join('')}}return false;}`,
  );
  // Those that need no search are looked at first.
  const moves = options
    .filter(({ walked }) => !countsNotAsMove(ask, walked.option))
    .sort((a, b) => a.walked.option.params.length - b.walked.option.params.length);
  const choosable = module.helper(
    (name) => `function ${name}(s,v){return ${moves.map(({ any }) => `${any}(s,v)`).join('||') || 'false'};}`,
  );
  return {
    options: `[${options.map(({ code }) => code).join(',')}]`,
    legal,
    choosable,
    racers:
      ask.who.k === 'any'
        ? module.fn('q', ['s'], script.frames.get(ask.routine)?.places ?? new Map(), ask.who.list, false)
        : 'null',
    draws: options.map(({ draw }) => draw),
    walked: options.map(({ walked }) => walked),
    tests: options.map(({ test }) => test),
  };
}

/** A list of flags as the numbers that choices carry. */
function asNumbers(module: Module, list: string): string {
  const given = PARAMS.join(',');
  return module.helper((name) => `function ${name}(${given}){return ${list}(${given}).map(Number);}`);
}

interface OptionParts {
  readonly code: string;
  readonly any: string;
  readonly draw: string;
  readonly test: string;
  readonly walked: Walked;
}

function optionCode(module: Module, script: ScriptWriter, ask: Ask, option: Option, index: number): OptionParts {
  const frame = script.frames.get(ask.routine);
  const places = new Map<number, Place>(frame?.places ?? []);
  if (ask.who.k !== 'one') places.set(ask.who.local, { js: 'v', isThere: true });
  for (const [i, { local, t, domain }] of option.params.entries()) {
    // A value is tested only once it is known to be one of its list.
    const isThere = domain.k === 'values' && areThere(domain.list, NOWHERE);
    places.set(local, { js: t === 'flag' ? `(${BRANCH[i]}!==0)` : (BRANCH[i] as string), isThere });
  }
  const read = (e: Expr | null): string => (e ? module.fn('q', PARAMS, places, e, true) : 'null');
  const textOf = (e: Expr | null): string => (e ? module.fn('q', PARAMS, places, e, true, true) : 'null');
  const domains = option.params.map(({ domain }): { code: string; functions: DomainFunctions } => {
    const none = { from: 'null', to: 'null', by: 'null', least: 'null', most: 'null', grow: 'null' };
    switch (domain.k) {
      case 'cards': {
        const [least, most, grow] = [read(domain.least), read(domain.most), read(domain.grow)];
        const shapes = domain.shapes ? JSON.stringify(domain.shapes) : 'null';
        return {
          code: `{k:"cards",list:${read(domain.list)},least:${least},most:${most},grow:${grow},shapes:${shapes}}`,
          functions: { ...none, least, most, grow },
        };
      }
      case 'values': {
        const list = read(domain.list);
        return {
          code: `{k:"values",list:${domain.t === 'flag' ? asNumbers(module, list) : list}}`,
          functions: none,
        };
      }
      case 'range': {
        const [from, to, by] = [read(domain.from), read(domain.to), read(domain.by)];
        const marks = domain.landmarks.map((mark) => read(mark.e));
        return {
          code: `{k:"range",from:${from},to:${to},by:${by},marks:[${marks.join(',')}]}`,
          functions: { ...none, from, to, by },
        };
      }
    }
  });
  // What a tail is asked is written out, so that it is read where it lies.
  const tails = new Set(option.params.flatMap(({ local, t }) => (t === 'card' ? [local] : [])));
  const needs = option.needs.map(({ e, text, depth }) => {
    const test = tails.size > 0 && readsAny(e, tails) ? inlined(module.program, module.lengths, e) : e;
    return { e: test, holds: read(test), text: textOf(text), depth };
  });
  const when = read(option.when);
  const guard =
    module.mode.covering && option.when
      ? module.helper(
          (h) =>
            `function ${h}(${PARAMS.join(',')}){if(${when}(${PARAMS.join(',')}))return true;${module.mark('guard', option.when?.at ?? 0)}return false;}`,
        )
      : when;
  const functions: OptionFunctions = {
    when: option.when ? guard : null,
    domains: domains.map((domain) => domain.functions),
    needs,
  };
  const walked: Walked = { module, option, functions, places, x: new ExprWriter(module, places, { guarded: true }) };
  const any = anyWay(walked);
  const draw = drawWay(walked, index);
  const ways = `{any:${any},agrees:${agreeingWay(walked, any)},count:${countWays(walked)},list:${listWays(walked)},draw:${draw}}`;
  const told = needs.map(({ holds, text }) => `{holds:${holds},text:${text}}`);
  return {
    code: js`{
      when:${guard},on:${read(option.on)},label:${textOf(option.label)},template:${textOf(template(option))},
      domains:[${domains.map(({ code }) => code).join(',')}],needs:[${told.join(',')}],ways:${ways}
    }`,
    any,
    draw,
    test: testOf(walked),
    walked,
  };
}

const readsAny = (e: Expr, locals: ReadonlySet<number>): boolean => [...localsIn(e)].some((local) => locals.has(local));

/**
 * The function that tests one way, as a service or a simulation gets it: the option is there, each value is in its
 * domain, each need holds as soon as what it reads is bound.
 */
function testOf({ module, option, functions, x }: Walked): string {
  const refuse = (unless: string): string => `if(!${unless})return false;`;
  const failing = (depth: number): string =>
    functions.needs
      .filter((need) => need.depth === depth)
      .map(({ holds }) => refuse(called(holds, depth)))
      .join('');
  return module.helper((name) => {
    const arrays: string[] = [];
    const bound = option.params.map(({ domain }, i) => {
      const value = BRANCH[i] as string;
      const items = `${name}b${i}`;
      const { from, to, by, least, most, grow } = functions.domains[i] as DomainFunctions;
      if (domain.k === 'range') {
        const step = by === 'null' ? '1' : `Math.max(1,${called(by, i)})`;
        // Written out, for the rest of a division of floating numbers is a slow call.
        const fits = 'past-by*Math.floor(past/by)===0';
        // A list is no number, though it may look like one where it is compared.
        return js`{
          const from=${called(from, i)},to=${called(to, i)},by=${step},past=${value}-from;
          ${refuse(`(+${value}===${value}&&${value}>=from&&${value}<=to&&(${value}===to||${fits}))`)}
        }${failing(i + 1)}`;
      }
      arrays.push(`const ${items}=[];`);
      const list = `let n${i}=0;${fill(x, domain.list, { items, count: `n${i}` })}`;
      if (domain.k === 'values') return `${list}${refuse(`holdsItem(${items},n${i},${value})`)}${failing(i + 1)}`;
      if (domain.shapes)
        return `${list}${refuse(`(isSet(${value})&&standsIn(${items},n${i},${value},0,n${i})&&fitsAny([${domain.shapes.join(',')}],${value}))`)}${failing(i + 1)}`;
      const largest = most === 'null' ? `n${i}` : called(most, i);
      const grows = grow === 'null' ? '' : refuse(`(${value}.length===0||${called(grow, i + 1)})`);
      return `${list}${refuse(`(isSet(${value})&&standsIn(${items},n${i},${value},${called(least, i)},${largest}))`)}${grows}${failing(i + 1)}`;
    });
    const guard = functions.when === null ? '' : refuse(called(functions.when, 0));
    return `${arrays.join('')}function ${name}(${['s', 'v', ...BRANCH.slice(0, option.params.length)].join(',')}){${guard}${failing(0)}${bound.join('')}return true;}`;
  });
}

/** The label with `{name}` in place of each parameter; `null` where it does more with them than naming them. */
function template(option: Option): Expr | null {
  if (option.label?.k !== 'text') return null;
  const parts = option.label.parts.map((part) => {
    const param =
      typeof part !== 'string' && part.k === 'local' ? option.params.find((p) => p.local === part.i) : undefined;
    return param ? `{${param.name}}` : part;
  });
  return { ...option.label, parts };
}
