import { type Json, patchOf } from '@wily-jester/core';
import type { ServerMessage, Step, TableView } from '@wily-jester/protocol';

/** A message with its text, which is written once for all who get it. */
export class Letter {
  readonly text: string;

  constructor(readonly message: ServerMessage) {
    this.text = JSON.stringify(message);
  }
}

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
  view(viewer: number): TableView;
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
    follower.send(new Letter({ type: 'view', ...this.told.around(), view: last, steps }));
  }

  /** Whether an entry takes a message now; one that is behind gets the whole view later. */
  private takes(entry: Entry): boolean {
    if (!entry.stale && entry.follower.isBehind()) entry.stale = true;
    return !entry.stale;
  }

  /** Begins to tell of a step, of which each viewer may know so much. */
  telling(step: (viewer: number) => Step): Telling {
    const takers = (): Entry[] => [...this.entries].filter((entry) => this.takes(entry));
    return new Telling(takers, this.told.view, step);
  }

  /** Tells all the same. */
  tell(message: ServerMessage): void {
    if (this.entries.size === 0) return;
    const letter = new Letter(message);
    for (const entry of this.entries) if (this.takes(entry)) entry.follower.send(letter);
  }

  /** Sends away those who came with the key of a seat. */
  dismiss(seat: number): void {
    for (const { follower } of [...this.entries]) if (follower.viewer === seat) follower.dismiss();
  }
}

interface Ready {
  readonly view: TableView;
  readonly letter: Letter;
}

/**
 * What all are to be told of one step: their events, their sentences, and what changed in their views. It is made
 * ready while the step is being kept, and goes out once it is; where it is never sent, it was for nothing.
 */
export class Telling {
  private ready: ReadonlyMap<Entry, Ready> | null = null;

  constructor(
    private readonly takers: () => readonly Entry[],
    private readonly view: (viewer: number) => TableView,
    private readonly step: (viewer: number) => Step,
  ) {}

  /** Makes ready what is to be sent. */
  prepare(): void {
    this.ready ??= this.composed();
  }

  private composed(): ReadonlyMap<Entry, Ready> {
    const seen = new Map<number, { view: TableView; step: Step }>();
    // Those with the same eyes who were told the same until now get the very same message.
    const letters = new Map<TableView, Letter>();
    const ready = new Map<Entry, Ready>();
    for (const entry of this.takers()) {
      const { viewer } = entry.follower;
      let now = seen.get(viewer);
      if (!now) {
        now = { view: this.view(viewer), step: this.step(viewer) };
        seen.set(viewer, now);
      }
      let letter = letters.get(entry.last);
      if (!letter) {
        const patch = patchOf(entry.last as unknown as Json, now.view as unknown as Json) as ServerMessage['patch'];
        letter = new Letter({ type: 'step', ...now.step, patch: patch as NonNullable<typeof patch> });
        letters.set(entry.last, letter);
      }
      ready.set(entry, { view: now.view, letter });
    }
    return ready;
  }

  /** Sends it to those who can take it now. */
  send(): void {
    this.prepare();
    for (const entry of this.takers()) {
      const ready = this.ready?.get(entry);
      if (!ready) continue;
      entry.last = ready.view;
      entry.follower.send(ready.letter);
    }
  }
}
