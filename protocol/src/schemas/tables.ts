/** Tables: opened, listed, and how they stand. */
import type { FromSchema } from 'json-schema-to-ts';
import { hash, number, seatNumber, tableId } from './common.js';

export const openTableSchema = {
  type: 'object',
  required: ['sheet', 'seats'],
  additionalProperties: false,
  properties: {
    sheet: { type: 'string', minLength: 1, maxLength: 120, description: 'A hash, or a name: then its newest version' },
    settings: { type: 'object', additionalProperties: { type: ['number', 'boolean', 'string'] } },
    seats: {
      type: 'array',
      minItems: 1,
      maxItems: 12,
      items: {
        type: 'object',
        required: ['name'],
        additionalProperties: false,
        properties: {
          name: { type: 'string', minLength: 1, maxLength: 24, pattern: '^[^\\s].*$' },
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
      description: 'Cards promised to piles: pile path to faces',
    },
    pace: { type: 'integer', minimum: 0, maximum: 60_000, description: 'Milliseconds before a bot plays' },
    clocks: { type: 'boolean', description: 'Whether turn clocks run' },
  },
} as const;
export type OpenTable = FromSchema<typeof openTableSchema>;

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
    'fault',
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
        required: ['seat', 'name', 'bot'],
        additionalProperties: false,
        properties: { seat: seatNumber, name: { type: 'string' }, bot: { type: ['string', 'null'] } },
      },
    },
    status: { enum: ['open', 'over', 'closed', 'fault'] },
    number,
    chapter: { type: 'string' },
    opened: { type: 'string' },
    changed: { type: 'string' },
    settings: { type: 'object', additionalProperties: { type: ['number', 'boolean', 'string'] } },
    commitment: { type: 'string' },
    promisesFairness: { type: 'boolean', description: 'No: the seed was typed, or cards were promised' },
    pace: { type: 'integer' },
    clocks: { type: 'boolean' },
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
  },
} as const;
export type TableSummary = FromSchema<typeof tableSummarySchema>;
export const tableListSchema = {
  type: 'object',
  required: ['tables'],
  additionalProperties: false,
  properties: { tables: { type: 'array', items: tableSummarySchema } },
} as const;

export const openedSchema = {
  type: 'object',
  required: ['table', 'keys'],
  additionalProperties: false,
  properties: {
    table: tableSummarySchema,
    keys: {
      type: 'object',
      description: 'Shown once, kept hashed',
      required: ['seats', 'watch'],
      additionalProperties: false,
      properties: {
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
    },
  },
} as const;
export type Opened = FromSchema<typeof openedSchema>;
