import { type Noted, type Played, StepEvents, type Table } from '@wily-jester/core';
import type { Step } from '@wily-jester/protocol';
import { TextRing } from './text-ring.js';

/** The most steps that are kept in memory, and told at once. */
export const MOST_STEPS = 400;

/** What is needed of a step to tell it. */
export type Happened = Pick<Played, 'stepEvents' | 'scores'>;

/** The same as it comes out of its text. */
interface Kept {
  readonly stepEvents: Noted;
  readonly scores: readonly number[];
}

/** What happened before a table's first choice. */
export const openingOf = (table: Table): Happened => ({ stepEvents: table.opening, scores: table.scores() });

/** A step as each viewer may know it: what some of them may know alike is the very same object. */
export function stepFor(table: Table, { stepEvents, scores }: Happened, number: number): (viewer: number) => Step {
  const tale = table.report(stepEvents, number);
  return (viewer) => {
    const { events, lines } = tale.for(viewer);
    return { number, events, lines, scores };
  };
}

/** What happened at one table of late, by number, the opening being 0: told to any viewer at any time. */
export class RecentSteps {
  private readonly texts = new TextRing(MOST_STEPS);

  constructor(private readonly table: Table) {
    this.texts.add(JSON.stringify(openingOf(table)));
  }

  add({ stepEvents, scores }: Played): void {
    this.texts.add(JSON.stringify({ stepEvents: stepEvents, scores } satisfies Happened));
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
