import { Exit, WRONG_USE } from './exit.js';

/** Reads a whole number of an option. @throws Exit outside the limits */
export function wholeNumber(name: string, text: string, from: number, to: number): number {
  const n = Number(text);
  if (Number.isInteger(n) && n >= from && n <= to) return n;
  throw new Exit(`${name} is a whole number from ${from} to ${to}, not "${text}".`, WRONG_USE);
}
