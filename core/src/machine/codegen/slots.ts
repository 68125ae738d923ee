import type { Type } from '../../program/types.js';
import { isRef } from '../layout.js';
import type { Place, Slot } from './places.js';

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

/** A value of a type that is kept in a slot: flags are read as booleans, small numbers as 32-bit integers. */
export function placeIn(slot: string, t: Type): Place {
  const isFlag = t === 'flag';
  const js = isFlag ? `(${slot}!==0)` : isSmall(t) ? `(${slot}|0)` : slot;
  return { js, slot: { js: slot, isRef: isRef(t), isFlag } };
}

/** Code that writes a value to a place. */
export function assign({ js, slot }: Place, value: string): string {
  return slot ? `${slot.js}=${slot.isFlag ? `Number(${value})` : value};` : `${js}=${value};`;
}

/** Code that empties a slot. */
export const cleared = ({ js, isRef }: Slot): string => `${js}=${isRef ? 'null' : '0'};`;

/** Slots at the head of the state, and those of loops and calls, as 32-bit integers. */
export const whole = (slot: string | number): string => `(${typeof slot === 'number' ? `s.f[${slot}]` : slot}|0)`;

/** Hands out slots in the state. */
export class Slots {
  numbers = 0;
  refs = 0;
  /** What each slot is called, for digests: routine and local. */
  readonly numberNames: string[] = [];
  readonly refNames: string[] = [];
  /** The type of what stands in each. */
  readonly numberTypes: Type[] = [];
  readonly refTypes: Type[] = [];
  constructor(
    readonly numberBase: number,
    readonly refBase: number,
  ) {}
  /** A slot for a number. */
  number(name: string, t: Type = 'int'): number {
    this.numberNames.push(name);
    this.numberTypes.push(t);
    return this.numberBase + this.numbers++;
  }
  /** A slot for a list or a text. */
  ref(name: string, t: Type): number {
    this.refNames.push(name);
    this.refTypes.push(t);
    return this.refBase + this.refs++;
  }
}
