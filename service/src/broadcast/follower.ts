import type { TableView } from '@wily-jester/protocol';
import type { Frame } from './frame.js';

/** Somebody who follows a table: a seat (from 0), the watchers' eyes or the open ones. */
export interface Follower {
  readonly viewer: number;
  /** Whether so much is still under way to it that no more should be added. */
  isBehind(): boolean;
  send(letter: Frame): void;
  /** Sends it away where it came with a seat's key. */
  dismiss(): void;
}

/** One who follows, as the connection holds it. */
export interface Following {
  /** Sends the whole view where steps were left out meanwhile, once there is room again. */
  catchUp(): void;
  leave(): void;
}

export interface Entry {
  readonly follower: Follower;
  /** The view that it was told last. */
  last: TableView;
  /** It fell behind: nothing but a whole view will do. */
  stale: boolean;
}
