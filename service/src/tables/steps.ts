import type { Played, Table } from '@wily-jester/core';
import type { Step } from '@wily-jester/protocol';

/** The most steps that are kept in memory, and told at once. */
export const MOST_STEPS = 400;

/** What is needed of a step to tell it. */
export type Happened = Pick<Played, 'happenings' | 'scores'>;

/** What happened before a table's first choice. */
export const openingOf = (table: Table): Happened => ({ happenings: table.opening, scores: table.scores() });

/** A step as a viewer may know it. */
export function stepOf(table: Table, { happenings, scores }: Happened, number: number, viewer: number): Step {
  const events = happenings.for(viewer);
  return { number, events, lines: table.linesOf(events, number, viewer), scores } as unknown as Step;
}

/** What happened at one table of late, by number, the opening being 0: told to any viewer at any time. */
export class Steps {
  private readonly kept: Happened[];
  /** The number of the latest. */
  last = 0;

  constructor(private readonly table: Table) {
    this.kept = [openingOf(table)];
  }

  add(played: Played): void {
    this.last = played.row.number;
    this.kept[this.last % MOST_STEPS] = played;
  }

  /** The number of the oldest step that is still kept. */
  get oldest(): number {
    return Math.max(0, this.last - MOST_STEPS + 1);
  }

  /** A step that is kept. */
  at(number: number, viewer: number): Step {
    return stepOf(this.table, this.kept[number % MOST_STEPS] as Happened, number, viewer);
  }

  /** The steps after a number that are kept, up to another one. */
  since(from: number, viewer: number, to = this.last): Step[] {
    const steps: Step[] = [];
    for (let number = Math.max(this.oldest, from + 1); number <= to; number++) steps.push(this.at(number, viewer));
    return steps;
  }
}
