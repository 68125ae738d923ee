/**
 * The words between the service and its clients, as JSON Schemas (draft 2020-12).
 * Ajv checks them at run time; the types beside them are made from them.
 */
import type { FromSchema, JSONSchema } from 'json-schema-to-ts';

type Frozen<T> = T extends readonly (infer Item)[]
  ? readonly Frozen<Item>[]
  : T extends object
    ? { readonly [Name in keyof T]: Frozen<T[Name]> }
    : T;

/** What a schema says, as nobody may change it: whatever is made elsewhere can be handed over as it is. */
export type Wire<Schema extends JSONSchema> = Frozen<FromSchema<Schema>>;

export const value = { type: ['string', 'number', 'boolean', 'null'] } as const;
/** The value of a choice's parameter: several cards are a list of their handles. */
export const argValue = {
  anyOf: [value, { type: 'array', items: { type: 'string', maxLength: 80 }, maxItems: 64 }],
} as const;
export const argValues = { type: 'object', additionalProperties: argValue, maxProperties: 8 } as const;
export const values = { type: 'object', additionalProperties: value } as const;
/** Settings by name, with their values. */
export const settings = { type: 'object', additionalProperties: { type: ['number', 'boolean', 'string'] } } as const;
export const seatNumber = { type: 'integer', minimum: 1, maximum: 12 } as const;
export const number = { type: 'integer', minimum: 0 } as const;
export const path = { type: 'string', minLength: 1, maxLength: 80 } as const;
/**
 * Words that are shown to people: they begin with something to see, and hold no signs that steer a line's direction or
 * a terminal, no line ends and no halves of signs.
 */
export const SHOWN = '^(?=\\S)[^\\p{Cc}\\p{Cf}\\p{Cs}\\p{Zl}\\p{Zp}]*$';
/** The same where nothing at all may stand, too. */
export const PLAIN = '^[^\\p{Cc}\\p{Cf}\\p{Cs}\\p{Zl}\\p{Zp}]*$';
export const seatName = { type: 'string', minLength: 1, maxLength: 24, pattern: SHOWN } as const;
export const hash = { type: 'string', pattern: '^[0-9a-f]{64}$' } as const;
const hashes = { type: 'array', items: { anyOf: [hash, { const: '' }] }, maxItems: 12 } as const;
/** What each seat promised and showed of its own chance, by seat; empty for whoever was absent. */
export const gave = {
  type: 'object',
  required: ['promises', 'shown'],
  additionalProperties: false,
  properties: { promises: hashes, shown: hashes },
} as const;
export const tableId = { type: 'string', pattern: '^[a-z0-9]{12}$' } as const;

export const problemSchema = {
  type: 'object',
  required: ['type', 'title', 'status', 'detail'],
  additionalProperties: false,
  properties: {
    type: { type: 'string', description: 'Stable: urn:wily-jester:problem:…' },
    title: { type: 'string' },
    status: { type: 'integer', minimum: 400, maximum: 599 },
    detail: { type: 'string' },
    /** Stale choices: the table's number now. */
    number,
    retryAfter: { type: 'integer', minimum: 1, description: 'Seconds after which to try again' },
    option: { type: 'string' },
    /** The place in the sheet. */
    line: { type: 'integer' },
    column: { type: 'integer' },
    problems: {
      type: 'array',
      items: {
        type: 'object',
        required: ['severity', 'line', 'column', 'endColumn', 'message'],
        additionalProperties: false,
        properties: {
          severity: { enum: ['error', 'warning'] },
          line: { type: 'integer' },
          column: { type: 'integer' },
          endColumn: { type: 'integer' },
          message: { type: 'string' },
          fix: { type: 'string' },
        },
      },
    },
  },
} as const;
export type ProblemDetails = Wire<typeof problemSchema>;
export const sheetProblems = problemSchema.properties.problems;
export type SheetProblem = NonNullable<ProblemDetails['problems']>[number];
