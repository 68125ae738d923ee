/** Tables: opened, listed, and how they stand. */
import { hash, number, seatName, seatNumber, settings, tableId, type Wire } from './common.js';
import { step, viewSchema } from './views.js';

export const openTableSchema = {
  type: 'object',
  required: ['sheet', 'seats'],
  additionalProperties: false,
  properties: {
    sheet: { type: 'string', minLength: 1, maxLength: 120, description: 'A hash, or a name: then its newest version' },
    settings,
    seats: {
      type: 'array',
      minItems: 1,
      maxItems: 12,
      items: {
        type: 'object',
        required: ['name'],
        additionalProperties: false,
        properties: {
          name: seatName,
          bot: { type: 'string', maxLength: 40, description: "The sheet's bot that plays here; absent for a person" },
        },
      },
    },
    seed: {
      type: 'string',
      minLength: 1,
      maxLength: 200,
      description: 'A word that fixes every shuffle; such a table promises no fairness',
    },
    gets: {
      type: 'object',
      additionalProperties: { type: 'string', maxLength: 2000 },
      description: 'Cards promised to piles: pile path to faces; "top" for what is dealt next, wherever it goes',
    },
    showsSeed: {
      type: 'boolean',
      description: 'Once the game is over its seed is shown, and with it all hands of the whole table',
    },
    pace: { type: 'integer', minimum: 0, maximum: 60_000, description: 'Milliseconds before a bot plays' },
    clocks: { type: 'boolean', description: 'Whether turn clocks run' },
    hints: {
      type: 'boolean',
      description: 'Whether seats may ask what thinking would choose; yes where nothing is said',
    },
  },
} as const;
export type OpenTable = Wire<typeof openTableSchema>;

/** Opens a table whose seats give chance first: as any table, but that nothing of its chance is chosen. */
export const gatherSchema = {
  type: 'object',
  required: ['sheet', 'seats'],
  additionalProperties: false,
  properties: {
    sheet: openTableSchema.properties.sheet,
    settings,
    seats: openTableSchema.properties.seats,
    showsSeed: openTableSchema.properties.showsSeed,
    pace: openTableSchema.properties.pace,
    clocks: openTableSchema.properties.clocks,
    hints: openTableSchema.properties.hints,
    wait: {
      type: 'integer',
      minimum: 5,
      maximum: 600,
      description: 'Seconds for which seats are waited for; 60 where nothing is said',
    },
  },
} as const;
export type Gather = Wire<typeof gatherSchema>;

export const tableSummarySchema = {
  type: 'object',
  required: [
    'id',
    'sheet',
    'game',
    'seats',
    'status',
    'number',
    'chapter',
    'opened',
    'changed',
    'settings',
    'commitment',
    'promisesFairness',
    'pace',
    'clocks',
    'hints',
    'fault',
    'parent',
  ],
  additionalProperties: false,
  properties: {
    id: tableId,
    sheet: hash,
    game: { type: 'string' },
    seats: {
      type: 'array',
      items: {
        type: 'object',
        required: ['seat', 'name', 'bot', 'held', 'present', 'away'],
        additionalProperties: false,
        properties: {
          seat: seatNumber,
          name: { type: 'string' },
          bot: { type: ['string', 'null'], description: 'The bot that plays here now' },
          held: { enum: ['person', 'bot', 'free'], description: 'free: its person has left' },
          present: { type: 'boolean', description: 'Somebody is connected with this seat' },
          away: { type: 'boolean', description: 'Free, or two turns were missed: its clock answers at once' },
        },
      },
    },
    status: { enum: ['open', 'over', 'closed', 'fault'] },
    number,
    chapter: { type: 'string' },
    opened: { type: 'string' },
    changed: { type: 'string' },
    settings,
    commitment: { type: 'string' },
    promisesFairness: { type: 'boolean', description: 'No: the seed was typed, or cards were promised' },
    pace: { type: 'integer' },
    clocks: { type: 'boolean' },
    hints: { type: 'boolean', description: 'Whether seats may ask what thinking would choose' },
    fault: {
      anyOf: [
        { type: 'null' },
        {
          type: 'object',
          required: ['message', 'line', 'column', 'number'],
          additionalProperties: false,
          properties: { message: { type: 'string' }, line: { type: 'integer' }, column: { type: 'integer' }, number },
        },
      ],
    },
    unplayable: {
      description: 'It cannot be played again, and is only read: from which choice on, and why; absent otherwise',
      type: 'object',
      required: ['number', 'reason'],
      additionalProperties: false,
      properties: { number, reason: { type: 'string' } },
    },
    parent: {
      description: 'The table that this one branched off, and at which number',
      anyOf: [
        { type: 'null' },
        {
          type: 'object',
          required: ['table', 'number'],
          additionalProperties: false,
          properties: { table: tableId, number },
        },
      ],
    },
  },
} as const;
export type TableSummary = Wire<typeof tableSummarySchema>;
export const tableListSchema = {
  type: 'object',
  required: ['tables', 'next'],
  additionalProperties: false,
  properties: {
    tables: { type: 'array', items: tableSummarySchema },
    next: { type: ['string', 'null'], description: 'Where the next page begins: send it as "after"' },
  },
} as const;
export type TableList = Wire<typeof tableListSchema>;

export const tableKeys = {
  type: 'object',
  description: 'Shown once, kept hashed',
  required: ['host', 'seats', 'watch'],
  additionalProperties: false,
  properties: {
    host: { type: 'string', description: 'Looks after the seats, and may close the table' },
    seats: {
      type: 'array',
      items: {
        type: 'object',
        required: ['seat', 'key'],
        additionalProperties: false,
        properties: { seat: seatNumber, key: { type: 'string' } },
      },
    },
    watch: { type: 'string' },
  },
} as const;

export const openedSchema = {
  type: 'object',
  required: ['table', 'keys'],
  additionalProperties: false,
  properties: { table: tableSummarySchema, keys: tableKeys },
} as const;
export type Opened = Wire<typeof openedSchema>;

/** Hands a seat to a bot: one of the sheet's, `thinking`, `thinking 2s`, `random` or `solved`; without a name, to the sheet's first, or to `thinking`. */
export const botSeatSchema = {
  type: 'object',
  additionalProperties: false,
  properties: { bot: { type: 'string', minLength: 1, maxLength: 40 } },
} as const;
export type BotSeat = Wire<typeof botSeatSchema>;

/** Asks for a new key: of a seat (its old ones end), or to watch. */
export const newKeySchema = {
  type: 'object',
  required: ['role'],
  additionalProperties: false,
  properties: { role: { enum: ['seat', 'watch'] }, seat: seatNumber },
} as const;
export type NewKey = Wire<typeof newKeySchema>;

export const madeKeySchema = {
  type: 'object',
  required: ['role', 'key'],
  additionalProperties: false,
  properties: {
    role: { enum: ['seat', 'watch', 'look'] },
    seat: seatNumber,
    key: { type: 'string', description: 'Shown once, kept hashed' },
  },
} as const;
export type MadeKey = Wire<typeof madeKeySchema>;

/** Goes on from a number of a table as a new one. */
export const branchSchema = {
  type: 'object',
  required: ['number'],
  additionalProperties: false,
  properties: {
    number,
    same: {
      type: 'boolean',
      description: 'Keep the cards that no player has seen as they lie; else they are dealt anew',
    },
    pace: { type: 'integer', minimum: 0, maximum: 60_000 },
    clocks: { type: 'boolean' },
  },
} as const;
export type BranchWish = Wire<typeof branchSchema>;

/** A state that is past, as a viewer sees it, and the step that led to it. */
export const pastSchema = {
  type: 'object',
  required: ['view', 'step'],
  additionalProperties: false,
  properties: { view: viewSchema, step },
} as const;
export type Past = Wire<typeof pastSchema>;
