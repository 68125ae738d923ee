/** What an editor in a page needs of the language: one text among the files of its game, and what may be asked of it. */
export { Analysis, type Place, RenameError, type Suggestion } from './editing/analysis.js';
export { familyOf, type Texts } from './editing/family.js';
export { expectationsAt, type Kept, keptAs, type RefusedChoice } from './editing/rehearsing.js';
