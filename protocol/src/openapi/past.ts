import { answer, as, COMMON, inPath, inQuery, json, keyed, problem, ref, tableId } from './words.js';

/** Looking back at a table: its records, what choices were worth, what was promised. */
export const pastPaths = {
  '/api/tables/{table}/analysis/{number}': {
    get: {
      summary: 'What a choice was worth, beside the others that its seat had',
      description:
        'Thinks with what the seat knew then. While the table is open only developer keys ask; a seat key asks about its own choices.',
      ...keyed,
      parameters: [
        tableId,
        inPath('number', 'The number of the choice'),
        inQuery('milliseconds', 'How long is thought: up to 5000; 500 where nothing is said'),
      ],
      responses: {
        '200': answer('The choices, with what each was worth', ref('Analysis')),
        '403': problem('The table is open, or the choice is not of the seat of the key'),
        '422': problem('Nobody chose at that number'),
        '503': problem('Too many think at once'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/past/{number}': {
    get: {
      summary: 'The state after a number, and the step that led to it',
      description: 'While a table is open this takes a developer key; afterwards every key looks with its own eyes.',
      ...keyed,
      parameters: [tableId, inPath('number', 'How many choices led to it'), as],
      responses: { '200': answer('The past', ref('Past')), '403': problem('The table is still open'), ...COMMON },
    },
  },
  '/api/tables/{table}/branch': {
    post: {
      summary: 'Go on from a number as a new table',
      description: 'What no player has seen by then is dealt anew, unless "same" is set.',
      ...keyed,
      parameters: [tableId],
      requestBody: json(ref('Branch')),
      responses: {
        '201': answer('The new table with its keys', ref('Opened')),
        '403': problem('Not a developer key'),
        '422': problem('There is no such number, or a rule of the sheet no longer holds'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/record': {
    get: {
      summary: 'The record: a header line, then a line a choice (RecordHeader, RecordRow)',
      ...keyed,
      parameters: [tableId],
      responses: {
        '200': { description: 'NDJSON', content: { 'application/x-ndjson': { schema: { type: 'string' } } } },
        ...COMMON,
      },
    },
  },
  '/api/records': {
    post: {
      summary: 'Load a record as a new table, verifying every digest',
      ...keyed,
      requestBody: json(ref('RecordFile')),
      responses: {
        '201': answer('The new table with its keys', ref('Opened')),
        '403': problem('Not a developer key'),
        '404': problem('The service does not have its sheet'),
        '422': problem('It cannot be read (with the line), or differs (with the number of the choice)'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/fairness': {
    get: {
      summary:
        'What a viewer may check of the shuffles: promises, and cards that were seen with their proofs (FairLine)',
      ...keyed,
      parameters: [tableId, as],
      responses: {
        '200': { description: 'NDJSON', content: { 'application/x-ndjson': { schema: { type: 'string' } } } },
        '409': problem('Nothing is promised at this table'),
        ...COMMON,
      },
    },
  },
} as const;
