/** What a viewer may check of a table's shuffles. */
import { gave, hash, number, seatName, settings, tableId, type Wire } from './common.js';
import { tableKeys } from './tables.js';

const face = { type: 'string', maxLength: 8 } as const;
const place = { type: 'integer', minimum: 1 } as const;

export const fairnessSchema = {
  type: 'object',
  required: ['form', 'facts', 'table', 'commitment', 'took', 'shuffles', 'cards', 'seenNotOpened'],
  additionalProperties: false,
  properties: {
    form: { const: 'wily-jester-fair/1' },
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
    table: hash,
    commitment: hash,
    took: { type: 'array', items: { type: 'integer' }, description: 'Seats whose own chance took part' },
    gave: {
      ...gave,
      description: 'What each seat promised and showed of its own chance, by seat; empty for whoever was absent',
    },
    voids: {
      type: 'array',
      items: { type: 'integer' },
      description: 'Seats that promised something and did not show it: all was begun anew without them',
    },
    shuffles: {
      type: 'array',
      items: {
        type: 'object',
        required: ['shuffle', 'pile', 'cards', 'root', 'number'],
        additionalProperties: false,
        properties: {
          shuffle: place,
          pile: { type: 'string' },
          cards: { type: 'integer' },
          root: hash,
          number,
        },
      },
    },
    cards: {
      type: 'array',
      description: 'Cards that this viewer has seen, each with the proof that it lay at its place',
      items: {
        type: 'object',
        required: ['shuffle', 'place', 'face', 'salt', 'path'],
        additionalProperties: false,
        properties: { shuffle: place, place, face, salt: hash, path: { type: 'array', items: hash } },
      },
    },
    seenNotOpened: { type: 'integer', description: 'Cards that were seen, and came by way of another hand' },
    whole: {
      type: 'object',
      required: ['seed', 'orders'],
      additionalProperties: false,
      description: 'The seed with every order, once the game is over, where the table was opened so',
      properties: { seed: hash, orders: { type: 'array', items: { type: 'array', items: face } } },
    },
  },
} as const;
export type Fairness = Wire<typeof fairnessSchema>;

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
