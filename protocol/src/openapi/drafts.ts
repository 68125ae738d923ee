import { answer, COMMON, draftId, inPath, json, keyed, problem, ref } from './words.js';

/** Drafts of the workshop, with their history. */
export const draftsPaths = {
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
} as const;
