export { type ProblemDetails, problemSchema, SHOWN, type SheetProblem, tableId } from './common.js';
export * from './drafts.js';
export * from './fairness.js';
export * from './live.js';
export * from './record.js';
export * from './sheets.js';
export * from './tables.js';
export * from './trials.js';
export {
  type Analysis,
  analysisSchema,
  type Choice,
  type Chosen,
  choiceSchema,
  chosenSchema,
  type Hint,
  hintSchema,
  type OfferedOption,
  type Offers,
  offersSchema,
  type PileState,
  type PilesState,
  type SpokenLine,
  type Step,
  type StepEvent,
  stepsSchema,
  type TableView,
  viewSchema,
} from './views.js';
