import { exprKey, localsIn, operandsOf } from '../../program/tree.js';
import type { Domain, Expr, Option, Param } from '../../program/types.js';
import { MOST_TESTED } from '../code.js';
import { CANDIDATE } from '../prices.js';
import type { ExprWriter } from './expressions.js';
import { type Buffer, fill, fillDistinct, keepOnly, type OfItem } from './fill.js';
import type { Module } from './module.js';
import type { Place } from './places.js';
import { spend, standsAt } from './spend.js';
import { js } from './written.js';

/** The values of an option's parameters in its functions. */
export const BRANCH = ['a0', 'a1', 'a2', 'a3'];

/** What the functions of an option's clauses are called: each takes state, viewer, and the values bound before it. */
export interface OptionFunctions {
  /** `null` where the option is always there. */
  readonly when: string | null;
  readonly domains: readonly DomainFunctions[];
  readonly needs: readonly { readonly holds: string; readonly depth: number; readonly e: Expr }[];
}
export interface DomainFunctions {
  readonly from: string;
  readonly to: string;
  /** Names of functions, or `null` as a text. */
  readonly by: string;
  readonly least: string;
  readonly most: string;
  readonly grow: string;
}

/** One option whose ways are walked. */
export interface Walked {
  readonly module: Module;
  readonly option: Option;
  readonly functions: OptionFunctions;
  /** Where the locals of the option's routine stand, its parameters included. */
  readonly places: ReadonlyMap<number, Place>;
  /** Writes an expression of the option with the eyes of its seat. */
  readonly x: ExprWriter;
}

/** How code goes on from an innermost place: to the next candidate, or out of the whole walk. */
interface Exits {
  readonly skip: string;
  readonly stop: string;
}

/** All values of a range: the variable for one, what the `k`-th of them is, and how many there are. */
interface RangeBlock {
  readonly value: string;
  readonly at: string;
  readonly count: string;
}

/** What is done with each legal way, and before and after all of them. */
interface Sink {
  readonly params: readonly string[];
  readonly before: string;
  readonly found: (exits: Exits) => string;
  readonly after: string;
  /** What is done once {@link MOST_TESTED} candidates were tested and there are more. */
  readonly spent?: string;
  /** Code for the operations after which the walk ends, with what it found. */
  readonly until?: string;
  /** For a last parameter that is a range without needs: what is done with all its values at once. */
  readonly block?: (range: RangeBlock, exits: Exits) => string;
  /** Ranges are gone through from their tops. */
  readonly descends?: boolean;
  /** A value that stands for others is drawn once. */
  readonly skipsTwins?: boolean;
  /** For a first parameter that is several cards: those that are gone through at all. */
  readonly only?: OfItem | null;
  /** Values that are given: only ways that agree with them are found. */
  readonly given?: readonly (string | null)[];
  /** Given values may be `null` when it runs: then they are free. */
  readonly mayBeFree?: boolean;
}

/** The call of a clause's function once so many parameters are bound. */
export const called = (fn: string, depth: number): string =>
  `${fn}(${['s', 'v', ...BRANCH.slice(0, depth)].join(',')})`;

/** Whether a parameter's domain is the same whatever the parameters before it are. */
function isIndependent(domain: Domain, before: readonly Param[]): boolean {
  const clauses: (Expr | null)[] =
    domain.k === 'range'
      ? [domain.from, domain.to, domain.by]
      : domain.k === 'values'
        ? [domain.list]
        : [domain.list, domain.least, domain.most];
  return clauses.every((e) => e === null || before.every((param) => !localsIn(e).has(param.local)));
}

/** What a walk would find anew for each candidate. */
const REPEATED: ReadonlySet<Expr['k']> = new Set(['fold', 'choose', 'sift', 'call', 'hand', 'fits', 'largest', 'can']);

/** The largest parts of an option's needs that read none of its parameters, each with a variable of its own. */
function invariants({ option, functions }: Walked): ReadonlyMap<string, string> {
  const params = new Set(option.params.map(({ local }) => local));
  const found = new Map<string, string>();
  const look = (e: Expr): void => {
    const isFixed = [...localsIn(e)].every((local) => !params.has(local));
    if (!isFixed) for (const operand of operandsOf(e)) look(operand);
    else if (REPEATED.has(e.k)) found.set(exprKey(e), found.get(exprKey(e)) ?? `m${found.size}`);
    else for (const operand of operandsOf(e)) look(operand);
  };
  for (const need of functions.needs) if (need.depth > 0) look(need.e);
  return found;
}

/** Writes one function that walks the legal ways of an option. */
class Walk {
  private readonly buffers: Buffer[];
  private readonly last: number;
  /** What is the same for all candidates, each with the variable that keeps it once it was needed. */
  private readonly fixed: ReadonlyMap<string, string>;
  /** Knows where the cards lie that are gone through. */
  private x: ExprWriter;

  constructor(
    private readonly walked: Walked,
    private readonly name: string,
    private readonly sink: Sink,
  ) {
    this.last = walked.option.params.length;
    this.fixed = invariants(walked);
    this.x = walked.x.keeping(this.fixed);
    this.buffers = walked.option.params.map((_, i) => ({ items: `${name}b${i}`, count: `n${i}` }));
  }

  write(): string {
    const { option, functions } = this.walked;
    const { sink, name } = this;
    const exits: Exits = { skip: 'break walk;', stop: 'break walk;' };
    const guard = functions.when === null ? '' : `if(!${called(functions.when, 0)})${exits.skip}`;
    const arrays = option.params.flatMap(({ domain }, i) =>
      domain.k === 'range' ? [] : [`const ${this.buffers[i]?.items}=[];`],
    );
    // What does not depend on the parameters before it is found once, when it is first needed.
    const hoisted = option.params.map(({ domain }, i) =>
      domain.k === 'range' ? `let from${i}=0,to${i}=0,by${i}=0,n${i}=-1;` : `let n${i}=-1;`,
    );
    const fixed = this.fixed.size > 0 ? `let ${[...this.fixed.values()].join(',')};` : '';
    const left = option.params.length > 0 ? `let left=${MOST_TESTED};` : '';
    return js`
      ${arrays.join('')}function ${name}(${['s', 'v', ...sink.params].join(',')}){
        ${sink.before}${fixed}
        ${standsAt(option.at)}walk:{${guard}${this.needs(0, exits)}${left}${hoisted.join('')}${this.level(0, exits)}}
        ${sink.after}
      }`;
  }

  private needs(depth: number, { skip }: Exits): string {
    return this.walked.functions.needs
      .filter((need) => need.depth === depth)
      .map(({ e }) => `if(!${this.x.write(e)})${skip}`)
      .join('');
  }

  private level(i: number, exits: Exits): string {
    const param = this.walked.option.params[i];
    if (!param) return this.sink.found(exits);
    switch (param.domain.k) {
      case 'range':
        return this.range(i, exits);
      case 'values':
        return this.values(i, param, exits);
      case 'cards':
        return this.sets(i, param.domain, exits);
    }
  }

  /** Code that tests one candidate of a parameter and goes on with it. */
  private candidate(i: number, exits: Exits): string {
    const weighed = this.walked.functions.needs.filter((need) => need.depth === i + 1);
    const weight = weighed.reduce((sum, { e }) => sum + this.walked.module.lengths.weightOf(e), CANDIDATE);
    const counted = spend(weight, this.walked.option.at);
    const out = this.sink.until === undefined ? '--left<0' : `--left<0||ops>${this.sink.until}`;
    return `if(${out}){${this.sink.spent ?? ''}${exits.stop}}${counted}${this.needs(i + 1, exits)}${this.level(i + 1, exits)}`;
  }

  /** Code that passes over candidates which differ from a value that is given. */
  private agrees(i: number, differs: string, skip: string): string {
    const given = this.sink.given?.[i];
    if (!given) return '';
    return this.sink.mayBeFree ? `if(${given}!==null&&${differs})${skip}` : `if(${differs})${skip}`;
  }

  /** Finds something at each turn, or once where the parameters before do not matter. */
  private once(i: number, find: string): string {
    const { params } = this.walked.option;
    const { domain } = params[i] as Param;
    return isIndependent(domain, params.slice(0, i)) ? `if(n${i}<0){n${i}=0;${find}}` : `n${i}=0;${find}`;
  }

  private range(i: number, exits: Exits): string {
    const { from, to, by } = this.walked.functions.domains[i] as DomainFunctions;
    const step = by === 'null' ? '1' : `Math.max(1,${called(by, i)})`;
    const find = this.once(i, `from${i}=${called(from, i)};to${i}=${called(to, i)};by${i}=${step};`);
    const value = BRANCH[i] as string;
    const given = this.sink.given?.[i];
    const hasNeeds = this.walked.functions.needs.some((need) => need.depth === i + 1);
    // The top of a range is always there, even where the steps pass over it.
    const count = `(from${i}>to${i}?0:Math.ceil((to${i}-from${i})/by${i})+1)`;
    if (this.sink.block && i + 1 === this.last && !hasNeeds) {
      const block = { value, at: `Math.min(to${i},from${i}+k*by${i})`, count: `many${i}` };
      return `${find}const many${i}=${count};${this.sink.block(block, exits)}`;
    }
    const agrees = this.agrees(i, `${value}!==${given}`, 'continue;');
    return js`
      ${find}for(${this.sink.descends ? `let k${i}=${count}-1;k${i}>=0;k${i}--` : `let k${i}=0,many${i}=${count};k${i}<many${i};k${i}++`}){
        const ${value}=Math.min(to${i},from${i}+k${i}*by${i});
        ${agrees}${this.candidate(i, { ...exits, skip: 'continue;' })}
      }`;
  }

  private values(i: number, param: Param, exits: Exits): string {
    const { items, count } = this.buffers[i] as Buffer;
    const list = (param.domain as Extract<Domain, { k: 'values' }>).list;
    const direct = this.inPlace(i, param, list, exits);
    if (direct !== null) return direct;
    const find = this.once(i, fill(this.walked.x, list, { items, count }));
    const value = BRANCH[i] as string;
    const given = this.sink.given?.[i];
    const agrees = this.agrees(i, `${value}!==${given}`, 'continue;');
    const twin = this.sink.skipsTwins ? this.twin(param, items, i) : '';
    return `${find}for(let i${i}=0;i${i}<${count};i${i}++){const ${value}=${items}[i${i}];${agrees}${twin}${this.candidate(i, { ...exits, skip: 'continue;' })}}`;
  }

  /** A loop through a list where it lies, for those that need no buffer. */
  private inPlace(i: number, param: Param, list: Expr, exits: Exits): string | null {
    const value = BRANCH[i] as string;
    const given = this.sink.given?.[i];
    const agrees = this.agrees(i, `${value}!==${given}`, 'continue;');
    const { module } = this.walked;
    if (this.sink.skipsTwins && this.twin(param, '', i) !== '') return null;
    const inside = { ...exits, skip: 'continue;' };
    const counted = (from: number, to: number): string =>
      `for(let ${value}=${from};${value}<${to};${value}++){${agrees}${this.candidate(i, inside)}}`;
    if (list.k === 'seats') return counted(0, module.layout.seats.length);
    if (list.k === 'family' && !list.owner && !module.program.piles[list.i]?.open) {
      const [base, all] = this.x.familyRange(list);
      return counted(base, base + all);
    }
    const [piles] = list.k === 'fn' && list.f === 'cardsOf' ? list.args : [];
    if (piles?.k !== 'family' || piles.owner) return null;
    const [base, all] = this.x.familyRange(piles);
    const { start, len, cards } = module.parts;
    const row = { index: `j${i}`, first: `f${i}`, end: `e${i}` };
    const before = this.x;
    this.x = before.inside(new Map([[param.local, { js: value, isThere: true, row }]]));
    const turn = this.candidate(i, inside);
    this.x = before;
    return js`
      for(let p${i}=${base};p${i}<${base + all};p${i}++){
        const ${row.first}=${cards}+s.row[${start}+p${i}],${row.end}=${row.first}+s.row[${len}+p${i}];
        for(let ${row.index}=${row.first};${row.index}<${row.end};${row.index}++){
          const ${value}=s.row[${row.index}];${agrees}${turn}
        }
      }`;
  }

  /** Passes over a pile or card that is interchangeable with one before it. */
  private twin(param: Param, items: string, i: number): string {
    if (param.t !== 'pile' && param.t !== 'card') return '';
    if (!this.walked.module.program.piles.some((pile) => pile.alike)) return '';
    return `if(${param.t === 'pile' ? 'isTwinPile' : 'isTwinCard'}(s,${items},i${i}))continue;`;
  }

  private sets(i: number, domain: Extract<Domain, { k: 'cards' }>, exits: Exits): string {
    const { items, count } = this.buffers[i] as Buffer;
    const { least, most, grow } = this.walked.functions.domains[i] as DomainFunctions;
    const kept = i === 0 && this.sink.only ? keepOnly({ items, count }, this.sink.only) : '';
    const find = this.once(i, `${fillDistinct(this.walked.x, domain.list, { items, count })}${kept}`);
    const value = BRANCH[i] as string;
    const given = this.sink.given?.[i];
    const agrees = this.agrees(i, `!sameSet(${value},${given})`, 'return false;');
    const inside: Exits = { skip: 'return false;', stop: 'return true;' };
    const visit = `(${value})=>{${agrees}${this.candidate(i, inside)}return false;}`;
    const largest = most === 'null' ? count : called(most, i);
    const growing = grow === 'null' ? 'null' : `(${value})=>${called(grow, i + 1)}`;
    const spent = this.sink.spent === undefined ? 'null' : `()=>{${this.sink.spent}}`;
    const how = domain.shapes
      ? `eachShape([${domain.shapes.join(',')}],${items},${count},${visit},pay)`
      : `eachSet(${items},${count},${called(least, i)},${largest},${growing},${visit},pay,${spent})`;
    return `${find}if(${how})${exits.stop}`;
  }
}

/** Writes a function that does something with each legal way of an option, and gives its name. */
export const written = (walked: Walked, sink: Sink): string =>
  walked.module.helper((name) => new Walk(walked, name, sink).write());

/** The variables of an option's parameters. */
export const values = (walked: Walked): readonly string[] => BRANCH.slice(0, walked.option.params.length);
