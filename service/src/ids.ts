import { randomInt } from 'node:crypto';

/** Letters and digits that nobody takes for each other. */
const LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789';

/** An id that nobody can guess, for tables and trials. */
export const newId = (): string => Array.from({ length: 12 }, () => LETTERS[randomInt(LETTERS.length)]).join('');
