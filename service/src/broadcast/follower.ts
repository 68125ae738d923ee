import type { TableView } from '@wily-jester/protocol';
import type { Frame } from './frame.js';

/** A connection that follows a table, as a seat (from 0), a watcher or the open viewer. */
export interface Follower {
  readonly viewer: number;
  /** Whether too much is still buffered for it. */
  isBehind(): boolean;
  send(letter: Frame): void;
  /** Ends its line: it cannot be told of this table. */
  letGo(): void;
}

/** One who follows, as the connection holds it. */
export interface Following {
  /** Sends the whole view where steps were left out meanwhile, once there is room again. */
  catchUp(): void;
  leave(): void;
}

export interface Entry {
  readonly follower: Follower;
  /** The view that it was sent last. */
  last: TableView;
  /** It fell behind and needs a whole view. */
  stale: boolean;
}
