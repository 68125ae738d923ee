import { answer, COMMON, inPath, json, keyed, problem, ref } from './words.js';

/** Sheets: checked, kept, looked at. */
export const sheetsPaths = {
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
      summary: 'The settings of a sheet, where some have these values: limits and standard values may follow from them',
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
} as const;
