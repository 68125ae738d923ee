import { answer, as, COMMON, inQuery, json, keyed, problem, ref, tableId } from './words.js';

/** Tables: opened, listed, followed, played. */
export const tablesPaths = {
  '/api/tables': {
    get: {
      summary: 'Tables, the newest first, a page at a time',
      ...keyed,
      parameters: [
        inQuery('status', 'Only those that are open, over, closed or fault'),
        inQuery('limit', 'How many, 50 unless it is said and 200 at most'),
        inQuery('after', 'What the page before gave as "next"'),
      ],
      responses: { '200': answer('Tables', ref('TableList')), ...COMMON },
    },
    post: {
      summary: 'Open a table',
      ...keyed,
      requestBody: json(ref('OpenTable')),
      responses: {
        '201': answer('The table with its keys, shown this once', ref('Opened')),
        '403': problem('Not a developer key'),
        '404': problem('No such sheet'),
        '422': problem('Settings or seats do not fit, or the sheet makes a fault before it waits'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}': {
    get: {
      summary: 'What a table is and how it stands',
      ...keyed,
      parameters: [tableId],
      responses: { '200': answer('The table', ref('TableSummary')), '404': problem('No such table'), ...COMMON },
    },
    delete: {
      summary: 'Delete a table with its record and keys',
      ...keyed,
      parameters: [tableId],
      responses: {
        '204': { description: 'It is gone' },
        '403': problem('Not a developer key'),
        '404': problem('No such table'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/retry': {
    post: {
      summary: 'Try once more to load a table that could not be played again',
      ...keyed,
      parameters: [tableId],
      responses: {
        '200': answer('It can be played', ref('TableSummary')),
        '403': problem('Not a developer key'),
        '409': problem('It still cannot be played, with the choice and the reason'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/plan': {
    get: {
      summary: 'What a client needs to draw the table',
      ...keyed,
      parameters: [tableId],
      responses: { '200': answer('The table plan', ref('Plan')), ...COMMON },
    },
  },
  '/api/tables/{table}/view': {
    get: {
      summary: 'The state as the key sees it',
      ...keyed,
      parameters: [tableId, as],
      responses: { '200': answer('The view', ref('View')), '403': problem('This key may not look so'), ...COMMON },
    },
  },
  '/api/tables/{table}/choices': {
    get: {
      summary: 'What may be chosen now, and what may not with the reason',
      ...keyed,
      parameters: [tableId, inQuery('seat', 'Developer keys: whose choices')],
      responses: { '200': answer('The offers', ref('Offers')), '403': problem('Watchers choose nothing'), ...COMMON },
    },
    post: {
      summary: 'Choose',
      ...keyed,
      parameters: [tableId],
      requestBody: json(ref('Choice')),
      responses: {
        '200': answer('Carried out, once', ref('Chosen')),
        '403': problem('Not your turn, or not your seat'),
        '409': problem(
          'Stale: the ask is closed (the current number is given); the table is closed; a bot plays the seat',
        ),
        '422': problem('Refused by the rules with the reason, or malformed'),
        '503': problem('The database does not answer; nothing was changed'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/hint': {
    get: {
      summary: 'What thinking for a moment would choose, and what that is worth',
      description: 'Written down as a look. It knows what the seat knows, and nothing more.',
      ...keyed,
      parameters: [
        tableId,
        inQuery('seat', 'Developer keys: for whom'),
        inQuery('milliseconds', 'How long is thought: up to 5000; 1000 where nothing is said'),
      ],
      responses: {
        '200': answer('The best choices', ref('Hint')),
        '403': problem('Watchers choose nothing, or the seat is not asked'),
        '503': problem('Too many think at once'),
        ...COMMON,
      },
    },
  },
  '/api/tables/{table}/events': {
    get: {
      summary: 'What happened after a number, as the key may know it',
      description: 'At most 400 steps an answer: where "more" is true, ask again from the last of them.',
      ...keyed,
      parameters: [tableId, inQuery('from', 'Only what came after this number; from the opening when absent'), as],
      responses: { '200': answer('Steps', ref('Steps')), ...COMMON },
    },
  },
  '/api/tables/{table}/feed': {
    get: {
      summary: 'The live feed as server-sent events, for platforms without WebSocket',
      description:
        'Each event is a ServerMessage; its name is the message\'s type, its id the number. Resume with Last-Event-ID, or "from".',
      ...keyed,
      parameters: [tableId, inQuery('from', 'The last number that the client has seen'), as],
      responses: {
        '200': { description: 'Events', content: { 'text/event-stream': { schema: { type: 'string' } } } },
        '403': problem('This key may not look so'),
        ...COMMON,
      },
    },
  },
} as const;
