import { operandsOf, withChildren } from '../../program/tree.js';
import type { Expr, ExprOf, Fold, Program } from '../../program/types.js';
import type { Lengths } from './lengths.js';
import type { Through } from './loops.js';
import { isMemoized } from './memo.js';
import { spend } from './spend.js';

/** Locals of calls that were written out get numbers that no sheet reaches. */
const FIRST_FRESH = 10_000;

/** What stands for the locals of a def that is written out. */
type Named = ReadonlyMap<number, Expr>;

/** A card and all above it in its pile: it is read where it lies, so it may stand in several places. */
const isTail = (e: Expr): boolean => e.k === 'fn' && e.f === 'tail' && e.args[0]?.k === 'local';

/**
 * A def's body with the short defs written out that it calls with nothing but locals, or tails of locals: what they go through can be
 * gone through together then. Those that are remembered stay calls.
 */
export function inlined(program: Program, lengths: Lengths, body: Expr): Expr {
  let fresh = FIRST_FRESH;
  const all = (e: Expr, named: Named): Expr => {
    if (e.k === 'local') return named.get(e.i) ?? e;
    if (e.k === 'call') {
      const def = program.defs[e.def];
      const isPlain = e.args.every((arg) => arg.k === 'local' || isTail(arg));
      if (def && lengths.isShort(e.def) && isPlain && !isMemoized(program, def, true))
        return all(def.body, new Map(def.params.map((param, p) => [param.local, all(e.args[p] as Expr, named)])));
    }
    return withChildren(
      e,
      (operand) => all(operand, named),
      (by) => {
        const params = by.params.map(() => fresh++);
        const inside = new Map([
          ...named,
          ...by.params.map((param, i): [number, Expr] => [
            param,
            { k: 'local', t: 'int', at: e.at, i: params[i] as number },
          ]),
        ]);
        return { params, body: all(by.body, inside) };
      },
    );
  };
  return all(body, new Map());
}

/** What makes two folds over the same cards the same: all but where they stand, and how they call the item. */
export function foldKey(e: ExprOf<'fold'>): string {
  const [item] = e.by.params;
  return JSON.stringify([e.f, e.of, e.by.body], (key, value: unknown) => {
    if (key === 'at') return undefined;
    const { k, i } = (value ?? {}) as { k?: string; i?: number };
    return k === 'local' && i === item ? 'the item' : value;
  });
}

/** What each kind of fold starts with, and does at an item: the item's own value is `by`, what it has so far is `n`. */
const STEPS: Partial<Record<Fold, { readonly first: string; readonly step: (n: string, by: string) => string }>> = {
  any: { first: 'false', step: (n, by) => `if(!${n}&&${by})${n}=true;` },
  all: { first: 'true', step: (n, by) => `if(${n}&&!${by})${n}=false;` },
  none: { first: 'true', step: (n, by) => `if(${n}&&${by})${n}=false;` },
  count: { first: '0', step: (n, by) => `if(${by})${n}++;` },
  sum: { first: '0', step: (n, by) => `${n}+=${by};` },
};

type Folds = ReadonlyMap<string, ExprOf<'fold'>>;

/**
 * The folds that an expression needs whatever the cards are, each once under its key.
 * @param isOver whether these items are the ones that are gone through
 */
export function neededFolds(e: Expr, isOver: (of: Expr) => boolean): Folds {
  const found = new Map<string, ExprOf<'fold'>>();
  const add = (more: Folds): void => {
    for (const [key, fold] of more) found.set(key, found.get(key) ?? fold);
  };
  // Of two branches one is taken: what both need is needed.
  if (e.k === 'if') {
    add(neededFolds(e.c, isOver));
    const other = neededFolds(e.b, isOver);
    for (const [key, fold] of neededFolds(e.a, isOver)) if (other.has(key)) found.set(key, fold);
    return found;
  }
  if (e.k === 'op' && (e.op === 'and' || e.op === 'or')) return neededFolds(e.a, isOver);
  if (e.k === 'fold' && isOver(e.of) && e.by.params.length === 1 && STEPS[e.f]) return new Map([[foldKey(e), e]]);
  for (const operand of operandsOf(e)) add(neededFolds(operand, isOver));
  return found;
}

/** Code that made folds, and the variable that holds the value of each. */
export interface Fused {
  readonly code: string;
  readonly values: ReadonlyMap<string, string>;
}

/**
 * Goes through some items once for several folds.
 * @param writeBy writes what a fold asks of an item, which stands in `x`
 */
export function fuse(folds: Folds, through: Through, lengths: Lengths, writeBy: (e: ExprOf<'fold'>) => string): Fused {
  const values = new Map<string, string>();
  const firsts: string[] = [];
  const steps: string[] = [];
  const checks: string[] = [];
  let place = 0;
  let weight = 0;
  for (const [key, fold] of folds) {
    const how = STEPS[fold.f];
    if (!how) continue;
    const n = `n${values.size}`;
    values.set(key, n);
    firsts.push(`${n}=${how.first}`);
    steps.push(how.step(n, writeBy(fold)));
    if (fold.f === 'sum') checks.push(`chk(${n},${fold.at});`);
    place = fold.at;
    weight += 1 + lengths.weightOf(fold.by.body);
  }
  const counted = spend(`${weight}*${through.size}`, place);
  return { code: `${counted}let ${firsts.join(',')};${through.head}${steps.join('')}}${checks.join('')}`, values };
}
