import {
  columnOf,
  type Domain,
  type Expr,
  eachStmt,
  lineOf,
  type Option,
  type Program,
  preferredOf,
} from '@wily-jester/core';
import type { Sheet } from '../symbols/scope.js';

/** So many ways to choose an option are tested at most, one by one. */
const MOST_TESTED = 65_536;

/** The most cards that a pile gets by a deal of a number that is written; 1 where none is. */
function dealtTo(program: Program, pile: number): number {
  let most = 1;
  for (const routine of program.routines)
    eachStmt(routine.body, program.asks, (s) => {
      if (s.s !== 'deal' || s.count?.k !== 'lit') return;
      const isHere = s.to.k === 'seats' ? s.to.family === pile : s.to.k === 'pile' && pileIn(s.to.pile) === pile;
      if (isHere) most = Math.max(most, s.count.v);
    });
  return most;
}

const pileIn = (e: Expr): number => (e.k === 'pile' || e.k === 'family' ? e.i : -1);

/** How many items a list has at most, where that is known beforehand; 1 where it is not. */
function sizeOf(program: Program, list: Expr): number {
  switch (list.k) {
    case 'suits':
      return 4;
    case 'ranks':
      return 13;
    case 'seats':
      return Math.max(...program.seats);
    case 'list':
      return list.items.length;
    case 'sift':
      return sizeOf(program, list.of);
    case 'cards':
      return dealtTo(program, pileIn(list.of));
    default:
      return 1;
  }
}

/** In how many ways so many of so many can be taken: n over k. */
function over(n: number, k: number): number {
  let ways = 1;
  for (let i = 0; i < k; i++) ways = (ways * (n - i)) / (i + 1);
  return ways;
}

/** How many values a parameter has, where that is known beforehand; 1 where it is not. */
function valuesOf(program: Program, domain: Domain): number {
  if (domain.k === 'range') {
    const { from, to, by } = domain;
    if (from.k !== 'lit' || to.k !== 'lit' || (by !== null && by.k !== 'lit')) return 1;
    return Math.max(1, Math.ceil((to.v - from.v) / Math.max(1, by?.v ?? 1)) + 1);
  }
  const size = sizeOf(program, domain.list);
  if (domain.k === 'values') return size;
  // Sets that must grow under a condition are seldom all looked at, and shapes are few.
  if (domain.shapes !== null || domain.grow !== null || domain.least.k !== 'lit') return 1;
  const most = domain.most === null ? size : domain.most.k === 'lit' ? Math.min(size, domain.most.v) : domain.least.v;
  let ways = 0;
  for (let k = domain.least.v; k <= most; k++) ways += over(size, k);
  return Math.max(1, ways);
}

/** A need that reads several values can only be met by going through them all; one value in a range is found without. */
const mustSearch = (option: Option): boolean =>
  option.needs.some((need) => need.depth > 1 || (need.depth === 1 && option.params[0]?.domain.k === 'cards'));

/** Bots' lines with more ways than are ever weighed, so that the most preferred one may be missed. */
function tooManyWeighed(sheet: Sheet, program: Program, option: Option, ways: number): void {
  for (const bot of program.bots)
    for (const line of bot.lines) {
      if (line.option !== option.name || (!line.prefer && !line.when) || preferredOf(program, option, line)) continue;
      const given = option.params.filter((_, i) => line.args?.[i]);
      const left = given.reduce((n, param) => n / valuesOf(program, param.domain), ways);
      if (left <= MOST_TESTED) continue;
      const column = columnOf(line.at);
      sheet.warn(
        { line: lineOf(line.at), column, endColumn: column + line.option.length },
        `"${line.option}" has ${Math.round(left).toLocaleString('en')} ways or more, and "${bot.name}" weighs ${MOST_TESTED.toLocaleString('en')} of them: it plays the best of the first. ` +
          `Give one of the values, or prefer a sum of the cards, how many they are, or an amount itself: that is found among all.`,
      );
    }
}

/** Options with more ways than are ever tested, so that a legal one may be missed. */
export function tooManyWays(sheet: Sheet, program: Program): void {
  for (const ask of program.asks)
    for (const option of ask.options) {
      const ways = option.params.reduce((product, param) => product * valuesOf(program, param.domain), 1);
      if (ways <= MOST_TESTED) continue;
      tooManyWeighed(sheet, program, option, ways);
      if (!mustSearch(option)) continue;
      const column = columnOf(option.at);
      sheet.warn(
        { line: lineOf(option.at), column, endColumn: column + 'option'.length },
        `"${option.name}" has ${ways.toLocaleString('en')} ways or more, and at most ${MOST_TESTED.toLocaleString('en')} are tested: ask twice in turn, narrow what is chosen from, or let a later one read the ones before it.`,
      );
    }
}
