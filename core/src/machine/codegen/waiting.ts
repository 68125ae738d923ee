import { innerBlocks } from '../../program/tree.js';
import type { Ask, Option, Program, Stmt } from '../../program/types.js';

/** Locals of a routine that must outlive a wait: declared beside waiting statements, not inside structured ones. */
export function keptLocals(program: Program, body: readonly Stmt[]): number[] {
  const kept: number[] = [];
  const visit = (statements: readonly Stmt[]): void => {
    for (const s of statements) {
      if (s.s === 'let') kept.push(s.local);
      if (s.s === 'deal' && s.into !== null) kept.push(s.into);
      if (!waits(program, s)) continue;
      if (s.s === 'each' || s.s === 'for') kept.push(s.local);
      if (s.s === 'ask') {
        const ask = program.asks[s.ask];
        if (ask && ask.who.k !== 'one') kept.push(ask.who.local);
        for (const option of ask?.options ?? []) {
          if (ask?.who.k === 'every') continue;
          kept.push(...option.params.map((p) => p.local));
          visit(option.body);
        }
        if (ask?.stuck && ask.who.k !== 'every') visit(ask.stuck);
      }
      for (const inner of innerBlocks(s)) visit(inner);
    }
  };
  visit(body);
  return kept;
}

/** Whether a seat is stuck although it may choose an option: an aside leads nowhere. */
export const countsNotAsMove = (ask: Ask, option: Option): boolean => ask.stuck !== null && option.aside;

/** Whether an ask has an option that can always be chosen: then nobody has to look for one. */
export const hasCertainChoice = (ask: Ask): boolean =>
  ask.options.some(
    (option) =>
      option.params.length === 0 && option.when === null && option.needs.length === 0 && !countsNotAsMove(ask, option),
  );

/** Whether a statement can wait, itself or inside. */
export function waits(program: Program, s: Stmt): boolean {
  if (s.s === 'ask' || s.s === 'pause') return true;
  if (s.s === 'call') return program.routines[s.routine]?.waits === true;
  return innerBlocks(s).some((body) => body.some((inner) => waits(program, inner)));
}
