import { FAIR_FORM, type FairLine, FORM_WITHOUT_CHOICES } from './lines.js';

/** A text that is not what a service tells of a table's shuffles. */
export class FairFormError extends Error {
  /** @param line from 1 */
  constructor(
    readonly line: number,
    wrong: string,
  ) {
    super(`Line ${line}: ${wrong}`);
  }
}

type Kind = 'text' | 'number' | 'texts' | 'facts';
const OF: Readonly<Record<Kind, (value: unknown) => boolean>> = {
  text: (value) => typeof value === 'string',
  number: (value) => Number.isSafeInteger(value) && (value as number) >= 0,
  texts: (value) => Array.isArray(value) && value.every((one) => typeof one === 'string'),
  facts: (value) => {
    const facts = value as { seats?: unknown; deck?: unknown; settings?: unknown } | null;
    const isRecord = typeof facts === 'object' && facts !== null;
    return (
      isRecord &&
      OF.texts(facts.seats) &&
      OF.texts(facts.deck) &&
      isFlat({ ...facts, seats: 0, deck: 0, settings: 0 }) &&
      isFlat(facts.settings)
    );
  },
};

const shared = { after: 'text' } as const;
/** Whether something holds plain values alone, by name. */
function isFlat(value: unknown): boolean {
  return typeof value === 'object' && value !== null && Object.values(value).every((one) => typeof one !== 'object');
}

/** What each kind of line holds. */
const FIELDS: Readonly<Record<FairLine['fair'], Readonly<Record<string, Kind>>>> = {
  table: { form: 'text', facts: 'facts', hash: 'text', ...shared },
  void: { seat: 'number', ...shared },
  service: { commitment: 'text', ...shared },
  promise: { seat: 'number', promise: 'text', ...shared },
  frozen: { hash: 'text', ...shared },
  show: { seat: 'number', bytes: 'text', ...shared },
  ready: { opening: 'text', ...shared },
  earlier: { shuffles: 'number', hash: 'text' },
  back: { shuffles: 'number', ...shared },
  shuffle: { shuffle: 'number', pile: 'text', cards: 'number', root: 'text', at: 'number', ...shared },
  choices: { at: 'number', hash: 'text', ...shared },
  card: { shuffle: 'number', place: 'number', face: 'text', salt: 'text', path: 'texts' },
  seen: { cards: 'number' },
  seed: { seed: 'text' },
  order: { shuffle: 'number', faces: 'texts' },
  end: { at: 'number', head: 'text' },
};

function lineOf(text: string, at: number): FairLine {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new FairFormError(at, 'it is no JSON.');
  }
  const line = value as Record<string, unknown> | null;
  const kind = typeof line === 'object' && line !== null ? line.fair : undefined;
  if (typeof kind !== 'string' || !Object.hasOwn(FIELDS, kind))
    throw new FairFormError(at, 'it says nothing of a shuffle.');
  for (const [name, form] of Object.entries(FIELDS[kind as FairLine['fair']]))
    if (!OF[form](line?.[name])) throw new FairFormError(at, `"${name}" is missing, or not what it should be.`);
  return line as FairLine;
}

/**
 * Reads what a service told of a table's shuffles. Only its form is looked at: whether it agrees, `verifyFairness` says.
 * @throws FairFormError
 */
export function readFairness(text: string): FairLine[] {
  const lines = text.split('\n').flatMap((line, i) => (line.trim() === '' ? [] : [lineOf(line, i + 1)]));
  const [first] = lines;
  if (first?.fair !== 'table') throw new FairFormError(1, 'it should tell of the table.');
  if (first.form !== FAIR_FORM && first.form !== FORM_WITHOUT_CHOICES)
    throw new FairFormError(1, `its form is "${first.form}", and what is read here is "${FAIR_FORM}".`);
  if (first.form === FAIR_FORM)
    for (const [i, line] of lines.entries())
      if (line.fair === 'shuffle' && !OF.text(line.choices))
        throw new FairFormError(i + 1, '"choices" is missing, or not what it should be.');
  return lines;
}
