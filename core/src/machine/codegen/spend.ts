import type { At } from '../../program/types.js';

/** Code that counts operations and faults at the limit. Written inline, because it is everywhere. */
export const spend = (count: number | string, at: At): string => `if((ops+=${count})>limit)tooDear(${at},limit);`;

/** The same for what is counted at the place that was noted last (see {@link standsAt}). */
export const pay = (count: number | string): string => `pay(${count});`;

/** Code that notes a place of the sheet: what the runtime's functions cost from here on is told with its line. */
export const standsAt = (at: At): string => `here=${at};`;
