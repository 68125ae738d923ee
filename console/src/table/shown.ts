import type { OfferedOption, Plan, StepEvent, TableSummary, TableView } from '@wily-jester/protocol';
import type { Ref } from 'vue';

/** What is refused where a seat cannot be taken back; no option has a name like it. */
export const TAKE_SEAT = 'take seat';

/** A refusal, kept beside what was touched until the next touch. */
export interface Refused {
  readonly option: string;
  readonly reason: string;
}

export type ChosenArgs = Record<string, string | number | boolean | null | readonly string[]>;

/** The clock that runs, with the moment at which it runs out, in milliseconds. */
export interface RunningClock {
  readonly ask: number;
  readonly seconds: number;
  readonly until: number;
}

/** A table as it is drawn, live or past: what is seen, and what may be done. */
export interface Shown {
  readonly plan: Ref<Plan | null>;
  readonly table: Ref<TableSummary | null>;
  readonly view: Ref<TableView | null>;
  readonly offers: Readonly<Ref<readonly OfferedOption[]>>;
  readonly clock: Ref<RunningClock | null>;
  /** The option whose answer is on its way. */
  readonly sent: Ref<string | null>;
  readonly refused: Ref<Refused | null>;
  readonly isMine: Readonly<Ref<boolean>>;
  /** The bot to which our own seat was handed. */
  readonly standIn: Readonly<Ref<string | null>>;
  /** Takes our seat back from it. */
  takeSeat(): Promise<void>;
  choose(option: string, args?: ChosenArgs): Promise<void>;
  onHappened(work: (events: readonly StepEvent[]) => void): void;
}
