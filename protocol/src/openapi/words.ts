/** A body of JSON. */
export const json = (schema: object): object => ({ content: { 'application/json': { schema } } });
/** An answer that is JSON. */
export const answer = (description: string, schema: object): object => ({ description, ...json(schema) });
/** An answer that says what is wrong. */
export const problem = (description: string): object => ({
  description,
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
});
/** A schema of the document, by its name. */
export const ref = (name: string): object => ({ $ref: `#/components/schemas/${name}` });
/** A part of the path. */
export const inPath = (name: string, description: string): object => ({
  name,
  in: 'path',
  required: true,
  description,
  schema: { type: 'string' },
});
/** A part of the query. */
export const inQuery = (name: string, description: string): object => ({
  name,
  in: 'query',
  required: false,
  description,
  schema: { type: 'string' },
});

export const tableId = inPath('table', 'The table');
export const trialId = inPath('trial', 'The trial');
export const draftId = inPath('draft', 'The draft');
/** Whose eyes, for keys that may choose. */
export const as = inQuery('as', 'Developer keys: a seat\'s number, "watch" or "open"');
/** What any request with a key may be answered. */
export const COMMON = { '401': problem('No key, or an unknown one'), '429': problem('Too many requests') };
/** What a request about a seat may be answered. */
export const SEAT = {
  '403': problem("Neither the seat's own key, nor host, nor developer"),
  '404': problem('No such seat'),
  ...COMMON,
};
/** Only with a key. */
export const keyed = { security: [{ key: [] }] };
