import { columnOf, type Domain, lineOf, type Option, type Program } from '@wily-jester/core';
import type { Sheet } from '../symbols/scope.js';

/** So many ways to choose an option are tested at most, one by one. */
const MOST_TESTED = 65_536;

/** How many values a parameter has, where that is known beforehand; 1 where it is not. */
function valuesOf(program: Program, domain: Domain): number {
  if (domain.k === 'range') {
    const { from, to, by } = domain;
    if (from.k !== 'lit' || to.k !== 'lit' || (by !== null && by.k !== 'lit')) return 1;
    return Math.max(1, Math.ceil((to.v - from.v) / Math.max(1, by?.v ?? 1)) + 1);
  }
  if (domain.k === 'cards') return 1;
  switch (domain.list.k) {
    case 'suits':
      return 4;
    case 'ranks':
      return 13;
    case 'seats':
      return Math.max(...program.seats);
    default:
      return 1;
  }
}

/** A need that reads several values can only be met by going through them all; one value in a range is found without. */
const mustSearch = (option: Option): boolean => option.params.length > 1 && option.needs.some((need) => need.depth > 1);

/** Options with more ways than are ever tested, so that a legal one may be missed. */
export function tooManyWays(sheet: Sheet, program: Program): void {
  for (const ask of program.asks)
    for (const option of ask.options) {
      if (!mustSearch(option)) continue;
      const ways = option.params.reduce((product, param) => product * valuesOf(program, param.domain), 1);
      if (ways <= MOST_TESTED) continue;
      const column = columnOf(option.at);
      sheet.warn(
        { line: lineOf(option.at), column, endColumn: column + 'option'.length },
        `"${option.name}" has ${ways.toLocaleString('en')} ways or more, and at most ${MOST_TESTED.toLocaleString('en')} are tested: narrow its ranges, or let a later one read the ones before it.`,
      );
    }
}
