import type { Domain } from '../../program/types.js';
import { BUDGETS } from '../prices.js';
import { type Buffer, fillDistinct, keepOnly, type OfItem } from './fill.js';
import { pay } from './spend.js';
import { called, type DomainFunctions, values, type Walked, written } from './walk.js';
import { js } from './written.js';

/** Where so few operations are left, what was drawn so far is played. */
const RESERVE = Math.round(BUDGETS.thinking / 10);

/** Where too much would have to be tested, nobody knows that there is no way: unknown is never taken for no. */
const UNKNOWN = 'any=true;';

/** The function that finds whether an option has a legal way, or may have one. */
export const anyWay = (walked: Walked): string =>
  written(walked, {
    params: [],
    before: 'let any=false;',
    spent: UNKNOWN,
    found: ({ stop }) => `any=true;${stop}`,
    block: ({ count }, { stop }) => `if(${count}>0){any=true;${stop}}`,
    after: 'return any;',
  });

/** The function that finds whether an option has a legal way with some values given. */
export function agreeingWay(walked: Walked, any: string): string {
  // Without two values there is nothing to be given and nothing to be free at once.
  if (walked.option.params.length < 2) return any;
  return written(walked, {
    params: ['wanted'],
    before: 'let any=false;',
    spent: UNKNOWN,
    found: ({ stop }) => `any=true;${stop}`,
    after: 'return any;',
    given: values(walked).map((_, i) => `wanted[${i}]`),
    mayBeFree: true,
  });
}

/** The function that counts legal ways. */
export const countWays = (walked: Walked): string =>
  written(walked, {
    params: ['most'],
    before: 'let n=0;',
    found: ({ stop }) => `if(++n>=most)${stop}`,
    after: 'return n;',
  });

/** The function that lists legal ways into a buffer. */
export const listWays = (walked: Walked): string => {
  const many = walked.option.params.length;
  const put = values(walked).map((value, i) => `into[n*${many}+${i}]=${value};`);
  return written(walked, {
    params: ['into', 'most'],
    before: 'let n=0;if(most<1)return 0;',
    found: ({ stop }) => `${put.join('')}if(++n>=most)${stop}`,
    after: 'return n;',
  });
};

/**
 * The function that draws a legal way evenly: a reservoir of one, which skips to the next way that takes its place
 * (Vitter's algorithm R with the skips of Li's algorithm L, for a reservoir of one).
 */
export function drawWay(walked: Walked, option: number): string {
  const { module } = walked;
  const bound = values(walked);
  const answer = module.helper((name) => `const ${name}={option:${option},args:[${bound.map(() => '0').join(',')}]};`);
  const kept = bound.map((_, i) => `w${i}`);
  const keep = bound.map((value, i) => `${kept[i]}=${value};`);
  const after = `if(n===0)return null;${kept.map((w, i) => `${answer}.args[${i}]=${w};`).join('')}return ${answer};`;
  if (bound.length === 0) return onlyWay(walked, answer);
  const sampled = onlySets(walked);
  if (sampled) return drawSets(walked, answer, sampled);
  if (isFreeAmount(walked)) return drawAmount(walked, answer);
  return written(walked, {
    params: ['g'],
    until: `limit-${RESERVE}`,
    before: `let n=0,next=1;${kept.map((w) => `let ${w}=0;`).join('')}`,
    found: () => `if(++n===next){${keep.join('')}next=skip(g,n);}`,
    block: ({ value, at, count }) =>
      `while(next<=n+${count}){const k=next-n-1,${value}=${at};${keep.join('')}next=skip(g,next);}n+=${count};`,
    after,
    skipsTwins: true,
  });
}

/** The one way of an option without parameters. */
const onlyWay = (walked: Walked, answer: string): string =>
  written(walked, { params: [], before: '', found: () => `return ${answer};`, after: 'return null;' });

/** Whether an option's one parameter is a range, and all of it is legal. */
const isFreeAmount = ({ option, functions }: Walked): boolean =>
  option.params.length === 1 &&
  option.params[0]?.domain.k === 'range' &&
  functions.needs.every((need) => need.depth === 0);

/** An amount is drawn by its place in the range. */
const drawAmount = (walked: Walked, answer: string): string =>
  written(walked, {
    params: ['g'],
    before: '',
    found: () => '',
    block: ({ at, count }) => `if(${count}>0){const k=below(g,${count});${answer}.args[0]=${at};return ${answer};}`,
    after: 'return null;',
  });

/** An option with one parameter that is several cards, without shapes. */
function onlySets({ option }: Walked): Extract<Domain, { k: 'cards' }> | null {
  const [param, ...more] = option.params;
  return param?.domain.k === 'cards' && more.length === 0 && param.domain.shapes === null ? param.domain : null;
}

/** Sets are drawn by size and place first; those that are not legal are drawn anew a few times before all are walked. */
function drawSets(walked: Walked, answer: string, domain: Extract<Domain, { k: 'cards' }>): string {
  const { functions, module } = walked;
  const { least, most, grow } = functions.domains[0] as DomainFunctions;
  const needs = functions.needs.filter((need) => need.depth === 1).map(({ holds }) => holds);
  // The test of growing sets comes last: needs are mostly cheaper.
  const tests = [...needs, ...(grow === 'null' ? [] : [grow])];
  const accepts = tests.length === 0 ? 'null' : `(a0)=>${tests.map((fn) => called(fn, 1)).join('&&')}`;
  const all = written(walked, {
    params: ['g'],
    before: 'let n=0,next=1,w0=null;',
    found: () => 'if(++n===next){w0=a0;next=skip(g,n);}',
    after: `if(n===0)return null;${answer}.args[0]=w0;return ${answer};`,
  });
  return module.helper((name) => {
    const buffer: Buffer = { items: `${name}b0`, count: 'n0' };
    const before = [
      ...(functions.when === null ? [] : [`if(!${called(functions.when, 0)})return null;`]),
      ...functions.needs.filter((n) => n.depth === 0).map(({ holds }) => `if(!${called(holds, 0)})return null;`),
    ];
    const list = fillDistinct(walked.x, domain.list, buffer);
    return js`
      const ${buffer.items}=[];
      function ${name}(s,v,g){
        ${before.join('')}let n0=0;${list}
        const set=drawSet(${buffer.items},n0,${called(least, 0)},${most === 'null' ? 'n0' : called(most, 0)},${accepts},g,pay);
        if(set===undefined)return ${all}(s,v,g);
        if(set===null)return null;
        ${answer}.args[0]=set;
        return ${answer};
      }`;
  });
}

/** What a bot's line asks of the ways of an option, as functions, and the values that it gives. */
export interface WeighedLine {
  readonly given: readonly (string | null)[];
  readonly when: string | null;
  readonly prefer: string | null;
  /** What both weigh. */
  readonly weight: number;
  /** Its key is one number. */
  readonly isNumber: boolean;
  /** What every card of its set must be by itself; `null` where nothing is known of that. */
  readonly only: OfItem | null;
}

/** Greatest number of ways that a bot weighs for one line. */
const MOST_WEIGHED = 65_536;

/** Code for when a line's search ends. One that asks for more may find nothing: those after it need something left. */
function untilOf(line: WeighedLine): string {
  const half = 'ops+(limit-ops)/2';
  return line.when === null ? `Math.max(limit-${RESERVE},${half})` : half;
}

/** The function that finds the greatest or least amount that is legal, from its end of the range. */
export function bestAmount(walked: Walked, option: number, least: boolean, line: WeighedLine): string {
  const answer = walked.module.helper((name) => `const ${name}={option:${option},args:[0]};`);
  return written(walked, {
    params: ['g'],
    until: 'until',
    before: `const until=${untilOf(line)};`,
    found: ({ skip }) => {
      const tested = line.when === null ? '' : `${pay(line.weight)}if(!${called(line.when, 1)})${skip}`;
      return `${tested}${answer}.args[0]=a0;return ${answer};`;
    },
    after: 'return null;',
    descends: !least,
  });
}

/**
 * The function that finds the cards whose values come to the most or to the least, where there are too many sets to weigh
 * or none need be.
 * @param weighed the function that weighs set by set; `null` where each card is worth the same
 */
export function bestSum(
  walked: Walked,
  option: number,
  least: boolean,
  only: OfItem | null,
  worth: OfItem,
  weighed: string | null,
): string {
  const { functions, module } = walked;
  const [param] = walked.option.params;
  if (param?.domain.k !== 'cards') throw new Error(`${walked.option.name} is no choice of cards`);
  const { list } = param.domain;
  const { least: fewest, most } = functions.domains[0] as DomainFunctions;
  return module.helper((name) => {
    const buffer: Buffer = { items: `${name}b0`, count: 'n0' };
    const answer = `${name}a`;
    const before = [
      ...(functions.when === null ? [] : [`if(!${called(functions.when, 0)})return null;`]),
      ...functions.needs.map(({ holds }) => `if(!${called(holds, 0)})return null;`),
    ];
    return js`
      const ${buffer.items}=[],${answer}={option:${option},args:[0]};
      function ${name}(s,v,g){
        ${before.join('')}let n0=0;${fillDistinct(walked.x, list, buffer)}${only ? keepOnly(buffer, only) : ''}
        const least=${called(fewest, 0)},most=${most === 'null' ? 'n0' : called(most, 0)};
        ${weighed === null ? '' : `if(setsOf(n0,least,most)<=${MOST_WEIGHED})return ${weighed}(s,v,g);`}
        const set=dearestSet(${buffer.items},n0,(c)=>{${pay(worth.weight)}return ${least ? '-' : ''}${worth.of('c')};},least,most,g,pay);
        if(set===null)return null;
        ${answer}.args[0]=set;
        return ${answer};
      }`;
  });
}

/** The function that finds the most preferred legal way for a bot's line; ties by chance. */
export function bestWay(walked: Walked, option: number, line: WeighedLine): string {
  const { module } = walked;
  const bound = values(walked);
  const many = bound.length;
  const [answer, ties] = ['option', 'ties'].map((what) =>
    module.helper((name) =>
      what === 'option'
        ? `const ${name}={option:${option},args:[${bound.map(() => '0').join(',')}]};`
        : `const ${name}=[];`,
    ),
  );
  const given = line.given.map((fn, i) => (fn === null ? null : `g${i}`));
  const read = line.given.map((fn, i) => (fn === null ? '' : `const g${i}=${called(fn, 0)};`));
  const keep = bound.map((value, i) => `${ties}[n*${many}+${i}]=${value};`).join('');
  const weigh = (skip: string): string => {
    if (line.prefer === null) return '';
    const key = called(line.prefer, many);
    return line.isNumber
      ? `const key=${key};if(n>0){if(key<most)${skip}if(key>most)n=0;}most=key;`
      : `const key=${key};if(n>0){const d=compareKeys(key,most);if(d<0)${skip}if(d>0)n=0;}most=key;`;
  };
  return written(walked, {
    params: ['g'],
    until: 'until',
    before: `const until=${untilOf(line)};let n=0,looked=0,most=0;${read.join('')}`,
    found: ({ skip, stop }) => {
      const paid = line.weight === 0 ? '' : pay(line.weight);
      const tested = line.when === null ? '' : `if(!${called(line.when, many)})${skip}`;
      return `if(++looked>${MOST_WEIGHED})${stop}${paid}${tested}${weigh(skip)}${keep}n++;`;
    },
    only: line.only,
    after: `if(n===0)return null;const r=n===1?0:below(g,n);${bound.map((_, i) => `${answer}.args[${i}]=${ties}[r*${many}+${i}];`).join('')}return ${answer};`,
    given,
  });
}
