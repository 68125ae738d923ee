/** The rule sheet language: reading, checking and compiling sheets and their rehearsals. */
export { type CheckedRehearsals, compileRehearsals } from './compile/rehearsal.js';
export { type Checked, compileSheet } from './compile/sheet.js';
export { keywords } from './grammar/parse.js';
export { listed, nearest, type Problem } from './problems.js';
