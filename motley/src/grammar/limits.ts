import type { AstNode } from '#langium';
import type { Problem } from '../problems.js';
import { placeOf } from './places.js';

/** How deep expressions and statements may stand inside each other, the links of a chain of one operator not counted. */
export const DEEPEST_TREE = 64;
/** The same with those links: a sum of 200 terms is 200 deep. */
const DEEPEST_CHAIN = 256;
/** Longest name, in characters. */
const LONGEST_NAME = 60;
/** Most digits of a number: those of the largest whole number that is exact. */
const MOST_DIGITS = 16;

/** Names that every object has in JavaScript, where a table's data goes by the sheet's names. */
const TAKEN: ReadonlySet<unknown> = new Set(Object.getOwnPropertyNames(Object.prototype));

const isNode = (value: unknown): value is AstNode => typeof value === 'object' && value !== null && '$type' in value;

interface Visit {
  readonly node: AstNode;
  readonly depth: number;
  readonly links: number;
}

/** The nodes directly inside one; a link of a chain goes no deeper. */
function inside({ node, depth, links }: Visit): Visit[] {
  const operator = (of: AstNode): unknown => ('op' in of ? of.op : undefined);
  const found: Visit[] = [];
  for (const [key, value] of Object.entries(node)) {
    if (key.startsWith('$')) continue;
    for (const child of Array.isArray(value) ? value : [value]) {
      if (!isNode(child)) continue;
      const isLink = key === 'left' && operator(child) !== undefined && operator(child) === operator(node);
      found.push({ node: child, depth: isLink ? depth : depth + 1, links: links + 1 });
    }
  }
  return found;
}

function wrongWith({ node, depth, links }: Visit): string | null {
  if (depth > DEEPEST_TREE || links > DEEPEST_CHAIN)
    return `What stands here is nested more than ${depth > DEEPEST_TREE ? DEEPEST_TREE : DEEPEST_CHAIN} deep: give a part of it a name of its own, with a def or a let.`;
  for (const value of Object.values(node)) {
    if (TAKEN.has(value))
      return `"${String(value)}" cannot be a name here: programs in JavaScript, which read a table's data, keep it for themselves. Choose another name.`;
    if (typeof value === 'string' && value.length > LONGEST_NAME && /^\w+$/.test(value))
      return /^\d/.test(value) && value.length > MOST_DIGITS
        ? `Numbers have at most ${MOST_DIGITS} digits.`
        : `"${value.slice(0, 20)}…" has ${value.length} characters: names have at most ${LONGEST_NAME}.`;
  }
  return null;
}

/**
 * What is past the limits of a tree that was read, the first one. Whatever walks trees afterwards may call itself for
 * what stands inside: it cannot go deeper than this.
 */
export function pastLimits(document: AstNode): Problem | null {
  const stack: Visit[] = [{ node: document, depth: 1, links: 1 }];
  for (let visit = stack.pop(); visit; visit = stack.pop()) {
    const wrong = wrongWith(visit);
    if (wrong !== null) return { severity: 'error', ...placeOf(visit.node), message: wrong };
    stack.push(...inside(visit).reverse());
  }
  return null;
}
