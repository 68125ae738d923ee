import { type Json, patchOf } from '@wily-jester/core';
import type { ServerMessage, Step, TableView } from '@wily-jester/protocol';

/** Somebody who follows a table: a seat (from 0), the watchers' eyes or the open ones. */
export interface Follower {
  readonly viewer: number;
  /** Whether so much is still under way to it that no more should be added. */
  isBehind(): boolean;
  send(message: ServerMessage): void;
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
  view(viewer: number): TableView;
  step(number: number, viewer: number): Step;
  since(from: number, viewer: number): Step[];
  /** What goes with a whole view. */
  around(): Pick<ServerMessage, 'number' | 'clock' | 'table'>;
}

interface Entry {
  readonly follower: Follower;
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
    const entry: Entry = { follower, last: this.told.view(follower.viewer), stale: false };
    this.entries.add(entry);
    this.sendWhole(entry, from);
    return {
      catchUp: () => {
        if (!entry.stale || !this.entries.has(entry)) return;
        const { number } = entry.last;
        entry.stale = false;
        entry.last = this.told.view(follower.viewer);
        this.sendWhole(entry, number);
      },
      leave: () => this.entries.delete(entry),
    };
  }

  private sendWhole({ follower, last }: Entry, from: number): void {
    const steps = this.told.since(from, follower.viewer);
    follower.send({ type: 'view', ...this.told.around(), view: last, steps });
  }

  /** Whether an entry takes a message now; one that is behind gets the whole view later. */
  private takes(entry: Entry): boolean {
    if (!entry.stale && entry.follower.isBehind()) entry.stale = true;
    return !entry.stale;
  }

  /** Tells each what it may know of a step: its events, its sentences, and what changed in its view. */
  publish(number: number): void {
    const seen = new Map<number, { view: TableView; step: Step }>();
    for (const entry of this.entries) {
      if (!this.takes(entry)) continue;
      const { viewer } = entry.follower;
      let now = seen.get(viewer);
      if (!now) {
        now = { view: this.told.view(viewer), step: this.told.step(number, viewer) };
        seen.set(viewer, now);
      }
      const patch = patchOf(entry.last as unknown as Json, now.view as unknown as Json) as NonNullable<
        ServerMessage['patch']
      >;
      entry.last = now.view;
      entry.follower.send({ type: 'step', ...now.step, patch });
    }
  }

  /** Tells all the same. */
  tell(message: ServerMessage): void {
    for (const entry of this.entries) if (this.takes(entry)) entry.follower.send(message);
  }

  /** Sends away those who came with the key of a seat. */
  dismiss(seat: number): void {
    for (const { follower } of [...this.entries]) if (follower.viewer === seat) follower.dismiss();
  }
}
