import type { ServerMessage, Step, TableView } from '@wily-jester/protocol';
import { Letter } from './frame.js';
import { Telling } from './step-broadcast.js';

/** Somebody who follows a table: a seat (from 0), the watchers' eyes or the open ones. */
export interface Follower {
  readonly viewer: number;
  /** Whether so much is still under way to it that no more should be added. */
  isBehind(): boolean;
  send(letter: Letter): void;
  /** Sends it away where it came with a seat's key. */
  dismiss(): void;
}

/** One who follows, as the connection holds it. */
export interface Following {
  /** Sends the whole view where steps were left out meanwhile, once there is room again. */
  catchUp(): void;
  leave(): void;
}

/** What followers are told about; the room gives it. */
interface Told {
  /** The table as it stands, as each viewer sees it. */
  look(): (viewer: number) => TableView;
  since(from: number, viewer: number): Step[];
  /** What goes with a whole view. */
  around(): Pick<ServerMessage, 'number' | 'clock' | 'table'>;
}

export interface Entry {
  readonly follower: Follower;
  /** The view that it was told last. */
  last: TableView;
  /** It fell behind: nothing but a whole view will do. */
  stale: boolean;
}

/** Those who follow one table, each with what it was told last. */
export class Followers {
  private readonly entries = new Set<Entry>();

  constructor(private readonly told: Told) {}

  get size(): number {
    return this.entries.size;
  }

  /** Adds a follower, and sends it the view with the steps after a number. */
  add(follower: Follower, from: number): Following {
    const entry: Entry = { follower, last: this.told.look()(follower.viewer), stale: false };
    this.entries.add(entry);
    this.sendWhole(entry, from);
    return {
      catchUp: () => {
        if (!entry.stale || !this.entries.has(entry)) return;
        const { number } = entry.last;
        entry.stale = false;
        entry.last = this.told.look()(follower.viewer);
        this.sendWhole(entry, number);
      },
      leave: () => this.entries.delete(entry),
    };
  }

  private sendWhole({ follower, last }: Entry, from: number): void {
    const steps = this.told.since(from, follower.viewer);
    follower.send(Letter.of({ type: 'view', ...this.told.around(), view: last, steps }));
  }

  /** Whether an entry takes a message now; one that is behind gets the whole view later. */
  private takes(entry: Entry): boolean {
    if (!entry.stale && entry.follower.isBehind()) entry.stale = true;
    return !entry.stale;
  }

  /** Begins to tell of a step, of which each viewer may know so much. */
  telling(step: (viewer: number) => Step): Telling {
    return new Telling(
      this.entries,
      (entry) => this.takes(entry),
      () => this.told.look(),
      step,
    );
  }

  /** Tells all the same. */
  tell(message: ServerMessage): void {
    if (this.entries.size === 0) return;
    const letter = Letter.of(message);
    for (const entry of this.entries) if (this.takes(entry)) entry.follower.send(letter);
  }

  /** Sends away those who came with the key of a seat. */
  dismiss(seat: number): void {
    for (const { follower } of [...this.entries]) if (follower.viewer === seat) follower.dismiss();
  }
}
