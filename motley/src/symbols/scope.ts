import type {
  At,
  Bot,
  Def,
  Expr,
  Kind,
  Local,
  Pile,
  Program,
  Routine,
  Setting,
  Shape,
  Tally,
  Type,
  Variable,
} from '@wily-jester/core';
import { at, byName } from '@wily-jester/core';
import type { AstNode } from '#langium';
import type { Can } from '../grammar/generated/ast.js';
import { placeOf, sourceOf } from '../grammar/places.js';
import { OTHER_NAMES } from '../grammar/slips.js';
import { listed, nearest, type Problem } from '../problems.js';
import { CONSTANTS, FUNCTIONS, RESERVED_NAMES } from './builtins.js';

/** The types that are not of the sheet's own making, as it writes them. */
const SIMPLE_TYPES = byName<Type>({
  int: 'int',
  flag: 'flag',
  seat: 'seat',
  card: 'card',
  rank: 'rank',
  suit: 'suit',
  color: 'color',
  pile: 'pile',
  text: 'text',
  cards: 'list:card',
  seats: 'list:seat',
  piles: 'list:pile',
  ints: 'list:int',
  team: 'team',
  teams: 'list:team',
  Poker: 'poker',
  Low: 'low',
  ranks: 'list:rank',
  suits: 'list:suit',
});

/** What a declared name stands for. */
export type Meaning =
  | { readonly k: 'setting'; readonly i: number }
  | { readonly k: 'pile'; readonly i: number }
  | { readonly k: 'var'; readonly i: number }
  | { readonly k: 'def'; readonly i: number }
  | { readonly k: 'routine'; readonly i: number }
  | { readonly k: 'member'; readonly kinds: { readonly kind: string; readonly v: number }[] };

export type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** A name that a sheet declares, as editors and checks want it. */
export interface Declared {
  readonly name: string;
  readonly what: string;
  readonly node: AstNode;
  uses: number;
}

/** So many errors are told of one sheet: more of them are as many more searches for names that are meant. */
const MOST_ERRORS = 100;

/** Nothing more of a sheet is looked at. */
class Enough extends Error {
  override readonly name = 'Enough';
}

/** What work on a sheet gives, or `undefined` where more is wrong than is told. */
export function untilEnough<T>(work: () => T): T | undefined {
  try {
    return work();
  } catch (error) {
    if (error instanceof Enough) return undefined;
    throw error;
  }
}

/** All that one run of the compiler knows of a sheet: its declarations, and the problems found so far. */
export class Sheet {
  readonly problems: Problem[] = [];
  readonly settings: Setting[] = [];
  readonly kinds: Kind[] = [];
  readonly shapes: Shape[] = [];
  /** How many teams the seats form. */
  teams = 0;
  readonly piles: Pile[] = [];
  readonly vars: Mutable<Variable>[] = [];
  /** Suits from low to high, where the sheet says so. */
  suitOrder: readonly number[] = [];
  readonly defs: Mutable<Def>[] = [];
  readonly routines: Mutable<Routine>[] = [];
  readonly bots: Mutable<Bot>[] = [];
  readonly tallies: Tally[] = [];
  readonly asks: Mutable<Program['asks'][number]>[] = [];
  readonly names = new Map<string, Meaning>();
  readonly declared = new Map<string, Declared>();
  /** Looks that asks declare, with their reasons. */
  readonly looks: DeclaredLook[] = [];
  readonly optionNames = new Set<string>();
  /** Where `can` stands, to be looked at when all options are known. */
  readonly cans: { readonly node: Can; readonly args: readonly (Expr | null)[] }[] = [];
  /** Parameter types of each option by name, from all asks that have it. */
  readonly optionParams = new Map<string, { name: string; t: Type; tail: boolean }[]>();

  /** @throws Enough where more is wrong than anybody reads */
  error(node: AstNode | { line: number; column: number; endColumn: number }, message: string, fix?: string): void {
    this.report('error', node, message, fix);
    if (++this.errors >= MOST_ERRORS) throw new Enough();
  }
  private errors = 0;

  /** Refuses what is too much of something: it is not gone through. @throws Enough */
  tooMuch(node: AstNode, message: string): never {
    this.report('error', node, message);
    throw new Enough();
  }

  /** Refuses a name that would hide what it means here already. */
  refuseHiding(node: AstNode, name: string): void {
    this.error(node, `"${name}" means something else here already. Nothing may be hidden by another of the same name.`);
  }
  warn(node: AstNode | { line: number; column: number; endColumn: number }, message: string, fix?: string): void {
    this.report('warning', node, message, fix);
  }
  private report(
    severity: Problem['severity'],
    node: AstNode | { line: number; column: number; endColumn: number },
    message: string,
    fix?: string,
  ): void {
    const place = 'line' in node ? node : placeOf(node as AstNode);
    const { line, column, endColumn } = place as { line: number; column: number; endColumn: number };
    if (this.problems.some((p) => p.line === line && p.column === column && p.message === message)) return;
    this.problems.push({ severity, line, column, endColumn, message, ...(fix === undefined ? {} : { fix }) });
  }

  at(node: AstNode): At {
    const place = placeOf(node);
    return at(place.line, place.column);
  }

  /** Declares a name once; a second declaration or a name of the language's own is a problem. */
  declare(name: string, node: AstNode, what: string, meaning: Meaning | null): boolean {
    if (RESERVED_NAMES.has(name)) {
      this.error(node, `"${name}" is a name of the language's own. Call this ${what} something else.`);
      return false;
    }
    const before = this.declared.get(name);
    if (before) {
      this.error(
        node,
        `"${name}" is declared already, as a ${before.what} in line ${placeOf(before.node).line}. Every name means one thing.`,
      );
      return false;
    }
    this.declared.set(name, { name, what, node, uses: 0 });
    if (meaning) this.names.set(name, meaning);
    return true;
  }

  use(name: string): void {
    const declared = this.declared.get(name);
    if (declared) declared.uses++;
  }

  /** An unknown name, with the nearest known one. */
  unknown(node: AstNode, name: string, known: Iterable<string>, what = 'name'): void {
    const other = OTHER_NAMES.get(name);
    const near = other === undefined ? nearest(name, known) : undefined;
    const place = placeOf(node);
    const source = sourceOf(node);
    const offset =
      source.endsWith(name) && place.endColumn - place.column === source.length ? source.length - name.length : 0;
    this.error(
      { line: place.line, column: place.column + offset, endColumn: place.endColumn },
      other !== undefined
        ? `There is no ${what} "${name}" here. ${other}`
        : near
          ? `There is no ${what} "${name}" here. Did you mean "${near}"?`
          : `There is no ${what} "${name}" here.`,
      near,
    );
  }

  readonly listed = listed;

  /** The numbers of shapes by name, or a problem. */
  shapesNamed(node: AstNode, names: readonly string[]): number[] {
    return names.flatMap((name) => {
      const i = this.shapes.findIndex((shape) => shape.name === name);
      if (i >= 0) {
        this.use(name);
        return [i];
      }
      this.unknown(
        node,
        name,
        this.shapes.map((shape) => shape.name),
        'shape',
      );
      return [];
    });
  }

  /** Compiles a def the first time that something needs its type. */
  ensureDef: (i: number) => void = () => {};

  knownNames(frame?: Frame): string[] {
    return [...(frame?.visible() ?? []), ...this.names.keys(), ...Object.keys(CONSTANTS), ...Object.keys(FUNCTIONS)];
  }

  typeNamed(node: AstNode, name: string): Type {
    const found = SIMPLE_TYPES[name];
    if (found) return found;
    if (this.kinds.some((kind) => kind.name === name)) return `kind:${name}`;
    if (this.piles.some((pile) => pile.name === name)) return 'pile';
    this.unknown(node, name, [...Object.keys(SIMPLE_TYPES), ...this.kinds.map((kind) => kind.name)], 'type');
    return 'nothing';
  }
}

/** A pile that an ask's options may read though nothing proves that their seat sees it, and why it does. */
export interface DeclaredLook {
  readonly ask: number;
  readonly node: AstNode;
  readonly line: number;
  readonly reason: string;
}

/** Where code stands: its locals, what it may do there, and who looks. */
export class Frame {
  readonly locals: Local[] = [];
  private readonly scopes: Map<string, number>[] = [new Map()];
  /** Locals that are read somewhere. */
  readonly read = new Set<number>();
  /** Locals that stand for a card and all above it in its pile. */
  readonly tails = new Set<number>();
  /** Locals that may be assigned to. */
  readonly changeable = new Set<number>();

  constructor(
    readonly what: 'def' | 'routine' | 'top' | 'bot' | 'probe',
    /** A seat that `me` stands for. */
    readonly hasMe: boolean,
    /** Rehearsals call seats by name. */
    readonly seatNames: ReadonlyMap<string, number> = new Map(),
  ) {}

  open(): void {
    this.scopes.push(new Map());
  }
  close(): void {
    this.scopes.pop();
  }
  add(name: string, t: Type, inner = false): number {
    const i = this.locals.length;
    this.locals.push({ name, t, inner });
    this.scopes.at(-1)?.set(name, i);
    return i;
  }
  find(name: string): number | undefined {
    for (let i = this.scopes.length - 1; i >= 0; i--) {
      const found = this.scopes[i]?.get(name);
      if (found !== undefined) return found;
    }
    return undefined;
  }
  visible(): string[] {
    return this.scopes.flatMap((scope) => [...scope.keys()]);
  }
}
