/** The rule sheet language: reading, checking, compiling and laying out sheets and their rehearsals. */
export { type Reveal, revealsOf } from './check/reveals.js';
export { readDeck } from './compile/deck.js';
export { type CheckedRehearsals, compileRehearsals } from './compile/rehearsal.js';
export { type Checked, compileSheet } from './compile/sheet.js';
export { format } from './format/format.js';
export { KEYWORDS } from './grammar/generated/words.js';
export { bundledPartNames, bundledParts, type Parts } from './parts/library.js';
export { problemsOfPart } from './parts/paste.js';
export { listed, nearest, type Problem } from './problems.js';
