import type { Expr } from '../../program/types.js';
import { NEW_ITEM } from '../prices.js';
import { LONGEST_LIST } from '../runtime/lists.js';
import type { ExprWriter } from './expressions.js';
import { pay, spend } from './spend.js';
import { js } from './written.js';

/** Whether a list holds no item twice: the cards of one pile, or some of them. */
const isDistinct = (e: Expr): boolean => e.k === 'cards' || (e.k === 'sift' && e.f === 'only' && isDistinct(e.of));

/** Code that fills a buffer with the different items of a list. */
export const fillDistinct = (x: ExprWriter, e: Expr, to: Buffer): string =>
  isDistinct(e) ? fill(x, e, to) : `${fill(x, e, to)}${to.count}=distinct(${to.items},${to.count});`;

/** A short function of an item in generated code, and what it weighs. */
export interface OfItem {
  readonly of: (item: string) => string;
  readonly weight: number;
}

/** Code that keeps those items of a buffer that pass a test, in their order. */
export const keepOnly = ({ items, count }: Buffer, { of, weight }: OfItem): string =>
  `{${pay(`${weight}*${count}`)}let k=0;for(let j=0;j<${count};j++){const c=${items}[j];if(${of('c')})${items}[k++]=c;}${count}=k;}`;

/** A buffer of generated code: the array, and the variable that says how much of it is filled. */
export interface Buffer {
  readonly items: string;
  readonly count: string;
}

/**
 * Code that appends the items of a list to a buffer, in their order. What lies in piles is read where it lies, so
 * that nothing is allocated; whatever has no form here is made as a list first.
 */
export function fill(x: ExprWriter, e: Expr, to: Buffer): string {
  const add = (item: string): string => `${to.items}[${to.count}++]=${item};`;
  const cardsAt = (pile: string, from = '0', cut = ''): string => {
    const { start, len, cards } = x.module.parts;
    return `{const row=s.row,pile=${pile},n=row[${len}+pile],at=${cards}+row[${start}+pile];${cut}${pay('n')}for(let i=${from};i<n;i++)${add('row[at+i]')}}`;
  };
  const eachPile = (piles: Expr, inside: string): string => {
    const whole = piles.k === 'family' && !piles.owner ? x.familyRange(piles) : null;
    return whole
      ? `for(let p=${whole[0]};p<${whole[0] + whole[1]};p++)${inside}`
      : `for(const p of ${x.write(piles)})${inside}`;
  };
  if (e.t === 'list:flag')
    return e.k === 'list'
      ? e.items.map((item) => add(`Number(${x.write(item)})`)).join('')
      : `for(const x of ${x.write(e)})${add('Number(x)')}`;
  switch (e.k) {
    case 'cards':
      return cardsAt(x.sure(e.of));
    case 'list':
      return e.items.map((item) => add(x.write(item))).join('');
    case 'seats':
      return `for(let x=0;x<${x.module.layout.seats.length};x++)${add('x')}`;
    case 'family': {
      const [base, all] = x.familyRange(e);
      if (e.owner) break;
      const isThere = x.module.program.piles[e.i]?.open ? 'if(s.len[p]!==0)' : '';
      return `for(let p=${base};p<${base + all};p++)${isThere}${add('p')}`;
    }
    case 'op': {
      if (e.op !== '+') break;
      return `${fill(x, e.a, to)}${fill(x, e.b, to)}if(${to.count}>${LONGEST_LIST})tooMany(${e.at});`;
    }
    case 'fn': {
      const [of, many] = e.args;
      if (!of) break;
      if (e.f === 'cardsOf') return eachPile(of, cardsAt('p'));
      if (e.f === 'tops') return eachPile(of, `if(s.len[p]!==0)${add('top(s,p)')}`);
      const pile = many ? x.pileOf(of) : null;
      if (e.f === 'last' && many && pile !== null)
        return cardsAt(pile, 'Math.max(0,n-many)', `const many=Math.max(0,${x.write(many)});`);
      break;
    }
    case 'sift': {
      if (e.f !== 'only' || e.by.params.length !== 1) break;
      const [item] = e.by.params;
      const by = x.inside(new Map([[item as number, { js: 'x', isThere: x.areThere(e.of) }]])).write(e.by.body);
      // Filled whole, then packed: what is left moves down over what is left out.
      return js`{
        const from=${to.count};${fill(x, e.of, to)}${spend(`${NEW_ITEM + x.module.lengths.weightOf(e.by.body)}*(${to.count}-from)`, e.at)}let kept=from;
        for(let i=from;i<${to.count};i++){const x=${to.items}[i];if(${by})${to.items}[kept++]=x;}
        ${to.count}=kept;
      }`;
    }
    default:
  }
  return `for(const x of ${x.write(e)})${add('x')}`;
}
