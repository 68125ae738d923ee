import { ExprWriter } from './expressions.js';
import { fuse, inlined, neededFolds } from './fusion.js';
import { throughSeats } from './loops.js';
import type { Module } from './module.js';
import { standsAt } from './spend.js';

/**
 * The function that looks after each step what the sheet says is always so: it gives the place of the first
 * declaration that does not hold, or −1. It runs after every step, so what it asks of all seats is written out, and
 * what it counts of a pile is found again only when the pile has changed.
 */
export function alwaysCode(module: Module): string {
  const nowhere = new Map<number, never>();
  const clauses = module.program.always.map((declared, i) => {
    const body = inlined(module.program, module.lengths, declared.e);
    const folds = neededFolds(body, (of) => of.k === 'seats');
    const made =
      folds.size === 0
        ? null
        : fuse(folds, throughSeats(module.layout.seats.length), module.lengths, (fold) => {
            const inside = new Map([[fold.by.params[0] as number, { js: 'x', isThere: true }]]);
            return new ExprWriter(module, inside, { guarded: false, memoFolds: true }).write(fold.by.body);
          });
    const holds = new ExprWriter(module, nowhere, { guarded: false, made: made?.values, memoFolds: true }).write(body);
    const clause = `${standsAt(declared.at)}${made?.code ?? ''}if(!${holds})return ${i};`;
    // It held before this step: where nothing was written that it reads, it still does.
    return module.always[i] ? `if(written!==0){${clause}}` : `{${clause}}`;
  });
  return `function always(s){${clauses.join('')}return -1;}`;
}
