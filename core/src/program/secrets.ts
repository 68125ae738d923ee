/** Which expressions read hidden cards, and what a sheet keeps of them in plain values: where information flows, statically. */
import type { Expr } from './expressions.js';
import { blocksOf, eachExprIn, eachStmt, exprsOf } from './tree.js';
import type { At, Program, Stmt } from './types.js';

/** Clauses that are looked at together; `null` stands for one that is not there. */
export type Pieces = readonly (Expr | null)[];

/** Names of the hidden things that a local was made from. */
export type Taints = ReadonlyMap<number, readonly string[]>;

/** What an expression looks at, the bodies of defs that it calls included. */
export interface Looked {
  /** Whether it reads anything of a card but where it lies. */
  readonly faces: boolean;
  /** Piles that not everybody sees, and private variables, by name. */
  readonly piles: ReadonlySet<string>;
  readonly variables: ReadonlySet<string>;
  /** Locals and variables that it reads, by number. */
  readonly locals: ReadonlySet<number>;
  readonly vars: ReadonlySet<number>;
}

/** What expressions look at. */
export function looksAt(program: Program, pieces: Pieces, taints: Taints): Looked {
  const found = {
    piles: new Set<string>(),
    variables: new Set<string>(),
    locals: new Set<number>(),
    vars: new Set<number>(),
  };
  let faces = false;
  const followed = new Set<number>();
  const visit = (e: Expr): void => {
    switch (e.k) {
      case 'field':
        if (e.f !== 'place' && e.f !== 'pile') faces = true;
        break;
      case 'is':
      case 'hand':
      case 'bestFive':
      case 'fits':
      case 'largest':
      case 'arranged':
      case 'face':
        faces = true;
        break;
      case 'pile':
      case 'family':
      case 'cell': {
        const pile = program.piles[e.i];
        if (pile && pile.facing !== 'up') found.piles.add(pile.name);
        break;
      }
      case 'var':
        found.vars.add(e.i);
        if (program.vars[e.i]?.hidden) found.variables.add(program.vars[e.i]?.name ?? '');
        break;
      case 'local':
        if (followed.size > 0) break;
        found.locals.add(e.i);
        for (const name of taints.get(e.i) ?? []) found.variables.add(name);
        break;
      case 'call':
        if (!followed.has(e.def)) {
          followed.add(e.def);
          eachExprIn([program.defs[e.def]?.body ?? null], visit);
        }
        break;
      default:
    }
  };
  eachExprIn(pieces, visit);
  return { faces, ...found };
}

const DECIDES: ReadonlySet<Stmt['s']> = new Set(['if', 'while', 'repeat', 'each']);
/** What a statement decides by, if it decides anything. */
const conditionOf = (s: Stmt): Pieces => (DECIDES.has(s.s) ? exprsOf(s) : []);

/** A plain value that is made of hidden cards, and that nobody is shown. */
export interface KeptSecret {
  readonly variable: string;
  /** The names of what it is made of. */
  readonly of: readonly string[];
  readonly at: At;
}

/** Whether all are shown what a variable holds. */
const isShown = (program: Program, i: number): boolean => program.vars[i]?.label !== null;

/**
 * Variables that are set to something made of hidden cards, by the expression itself or by way of a local, and that
 * nobody is shown. Private ones are their seats' own.
 */
export function keptSecrets(program: Program): KeptSecret[] {
  const found: KeptSecret[] = [];
  for (const { body } of program.routines) {
    const taints = new Map<number, readonly string[]>();
    eachStmt(body, program.asks, (s) => {
      if (s.s !== 'let' && s.s !== 'set') return;
      const { faces, piles, variables, locals } = looksAt(program, [s.e], taints);
      const cards = [...locals].flatMap((local) => taints.get(local) ?? []);
      const made = [...new Set([...(faces || s.s === 'let' ? piles : []), ...variables, ...(faces ? cards : [])])];
      if (s.s === 'let') {
        if (made.length > 0) taints.set(s.local, made);
      } else if (s.target.k === 'var' && made.length > 0 && faces) {
        const variable = program.vars[s.target.i];
        if (variable && !variable.hidden && !isShown(program, s.target.i))
          found.push({ variable: variable.name, of: made, at: s.at });
      }
    });
  }
  return found;
}

/** Where a sheet says something to all that hangs on hidden cards: by its words, or by what decides whether it is said. */
export function tellingPlaces(program: Program): Set<At> {
  const places = new Set<At>();
  const isHidden = (pieces: Pieces): boolean => {
    const { faces, piles } = looksAt(program, pieces, new Map());
    return faces && piles.size > 0;
  };
  const walk = (body: readonly Stmt[], isInside: boolean): void => {
    for (const s of body) {
      const words = s.s === 'say' || s.s === 'chapter' ? [s.text] : null;
      if (words && (isInside || isHidden(words))) places.add(s.at);
      const decided = isInside || isHidden(conditionOf(s));
      for (const block of blocksOf(s, program.asks)) walk(block, decided);
    }
  };
  for (const { body } of program.routines) walk(body, false);
  return places;
}

/**
 * Whether what a sheet remembers from one wait to the next may hang on hidden cards, in any way: by what it is set to, or
 * by what decides whether it is set. It errs on the side of yes.
 */
export function mayKeepSecrets(program: Program): boolean {
  return program.routines.some(({ body }) => {
    let reads = false;
    let keeps = false;
    eachStmt(body, program.asks, (s) => {
      const pieces = s.s === 'let' || s.s === 'set' ? [s.e] : conditionOf(s);
      const { faces, piles, locals } = looksAt(program, pieces, new Map());
      if (faces && (piles.size > 0 || locals.size > 0)) reads = true;
      if (s.s === 'let' || (s.s === 'set' && s.target.k === 'var' && !isShown(program, s.target.i))) keeps = true;
    });
    return reads && keeps;
  });
}
