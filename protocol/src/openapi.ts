import * as schemas from './schemas/index.js';

const json = (schema: object): object => ({ content: { 'application/json': { schema } } });
const answer = (description: string, schema: object): object => ({ description, ...json(schema) });
const problem = (description: string): object => ({
  description,
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
});
const ref = (name: string): object => ({ $ref: `#/components/schemas/${name}` });
const inPath = (name: string, description: string): object => ({
  name,
  in: 'path',
  required: true,
  description,
  schema: { type: 'string' },
});
const inQuery = (name: string, description: string): object => ({
  name,
  in: 'query',
  required: false,
  description,
  schema: { type: 'string' },
});

const tableId = inPath('table', 'The table');
const trialId = inPath('trial', 'The trial');
const draftId = inPath('draft', 'The draft');
const as = inQuery('as', 'Developer keys: a seat\'s number, "watch" or "open"');
const COMMON = { '401': problem('No key, or an unknown one'), '429': problem('Too many requests') };
const SEAT = {
  '403': problem("Neither the seat's own key, nor host, nor developer"),
  '404': problem('No such seat'),
  ...COMMON,
};
const keyed = { security: [{ key: [] }] };

/** The service's interface, as OpenAPI 3.1. */
export const openapi = {
  openapi: '3.1.0',
  info: {
    title: 'Wily Jester',
    version: '0.17.0',
    description:
      'Tables for card games whose rules are written in Motley. Every error is a problem (RFC 9457). A live table also speaks over the WebSocket /api/tables/{table}/live.',
    license: { name: 'MIT', identifier: 'MIT' },
  },
  servers: [{ url: '/' }],
  components: {
    securitySchemes: { key: { type: 'http', scheme: 'bearer', description: 'A developer, host, seat or watch key' } },
    schemas: {
      Problem: schemas.problemSchema,
      SheetText: schemas.sheetTextSchema,
      Check: schemas.checkSchema,
      SheetList: schemas.sheetListSchema,
      Sheet: schemas.sheetSchema,
      SettingsWish: schemas.settingsWishSchema,
      Settings: schemas.settingsSchema,
      Plan: schemas.planSchema,
      OpenTable: schemas.openTableSchema,
      Opened: schemas.openedSchema,
      TableSummary: schemas.tableSummarySchema,
      TableList: schemas.tableListSchema,
      View: schemas.viewSchema,
      Choice: schemas.choiceSchema,
      Chosen: schemas.chosenSchema,
      Offers: schemas.offersSchema,
      Hint: schemas.hintSchema,
      Analysis: schemas.analysisSchema,
      Gather: schemas.gatherSchema,
      Gathering: schemas.gatheringSchema,
      Gathered: schemas.gatheredSchema,
      SeatPart: schemas.seatPartSchema,
      Steps: schemas.stepsSchema,
      BotSeat: schemas.botSeatSchema,
      NewKey: schemas.newKeySchema,
      MadeKey: schemas.madeKeySchema,
      Past: schemas.pastSchema,
      Branch: schemas.branchSchema,
      RecordFile: schemas.recordFileSchema,
      RecordHeader: schemas.recordHeaderSchema,
      RecordRow: schemas.recordRowSchema,
      Health: schemas.healthSchema,
      Session: schemas.sessionSchema,
      Login: schemas.loginSchema,
      LoginWish: schemas.loginWishSchema,
      ComeIn: schemas.comeInSchema,
      Looks: schemas.looksSchema,
      Fairness: schemas.fairnessSchema,
      NewTrial: schemas.newTrialSchema,
      TrialSummary: schemas.trialSummarySchema,
      TrialList: schemas.trialListSchema,
      Trial: schemas.trialSchema,
      DraftTexts: schemas.draftTextsSchema,
      NewDraft: schemas.newDraftSchema,
      KeepDraft: schemas.keepDraftSchema,
      DraftSummary: schemas.draftSummarySchema,
      Draft: schemas.draftSchema,
      DraftList: schemas.draftListSchema,
      EditionList: schemas.editionListSchema,
      Edition: schemas.editionSchema,
      ShelfWish: schemas.shelfWishSchema,
      Shelved: schemas.shelvedSchema,
      ServerMessage: schemas.serverMessageSchema,
      ClientMessage: schemas.clientMessageSchema,
    },
  },
  paths: {
    '/api/session': {
      get: { summary: 'What the key that is sent may do', responses: { '200': answer('The role', ref('Session')) } },
      post: {
        summary: "Come in with a word: the page becomes a developer's, by a cookie",
        requestBody: json(ref('ComeIn')),
        responses: { '201': answer('The role', ref('Session')), ...COMMON },
      },
      delete: { summary: 'End the session of the cookie', responses: { '204': { description: 'It has ended' } } },
    },
    '/api/logins': {
      post: {
        summary: 'Make a word with which a page comes in, once',
        ...keyed,
        requestBody: json(ref('LoginWish')),
        responses: {
          '201': answer('The word, shown this once', ref('Login')),
          '403': problem('Not a developer key'),
          ...COMMON,
        },
      },
    },
    '/api/sheets': {
      get: {
        summary: 'The sheets, newest version of each name',
        ...keyed,
        responses: { '200': answer('Sheets', ref('SheetList')), ...COMMON },
      },
      post: {
        summary: 'Add a sheet; the same text is the same version',
        ...keyed,
        requestBody: json(ref('SheetText')),
        responses: {
          '200': answer('It was there already', ref('Sheet')),
          '201': answer('Added', ref('Sheet')),
          '403': problem('Not a developer key'),
          '422': problem('The sheet has errors, with line and column'),
          ...COMMON,
        },
      },
    },
    '/api/sheets/check': {
      post: {
        summary: 'Check a sheet without adding it',
        ...keyed,
        requestBody: json(ref('SheetText')),
        responses: { '200': answer('What was found', ref('Check')), ...COMMON },
      },
    },
    '/api/sheets/{sheet}': {
      get: {
        summary: 'One sheet with its source and table plan',
        ...keyed,
        parameters: [inPath('sheet', 'Hash or name')],
        responses: { '200': answer('The sheet', ref('Sheet')), '404': problem('No such sheet'), ...COMMON },
      },
      delete: {
        summary: 'Delete a version of a sheet that no table uses',
        ...keyed,
        parameters: [inPath('sheet', 'Hash, or name for the newest version')],
        responses: {
          '204': { description: 'It is gone' },
          '403': problem('Not a developer key'),
          '404': problem('No such sheet'),
          '409': problem('A table uses it'),
          ...COMMON,
        },
      },
    },
    '/api/sheets/{sheet}/settings': {
      post: {
        summary:
          'The settings of a sheet, where some have these values: limits and standard values may follow from them',
        ...keyed,
        parameters: [inPath('sheet', 'Hash or name')],
        requestBody: json(ref('SettingsWish')),
        responses: {
          '200': answer('All settings, in order', ref('Settings')),
          '404': problem('No such sheet'),
          '422': problem('A value that does not do, or an unknown setting'),
          ...COMMON,
        },
      },
    },
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
        summary: 'What a viewer may check of the shuffles: promises, and cards that were seen with their proofs',
        ...keyed,
        parameters: [tableId, as],
        responses: {
          '200': answer('All of it', ref('Fairness')),
          '409': problem('Nothing is promised at this table'),
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
    '/api/trials': {
      get: {
        summary: 'The trials, the latest first',
        ...keyed,
        responses: { '200': answer('Trials', ref('TrialList')), '403': problem('Not a developer key'), ...COMMON },
      },
      post: {
        summary: 'Play very many games of a sheet, behind the tables',
        ...keyed,
        requestBody: json(ref('NewTrial')),
        responses: {
          '201': answer('It waits, or is played', ref('TrialSummary')),
          '403': problem('Not a developer key'),
          '404': problem('No such sheet'),
          '422': problem('It does not fit the sheet'),
          ...COMMON,
        },
      },
    },
    '/api/trials/{trial}': {
      get: {
        summary: 'A trial, with what it has found so far',
        ...keyed,
        parameters: [trialId],
        responses: { '200': answer('The trial', ref('Trial')), '404': problem('No such trial'), ...COMMON },
      },
      delete: {
        summary: 'Delete a trial, ending it first',
        ...keyed,
        parameters: [trialId],
        responses: { '204': { description: 'It is gone' }, '404': problem('No such trial'), ...COMMON },
      },
    },
    '/api/trials/{trial}/stop': {
      post: {
        summary: 'End a trial: what is there is kept, with wider intervals',
        ...keyed,
        parameters: [trialId],
        responses: { '200': answer('The trial', ref('Trial')), '404': problem('No such trial'), ...COMMON },
      },
    },
    '/api/trials/{trial}/events': {
      get: {
        summary: 'A trial as it grows, as server-sent events: each is the whole trial, and the last one is over',
        ...keyed,
        parameters: [trialId],
        responses: {
          '200': { description: 'Events', content: { 'text/event-stream': { schema: { type: 'string' } } } },
          '404': problem('No such trial'),
          ...COMMON,
        },
      },
    },
    '/api/drafts': {
      get: {
        summary: 'The drafts of the workshop, the latest first',
        ...keyed,
        responses: { '200': answer('Drafts', ref('DraftList')), '403': problem('Not a developer key'), ...COMMON },
      },
      post: {
        summary: 'Begin a draft; with the origin of one that is there, that one goes on',
        ...keyed,
        requestBody: json(ref('NewDraft')),
        responses: { '201': answer('The draft', ref('Draft')), '403': problem('Not a developer key'), ...COMMON },
      },
    },
    '/api/drafts/{draft}': {
      get: {
        summary: 'A draft; a key to look reads its own',
        ...keyed,
        parameters: [draftId],
        responses: { '200': answer('The draft', ref('Draft')), '404': problem('No such draft'), ...COMMON },
      },
      put: {
        summary: 'Keep the texts of a draft, made from a number of it',
        ...keyed,
        parameters: [draftId],
        requestBody: json(ref('KeepDraft')),
        responses: {
          '200': answer('It is kept', ref('DraftSummary')),
          '404': problem('No such draft'),
          '409': problem('Somebody else kept it meanwhile; nothing was overwritten'),
          ...COMMON,
        },
      },
      delete: {
        summary: 'Delete a draft with all its editions and the keys to look',
        ...keyed,
        parameters: [draftId],
        responses: { '204': { description: 'It is gone' }, '404': problem('No such draft'), ...COMMON },
      },
    },
    '/api/drafts/{draft}/editions': {
      get: {
        summary: 'How a draft came to be, the latest first',
        ...keyed,
        parameters: [draftId],
        responses: { '200': answer('Editions', ref('EditionList')), '404': problem('No such draft'), ...COMMON },
      },
    },
    '/api/drafts/{draft}/editions/{number}': {
      get: {
        summary: 'A draft as it once was',
        ...keyed,
        parameters: [draftId, inPath('number', 'The number of the edition')],
        responses: { '200': answer('The edition', ref('Edition')), '404': problem('No such edition'), ...COMMON },
      },
    },
    '/api/drafts/{draft}/shelf': {
      post: {
        summary: 'Put a draft on the shelf: its sheet is checked and becomes a version',
        ...keyed,
        parameters: [draftId],
        requestBody: json(ref('ShelfWish')),
        responses: {
          '200': answer('It is on the shelf', ref('Shelved')),
          '404': problem('No such draft'),
          '422': problem('The sheet has errors'),
          ...COMMON,
        },
      },
    },
    '/api/drafts/{draft}/keys': {
      post: {
        summary: 'Make a key with which a draft is looked at, and no more',
        ...keyed,
        parameters: [draftId],
        responses: {
          '201': answer('The key, shown this once', ref('MadeKey')),
          '404': problem('No such draft'),
          ...COMMON,
        },
      },
      delete: {
        summary: 'End all keys to look at a draft',
        ...keyed,
        parameters: [draftId],
        responses: { '204': { description: 'They have ended' }, '404': problem('No such draft'), ...COMMON },
      },
    },
    '/api/drafts/{draft}/events': {
      get: {
        summary: 'Hear of each time that a draft is kept, as server-sent events',
        ...keyed,
        parameters: [draftId],
        responses: {
          '200': { description: 'Events', content: { 'text/event-stream': { schema: { type: 'string' } } } },
          '404': problem('No such draft'),
          ...COMMON,
        },
      },
    },
    '/health': {
      get: {
        summary: 'Whether service and database answer',
        responses: { '200': answer('Both do', ref('Health')), '503': answer('The database does not', ref('Health')) },
      },
    },
    '/metrics': {
      get: {
        summary: 'Figures for Prometheus',
        responses: { '200': { description: 'Text', content: { 'text/plain': { schema: { type: 'string' } } } } },
      },
    },
  },
} as const;
