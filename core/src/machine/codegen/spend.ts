import type { At } from '../../program/types.js';

/** Code that counts operations of a step, and stops it at their limit. Written out, for it stands everywhere. */
export const spend = (count: number | string, at: At): string => `if((ops+=${count})>LIMIT)tooLong(${at});`;
