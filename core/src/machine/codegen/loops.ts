import { lambdaOf, operandsOf } from '../../program/tree.js';
import type { Expr, ExprOf, Lambda, Type } from '../../program/types.js';
import { GROUPED, NEW_ITEM } from '../prices.js';
import { FEW } from '../runtime/lists.js';
import type { RowOffsets } from '../state.js';
import { spend } from './spend.js';
import { js } from './written.js';

/** A fold, a choice or a sift. */
export type Over = ExprOf<'fold'> | ExprOf<'choose'> | ExprOf<'sift'>;

/** A value as a number that compares as the game compares it. */
export function comparable(t: Type, value: string): string {
  if (t === 'rank') return `rankPlace[${value}]`;
  if (t === 'suit') return `suitPlace[${value}]`;
  if (t === 'flag') return `Number(${value})`;
  if (t === 'list:rank') return `placesOfRanks(${value})`;
  if (t === 'list:flag') return `asNumbers(${value})`;
  return value;
}

/** Locals that a short function reads and does not bind itself. */
export function freeLocals(lambda: Lambda): Set<number> {
  const found = new Set<number>();
  const visit = (e: Expr, bound: ReadonlySet<number>): void => {
    if (e.k === 'local' && !bound.has(e.i)) found.add(e.i);
    for (const operand of operandsOf(e)) visit(operand, bound);
    const by = lambdaOf(e);
    if (by) visit(by.body, new Set([...bound, ...by.params]));
  };
  visit(lambda.body, new Set(lambda.params));
  return found;
}

/** How a loop goes through what a fold, choice or sift is made over: each item stands in `x`, the one above it in `y`. */
export interface Through {
  /** What is found before anything is counted. */
  readonly before?: string;
  /** How many items there are, as it is counted. */
  readonly size: string;
  readonly head: string;
}

/** Through a pile where it lies. @param parts where the rows of a state begin @param two neighbours, two by two */
export const throughPile = ({ start, len, cards }: RowOffsets, pile: string, two = false): Through => ({
  size: `s.len[${pile}]`,
  head: `const row=s.row,from=${cards}+row[${start}+${pile}],to=from+row[${len}+${pile}]${two ? '-1' : ''};for(let i=from;i<to;i++){const x=row[i]${two ? ',y=row[i+1]' : ''};`,
});
/** From a card to the top of its pile, where it lies. */
export const throughTail = ({ start, len, cards, where }: RowOffsets, card: string, two = false): Through => ({
  before: `const row=s.row,pile=row[${where}+${card}],first=${cards}+row[${start}+pile],from=first+indexOf(s,${card}),to=first+row[${len}+pile];`,
  size: '(to-from)',
  head: rowsHead(two),
});
/** Through rows of cards that were found before. */
export const throughRows = (two = false): Through => ({
  before: 'const row=s.row;',
  size: '(to-from)',
  head: rowsHead(two),
});
const rowsHead = (two: boolean): string =>
  `for(let i=from;i<to${two ? '-1' : ''};i++){const x=row[i]${two ? ',y=row[i+1]' : ''};`;
/** Through a list. */
export const throughList = (list: string, two = false): Through => ({
  size: `${list}.length`,
  head: `for(let i=0;i<${list}.length${two ? '-1' : ''};i++){const x=${list}[i]${two ? `,y=${list}[i+1]` : ''};`,
});
/** Through ways to choose among a list, each of which costs so much. */
export const throughWays = (ways: string, cost: number, at: number): Through => ({
  size: '1',
  head: `for(let x=${ways}.next();x!==null;x=${ways}.next()){${spend(`${cost}+2*x.length`, at)}`,
});
/** Through all seats: they are counted, which is quicker than to go through their list. */
export const throughSeats = (seats: number, two = false): Through => ({
  size: String(seats),
  head: `for(let x=0;x<${seats}${two ? '-1' : ''};x++){${two ? 'const y=x+1;' : ''}`,
});

/**
 * The function that goes through a list (or a pile where it lies) for one fold, choice or sift.
 * @param by the short function's body, which reads the item as `x` (and the one above it as `y`)
 * @param of the parameters that say what it goes through
 * @param params what else the short function reads
 * @param through how it goes through that
 * @param weight what the short function weighs
 */
export function loop(
  name: string,
  e: Over,
  through: Through,
  by: string,
  of: readonly string[],
  params: readonly string[],
  guarded: boolean,
  weight: number,
): string {
  // Groups and distinct items are equal or not: only what is put in order is compared as the game does.
  const isAlike = e.f === 'groups' || e.f === 'distinct';
  const key = isAlike ? by : comparable(e.by.body.t, by);
  const head = `function ${name}(${['s', ...(guarded ? ['v'] : []), ...of, ...params].join(',')}){`;
  const [before, step, after] = steps(e, by, key);
  return `${head}${through.before ?? ''}${spend(`${priceOfItem(e, weight)}*${through.size}`, e.at)}${before}${through.head}${step}}${after}}`;
}

/** What an item of a loop costs, besides what the end of the loop does with all of them. */
function priceOfItem({ f }: Over, weight: number): number {
  if (f === 'only' || f === 'map' || f === 'sorted') return NEW_ITEM + weight;
  return (f === 'groups' || f === 'distinct' ? GROUPED.number : 1) + weight;
}

/** What a loop does before, at each item, and after. */
function steps(e: Over, by: string, key: string): [string, string, string] {
  const many = isMany(e.by.body.t);
  switch (e.f) {
    case 'any':
      return ['', `if(${by})return true;`, 'return false;'];
    case 'all':
      return ['', `if(!${by})return false;`, 'return true;'];
    case 'none':
      return ['', `if(${by})return false;`, 'return true;'];
    case 'count':
      return ['let n=0;', `if(${by})n++;`, 'return n;'];
    case 'sum':
      return ['let n=0;', `n+=${by};`, `return chk(n,${e.at});`];
    case 'min':
    case 'max':
      if (e.t !== 'int') return extreme(e, by);
      return [
        'let n=NaN;',
        `const k=${by};if(!(n${e.f === 'min' ? '<=' : '>='}k))n=k;`,
        `return n===n?n:fault(${e.f === 'min' ? 'EMPTY_MIN' : 'EMPTY_MAX'},${e.at});`,
      ];
    case 'find':
      return ['', `if(${by})return x;`, `return ${none(e)};`];
    case 'best':
    case 'least':
      if (many)
        return [
          `let n=null,found=${none(e)};`,
          `const k=${key};if(n===null||compareKeys(k,n)${e.f === 'best' ? '>' : '<'}0){n=k;found=x;}`,
          'return found;',
        ];
      return [
        `let n=NaN,found=${none(e)};`,
        `const k=${key};if(!(n${e.f === 'best' ? '>=' : '<='}k)){n=k;found=x;}`,
        'return found;',
      ];
    case 'leaders':
      if (many)
        return [
          'let n=null,found=[];',
          `const k=${key},d=n===null?1:compareKeys(k,n);if(d>0){n=k;found=[x];}else if(d===0)found.push(x);`,
          'return found;',
        ];
      return [
        'let n=NaN,found=[];',
        `const k=${key};if(!(n>=k)){n=k;found=[x];}else if(n===k)found.push(x);`,
        'return found;',
      ];
    case 'groups':
      if (!many)
        return [
          `const groups=[],names=[];let places=null;`,
          js`
            const k=${key};const at=places===null?names.indexOf(k):places.get(k)??-1;
            if(at>=0)groups[at].push(x);
            else{
              if(names.length===${FEW})places=placesOf(names);
              names.push(k);
              if(places!==null)places.set(k,groups.length);
              groups.push([x]);
            }`,
          'return groups;',
        ];
      return ['const found=[],keys=[];', `found.push(x);keys.push(${key});`, 'return groupBy(found,keys);'];
    case 'sorted':
    case 'distinct': {
      const after = { sorted: 'sortBy', distinct: 'distinctBy' }[e.f];
      return ['const found=[],keys=[];', `found.push(x);keys.push(${key});`, `return ${after}(found,keys);`];
    }
    case 'only':
      return ['const found=[];', `if(${by})found.push(x);`, 'return found;'];
    case 'map':
      return ['const found=[];', `found.push(${by});`, 'return found;'];
  }
}

/** What is chosen where there is nothing to choose from. */
const none = (e: Over): string => (e.t.startsWith('list:') ? '[]' : '-1');

/** The greatest or the least of values that are no numbers: what compares is told apart from the value. */
function extreme(e: Over, by: string): [string, string, string] {
  const { t } = e.by.body;
  const isLeast = e.f === 'min';
  const isBetter = isMany(t)
    ? `m===null||compareKeys(k,m)${isLeast ? '<' : '>'}0`
    : `m===null||k${isLeast ? '<' : '>'}m`;
  return [
    'let n,m=null;',
    `const q=${by},k=${comparable(t, 'q')};if(${isBetter}){n=q;m=k;}`,
    `return m===null?fault(${isLeast ? 'EMPTY_MIN' : 'EMPTY_MAX'},${e.at}):n;`,
  ];
}

/** Keys of several numbers are compared from the first to the last. */
const isMany = (t: Type): boolean => t === 'key' || t.startsWith('list:');
