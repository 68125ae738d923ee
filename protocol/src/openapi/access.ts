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
