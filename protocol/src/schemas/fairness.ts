/** What a viewer may check of a table's shuffles. */
import { gave, hash, number, seatName, settings, tableId, type Wire } from './common.js';
import { tableKeys } from './tables.js';

const face = { type: 'string', maxLength: 8 } as const;
const count = { type: 'integer', minimum: 0 } as const;
const place = { type: 'integer', minimum: 1 } as const;
const seat = { type: 'integer', minimum: 1, maximum: 12 } as const;
/** The hash of the line before that everybody was told; empty for the first. */
const after = { type: 'string', maxLength: 64 } as const;

/** What binds the choices so far; empty before the first. */
const bound = { type: 'string', pattern: '^([0-9a-f]{64})?$' } as const;

/** A line of one kind, with what it holds. */
const line = <K extends string, P extends Record<string, unknown>>(kind: K, properties: P, description?: string) => ({
  type: 'object',
  required: ['fair', ...Object.keys(properties)],
  additionalProperties: false,
  properties: { fair: { const: kind }, ...properties },
  ...(description ? { description } : {}),
});

/** One line of what a viewer may check of a table's shuffles. Lines with `after` are told to all alike. */
export const fairLineSchema = {
  oneOf: [
    line('table', {
      form: { const: 'wily-jester-fair/3' },
      facts: {
        type: 'object',
        required: ['table', 'sheet', 'semantics', 'settings', 'seats', 'deck'],
        additionalProperties: false,
        description: 'What everybody knew before anything was dealt',
        properties: {
          table: tableId,
          sheet: hash,
          semantics: { type: 'integer' },
          settings,
          seats: { type: 'array', items: seatName },
          deck: { type: 'array', items: face },
        },
      },
      hash,
      after,
    }),
    line('void', { seat, after }, 'A seat that promised something and did not show it: all was begun anew without it'),
    line('service', { commitment: hash, after }, "The service's promise of its seed"),
    line('promise', { seat, promise: hash, after }),
    line('frozen', { hash, after }, 'The list of promises'),
    line('show', { seat, bytes: hash, after }, 'The chance that a seat gave'),
    line('ready', { opening: hash, after }, 'What all keys come from'),
    line('earlier', { shuffles: count, hash }, 'So many shuffles were before, and are told no more'),
    line('back', { shuffles: count, after }, 'What came after so many shuffles was taken back'),
    line('shuffle', {
      shuffle: place,
      pile: { type: 'string' },
      cards: count,
      root: hash,
      at: number,
      choices: bound,
      after,
    }),
    line(
      'choices',
      { at: number, hash: bound, after },
      'How far the table had come, and what binds every choice so far',
    ),
    line(
      'card',
      { shuffle: place, place, face, salt: hash, path: { type: 'array', items: hash } },
      'A card of the shuffle before it that this viewer has seen, with the proof that it lay at its place',
    ),
    line('seen', { cards: count }, 'How many were seen that came by way of another hand'),
    line('seed', { seed: hash }, 'Once the game is over, where the table was opened so'),
    line('order', { shuffle: place, faces: { type: 'array', items: face } }),
    line('end', { at: number, head: { type: 'string', maxLength: 26 } }, 'With the fingerprint of what all were told'),
  ],
} as const;

/** A table whose seats give chance before anything is dealt. */
export const gatheringSchema = {
  type: 'object',
  required: ['table', 'phase', 'facts', 'commitment', 'promises', 'seats', 'left', 'voids'],
  additionalProperties: false,
  properties: {
    table: tableId,
    phase: {
      enum: ['promising', 'showing', 'open'],
      description:
        'promising: seats send promises; showing: the list is frozen, they show what they promised; open: dealt',
    },
    facts: hash,
    commitment: { ...hash, description: "The service's promise of its seed" },
    promises: gave.properties.promises,
    seats: {
      type: 'array',
      items: {
        type: 'object',
        required: ['seat', 'name', 'state'],
        additionalProperties: false,
        properties: {
          seat: { type: 'integer', minimum: 1 },
          name: seatName,
          state: { enum: ['bot', 'waiting', 'promised', 'shown', 'absent'] },
        },
      },
    },
    left: { type: 'number', description: 'Seconds until it goes on without whoever is missing' },
    voids: { type: 'array', items: { type: 'integer' } },
  },
} as const;
export type GatheringView = Wire<typeof gatheringSchema>;

/** What a seat sends: a promise, or what it promised; 32 bytes as hexadecimal digits. */
export const seatPartSchema = {
  type: 'object',
  required: ['kind', 'value'],
  additionalProperties: false,
  properties: {
    kind: { enum: ['promise', 'show'] },
    value: hash,
    seat: { type: 'integer', minimum: 1, maximum: 12, description: 'Developer keys: for whom' },
  },
} as const;
export type SeatPart = Wire<typeof seatPartSchema>;

/** A gathering that began, with the keys of the table that it leads to. */
export const gatheredSchema = {
  type: 'object',
  required: ['gathering', 'keys'],
  additionalProperties: false,
  properties: { gathering: gatheringSchema, keys: tableKeys },
} as const;
export type Gathered = Wire<typeof gatheredSchema>;
