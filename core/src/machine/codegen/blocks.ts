import type { Module } from './module.js';
import type { Place } from './places.js';
import type { Slots } from './slots.js';
import { type Code, type Jump, targetsOf, textOf } from './written.js';

/** The slots of one routine that waits: its locals, and what its loops keep, in the state. */
export interface Frame {
  readonly places: Map<number, Place>;
  /** Where the caller goes on. */
  readonly returnSlot: number;
}

/** The script under way, as the writer of one routine sees it. */
export interface BlockWriter {
  readonly module: Module;
  readonly slots: Slots;
  readonly frames: ReadonlyMap<number, Frame>;
  /** Makes a block. */
  block(): number;
  /** Goes on at the end of a block. */
  at(block: number): void;
  emit(code: string | Code): void;
  /** Notes that a routine is called, and where its caller goes on. */
  called(routine: number, from: number): void;
  /** The first block of a routine. */
  entry(routine: number): number;
  /** Records the sheet position of a block whose number a state may hold: a caller's, or a resting place. */
  place(block: number, at: number, isRest: boolean): void;
}

/** Blocks up to this length are repeated at each jump to them, in characters. */
const SHORT = 90;
/** Greatest nesting of blocks: JavaScript engines parse recursively. */
const DEEPEST = 30;

/**
 * The blocks of a script, each with its number, as cases of one loop. A block with one jump to it is written in its
 * place, and so are short ones: every turn of the loop costs a jump that the processor cannot predict.
 * Work and code are linear in the blocks.
 * @param kept blocks that are entered by their number alone: where a state rests, and where routines return to
 */
export function casesOf(blocks: readonly Code[], kept: ReadonlySet<number>): string[] {
  const uses = new Array<number>(blocks.length).fill(0);
  for (const block of blocks) for (const to of targetsOf(block)) uses[to] = (uses[to] as number) + 1;
  const short = new Set<number>();
  for (const [block, code] of blocks.entries())
    if (!kept.has(block) && (uses[block] as number) > 1 && targetsOf(code).length <= 1 && textOf(code).length <= SHORT)
      short.add(block);
  // Short ones are repeated as they are: where they go on there must be a case.
  const cases = new Set(kept);
  for (const block of short) for (const to of targetsOf(blocks[block] as Code)) cases.add(to);
  for (const block of cases) short.delete(block);
  for (const block of blocks.keys()) if ((uses[block] as number) > 1 && !short.has(block)) cases.add(block);
  const expand = (block: number, depth: number): string => {
    const inPlace = (jump: Jump): string => {
      if (jump.to === 'caller' || cases.has(jump.block)) return textOf([jump]);
      if (short.has(jump.block)) return `{${textOf(blocks[jump.block] as Code)}}`;
      if (depth < DEEPEST) return `{${expand(jump.block, depth + 1)}}`;
      cases.add(jump.block);
      return textOf([jump]);
    };
    return textOf(blocks[block] as Code, inPlace);
  };
  const written: string[] = [];
  // Those that were added on the way come at the end.
  for (const block of cases) written.push(`case ${block}:{${expand(block, 0)}}`);
  return written;
}
