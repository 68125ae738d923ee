/** Cards, chance and the engine that runs rule sheets. */

export { Audit, type AuditReport, type Deck, smallestFor } from './audit/audit.js';
export { LineError, ShuffleLines, type Start } from './audit/lines.js';
export { meanRising, riffleDistance } from './audit/riffles.js';
export { type NamedShuffle, namedShuffle, SHUFFLE_NAMES, ShuffleError } from './audit/shuffles.js';
export * from './cards/deck.js';
export * from './cards/face.js';
export * from './chance/chacha.js';
export * from './chance/commitment.js';
export * from './chance/generator.js';
export * from './chance/quick.js';
export type { Sha256 } from './chance/short-hmac.js';
export { cardsThatCame } from './drafts/keeping.js';
export { type Broken, type Made, Playback } from './drafts/playback.js';
export { type NamedValue, type NameNow, Values } from './drafts/values.js';
export { FAIR_FORM, type FairLine, lettersOf, linkOf, type PromisedShuffle } from './fair/lines.js';
export { fromHex, toHex } from './fair/messages.js';
export { factsHash, type Gave, type OpeningFacts, Pledge, seatPromise, serviceCommitment } from './fair/pledge.js';
export { FairFormError, readFairness } from './fair/reading.js';
export { type GatheringState, ProtocolError, SeatChance, type SeatMove } from './fair/seat-chance.js';
export { type Check, type Verdict as FairVerdict, verifyFairness } from './fair/verify.js';
export { census, choose } from './hands/census.js';
export { bestFive, HandError, pokerHigh } from './hands/high.js';
export { type Held, holdsOf } from './hands/holds.js';
export { aceToFive, deuceToSeven } from './hands/low.js';
export { CATEGORY_NAMES, handName, lowName } from './hands/naming.js';
export { type HandOdds, type Odds, type OddsQuestion, oddsOf } from './hands/odds.js';
export { HAND_CLASSES, type QuickRanker, quickRanker } from './hands/quick.js';
export { CATEGORIES, type Category, categoryOf, ranksOf, type Score } from './hands/score.js';
export { kindAt, letterOf, type StartingHand, startingHands, startWords, waysTo } from './hands/starts.js';
export type { Answer, Arg, Args, Counting } from './machine/code.js';
export { Fault, HiddenRead } from './machine/fault.js';
export { layoutOf } from './machine/layout.js';
export { pileCalled } from './machine/pile-names.js';
export { BUDGETS, LONGEST_LABEL } from './machine/prices.js';
export { OPEN, WATCHER } from './machine/runtime/visibility.js';
export {
  knownNumber,
  readSettings,
  type Setup,
  SetupError,
  settingsByName,
  settingsRead,
  standardLimits,
} from './machine/setup.js';
export { State, StateFormError } from './machine/state.js';
export { plural, STEERING, signCode, utf8Length, wordsOf } from './machine/text.js';
export { type Budget, budgetOf } from './opponents/budget.js';
export { HiddenPlaces, unseenBy } from './opponents/hidden.js';
export { answerWith, Knowledge } from './opponents/knowledge.js';
export type { Weighed } from './opponents/search.js';
export { STRENGTHS, type Strength, StrengthError, strengthOf, strengthWords } from './opponents/strength.js';
export { Thinker, type Thought } from './opponents/thinker.js';
export { ThinkingPolicy } from './opponents/thinking-policy.js';
export { Worlds } from './opponents/worlds.js';
export type { Frozen } from './play/frozen.js';
export { factsOf } from './play/openings.js';
export { type Branch, type By, type FairHeader, type Header, type Row, TIME } from './play/record.js';
export { ReplayError, replay, replayRow } from './play/replay.js';
export { type Review, type ReviewedChoice, review } from './play/review.js';
export { isPlayed, type Mark, type Played, Table } from './play/table.js';
export { verifyRecord, type WholeRecord } from './play/verify-record.js';
export { byName } from './program/by-name.js';
export { lineWords, type OwnLine, ownLine } from './program/lines.js';
export { REGULARS } from './program/names.js';
export { type CoveragePoint, coveragePoints, type PointKind } from './program/points.js';
export { preferredOf } from './program/preferred.js';
export { keptSecrets, looksAt, mayKeepSecrets, type Pieces, type Taints } from './program/secrets.js';
export * from './program/tree.js';
export * from './program/types.js';
export { botNamed } from './rules/bots.js';
export { Digests, digestOfView, type Hmac, meaningOf, pureHmac } from './rules/digest.js';
export { Game, type Opening } from './rules/game.js';
export { asSeen, openly } from './rules/handles.js';
export { isRefusal, judge, type Refusal, type WireChoice } from './rules/judge.js';
export { allows, countWays } from './rules/legal.js';
export { redeal } from './rules/redeal.js';
export type { ArgValue, Naming, Value } from './rules/values.js';
export { type Rating, ratingsOf } from './simulate/ladder.js';
export { Match, type MatchOptions, type MatchResult, match, type Standing } from './simulate/match.js';
export {
  drawChoice,
  nothingFound,
  type Policy,
  RandomPolicy,
  ScriptedPolicy,
  type SeatedPolicy,
} from './simulate/policy.js';
export { type PlayOptions, type PlayResult, Simulator } from './simulate/simulator.js';
export { SoloMatch } from './simulate/solo.js';
export {
  quantilesOf,
  RunningSummary,
  type Summary,
  sequenceRadius,
  shareInterval,
  summaryOf,
} from './simulate/statistics.js';
export { Unsolved } from './solve/outcomes.js';
export { type SolvedTable, solution, solvableTree } from './solve/solution.js';
export {
  bestResponse,
  exploitabilityOf,
  Solver,
  type Strategy,
  valuesOf,
} from './solve/solve.js';
export { type SolvedChoice, solvedChoice } from './solve/solved-play.js';
export { type Decision, decisionsOf, SolvedPolicy, UnknownPlace } from './solve/solved-policy.js';
export { type InfoSet, type Tree, treeOf } from './solve/tree.js';
export { holm, normalTails } from './statistics/distributions.js';
export { type BotLinesOptions, botLines, type LineReport } from './trials/bot-lines.js';
export { Coverage } from './trials/coverage.js';
export type { DifferenceFigures } from './trials/differences.js';
export type { Estimate } from './trials/estimates.js';
export {
  type CellFigures,
  type TallyFigures,
  type TrialFigures,
  trialFigures,
} from './trials/figures.js';
export { figuresOfRecord } from './trials/of-record.js';
export { type Comparison, type TrialWish, trialArms } from './trials/plan.js';
export {
  type Rehearsal,
  type RehearsalResult,
  type RehearsalStep,
  type RehearsedChoice,
  rehearse,
  type Side,
} from './trials/rehearsal.js';
export { type SoakedChoice, type SoakFailure, type SoakReport, soak } from './trials/soak.js';
export { blocksTogether, type KeptTrial, TrialTotals, type Until, UntilError, type WayPoint } from './trials/totals.js';
export type { BlockResult, TrialArm, TrialPlan } from './trials/trial.js';
export { BLOCK, TrialFault, TrialPlayer, trialPolicy, usualBot } from './trials/trial.js';
export { type OptionsPlan, type WeighedOption, type WeighedOptions, weighOptions } from './trials/weighed-options.js';
export { type Noted, StepEvents, type TableEvent } from './views/events.js';
export { figureCalled } from './views/figures.js';
export { type Line, third } from './views/narration.js';
export type { Offer, OfferedParam } from './views/offers.js';
export { Found, type Json, patchText } from './views/patch.js';
export type { PileView } from './views/pile-views.js';
export { plannedSettings, planOf, type TablePlan } from './views/plan.js';
export { type ReportedStep, StepReport } from './views/step-report.js';
export type { PilesView, SeatView, View, Waiting } from './views/view.js';
export { Views } from './views/views.js';
