/** Trials: what is tried, how far it is, and what was found. */
import { hash, PLAIN, settings, type Wire } from './common.js';

const botName = { type: 'string', minLength: 1, maxLength: 60 } as const;
const settingValue = { type: ['number', 'boolean', 'string'] } as const;

const compare = {
  type: 'object',
  required: ['name', 'values'],
  additionalProperties: false,
  description: 'What is held against each other: a setting, or "bots"',
  properties: {
    name: { type: 'string', minLength: 1, maxLength: 60 },
    values: { type: 'array', minItems: 2, maxItems: 8, items: settingValue },
  },
} as const;
const until = {
  type: 'object',
  required: ['tally'],
  additionalProperties: false,
  description: 'Stop once a figure is known to within so much; without "within", once two settings surely differ in it',
  properties: { tally: { type: 'string', maxLength: 60 }, within: { type: 'number', exclusiveMinimum: 0 } },
} as const;

/** What a trial is asked for. */
export const newTrialSchema = {
  type: 'object',
  required: ['sheet', 'games'],
  additionalProperties: false,
  properties: {
    sheet: { type: 'string', minLength: 1, maxLength: 80, description: 'Hash or name of the sheet' },
    games: { type: 'integer', minimum: 1, maximum: 100_000_000 },
    seats: { type: 'integer', minimum: 1, maximum: 12 },
    bots: { type: 'array', minItems: 1, maxItems: 12, items: botName },
    settings,
    compare,
    until,
    seed: { type: 'string', minLength: 1, maxLength: 80 },
    title: { type: 'string', maxLength: 120, pattern: PLAIN, description: 'What was asked, in words' },
  },
} as const;
export type NewTrial = Wire<typeof newTrialSchema>;

const status = { enum: ['waiting', 'running', 'done', 'stopped', 'failed'] } as const;

export const trialSummarySchema = {
  type: 'object',
  required: ['id', 'title', 'game', 'sheet', 'status', 'asked', 'played', 'wish', 'opened', 'seconds', 'problem'],
  additionalProperties: false,
  properties: {
    id: { type: 'string' },
    title: { type: 'string' },
    game: { type: 'string' },
    sheet: hash,
    status,
    asked: { type: 'integer' },
    played: { type: 'integer' },
    wish: newTrialSchema,
    opened: { type: 'string' },
    seconds: { type: 'number', description: 'How long it has been played' },
    problem: { type: ['string', 'null'], description: 'Why it failed' },
  },
} as const;
export type TrialSummary = Wire<typeof trialSummarySchema>;

const interval = {
  anyOf: [{ type: 'null' }, { type: 'array', minItems: 2, maxItems: 2, items: { type: 'number' } }],
} as const;
const doubt = { enum: ['few games', 'too few', null] } as const;
const words = { type: 'array', items: { type: 'string' } } as const;
const form = { enum: ['share', 'number', 'ratio', 'category'] } as const;

const cell = {
  type: 'object',
  required: ['marks', 'value', 'interval', 'doubt', 'times', 'games'],
  additionalProperties: false,
  properties: {
    marks: words,
    category: { type: 'string' },
    value: { type: 'number' },
    interval,
    doubt,
    times: { type: 'number' },
    games: { type: 'integer' },
    deviation: { type: 'number' },
    least: { type: 'number' },
    most: { type: 'number' },
    quantiles: {
      type: 'array',
      items: {
        type: 'object',
        required: ['share', 'value', 'interval'],
        additionalProperties: false,
        properties: { share: { type: 'number' }, value: { type: 'number' }, interval },
      },
    },
    bars: { type: 'array', items: { type: 'array', minItems: 3, maxItems: 3, items: { type: 'number' } } },
  },
} as const;

const difference = {
  type: 'object',
  required: ['tally', 'marks', 'arm', 'against', 'value', 'interval', 'doubt', 'byChance', 'isClear', 'pairing'],
  additionalProperties: false,
  properties: {
    tally: { type: 'string' },
    marks: words,
    category: { type: 'string' },
    arm: { type: 'string' },
    against: { type: 'string' },
    value: { type: 'number' },
    interval,
    doubt,
    byChance: { type: 'number' },
    isClear: { type: 'boolean' },
    pairing: { type: 'number' },
  },
} as const;

/** A trial's figures as `core` gives them. */
const figures = {
  type: 'object',
  required: ['format', 'games', 'ended', 'headline', 'arms', 'differences'],
  additionalProperties: false,
  properties: {
    format: { const: 'wily-jester-trial/1' },
    games: { type: 'integer' },
    ended: { enum: ['all games', 'known well enough', 'surely different', 'stopped early'] },
    headline: {
      type: 'object',
      required: ['tally', 'points'],
      additionalProperties: false,
      properties: {
        tally: { type: 'string' },
        points: {
          type: 'array',
          items: {
            type: 'object',
            required: ['games', 'value', 'half'],
            additionalProperties: false,
            properties: { games: { type: 'integer' }, value: { type: 'number' }, half: { type: 'number' } },
          },
        },
      },
    },
    arms: {
      type: 'array',
      items: {
        type: 'object',
        required: ['label', 'endless', 'tallies'],
        additionalProperties: false,
        properties: {
          label: { type: 'string' },
          endless: { type: 'integer' },
          tallies: {
            type: 'array',
            items: {
              type: 'object',
              required: ['name', 'form', 'by', 'cells'],
              additionalProperties: false,
              properties: { name: { type: 'string' }, form, by: words, cells: { type: 'array', items: cell } },
            },
          },
        },
      },
    },
    differences: { type: 'array', items: difference },
  },
} as const;

export const trialSchema = {
  type: 'object',
  required: ['trial', 'figures'],
  additionalProperties: false,
  properties: { trial: trialSummarySchema, figures: { anyOf: [{ type: 'null' }, figures] } },
} as const;
export type Trial = Wire<typeof trialSchema>;

export const trialListSchema = {
  type: 'object',
  required: ['trials'],
  additionalProperties: false,
  properties: { trials: { type: 'array', items: trialSummarySchema } },
} as const;
export type TrialList = Wire<typeof trialListSchema>;
