import type { Played, Table } from '@wily-jester/core';
import type { Step } from '@wily-jester/protocol';

/** What is kept in memory of a step, to tell it again. */
type Happened = Pick<Played, 'happenings' | 'scores'>;

/** What happened at one table, by number, the opening first: told to any viewer at any time. */
export class Steps {
  private readonly kept: Happened[];

  constructor(private readonly table: Table) {
    this.kept = [{ happenings: table.opening, scores: table.scores() }];
  }

  add(played: Played): void {
    this.kept[played.row.number] = played;
  }

  /** One step as a viewer may know it. */
  at(number: number, viewer: number): Step {
    const step = this.kept[number];
    const events = step?.happenings.for(viewer) ?? [];
    return {
      number,
      events,
      lines: this.table.linesOf(events, number, viewer),
      scores: step?.scores ?? [],
    } as unknown as Step;
  }

  /** The steps after a number. */
  since(from: number, viewer: number): Step[] {
    const steps: Step[] = [];
    for (let number = Math.max(0, from + 1); number <= this.table.number; number++) steps.push(this.at(number, viewer));
    return steps;
  }
}
