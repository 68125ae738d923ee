/** What a viewer may check of a table's shuffles. */
import { hash, number, seatName, settings, tableId, type Wire } from './common.js';

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
