import { answer, COMMON, json, keyed, problem, ref } from './words.js';

/** Keys, pages and how the service is. */
export const accessPaths = {
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
  '/api/developers': {
    get: {
      summary: 'Those who develop on this service',
      ...keyed,
      responses: {
        '200': answer('The developers', ref('DeveloperList')),
        '403': problem('Not a developer key'),
        ...COMMON,
      },
    },
    post: {
      summary: 'Add a developer, with the key of the data folder',
      ...keyed,
      requestBody: json(ref('NewDeveloper')),
      responses: {
        '201': answer('The key, shown this once', ref('AddedDeveloper')),
        '403': problem('Not the key of the data folder'),
        '409': problem('There is a developer of that name'),
        ...COMMON,
      },
    },
  },
  '/api/developers/{developer}': {
    delete: {
      summary: "End a developer's keys and sessions; what they made stays",
      ...keyed,
      parameters: [{ name: 'developer', in: 'path', required: true, schema: { type: 'string' } }],
      responses: {
        '204': { description: 'They have ended' },
        '403': problem('Not the key of the data folder'),
        '404': problem('Nobody of that name'),
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
} as const;
