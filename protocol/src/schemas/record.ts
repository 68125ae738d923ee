/** A record as a file: NDJSON, a header line, then a line a choice. */
import { argValues, gave, hash, number, seatName, seatNumber, settings, tableId, type Wire } from './common.js';

/** The form that this version writes and reads. */
export const RECORD_FORM = 'wily-jester-record/1';

export const recordHeaderSchema = {
  type: 'object',
  required: ['form', 'game', 'sheet', 'semantics', 'generator', 'settings', 'seats', 'commitment'],
  additionalProperties: false,
  properties: {
    form: { const: RECORD_FORM },
    table: tableId,
    game: { type: 'string' },
    sheet: hash,
    semantics: { type: 'integer' },
    generator: { enum: ['chacha20', 'chacha20/2'] },
    settings,
    seats: { type: 'array', minItems: 1, maxItems: 12, items: seatName },
    commitment: { type: 'string', maxLength: 64 },
    promisesFairness: { type: 'boolean' },
    opened: { type: 'string' },
    fair: {
      type: 'object',
      description: 'What the shuffles are promised by: the table where they were promised first',
      required: ['table', 'sheet', 'semantics'],
      additionalProperties: false,
      properties: {
        table: tableId,
        sheet: hash,
        semantics: { type: 'integer' },
        shown: { type: 'boolean' },
        gave,
        voids: { type: 'array', items: { type: 'integer' } },
      },
    },
    seed: {
      type: 'string',
      minLength: 1,
      maxLength: 200,
      description: 'Developer keys only: with it the record replays',
    },
    gets: { type: 'object', additionalProperties: { type: 'string', maxLength: 2000 } },
    branches: {
      type: 'array',
      description: 'Developer keys only: where the record left another one, with the seed of what came after',
      items: {
        type: 'object',
        required: ['number', 'redeal'],
        additionalProperties: false,
        properties: { number, redeal: { type: 'string', minLength: 1, maxLength: 200 } },
      },
    },
  },
} as const;
export type RecordHeader = Wire<typeof recordHeaderSchema>;

export const recordRowSchema = {
  type: 'object',
  required: ['number', 'seat', 'by', 'ask', 'option', 'args'],
  additionalProperties: false,
  properties: {
    number,
    seat: { anyOf: [{ type: 'null' }, seatNumber] },
    by: { enum: ['person', 'bot', 'clock', 'table'] },
    ask: number,
    option: {
      type: ['string', 'null'],
      maxLength: 80,
      description: 'null: an answer that is not in yet, in a seat’s record',
    },
    args: { anyOf: [{ type: 'null' }, argValues] },
    digest: {
      type: 'string',
      pattern: '^[0-9a-f]{32}$',
      description:
        'Developer keys only: over the whole state, so that it would tell of hidden cards where few are left',
    },
    at: { type: 'string' },
  },
} as const;
export type RecordRow = Wire<typeof recordRowSchema>;

/** A whole record as JSON, as it is sent to be loaded. */
export const recordFileSchema = {
  type: 'object',
  required: ['record'],
  additionalProperties: false,
  properties: {
    record: { type: 'string', minLength: 2, maxLength: 4_000_000, description: 'The NDJSON text' },
    bots: { type: 'boolean', description: 'Whether bots go on for the seats that they played' },
  },
} as const;
export type RecordFile = Wire<typeof recordFileSchema>;
