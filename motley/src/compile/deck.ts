import { type Face, layoutOf, SetupError } from '@wily-jester/core';
import type { Problem } from '../problems.js';
import { compileSheet } from './sheet.js';

const BEFORE = 'game "Deck" for 1 seat { deck ';

/** The faces of a deck as a sheet would declare it: `standard copies 2`, `ranks 7..A`, `numbered 1..60`. */
export function readDeck(
  text: string,
): { readonly faces: readonly Face[] } | { readonly problem: Pick<Problem, 'column' | 'message'> } {
  const { program, problems } = compileSheet(`${BEFORE}${text.replace(/\s+/g, ' ')} play { finish } }`);
  const [first] = problems.filter((p) => p.severity === 'error');
  if (!program) {
    const column = Math.min(Math.max(1, (first?.column ?? 1) - BEFORE.length), text.length + 1);
    return { problem: { column, message: first?.message ?? 'This is no deck.' } };
  }
  try {
    return { faces: layoutOf(program, { seats: ['Wren'] }).faces };
  } catch (error) {
    if (error instanceof SetupError) return { problem: { column: 1, message: error.message } };
    throw error;
  }
}
