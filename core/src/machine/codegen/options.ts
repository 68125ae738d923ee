import type { Ask, Expr, Option } from '../../program/types.js';
import type { Place } from './expressions.js';
import type { Module } from './module.js';
import type { ScriptWriter } from './script.js';

/** The values of an option's parameters in its functions. */
export const BRANCH = ['a0', 'a1', 'a2', 'a3'];
const PARAMS = ['s', 'v', ...BRANCH];

/** The functions of an ask's options, and one that tells whether an answer is legal. */
export function askCode(module: Module, script: ScriptWriter, ask: Ask): { options: string; legal: string } {
  const options = ask.options.map((option) => optionCode(module, script, ask, option));
  const legal = module.helper(
    (name) =>
      `function ${name}(s,v,option,args){switch(option){${options.map(({ legal }, i) => `case ${i}:${legal}`).join('')}}return false;}`,
  );
  return { options: `[${options.map(({ code }) => code).join(',')}]`, legal };
}

/** A list of flags as the numbers that choices carry. */
function asNumbers(module: Module, params: readonly string[], list: string): string {
  const given = params.join(',');
  return module.helper((name) => `function ${name}(${given}){return ${list}(${given}).map(Number);}`);
}

/** What an option's functions are called. */
interface Functions {
  readonly when: string;
  readonly domains: readonly { readonly from: string; readonly to: string; readonly by: string }[] | null;
  readonly needs: readonly { readonly holds: string; readonly depth: number }[];
}

/**
 * Tests an answer as a service or a simulation gets it: the option is there, each value in its domain, each need
 * holds as soon as what it reads is bound. Lists and sets are looked through by the engine.
 */
function legality(option: Option, { when, domains, needs }: Functions): string {
  if (domains === null) return 'return allowed(s,v,option,args);';
  const refuse = (unless: string): string => `if(!${unless})return false;`;
  const failing = (depth: number): string =>
    needs
      .filter((need) => need.depth === depth)
      .map(({ holds }) => refuse(`${holds}(${['s', 'v', ...BRANCH.slice(0, depth)].join(',')})`))
      .join('');
  const bound = domains.map(({ from, to, by }, i) => {
    const value = BRANCH[i] as string;
    const before = ['s', 'v', ...BRANCH.slice(0, i)].join(',');
    const step = by === 'null' ? '1' : `Math.max(1,${by}(${before}))`;
    // Written out, for the rest of a division of floating numbers is a slow call.
    const fits = 'past-by*Math.floor(past/by)===0';
    // A list is no number, though it may look like one where it is compared.
    return `{const from=${from}(${before}),to=${to}(${before}),by=${step},past=${value}-from;${refuse(`(+${value}===${value}&&${value}>=from&&${value}<=to&&(${value}===to||${fits}))`)}}${failing(i + 1)}`;
  });
  const names = BRANCH.slice(0, domains.length)
    .map((name, i) => `const ${name}=args[${i}];`)
    .join('');
  return `{${refuse(`(args.length===${option.params.length})`)}${names}${when === 'null' ? '' : refuse(`${when}(s,v)`)}${failing(0)}${bound.join('')}return true;}`;
}

function optionCode(module: Module, script: ScriptWriter, ask: Ask, option: Option): { code: string; legal: string } {
  const frame = script.frames.get(ask.routine);
  const places = new Map<number, Place>(frame?.places ?? []);
  if (ask.who.k === 'every') places.set(ask.who.local, { js: 'v', isThere: true });
  for (const [i, param] of option.params.entries())
    places.set(param.local, { js: param.t === 'flag' ? `(${BRANCH[i]}!==0)` : (BRANCH[i] as string) });
  const read = (e: Expr | null): string => (e ? module.fn('q', PARAMS, places, e, true) : 'null');
  const textOf = (e: Expr | null): string => (e ? module.fn('q', PARAMS, places, e, true, true) : 'null');
  const ranges: { from: string; to: string; by: string }[] = [];
  const domains = option.params.map(({ domain }) => {
    if (domain.k === 'cards')
      return `{k:"cards",list:${read(domain.list)},least:${read(domain.least)},most:${read(domain.most)},grow:${read(domain.grow)},shapes:${domain.shapes ? JSON.stringify(domain.shapes) : 'null'}}`;
    if (domain.k === 'values')
      return `{k:"values",list:${domain.t === 'flag' ? asNumbers(module, PARAMS, read(domain.list)) : read(domain.list)}}`;
    const [from, to, by] = [read(domain.from), read(domain.to), read(domain.by)];
    ranges.push({ from, to, by });
    return `{k:"range",from:${from},to:${to},by:${by},marks:[${domain.landmarks.map((m) => read(m.e)).join(',')}]}`;
  });
  const needs = option.needs.map(({ e, text, depth }) => ({ holds: read(e), text: textOf(text), depth }));
  const when = read(option.when);
  const guard =
    module.mode.covering && option.when
      ? module.helper(
          (h) =>
            `function ${h}(${PARAMS.join(',')}){if(${when}(${PARAMS.join(',')}))return true;${module.mark('guard', option.when?.at ?? 0)}return false;}`,
        )
      : when;
  const told = needs.map(({ holds, text }) => `{holds:${holds},text:${text}}`);
  return {
    code: `{when:${guard},on:${read(option.on)},label:${textOf(option.label)},template:${textOf(template(option))},domains:[${domains.join(',')}],needs:[${told.join(',')}]}`,
    legal: legality(option, { when: guard, domains: ranges.length === domains.length ? ranges : null, needs }),
  };
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
