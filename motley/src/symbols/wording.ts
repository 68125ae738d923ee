import type { Type } from '@wily-jester/core';
import { isList, itemOf, typeText } from './builtins.js';

const ARTICLES: Readonly<Record<string, string>> = {
  int: 'a number',
  flag: 'yes or no',
  nothing: 'nothing',
  text: 'a text',
  'list:card': 'a list of cards',
};
/** A type in a sentence: `a number`, `a seat`, `a list of seats`. */
export function article(t: Type, capital = false): string {
  const text = ARTICLES[t] ?? (isList(t) ? `a list of ${typeText(itemOf(t))}s` : `a ${typeText(t)}`);
  return capital ? text.charAt(0).toUpperCase() + text.slice(1) : text;
}
export const ordinal = (i: number): string => ['first', 'second', 'third', 'fourth', 'fifth'][i] ?? `${i + 1}th`;
export const counted = (n: number, word: string): string => `${n === 0 ? 'no' : n} ${word}${n === 1 ? '' : 's'}`;
