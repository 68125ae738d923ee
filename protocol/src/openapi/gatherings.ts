import { answer, COMMON, json, keyed, problem, ref, tableId } from './words.js';

/** Tables whose seats give chance before anything is dealt. */
export const gatheringsPaths = {
  '/api/gatherings': {
    post: {
      summary: 'Open a table whose seats give chance before anything is dealt',
      description:
        'Seats promise random bytes and then show them: neither the service nor a seat alone chooses a shuffle.',
      ...keyed,
      requestBody: json(ref('Gather')),
      responses: {
        '201': answer('It began; the keys are those of the table', ref('Gathered')),
        '403': problem('Not a developer key'),
        '422': problem('Seats or settings do not fit the sheet'),
        ...COMMON,
      },
    },
  },
  '/api/gatherings/{table}': {
    get: {
      summary: 'How a gathering stands',
      ...keyed,
      parameters: [tableId],
      responses: {
        '200': answer('How it stands', ref('Gathering')),
        '404': problem('Nobody gathers there'),
        ...COMMON,
      },
    },
  },
  '/api/gatherings/{table}/parts': {
    post: {
      summary: "Send a seat's promise, or what it promised",
      ...keyed,
      parameters: [tableId],
      requestBody: json(ref('SeatPart')),
      responses: {
        '200': answer('How it stands then', ref('Gathering')),
        '403': problem('Not the key of a seat that a person holds'),
        '404': problem('Nobody gathers there'),
        '409': problem('It is not the time for that, or something else was promised'),
        ...COMMON,
      },
    },
  },
  '/api/gatherings/{table}/deal': {
    post: {
      summary: 'Wait for nobody else: whoever promised nothing yet is left out',
      ...keyed,
      parameters: [tableId],
      responses: {
        '200': answer('How it stands then', ref('Gathering')),
        '403': problem('Neither host nor developer'),
        '404': problem('Nobody gathers there'),
        ...COMMON,
      },
    },
  },
} as const;
