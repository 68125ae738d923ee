import { type Noted, type Played, StepEvents, type Table } from '@wily-jester/core';
import type { Step } from '@wily-jester/protocol';
import { TextRing } from './text-ring.js';

/** Most steps kept in memory, and sent in one answer. */
export const MOST_STEPS = 400;

/** What is needed to report a step. */
export type Happened = Pick<Played, 'stepEvents' | 'scores'>;

/** A step as it is parsed from its text. */
interface Kept {
  readonly stepEvents: Noted;
  readonly scores: readonly number[];
}

/** What happened before a table's first choice. */
export const openingOf = (table: Table): Happened => ({ stepEvents: table.opening, scores: table.scores() });

/** A step, redacted per viewer; viewers who may know the same share the same objects. */
export function stepFor(table: Table, { stepEvents, scores }: Happened, number: number): (viewer: number) => Step {
  const tale = table.report(stepEvents, number);
  return (viewer) => {
    const { events, lines } = tale.for(viewer);
    return { number, events, lines, scores };
  };
}

/** The latest steps of a table by number, the opening being 0, to be reported to any viewer. */
export class RecentSteps {
  private readonly texts = new TextRing(MOST_STEPS);

  constructor(private readonly table: Table) {
    this.texts.add(JSON.stringify(openingOf(table)));
  }

  add({ stepEvents, scores }: Played): void {
    this.texts.add(JSON.stringify({ stepEvents: stepEvents, scores } satisfies Happened));
  }

  /** Goes on after a number: the steps up to it are not kept here. */
  skipTo(number: number): void {
    this.texts.skipTo(number);
  }

  /** The number of the latest. */
  get last(): number {
    return this.texts.last;
  }

  /** The number of the oldest step that is still kept. */
  get oldest(): number {
    return this.texts.oldest;
  }

  /** A step that is kept. */
  at(number: number, viewer: number): Step {
    const { stepEvents, scores } = JSON.parse(this.texts.at(number)) as Kept;
    return stepFor(this.table, { stepEvents: new StepEvents(this.table.game, stepEvents), scores }, number)(viewer);
  }

  /** The steps after a number that are kept, up to another one. */
  since(from: number, viewer: number, to = this.last): Step[] {
    const steps: Step[] = [];
    for (let number = Math.max(this.oldest, from + 1); number <= to; number++) steps.push(this.at(number, viewer));
    return steps;
  }
}
