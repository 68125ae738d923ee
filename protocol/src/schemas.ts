/**
 * The words between the service and its clients, as JSON Schemas (draft 2020-12).
 * Ajv checks them at run time; the types beside them are made from them.
 */
import type { FromSchema } from 'json-schema-to-ts';

const value = { type: ['string', 'number', 'boolean', 'null'] } as const;
const values = { type: 'object', additionalProperties: value } as const;
const seatNumber = { type: 'integer', minimum: 1, maximum: 12 } as const;
const number = { type: 'integer', minimum: 0 } as const;
const path = { type: 'string', minLength: 1, maxLength: 80 } as const;
const hash = { type: 'string', pattern: '^[0-9a-f]{64}$' } as const;
const tableId = { type: 'string', pattern: '^[a-z0-9]{12}$' } as const;

export const problemSchema = {
  type: 'object',
  required: ['type', 'title', 'status', 'detail'],
  additionalProperties: false,
  properties: {
    type: { type: 'string', description: 'Stable: urn:wily-jester:problem:…' },
    title: { type: 'string' },
    status: { type: 'integer', minimum: 400, maximum: 599 },
    detail: { type: 'string' },
    /** Stale choices: the table's number now. */
    number,
    option: { type: 'string' },
    /** The place in the sheet. */
    line: { type: 'integer' },
    column: { type: 'integer' },
    problems: {
      type: 'array',
      items: {
        type: 'object',
        required: ['severity', 'line', 'column', 'endColumn', 'message'],
        additionalProperties: false,
        properties: {
          severity: { enum: ['error', 'warning'] },
          line: { type: 'integer' },
          column: { type: 'integer' },
          endColumn: { type: 'integer' },
          message: { type: 'string' },
          fix: { type: 'string' },
        },
      },
    },
  },
} as const;
export type ProblemDetails = FromSchema<typeof problemSchema>;
const sheetProblems = problemSchema.properties.problems;
export type SheetProblem = NonNullable<ProblemDetails['problems']>[number];

export const sheetTextSchema = {
  type: 'object',
  required: ['source'],
  additionalProperties: false,
  properties: {
    source: { type: 'string', minLength: 1, maxLength: 65_536, description: 'The text of the rule sheet, in Motley' },
    rehearsals: { type: 'string', maxLength: 65_536, description: 'The text of its rehearsals' },
  },
} as const;
export type SheetText = FromSchema<typeof sheetTextSchema>;

export const checkSchema = {
  type: 'object',
  required: ['ok', 'lines', 'problems'],
  additionalProperties: false,
  properties: { ok: { type: 'boolean' }, lines: { type: 'integer' }, problems: sheetProblems },
} as const;
export type Check = FromSchema<typeof checkSchema>;

export const sheetSummarySchema = {
  type: 'object',
  required: ['hash', 'name', 'blurb', 'seats', 'lines', 'added', 'tables', 'versions'],
  additionalProperties: false,
  properties: {
    hash,
    name: { type: 'string' },
    blurb: { type: 'string' },
    seats: { type: 'array', items: { type: 'integer' } },
    lines: { type: 'integer' },
    added: { type: 'string' },
    tables: { type: 'integer', description: 'Tables of this version that are still played' },
    versions: { type: 'integer', description: 'Versions kept under this name' },
  },
} as const;
export type SheetSummary = FromSchema<typeof sheetSummarySchema>;
export const sheetListSchema = {
  type: 'object',
  required: ['sheets'],
  additionalProperties: false,
  properties: { sheets: { type: 'array', items: sheetSummarySchema } },
} as const;

export const planSchema = {
  type: 'object',
  required: ['name', 'blurb', 'seats', 'settings', 'piles', 'layout', 'labels', 'counters', 'notes', 'options', 'bots', 'winsLeast'],
  additionalProperties: false,
  properties: {
    name: { type: 'string' },
    blurb: { type: 'string' },
    seats: { type: 'array', items: { type: 'integer' } },
    settings: {
      type: 'array',
      items: {
        type: 'object',
        required: ['name', 'type', 'help', 'standard'],
        additionalProperties: false,
        properties: {
          name: { type: 'string' },
          type: { enum: ['int', 'flag', 'word'] },
          help: { type: 'string' },
          standard: { type: ['number', 'boolean', 'string'] },
          from: { type: 'integer' },
          to: { type: 'integer' },
          values: { type: 'array', items: { type: ['number', 'string'] } },
        },
      },
    },
    piles: {
      type: 'array',
      items: {
        type: 'object',
        required: ['name', 'label', 'facing', 'shape', 'of', 'many'],
        additionalProperties: false,
        properties: {
          name: { type: 'string' },
          label: { type: 'string' },
          facing: { enum: ['down', 'up', 'private'] },
          shape: { enum: ['stack', 'fan', 'cascade'] },
          of: { enum: ['table', 'seat', 'suit'] },
          many: { type: ['integer', 'null'] },
        },
      },
    },
    layout: { type: 'array', items: { type: 'array', items: { type: ['string', 'null'] } } },
    labels: {
      type: 'object',
      required: ['table', 'seat'],
      additionalProperties: false,
      properties: {
        table: { type: 'object', additionalProperties: { type: 'string' } },
        seat: { type: 'object', additionalProperties: { type: 'string' } },
      },
    },
    counters: { type: 'array', items: { type: 'string' } },
    notes: {
      type: 'array',
      items: {
        type: 'object',
        required: ['name', 'beside'],
        additionalProperties: false,
        properties: { name: { type: 'string' }, beside: { anyOf: [{ const: 'seat' }, { type: 'array', items: { type: 'string' } }] } },
      },
    },
    options: {
      type: 'array',
      items: {
        type: 'object',
        required: ['name', 'words'],
        additionalProperties: false,
        properties: { name: { type: 'string' }, words: { type: 'string' } },
      },
    },
    bots: { type: 'array', items: { type: 'string' } },
    winsLeast: { type: 'boolean' },
  },
} as const;
export type Plan = FromSchema<typeof planSchema>;

export const sheetSchema = {
  type: 'object',
  required: ['hash', 'name', 'source', 'rehearsals', 'added', 'plan', 'warnings'],
  additionalProperties: false,
  properties: {
    hash,
    name: { type: 'string' },
    source: { type: 'string' },
    rehearsals: { type: ['string', 'null'] },
    added: { type: 'string' },
    plan: planSchema,
    warnings: sheetProblems,
  },
} as const;
export type Sheet = FromSchema<typeof sheetSchema>;

export const openTableSchema = {
  type: 'object',
  required: ['sheet', 'seats'],
  additionalProperties: false,
  properties: {
    sheet: { type: 'string', minLength: 1, maxLength: 120, description: 'A hash, or a name: then its newest version' },
    settings: { type: 'object', additionalProperties: { type: ['number', 'boolean', 'string'] } },
    seats: {
      type: 'array',
      minItems: 1,
      maxItems: 12,
      items: {
        type: 'object',
        required: ['name'],
        additionalProperties: false,
        properties: {
          name: { type: 'string', minLength: 1, maxLength: 24, pattern: '^[^\\s].*$' },
          bot: { type: 'string', maxLength: 40, description: "The sheet's bot that plays here; absent for a person" },
        },
      },
    },
    seed: { type: 'string', minLength: 1, maxLength: 200, description: 'A word that fixes every shuffle; such a table promises no fairness' },
    gets: { type: 'object', additionalProperties: { type: 'string', maxLength: 2000 }, description: 'Cards promised to piles: pile path to faces' },
    pace: { type: 'integer', minimum: 0, maximum: 60_000, description: 'Milliseconds before a bot plays' },
    clocks: { type: 'boolean', description: 'Whether turn clocks run' },
  },
} as const;
export type OpenTable = FromSchema<typeof openTableSchema>;

export const tableSummarySchema = {
  type: 'object',
  required: ['id', 'sheet', 'game', 'seats', 'status', 'number', 'chapter', 'opened', 'changed', 'settings', 'commitment', 'promisesFairness', 'pace', 'clocks', 'fault'],
  additionalProperties: false,
  properties: {
    id: tableId,
    sheet: hash,
    game: { type: 'string' },
    seats: {
      type: 'array',
      items: {
        type: 'object',
        required: ['seat', 'name', 'bot'],
        additionalProperties: false,
        properties: { seat: seatNumber, name: { type: 'string' }, bot: { type: ['string', 'null'] } },
      },
    },
    status: { enum: ['open', 'over', 'closed', 'fault'] },
    number,
    chapter: { type: 'string' },
    opened: { type: 'string' },
    changed: { type: 'string' },
    settings: { type: 'object', additionalProperties: { type: ['number', 'boolean', 'string'] } },
    commitment: { type: 'string' },
    promisesFairness: { type: 'boolean', description: 'No: the seed was typed, or cards were promised' },
    pace: { type: 'integer' },
    clocks: { type: 'boolean' },
    fault: {
      anyOf: [
        { type: 'null' },
        {
          type: 'object',
          required: ['message', 'line', 'column', 'number'],
          additionalProperties: false,
          properties: { message: { type: 'string' }, line: { type: 'integer' }, column: { type: 'integer' }, number },
        },
      ],
    },
  },
} as const;
export type TableSummary = FromSchema<typeof tableSummarySchema>;
export const tableListSchema = {
  type: 'object',
  required: ['tables'],
  additionalProperties: false,
  properties: { tables: { type: 'array', items: tableSummarySchema } },
} as const;

export const openedSchema = {
  type: 'object',
  required: ['table', 'keys'],
  additionalProperties: false,
  properties: {
    table: tableSummarySchema,
    keys: {
      type: 'object',
      description: 'Shown once, kept hashed',
      required: ['seats', 'watch'],
      additionalProperties: false,
      properties: {
        seats: {
          type: 'array',
          items: { type: 'object', required: ['seat', 'key'], additionalProperties: false, properties: { seat: seatNumber, key: { type: 'string' } } },
        },
        watch: { type: 'string' },
      },
    },
  },
} as const;
export type Opened = FromSchema<typeof openedSchema>;

const pile = {
  type: 'object',
  required: ['size'],
  additionalProperties: false,
  properties: {
    size: { type: 'integer', minimum: 0 },
    cards: { type: 'array', items: { type: ['string', 'null'] }, description: 'Bottom first; null where the face is not seen' },
    closed: { type: 'array', items: { type: 'integer' }, description: 'In the open view: positions that not everybody sees' },
  },
} as const;
const pileFamily = { type: 'object', additionalProperties: pile } as const;
const pileTree = { type: 'object', additionalProperties: { anyOf: [pile, pileFamily, { type: 'object', additionalProperties: pileFamily }] } } as const;
export type PileState = FromSchema<typeof pile>;

const offeredParam = {
  type: 'object',
  required: ['name', 'type', 'kind'],
  additionalProperties: false,
  properties: {
    name: { type: 'string' },
    type: { type: 'string' },
    kind: { enum: ['range', 'values', 'depends'] },
    from: { type: 'integer' },
    to: { type: 'integer' },
    by: { type: 'integer' },
    landmarks: {
      type: 'array',
      items: { type: 'object', required: ['value', 'label'], additionalProperties: false, properties: { value: { type: 'integer' }, label: { type: ['string', 'null'] } } },
    },
    values: {
      type: 'array',
      items: { type: 'object', required: ['value'], additionalProperties: false, properties: { value, face: { type: 'string' } } },
    },
  },
} as const;
export type OfferedParameter = FromSchema<typeof offeredParam>;

const offer = {
  type: 'object',
  required: ['option', 'label', 'legal', 'reason', 'line', 'on', 'quick', 'aside', 'byClock', 'params', 'ways'],
  additionalProperties: false,
  properties: {
    option: { type: 'string' },
    label: { type: 'string', description: 'Words for a button; {name} stands for a parameter' },
    legal: { type: 'boolean', description: 'No: shown as "not now", with the reason' },
    reason: { type: ['string', 'null'] },
    line: { type: 'integer' },
    on: { type: 'array', items: path },
    quick: { type: 'boolean' },
    aside: { type: 'boolean' },
    byClock: { type: 'boolean', description: 'The clock would play this' },
    params: { type: 'array', items: offeredParam },
    ways: { anyOf: [{ type: 'null' }, { type: 'array', items: { type: 'array', items: value } }] },
  },
} as const;
export type OfferedOption = FromSchema<typeof offer>;

const waiting = {
  type: 'object',
  required: ['kind'],
  additionalProperties: false,
  properties: {
    kind: { enum: ['ask', 'pause', 'over'] },
    ask: number,
    seats: { type: 'array', items: seatNumber },
    answered: { type: 'array', items: seatNumber },
    together: { type: 'boolean' },
    about: { type: ['string', 'null'] },
    seconds: { type: 'integer' },
    clock: {
      anyOf: [
        { type: 'null' },
        { type: 'object', required: ['seconds', 'otherwise'], additionalProperties: false, properties: { seconds: { type: 'integer' }, otherwise: { type: 'string' } } },
      ],
    },
  },
} as const;

export const viewSchema = {
  type: 'object',
  required: ['number', 'viewer', 'chapter', 'seats', 'values', 'piles', 'notes', 'waiting', 'offers', 'result'],
  additionalProperties: false,
  properties: {
    number,
    viewer: { type: ['integer', 'string'], description: 'A seat, "watch" or "open"' },
    chapter: { type: 'object', required: ['count', 'title'], additionalProperties: false, properties: { count: { type: 'integer' }, title: { type: 'string' } } },
    seats: {
      type: 'array',
      items: {
        type: 'object',
        required: ['seat', 'name', 'score', 'values'],
        additionalProperties: false,
        properties: { seat: seatNumber, name: { type: 'string' }, score: { type: 'integer' }, values },
      },
    },
    values,
    piles: pileTree,
    notes: {
      type: 'object',
      additionalProperties: {
        type: 'array',
        items: { type: 'object', required: ['name', 'value'], additionalProperties: false, properties: { name: { type: 'string' }, value } },
      },
    },
    waiting,
    offers: { type: 'array', items: offer },
    result: {
      anyOf: [
        { type: 'null' },
        { type: 'object', required: ['winners'], additionalProperties: false, properties: { winners: { type: 'array', items: seatNumber } } },
      ],
    },
  },
} as const;
export type TableView = FromSchema<typeof viewSchema>;

export const choiceSchema = {
  type: 'object',
  required: ['ask', 'option', 'once'],
  additionalProperties: false,
  properties: {
    ask: { ...number, description: 'The number at which the ask opened' },
    option: { type: 'string', minLength: 1, maxLength: 80 },
    args: { type: 'object', additionalProperties: { type: ['string', 'number', 'boolean', 'null'] }, maxProperties: 8 },
    once: { type: 'string', minLength: 1, maxLength: 64, description: "The client's own word for this choice: sent twice, it counts once" },
    seat: { ...seatNumber, description: 'Only with a developer key: the seat to choose for' },
  },
} as const;
export type Choice = FromSchema<typeof choiceSchema>;

const event = {
  type: 'object',
  required: ['kind'],
  additionalProperties: false,
  properties: {
    kind: { enum: ['chosen', 'moved', 'turned', 'shuffled', 'said', 'told', 'chapter'] },
    seat: seatNumber,
    option: { type: 'string' },
    label: { type: 'string' },
    args: { type: 'array', items: value },
    from: path,
    to: path,
    pile: path,
    position: { type: ['integer', 'null'] },
    face: { type: ['string', 'null'] },
    count: { type: 'integer', minimum: 2, description: 'So many unseen cards moved together' },
    commitment: { type: ['string', 'null'] },
    text: { type: 'string' },
    title: { type: 'string' },
  },
} as const;
export type StepEvent = FromSchema<typeof event>;
const line = {
  type: 'object',
  required: ['number', 'kind', 'seat', 'text'],
  additionalProperties: false,
  properties: {
    number,
    kind: { enum: ['chapter', 'said', 'chosen', 'dealt', 'table'] },
    seat: { anyOf: [seatNumber, { type: 'null' }] },
    text: { type: 'string' },
  },
} as const;
export type SpokenLine = FromSchema<typeof line>;

const step = {
  type: 'object',
  required: ['number', 'events', 'lines', 'scores'],
  additionalProperties: false,
  properties: { number, events: { type: 'array', items: event }, lines: { type: 'array', items: line }, scores: { type: 'array', items: { type: 'integer' }, description: 'After the step, by seat' } },
} as const;
export type Step = FromSchema<typeof step>;
export const stepsSchema = {
  type: 'object',
  required: ['steps'],
  additionalProperties: false,
  properties: { steps: { type: 'array', items: step } },
} as const;

export const chosenSchema = {
  type: 'object',
  required: ['number', 'seat', 'option', 'args', 'repeated'],
  additionalProperties: false,
  properties: {
    number: { ...number, description: 'The number of this choice' },
    seat: seatNumber,
    option: { type: 'string' },
    args: values,
    repeated: { type: 'boolean', description: 'This choice had been carried out before, under the same word' },
  },
} as const;
export type Chosen = FromSchema<typeof chosenSchema>;

export const offersSchema = {
  type: 'object',
  required: ['number', 'ask', 'seat', 'offers'],
  additionalProperties: false,
  properties: { number, ask: number, seat: seatNumber, offers: { type: 'array', items: offer } },
} as const;
export type Offers = FromSchema<typeof offersSchema>;

const jsonPatch = {
  type: 'array',
  items: {
    type: 'object',
    required: ['op', 'path'],
    properties: { op: { type: 'string' }, path: { type: 'string' }, from: { type: 'string' }, value: {} },
  },
} as const;

const clockState = {
  anyOf: [
    { type: 'null' },
    {
      type: 'object',
      required: ['ask', 'seconds', 'left'],
      additionalProperties: false,
      properties: { ask: number, seconds: { type: 'number' }, left: { type: 'number', description: 'Seconds that are left' } },
    },
  ],
} as const;

/** What the service sends over a table's WebSocket. */
export const serverMessageSchema = {
  type: 'object',
  required: ['type'],
  additionalProperties: false,
  properties: {
    type: { enum: ['view', 'step', 'clock', 'chosen', 'problem', 'status'] },
    number,
    view: viewSchema,
    steps: { type: 'array', items: step, description: 'What a client missed since the number it asked for' },
    events: { type: 'array', items: event },
    lines: { type: 'array', items: line },
    scores: { type: 'array', items: { type: 'integer' } },
    patch: jsonPatch,
    clock: clockState,
    chosen: chosenSchema,
    once: { type: 'string' },
    problem: problemSchema,
    table: tableSummarySchema,
  },
} as const;
export type ServerMessage = FromSchema<typeof serverMessageSchema>;

/** What a client sends over a table's WebSocket: first `hello`, then choices. */
export const clientMessageSchema = {
  type: 'object',
  required: ['type'],
  additionalProperties: false,
  properties: {
    type: { enum: ['hello', 'choose'] },
    key: { type: 'string', maxLength: 80 },
    as: { type: ['integer', 'string'], description: 'Developer keys: a seat, "watch" or "open"' },
    from: { ...number, description: 'The last number that the client has seen' },
    choice: choiceSchema,
  },
} as const;
export type ClientMessage = FromSchema<typeof clientMessageSchema>;

export const healthSchema = {
  type: 'object',
  required: ['status', 'database', 'version'],
  additionalProperties: false,
  properties: { status: { enum: ['ok', 'down'] }, database: { enum: ['ok', 'down'] }, version: { type: 'string' } },
} as const;
export type Health = FromSchema<typeof healthSchema>;

export const sessionSchema = {
  type: 'object',
  required: ['role'],
  additionalProperties: false,
  properties: { role: { enum: ['developer', 'seat', 'watch', 'nobody'] } },
} as const;
export type Session = FromSchema<typeof sessionSchema>;
