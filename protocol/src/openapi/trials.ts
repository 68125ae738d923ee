import { answer, COMMON, json, keyed, problem, ref, trialId } from './words.js';

/** Trials: asked for, followed, stopped. */
export const trialsPaths = {
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
} as const;
