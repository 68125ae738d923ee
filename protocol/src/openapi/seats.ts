import { answer, COMMON, inPath, json, keyed, problem, ref, SEAT, tableId } from './words.js';

/** Who sits at a table and who may look: seats, keys, looks. */
export const seatsPaths = {
  '/api/tables/{table}/seats/{seat}/take': {
    post: {
      summary: 'Take a seat, back from a bot too',
      ...keyed,
      parameters: [tableId, inPath('seat', 'The seat, from 1')],
      responses: { '200': answer('The table', ref('TableSummary')), ...SEAT },
    },
  },
  '/api/tables/{table}/seats/{seat}/leave': {
    post: {
      summary: 'Leave a seat: its clock answers at once until it is taken again',
      ...keyed,
      parameters: [tableId, inPath('seat', 'The seat, from 1')],
      responses: { '200': answer('The table', ref('TableSummary')), ...SEAT },
    },
  },
  '/api/tables/{table}/seats/{seat}/bot': {
    post: {
      summary: 'Hand a seat to a bot',
      ...keyed,
      parameters: [tableId, inPath('seat', 'The seat, from 1')],
      requestBody: json(ref('BotSeat')),
      responses: { '200': answer('The table', ref('TableSummary')), '422': problem('No such bot'), ...SEAT },
    },
  },
  '/api/tables/{table}/keys': {
    post: {
      summary: 'Make a new key: for a seat, whose old keys end, or to watch',
      ...keyed,
      parameters: [tableId],
      requestBody: json(ref('NewKey')),
      responses: {
        '201': answer('The key, shown this once', ref('MadeKey')),
        '403': problem('Neither host nor developer'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/keys/watch': {
    delete: {
      summary: 'End all keys to watch',
      ...keyed,
      parameters: [tableId],
      responses: {
        '204': { description: 'They have ended' },
        '403': problem('Neither host nor developer'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/looks': {
    get: {
      summary: 'What was looked at, or done, with a right that others do not have',
      ...keyed,
      parameters: [tableId],
      responses: {
        '200': answer('The latest first', ref('Looks')),
        '403': problem('Not a developer key'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/close': {
    post: {
      summary: 'Close a table',
      ...keyed,
      parameters: [tableId],
      responses: {
        '200': answer('Closed', ref('TableSummary')),
        '403': problem('Neither host nor developer'),
        ...COMMON,
      },
    },
  },
} as const;
