import type { PointKind } from '../../program/points.js';
import type { At, Def, Expr, Program } from '../../program/types.js';
import type { StateLayout } from '../layout.js';
import { type RowOffsets, rowOffsets } from '../state.js';
import { repeatedCalls } from './calls.js';
import { fuse, inlined, neededFolds } from './fusion.js';
import { Lengths } from './lengths.js';
import { throughList, throughPile } from './loops.js';
import { isMemoized, memoCode } from './memo.js';
import type { Place, Places } from './places.js';
import { spend } from './spend.js';
import { pieces } from './texts.js';
import { variablesOf } from './watch.js';
import type { Pools, WriterFactory } from './writer.js';

/** Variants of a table's code. */
export interface Mode {
  /** Every statement, choice and guard notes that it was reached. */
  readonly covering: boolean;
  /** No events are recorded. */
  readonly quiet: boolean;
  /** What seats have seen is kept, even where the sheet never asks for it. */
  readonly tracking: boolean;
  /** Whole piles that are moved keep promises too. */
  readonly rehearsing: boolean;
  /** What the sheet counts is counted. */
  readonly counting: boolean;
  /** Cards are promised to piles. */
  readonly promised: boolean;
}

/** A piece of generated code under way: its functions, and the constants that it reads. */
export class Module implements Pools {
  readonly program: Program;
  readonly texts: string[] = [];
  readonly wordLists: string[][] = [];
  private readonly functions: string[] = [];
  private readonly defs = new Map<string, string>();
  /** What each "always" reads, where that is variables alone. */
  readonly always: readonly (ReadonlySet<number> | null)[];
  /** Whether the sheet asks what a seat has seen: only then is it kept. */
  asksWhatWasSeen = false;
  private names = 0;
  readonly lengths: Lengths;
  /** Where the rows of a state begin. */
  readonly parts: RowOffsets;

  constructor(
    readonly layout: StateLayout,
    readonly mode: Mode,
    private readonly writerFor: WriterFactory<Module>,
  ) {
    const { program } = layout;
    this.program = program;
    this.lengths = new Lengths(program);
    this.parts = rowOffsets({ cards: layout.faces.length, piles: layout.piles.length });
    // Coverage must see every evaluation.
    this.always = program.always.map(({ e }) => (mode.covering ? null : variablesOf(program, e)));
  }

  /** Code that notes that a variable is written which an "always" may look at. */
  written(variable: number): string {
    return this.always.some((reads) => reads?.has(variable)) ? 'written=1;' : '';
  }

  /** A text goes into the constant pool, never into the code. */
  text(text: string): string {
    let i = this.texts.indexOf(text);
    if (i < 0) i = this.texts.push(text) - 1;
    return `TEXTS[${i}]`;
  }
  words(list: readonly string[]): string {
    const same = (other: readonly string[]): boolean =>
      other.length === list.length && other.every((w, i) => w === list[i]);
    let i = this.wordLists.findIndex(same);
    if (i < 0) i = this.wordLists.push([...list]) - 1;
    return `WORDS[${i}]`;
  }

  /** Code that notes that a place of the sheet was reached, where that is wanted. */
  mark(kind: PointKind, at: At): string {
    return this.mode.covering ? `hit(${this.text(kind)},${at});` : '';
  }

  /** The head of a loop over a list: all seats are counted, which is quicker than to go through their list. */
  each(js: string, list: string): string {
    return list === 'seats'
      ? `for(let ${js}=0;${js}<${this.layout.seats.length};${js}++)`
      : `for(const ${js} of ${list})`;
  }

  /** Code that counts what a routine costs where it is called; short ones weigh where they stand. */
  counted(routine: number, at: At): string {
    const body = this.program.routines[routine]?.body ?? [];
    return this.lengths.isShortRoutine(routine) ? '' : spend(1 + this.lengths.weightOfBlock(body), at);
  }

  add(source: string): void {
    this.functions.push(source);
  }
  helper(write: (name: string) => string): string {
    const name = `h${this.names++}`;
    this.functions.push(write(name));
    return name;
  }

  /**
   * The function of a def, written when first needed for such arguments.
   * @param asPiles which arguments are lists of cards that are handed over as piles
   * @param areThere which are never nothing
   */
  def(i: number, asPiles: readonly boolean[], areThere: readonly boolean[], guarded: boolean): string {
    const key = `${i} ${asPiles.map(Number).join('')} ${areThere.map(Number).join('')} ${guarded}`;
    const known = this.defs.get(key);
    if (known) return known;
    const name = `d${i}_${this.names++}`;
    this.defs.set(key, name);
    const def = this.program.defs[i];
    if (!def) throw new Error(`there is no def ${i}`);
    const places = new Map<number, Place>(
      def.params.map((param, p) => [
        param.local,
        { js: `l${param.local}`, asPile: asPiles[p] === true, isThere: areThere[p] === true },
      ]),
    );
    const params = ['s', ...(guarded ? ['v'] : []), ...def.params.map((param) => `l${param.local}`)];
    const asPile = asPiles[0] === true;
    const remembered = isMemoized(this.program, def, asPile);
    const work = remembered ? `w${name}` : name;
    if (remembered)
      this.add(
        memoCode({
          name,
          work,
          cards: `l${def.params[0]?.local}`,
          asPile,
          guarded,
          viewers: this.layout.seats.length + 2,
        }),
      );
    const counted = this.lengths.isShort(i) ? '' : spend(1 + this.lengths.weightOf(def.body), def.body.at);
    this.add(
      `function ${work}(${params.join(',')}){${counted}${remembered ? this.ofCards(def, places, guarded) : this.result(def.body, places, guarded)}}`,
    );
    return name;
  }

  /** Code that gives the value of a def whose body is this. */
  private result(body: Expr, places: Places, guarded: boolean, made?: ReadonlyMap<string, string>): string {
    const kept = new Map(repeatedCalls(body).map((call, k) => [call, `m${k}`]));
    const variables = kept.size > 0 ? `let ${[...kept.values()].join(',')};` : '';
    return `${variables}return ${this.writerFor(this, places, { guarded, kept, made }).write(body)};`;
  }

  /** The same for a def of cards alone: what it always needs to go through, it goes through once. */
  private ofCards(def: Def, places: Places, guarded: boolean): string {
    const local = def.params[0]?.local ?? 0;
    const body = inlined(this.program, this.lengths, def.body);
    const cards = places.get(local);
    const folds = neededFolds(body, (of) => of.k === 'local' && of.i === local);
    if (folds.size < 2 || !cards) return this.result(def.body, places, guarded);
    const through = cards.asPile ? throughPile(this.parts, cards.js) : throughList(cards.js);
    const { code, values } = fuse(folds, through, this.lengths, (fold) => {
      const item: Place = { js: 'x', isThere: cards.asPile === true };
      const inside = new Map([...places, [fold.by.params[0] as number, item] as const]);
      return this.writerFor(this, inside, { guarded }).write(fold.by.body);
    });
    return code + this.result(body, places, guarded, values);
  }

  /** A function of the state, the viewer and some values. */
  fn(prefix: string, params: readonly string[], places: Places, e: Expr, guarded: boolean, asText = false): string {
    const name = `${prefix}${this.names++}`;
    const writer = this.writerFor(this, places, { guarded });
    this.add(`function ${name}(${params.join(',')}){return ${asText ? pieces(writer, e) : writer.write(e)};}`);
    return name;
  }

  get source(): string {
    return this.functions.join('\n');
  }
}
