/** Drafts of the workshop: texts that are being written, and how they came to be. */
import { hash, number, PLAIN, SHOWN, type Wire } from './common.js';

/** Longest text of a draft, in characters: as long as a sheet may be, and some more while it is being written. */
const LONGEST = 80_000;
const text = { type: 'string', maxLength: LONGEST } as const;
const texts = {
  sheet: text,
  rehearsals: text,
  parts: {
    type: 'object',
    description: 'Parts of its own, by their names',
    maxProperties: 12,
    propertyNames: { pattern: '^[a-z][a-z0-9-]{0,39}$' },
    additionalProperties: text,
  },
} as const;

export const draftTextsSchema = {
  type: 'object',
  required: ['sheet', 'rehearsals', 'parts'],
  additionalProperties: false,
  properties: texts,
} as const;
export type DraftTexts = Wire<typeof draftTextsSchema>;

export const newDraftSchema = {
  type: 'object',
  required: ['sheet'],
  additionalProperties: false,
  properties: {
    ...texts,
    origin: {
      type: 'string',
      minLength: 1,
      maxLength: 500,
      pattern: SHOWN,
      description: 'A file on the disk of whoever made it',
    },
  },
} as const;
export type NewDraft = Wire<typeof newDraftSchema>;

export const keepDraftSchema = {
  type: 'object',
  required: ['after', 'sheet', 'rehearsals', 'parts'],
  additionalProperties: false,
  properties: {
    after: { ...number, description: 'The number of the draft that these texts were made from' },
    ...texts,
    anew: { type: 'boolean', description: 'What was there before stays an edition of its own, however new it is' },
    window: {
      type: 'string',
      minLength: 1,
      maxLength: 60,
      pattern: PLAIN,
      description: "The writer's own word for itself",
    },
  },
} as const;
export type KeepDraft = Wire<typeof keepDraftSchema>;

const summary = {
  id: { type: 'string' },
  title: { type: 'string' },
  number: { ...number, description: 'Goes up each time that it is kept' },
  changed: { type: 'string' },
  lines: { type: 'integer' },
  origin: { type: ['string', 'null'] },
  shelf: { anyOf: [hash, { type: 'null' }], description: 'The version on the shelf that was made of it last' },
  window: { type: ['string', 'null'], description: 'Who kept it last' },
} as const;
const SUMMARY = ['id', 'title', 'number', 'changed', 'lines', 'origin', 'shelf', 'window'] as const;

export const draftSummarySchema = {
  type: 'object',
  required: SUMMARY,
  additionalProperties: false,
  properties: summary,
} as const;
export type DraftSummary = Wire<typeof draftSummarySchema>;

export const draftSchema = {
  type: 'object',
  required: [...SUMMARY, 'sheet', 'rehearsals', 'parts'],
  additionalProperties: false,
  properties: { ...summary, ...texts },
} as const;
export type Draft = Wire<typeof draftSchema>;

export const draftListSchema = {
  type: 'object',
  required: ['drafts'],
  additionalProperties: false,
  properties: { drafts: { type: 'array', items: draftSummarySchema } },
} as const;
export type DraftList = Wire<typeof draftListSchema>;

const edition = {
  number,
  at: { type: 'string' },
  lines: { type: 'integer' },
  title: { type: 'string' },
  shelf: { anyOf: [hash, { type: 'null' }] },
} as const;
const EDITION = ['number', 'at', 'lines', 'title', 'shelf'] as const;

export const editionListSchema = {
  type: 'object',
  required: ['editions'],
  additionalProperties: false,
  properties: {
    editions: {
      type: 'array',
      items: { type: 'object', required: EDITION, additionalProperties: false, properties: edition },
    },
  },
} as const;
export type EditionSummary = Wire<typeof editionListSchema>['editions'][number];

export const editionSchema = {
  type: 'object',
  required: [...EDITION, 'sheet', 'rehearsals', 'parts'],
  additionalProperties: false,
  properties: { ...edition, ...texts },
} as const;
export type Edition = Wire<typeof editionSchema>;

export const shelvedSchema = {
  type: 'object',
  required: ['draft', 'sheet', 'added'],
  additionalProperties: false,
  properties: {
    draft: draftSummarySchema,
    sheet: hash,
    added: { type: 'boolean', description: 'No version was the same' },
  },
} as const;
export type Shelved = Wire<typeof shelvedSchema>;

export const shelfWishSchema = {
  type: 'object',
  required: ['source'],
  additionalProperties: false,
  properties: {
    source: { type: 'string', minLength: 1, maxLength: 65_536, description: 'The sheet with its own parts in it' },
    rehearsals: { type: 'string', maxLength: 65_536 },
  },
} as const;
export type ShelfWish = Wire<typeof shelfWishSchema>;
