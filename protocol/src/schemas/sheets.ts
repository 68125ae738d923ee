/** Sheets, and what checking them finds. */
import { hash, settings, sheetProblems, type Wire } from './common.js';

export const sheetTextSchema = {
  type: 'object',
  required: ['source'],
  additionalProperties: false,
  properties: {
    source: { type: 'string', minLength: 1, maxLength: 65_536, description: 'The text of the rule sheet, in Motley' },
    rehearsals: { type: 'string', maxLength: 65_536, description: 'The text of its rehearsals' },
  },
} as const;
export type SheetText = Wire<typeof sheetTextSchema>;

export const checkSchema = {
  type: 'object',
  required: ['ok', 'lines', 'problems'],
  additionalProperties: false,
  properties: { ok: { type: 'boolean' }, lines: { type: 'integer' }, problems: sheetProblems },
} as const;
export type Check = Wire<typeof checkSchema>;

const planPiles = {
  type: 'array',
  items: {
    type: 'object',
    required: ['name', 'label', 'facing', 'shape', 'of', 'many', 'open', 'spots', 'sorted'],
    additionalProperties: false,
    properties: {
      name: { type: 'string' },
      label: { type: 'string' },
      facing: { enum: ['down', 'up', 'private'] },
      shape: { enum: ['stack', 'fan', 'cascade', 'row'] },
      of: { enum: ['table', 'seat', 'suit', 'rank', 'team'] },
      many: { type: ['integer', 'null'] },
      open: { type: 'boolean', description: 'The family grows: only piles with cards are there' },
      spots: {
        anyOf: [{ type: 'null' }, { type: 'array', items: { type: 'array', items: { type: 'integer' } } }],
        description: 'Where each pile is drawn: left edge in half cards, top in quarter cards',
      },
      sorted: { enum: ['rank', 'suit', 'own', null], description: 'own: as the orders of a view say' },
    },
  },
} as const;
const planLayout = { type: 'array', items: { type: 'array', items: { type: ['string', 'null'] } } } as const;

export const sheetSummarySchema = {
  type: 'object',
  required: ['hash', 'name', 'blurb', 'seats', 'lines', 'added', 'tables', 'versions', 'look'],
  additionalProperties: false,
  properties: {
    hash,
    name: { type: 'string' },
    blurb: { type: 'string' },
    seats: { type: 'array', items: { type: 'integer' } },
    genres: { type: 'array', items: { type: 'string' }, description: 'What kind of game it is, as its header says' },
    lines: { type: 'integer' },
    added: { type: 'string' },
    tables: { type: 'integer', description: 'Tables of this version that are still played' },
    versions: { type: 'integer', description: 'Versions kept under this name' },
    look: {
      type: 'object',
      description: 'What its table looks like: the piles and the layout of its plan',
      required: ['piles', 'layout'],
      additionalProperties: false,
      properties: { piles: planPiles, layout: planLayout },
    },
  },
} as const;
export type SheetSummary = Wire<typeof sheetSummarySchema>;
export const sheetListSchema = {
  type: 'object',
  required: ['sheets'],
  additionalProperties: false,
  properties: { sheets: { type: 'array', items: sheetSummarySchema } },
} as const;

const planSettings = {
  type: 'array',
  items: {
    type: 'object',
    required: ['name', 'type', 'help', 'standard'],
    additionalProperties: false,
    properties: {
      name: { type: 'string' },
      type: { enum: ['int', 'flag', 'word'] },
      help: { type: 'string' },
      standard: { type: ['number', 'boolean', 'string'] },
      from: { type: 'integer' },
      to: { type: 'integer' },
      follows: { type: 'array', items: { type: 'string' } },
      values: { type: 'array', items: { type: ['number', 'string'] } },
    },
  },
} as const;

/** Values of settings that a table may be opened with. */
export const settingsWishSchema = {
  type: 'object',
  required: ['settings'],
  additionalProperties: false,
  properties: { settings },
} as const;
export type SettingsWish = Wire<typeof settingsWishSchema>;
export const settingsSchema = {
  type: 'object',
  required: ['settings'],
  additionalProperties: false,
  properties: { settings: planSettings },
} as const;
export type Settings = Wire<typeof settingsSchema>;

export const planSchema = {
  type: 'object',
  required: [
    'name',
    'blurb',
    'seats',
    'settings',
    'piles',
    'faces',
    'ranks',
    'suits',
    'layout',
    'labels',
    'counters',
    'notes',
    'options',
    'bots',
    'winsLeast',
  ],
  additionalProperties: false,
  properties: {
    name: { type: 'string' },
    blurb: { type: 'string' },
    seats: { type: 'array', items: { type: 'integer' } },
    settings: planSettings,
    piles: planPiles,
    faces: { type: 'array', items: { type: 'string' }, description: 'The faces of its deck, each once' },
    ranks: { type: 'array', items: { type: 'string' }, description: 'From low to high, as this game compares them' },
    suits: { type: 'array', items: { type: 'string' }, description: 'Likewise; empty where suits tie' },
    layout: planLayout,
    labels: {
      type: 'object',
      required: ['table', 'seat'],
      additionalProperties: false,
      properties: {
        table: { type: 'object', additionalProperties: { type: 'string' } },
        seat: { type: 'object', additionalProperties: { type: 'string' } },
      },
    },
    counters: { type: 'array', items: { type: 'string' } },
    notes: {
      type: 'array',
      items: {
        type: 'object',
        required: ['name', 'words', 'beside'],
        additionalProperties: false,
        properties: {
          name: { type: 'string' },
          words: { type: 'string', description: 'its name in words, for a figure: "in the pot"' },
          beside: { anyOf: [{ const: 'seat' }, { type: 'array', items: { type: 'string' } }] },
        },
      },
    },
    options: {
      type: 'array',
      items: {
        type: 'object',
        required: ['name', 'words'],
        additionalProperties: false,
        properties: { name: { type: 'string' }, words: { type: 'string' } },
      },
    },
    bots: { type: 'array', items: { type: 'string' } },
    winsLeast: { type: 'boolean' },
  },
} as const;
export type Plan = Wire<typeof planSchema>;

export const sheetSchema = {
  type: 'object',
  required: ['hash', 'name', 'source', 'rehearsals', 'added', 'plan', 'warnings'],
  additionalProperties: false,
  properties: {
    hash,
    name: { type: 'string' },
    source: { type: 'string' },
    rehearsals: { type: ['string', 'null'] },
    added: { type: 'string' },
    plan: planSchema,
    warnings: sheetProblems,
  },
} as const;
export type Sheet = Wire<typeof sheetSchema>;
