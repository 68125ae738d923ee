/** What goes over a table's WebSocket, and the small answers. */
import { number, problemSchema, seatNumber, tableId, type Wire } from './common.js';
import { tableSummarySchema } from './tables.js';
import { choiceSchema, chosenSchema, event, line, step, viewSchema } from './views.js';

const jsonPatch = {
  type: 'array',
  items: {
    type: 'object',
    required: ['op', 'path'],
    properties: { op: { type: 'string' }, path: { type: 'string' }, from: { type: 'string' }, value: {} },
  },
} as const;

const clockState = {
  anyOf: [
    { type: 'null' },
    {
      type: 'object',
      required: ['ask', 'seconds', 'left'],
      additionalProperties: false,
      properties: {
        ask: number,
        seconds: { type: 'number' },
        left: { type: 'number', description: 'Seconds that are left' },
      },
    },
  ],
} as const;

/** What the service sends over a table's WebSocket. */
export const serverMessageSchema = {
  type: 'object',
  required: ['type'],
  additionalProperties: false,
  properties: {
    type: { enum: ['view', 'step', 'clock', 'chosen', 'problem', 'status', 'beat'] },
    number,
    view: viewSchema,
    steps: { type: 'array', items: step, description: 'What a client missed since the number it asked for' },
    events: { type: 'array', items: event },
    lines: { type: 'array', items: line },
    scores: { type: 'array', items: { type: 'integer' } },
    patch: jsonPatch,
    clock: clockState,
    chosen: chosenSchema,
    once: { type: 'string' },
    problem: problemSchema,
    table: tableSummarySchema,
  },
} as const;
export type ServerMessage = Wire<typeof serverMessageSchema>;

const viewer = {
  description: 'Developer keys: a seat, "watch" or "open"',
  anyOf: [seatNumber, { type: 'string', pattern: '^(watch|open|[1-9]|1[0-2])$' }],
} as const;

/** What a client sends over a table's WebSocket: first `hello`, then choices. */
export const clientMessageSchema = {
  type: 'object',
  discriminator: { propertyName: 'type' },
  oneOf: [
    {
      type: 'object',
      required: ['type'],
      additionalProperties: false,
      properties: {
        type: { const: 'hello' },
        key: { type: 'string', maxLength: 80 },
        as: viewer,
        from: { ...number, description: 'The last number that the client has seen' },
      },
    },
    {
      type: 'object',
      required: ['type', 'choice'],
      additionalProperties: false,
      properties: { type: { const: 'choose' }, choice: choiceSchema },
    },
  ],
} as const;
export type ClientMessage = Wire<typeof clientMessageSchema>;

export const healthSchema = {
  type: 'object',
  required: ['status', 'database', 'version'],
  additionalProperties: false,
  properties: { status: { enum: ['ok', 'down'] }, database: { enum: ['ok', 'down'] }, version: { type: 'string' } },
} as const;
export type Health = Wire<typeof healthSchema>;

export const sessionSchema = {
  type: 'object',
  required: ['role'],
  additionalProperties: false,
  properties: {
    role: { enum: ['developer', 'host', 'seat', 'watch', 'look', 'nobody'] },
    table: { ...tableId, description: 'The table that the key belongs to' },
    seat: seatNumber,
    developer: { type: 'string', description: "The developer's name" },
  },
} as const;
export type Session = Wire<typeof sessionSchema>;

/** A word with which a page becomes a developer's, once. */
export const loginSchema = {
  type: 'object',
  required: ['word', 'until'],
  additionalProperties: false,
  properties: {
    word: { type: 'string', description: 'Shown once; the console takes it as #open=WORD' },
    until: { type: 'string' },
  },
} as const;
export type Login = Wire<typeof loginSchema>;

export const loginWishSchema = {
  type: 'object',
  additionalProperties: false,
  properties: { for: { enum: ['start', 'ask'], description: 'How long the word is good: ten minutes, or two' } },
} as const;
export type LoginWish = Wire<typeof loginWishSchema>;

export const comeInSchema = {
  type: 'object',
  required: ['word'],
  additionalProperties: false,
  properties: { word: { type: 'string', minLength: 1, maxLength: 100 } },
} as const;
export type ComeIn = Wire<typeof comeInSchema>;

const developerName = {
  type: 'string',
  pattern: '^[a-z][a-z0-9-]{0,29}$',
  description: 'Small letters, digits and hyphens',
} as const;

export const newDeveloperSchema = {
  type: 'object',
  required: ['name'],
  additionalProperties: false,
  properties: { name: developerName },
} as const;
export type NewDeveloper = Wire<typeof newDeveloperSchema>;

export const addedDeveloperSchema = {
  type: 'object',
  required: ['name', 'key'],
  additionalProperties: false,
  properties: { name: developerName, key: { type: 'string', description: 'Shown once' } },
} as const;
export type AddedDeveloper = Wire<typeof addedDeveloperSchema>;

export const developerListSchema = {
  type: 'object',
  required: ['developers'],
  additionalProperties: false,
  properties: {
    developers: {
      type: 'array',
      items: {
        type: 'object',
        required: ['name', 'tables'],
        additionalProperties: false,
        properties: { name: developerName, tables: { type: 'integer', description: 'Open tables of theirs' } },
      },
    },
  },
} as const;
export type DeveloperList = Wire<typeof developerListSchema>;

/** What was looked at, or done, with a right that others do not have. */
export const looksSchema = {
  type: 'object',
  required: ['looks'],
  additionalProperties: false,
  properties: {
    looks: {
      type: 'array',
      items: {
        type: 'object',
        required: ['what', 'number', 'at'],
        additionalProperties: false,
        properties: {
          what: { type: 'string' },
          by: {
            type: 'string',
            description: "A developer's name, or which key; earlier releases did not write it down",
          },
          number,
          at: { type: 'string' },
        },
      },
    },
  },
} as const;
export type Looks = Wire<typeof looksSchema>;
