import type { At } from '../../program/types.js';

/** Code that counts operations and faults at the limit. Written inline, because it is everywhere. */
export const spend = (count: number | string, at: At): string => `if((ops+=${count})>LIMIT)tooLong(${at});`;
