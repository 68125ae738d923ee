import type { Type } from '../../program/types.js';

/** Types whose values are small whole numbers: read as 32-bit integers, they index without a conversion. */
const isSmall = (t: Type): boolean =>
  t === 'seat' ||
  t === 'card' ||
  t === 'pile' ||
  t === 'rank' ||
  t === 'suit' ||
  t === 'color' ||
  t === 'team' ||
  t.startsWith('kind:');

/** How a slot of the state is read: flags are kept as 0 and 1. */
export function read(slot: string, t: Type): string {
  return t === 'flag' ? `(${slot}!==0)` : isSmall(t) ? `(${slot}|0)` : slot;
}

/** What is written to, of what {@link read} gave: the slot itself. */
export const lvalue = (js: string): string => /^\((.*)(?:!==0|\|0)\)$/.exec(js)?.[1] ?? js;

/** What is written to a place that {@link read} reads. */
export const stored = (js: string, value: string): string => (js.endsWith('!==0)') ? `Number(${value})` : value);

/** Slots at the head of the state, and those of loops and calls, as 32-bit integers. */
export const whole = (slot: string | number): string => `(${typeof slot === 'number' ? `s.f[${slot}]` : slot}|0)`;

/** Hands out slots in the state. */
export class Slots {
  numbers = 0;
  refs = 0;
  /** What each slot is called, for digests: routine and local. */
  readonly numberNames: string[] = [];
  readonly refNames: string[] = [];
  constructor(
    readonly numberBase: number,
    readonly refBase: number,
  ) {}
  number(name: string): number {
    this.numberNames.push(name);
    return this.numberBase + this.numbers++;
  }
  ref(name: string): number {
    this.refNames.push(name);
    return this.refBase + this.refs++;
  }
}
