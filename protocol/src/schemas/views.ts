/** What a viewer sees, may choose, and is told. */
import { argValue, argValues, number, path, seatNumber, value, values, type Wire } from './common.js';

const pile = {
  type: 'object',
  required: ['size'],
  additionalProperties: false,
  properties: {
    size: { type: 'integer', minimum: 0 },
    cards: {
      type: 'array',
      items: { type: ['string', 'null'] },
      description: 'Bottom first; null where the face is not seen',
    },
    closed: {
      type: 'array',
      items: { type: 'integer' },
      description: 'In the open view: positions that not everybody sees',
    },
  },
} as const;
const pileFamily = { type: 'object', additionalProperties: pile } as const;
const pileTree = {
  type: 'object',
  additionalProperties: { anyOf: [pile, pileFamily, { type: 'object', additionalProperties: pileFamily }] },
} as const;
export type PileState = Wire<typeof pile>;
/** Piles by name; families by seat and number below it. */
export interface PilesState {
  readonly [name: string]: PileState | PilesState;
}

const offeredParam = {
  type: 'object',
  required: ['name', 'type', 'kind'],
  additionalProperties: false,
  properties: {
    name: { type: 'string' },
    type: { type: 'string' },
    kind: { enum: ['range', 'values', 'cards', 'depends'] },
    least: { type: 'integer', description: 'Several cards: the fewest' },
    most: { type: ['integer', 'null'], description: 'Several cards: the most; null where shapes of cards are chosen' },
    from: { type: 'integer' },
    to: { type: 'integer' },
    by: { type: 'integer' },
    landmarks: {
      type: 'array',
      items: {
        type: 'object',
        required: ['value', 'label'],
        additionalProperties: false,
        properties: { value: { type: 'integer' }, label: { type: ['string', 'null'] } },
      },
    },
    values: {
      type: 'array',
      items: {
        type: 'object',
        required: ['value'],
        additionalProperties: false,
        properties: { value, face: { type: 'string' } },
      },
    },
  },
} as const;

const offer = {
  type: 'object',
  required: ['option', 'label', 'legal', 'reason', 'line', 'on', 'quick', 'aside', 'byClock', 'sure', 'params', 'ways'],
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
    sure: {
      type: 'boolean',
      description: 'Whether it is known to be legal; false where too many ways would have to be tested',
    },
    params: { type: 'array', items: offeredParam },
    ways: { anyOf: [{ type: 'null' }, { type: 'array', items: { type: 'array', items: argValue } }] },
  },
} as const;
export type OfferedOption = Wire<typeof offer>;

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
    how: {
      enum: ['one', 'every', 'any'],
      description: 'One seat is asked; or several, whose answers all count; or several, and the first answer counts',
    },
    about: { type: ['string', 'null'] },
    seconds: { type: 'integer' },
    clock: {
      anyOf: [
        { type: 'null' },
        {
          type: 'object',
          required: ['seconds', 'otherwise'],
          additionalProperties: false,
          properties: { seconds: { type: 'integer' }, otherwise: { type: 'string' } },
        },
      ],
    },
  },
} as const;

export const viewSchema = {
  type: 'object',
  required: ['number', 'viewer', 'chapter', 'seats', 'values', 'piles', 'notes', 'waiting', 'offers', 'undo', 'result'],
  additionalProperties: false,
  properties: {
    number,
    viewer: { type: ['integer', 'string'], description: 'A seat, "watch" or "open"' },
    chapter: {
      type: 'object',
      required: ['count', 'title'],
      additionalProperties: false,
      properties: { count: { type: 'integer' }, title: { type: 'string' } },
    },
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
        items: {
          type: 'object',
          required: ['name', 'value'],
          additionalProperties: false,
          properties: { name: { type: 'string' }, value },
        },
      },
    },
    orders: {
      type: 'object',
      additionalProperties: { type: 'array', items: { type: 'integer', minimum: 1 } },
      description: "Piles in an order of the sheet's own, by path: positions of their cards; those not seen come last",
    },
    waiting,
    offers: { type: 'array', items: offer },
    undo: { type: 'boolean', description: 'Whether this seat may take back its last choice: option "undo"' },
    result: {
      anyOf: [
        { type: 'null' },
        {
          type: 'object',
          required: ['winners'],
          additionalProperties: false,
          properties: { winners: { type: 'array', items: seatNumber } },
        },
      ],
    },
  },
} as const;
export type TableView = Omit<Wire<typeof viewSchema>, 'piles'> & { readonly piles: PilesState };

export const choiceSchema = {
  type: 'object',
  required: ['ask', 'option', 'once'],
  additionalProperties: false,
  properties: {
    ask: { ...number, description: 'The number at which the ask opened' },
    option: { type: 'string', minLength: 1, maxLength: 80 },
    args: argValues,
    once: {
      type: 'string',
      minLength: 1,
      maxLength: 64,
      description: "The client's own word for this choice: sent twice, it counts once",
    },
    seat: { ...seatNumber, description: 'Only with a developer key: the seat to choose for' },
  },
} as const;
export type Choice = Wire<typeof choiceSchema>;

const place = { type: 'integer', minimum: 1 } as const;
export const event = {
  type: 'object',
  required: ['kind'],
  additionalProperties: false,
  properties: {
    kind: { enum: ['chosen', 'moved', 'turned', 'shown', 'shuffled', 'said', 'told', 'chapter'] },
    seat: { anyOf: [seatNumber, { type: 'null' }], description: 'Who chose; shown: who saw it, null where all did' },
    option: { type: 'string' },
    label: { type: 'string' },
    args: { type: 'array', items: argValue },
    from: path,
    to: path,
    pile: path,
    position: { type: ['integer', 'null'] },
    face: { type: ['string', 'null'] },
    fromPlace: { ...place, description: 'Moved: the place that the card left, in a pile that is not private' },
    toPlace: { ...place, description: 'Moved: the place that it took, in a pile that is not private' },
    count: { type: 'integer', minimum: 2, description: 'So many unseen cards moved together' },
    commitment: { type: ['string', 'null'] },
    text: { type: 'string' },
    title: { type: 'string' },
  },
} as const;
export type StepEvent = Wire<typeof event>;
export const line = {
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
export type SpokenLine = Wire<typeof line>;

export const step = {
  type: 'object',
  required: ['number', 'events', 'lines', 'scores'],
  additionalProperties: false,
  properties: {
    number,
    events: { type: 'array', items: event },
    lines: { type: 'array', items: line },
    scores: { type: 'array', items: { type: 'integer' }, description: 'After the step, by seat' },
  },
} as const;
export type Step = Wire<typeof step>;
export const stepsSchema = {
  type: 'object',
  required: ['steps', 'more'],
  additionalProperties: false,
  properties: {
    steps: { type: 'array', items: step, maxItems: 400 },
    more: { type: 'boolean', description: 'Whether there are later steps: ask again from the last of these' },
  },
} as const;

export const chosenSchema = {
  type: 'object',
  required: ['number', 'seat', 'option', 'args', 'repeated'],
  additionalProperties: false,
  properties: {
    number: { ...number, description: 'The number of this choice' },
    seat: seatNumber,
    option: { type: 'string' },
    args: argValues,
    repeated: { type: 'boolean', description: 'This choice had been carried out before, under the same word' },
  },
} as const;
export type Chosen = Wire<typeof chosenSchema>;

export const offersSchema = {
  type: 'object',
  required: ['number', 'ask', 'seat', 'offers'],
  additionalProperties: false,
  properties: { number, ask: number, seat: seatNumber, offers: { type: 'array', items: offer } },
} as const;
export type Offers = Wire<typeof offersSchema>;

/** What thinking for a moment comes to, for a seat that is asked. */
export const hintSchema = {
  type: 'object',
  required: ['ask', 'seat', 'choices', 'playouts', 'alone'],
  additionalProperties: false,
  properties: {
    ask: number,
    seat: seatNumber,
    choices: {
      type: 'array',
      description: 'The best first; the first is what thinking would play',
      items: {
        type: 'object',
        required: ['option', 'args', 'words', 'mean', 'error'],
        additionalProperties: false,
        properties: {
          option: { type: 'string' },
          args: argValues,
          words: { type: 'string' },
          mean: {
            type: ['number', 'null'],
            description:
              'Points ahead of the others at the end of the chapter, on average; null where it was not weighed',
          },
          error: { type: ['number', 'null'], description: 'The standard error of the mean' },
        },
      },
    },
    playouts: { type: 'integer', description: 'Games that were played on for it; 0 where nothing was weighed' },
    alone: {
      type: 'boolean',
      description: 'Whether there was nothing else to choose; otherwise what was not weighed had no time',
    },
  },
} as const;
export type Hint = Wire<typeof hintSchema>;

/** A choice that was made, looked back at beside the others that its seat had. */
export const analysisSchema = {
  type: 'object',
  required: ['number', 'seat', 'begun', 'ahead', 'ended', 'choices', 'playouts'],
  additionalProperties: false,
  properties: {
    number,
    seat: seatNumber,
    begun: { type: 'number', description: 'Points that the seat was ahead of the others by when the chapter began' },
    ahead: { type: 'number', description: 'The same before this choice' },
    ended: { type: 'number', description: 'The same at the end of the chapter, or of the record' },
    choices: {
      type: 'array',
      description: 'What thinking would have played comes first; empty where there was nothing else to choose',
      items: {
        type: 'object',
        required: ['option', 'args', 'words', 'mean', 'error', 'gain', 'gainError', 'taken'],
        additionalProperties: false,
        properties: {
          option: { type: 'string' },
          args: argValues,
          words: { type: 'string' },
          mean: {
            type: 'number',
            description: 'Points ahead of the others that it brings by the end of the chapter, on average',
          },
          error: {
            type: ['number', 'null'],
            description: 'The standard error of the mean; null where there was too little time to say',
          },
          gain: { type: 'number', description: 'How much more it brings than the choice that was made' },
          gainError: { type: ['number', 'null'], description: 'The standard error of the gain; null as above' },
          taken: { type: 'boolean', description: 'The choice that was made' },
        },
      },
    },
    playouts: { type: 'integer', description: 'Games that were played on for it' },
  },
} as const;
export type Analysis = Wire<typeof analysisSchema>;
