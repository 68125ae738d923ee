import type { ServerMessage, Step, TableView } from '@wily-jester/protocol';
import type { Entry, Follower, Following } from './follower.js';
import { Frame } from './frame.js';
import { StepBroadcast } from './step-broadcast.js';

/** What a broadcast reads of the table; the room provides it. */
interface BroadcastSource {
  /** The table as it stands, as each viewer sees it. */
  snapshot(): (viewer: number) => TableView;
  since(from: number, viewer: number): Step[];
  /** What goes with a whole view. */
  around(): Pick<ServerMessage, 'number' | 'clock' | 'table'>;
}

/** The followers of one table, each with the view that it was sent last. */
export class Followers {
  private readonly entries = new Set<Entry>();

  /** @param failed called where a viewer cannot be told: it gets a whole view later, or is let go */
  constructor(
    private readonly source: BroadcastSource,
    private readonly failed: (error: unknown) => void = () => undefined,
  ) {}

  get size(): number {
    return this.entries.size;
  }

  /** Adds a follower, and sends it the view with the steps after a number. */
  add(follower: Follower, from: number): Following {
    const entry: Entry = { follower, last: this.source.snapshot()(follower.viewer), stale: false };
    this.entries.add(entry);
    this.sendWhole(entry, from);
    return {
      catchUp: () => {
        if (!entry.stale || !this.entries.has(entry)) return;
        try {
          const { number } = entry.last;
          entry.last = this.source.snapshot()(follower.viewer);
          entry.stale = false;
          this.sendWhole(entry, number);
        } catch (error) {
          this.failed(error);
          this.entries.delete(entry);
          follower.letGo();
        }
      },
      leave: () => this.entries.delete(entry),
    };
  }

  private sendWhole({ follower, last }: Entry, from: number): void {
    const steps = this.source.since(from, follower.viewer);
    follower.send(Frame.of({ type: 'view', ...this.source.around(), view: last, steps }));
  }

  /** Whether an entry accepts a message now; one that is behind gets a whole view later. */
  private takes(entry: Entry): boolean {
    if (!entry.stale && entry.follower.isBehind()) entry.stale = true;
    return !entry.stale;
  }

  /** Starts a broadcast of a step, redacted per viewer. */
  broadcast(step: (viewer: number) => Step): StepBroadcast {
    return new StepBroadcast(
      this.entries,
      (entry) => this.takes(entry),
      (entry, error) => {
        entry.stale = true;
        this.failed(error);
      },
      () => this.source.snapshot(),
      step,
    );
  }

  /** Sends all followers the same message. */
  tell(message: ServerMessage): void {
    if (this.entries.size === 0) return;
    const letter = Frame.of(message);
    for (const entry of this.entries) if (this.takes(entry)) entry.follower.send(letter);
  }

  /** Lets all of them go: there is nothing to follow any more. */
  end(): void {
    for (const { follower } of [...this.entries]) follower.letGo();
    this.entries.clear();
  }
}
