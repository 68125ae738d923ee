/** Cards, chance and the engine that runs rule sheets. */
export * from './cards/deck.js';
export * from './cards/face.js';
export * from './chance/chacha.js';
export * from './chance/commitment.js';
export * from './chance/generator.js';
export * from './chance/quick.js';
export { botNamed } from './engine/bots.js';
export {
  allows,
  countWays,
  isRefusal,
  judge,
  type Refusal,
  sampleChoice,
  type WireChoice,
  wordsOf,
} from './engine/choices.js';
export { digestOf, digestOfView, type Mac, meaningOf, pureMac } from './engine/digest.js';
export { Happenings, type Noted, type TableEvent } from './engine/events.js';
export { Fault, HiddenRead } from './engine/fault.js';
export { type Answer, Game, type Opening } from './engine/game.js';
export type { Offer, OfferedParam } from './engine/offers.js';
export type { PileView } from './engine/piles.js';
export { plannedSettings, planOf, type TablePlan } from './engine/plan.js';
export { knownNumber, readSettings, type Setup, SetupError, settingsRead, standardLimits } from './engine/setup.js';
export { shapeOf } from './engine/shape.js';
export { OPEN, WATCHER } from './engine/sight.js';
export { State } from './engine/state.js';
export { type Line, third } from './engine/telling.js';
export { plural } from './engine/text.js';
export type { ArgValue, Value } from './engine/values.js';
export type { PilesView, SeatView, View, Waiting } from './engine/view.js';
export { census, choose } from './hands/census.js';
export { bestFive, HandError, pokerHigh } from './hands/high.js';
export { aceToFive, deuceToSeven } from './hands/low.js';
export { CATEGORY_NAMES, handName, lowName } from './hands/naming.js';
export { type HandOdds, type Odds, type OddsQuestion, oddsOf } from './hands/odds.js';
export { HAND_CLASSES, type QuickRanker, quickRanker } from './hands/quick.js';
export { CATEGORIES, type Category, categoryOf, ranksOf, type Score } from './hands/score.js';
export { Coverage } from './play/coverage.js';
export { Found, type Json, patchText } from './play/patch.js';
export type { Branch, By, Header, Row } from './play/record.js';
export { redeal } from './play/redeal.js';
export { REGULARS } from './play/regulars.js';
export {
  type Rehearsal,
  type RehearsalResult,
  type RehearsalStep,
  type RehearsedChoice,
  rehearse,
  type Side,
} from './play/rehearsal.js';
export { ReplayError, replay, replayRow } from './play/replay.js';
export { type SoakFailure, type SoakReport, soak } from './play/soak.js';
export { isPlayed, type Mark, type Played, Table } from './play/table.js';
export { type Heard, Tale } from './play/tale.js';
export { lineWords, type OwnLine, ownLine } from './program/lines.js';
export { type CoveragePoint, coveragePoints, type PointKind } from './program/points.js';
export * from './program/types.js';
export { eachStmt } from './program/walk.js';
