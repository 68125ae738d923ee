import { childrenOf, exprsOf } from '../../program/tree.js';
import type { Expr, Plain, Stmt } from '../../program/types.js';

/** Expressions that take the same time whatever they are given. */
const STEADY: ReadonlySet<Expr['k']> = new Set([
  'lit',
  'setting',
  'local',
  'me',
  'var',
  'pile',
  'seats',
  'suits',
  'owner',
  'op',
  'not',
  'neg',
  'if',
  'is',
  'face',
]);
const STEADY_FUNCTIONS: ReadonlySet<Plain> = new Set<Plain>([
  'score',
  'teamScore',
  'sizeOfPile',
  'emptyPile',
  'top',
  'abs',
  'min2',
  'max2',
  'faceUp',
  'nextSeat',
  'previousSeat',
  'nextRank',
  'teamOf',
  'nextTeam',
  'chance',
]);
const STEADY_STATEMENTS: ReadonlySet<Stmt['s']> = new Set([
  'deal',
  'set',
  'let',
  'if',
  'while',
  'repeat',
  'each',
  'for',
  'break',
  'return',
  'finish',
]);

function isSteady(e: Expr): boolean {
  if (e.t.startsWith('list:') && e.k !== 'seats') return false;
  const alone = e.k === 'field' ? e.f !== 'place' : e.k === 'fn' ? STEADY_FUNCTIONS.has(e.f) : STEADY.has(e.k);
  return alone && childrenOf(e).every((child) => isSteady(child) && !child.t.startsWith('list:'));
}

/**
 * Whether something of a statement itself is paid for by the size of its data: only then need its place be noted, for
 * whatever else counts knows where it stands.
 */
export const isCostly = (s: Stmt): boolean =>
  !STEADY_STATEMENTS.has(s.s) || exprsOf(s).some((e) => e !== null && !isSteady(e));
