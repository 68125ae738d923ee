import type { Gave } from '../fair/pledge.js';
import type { Setup } from '../machine/setup.js';
import type { ArgValue } from '../rules/values.js';

/** Who made a choice. */
export type By = 'person' | 'bot' | 'clock' | 'table';

/** The option of the table's own row that ends an ask because its time is up. */
export const TIME = 'time';

/** One row of a record: a choice that was carried out. */
export interface Row {
  readonly number: number;
  /** Counted from 1; `null` for the table's own rows. */
  readonly seat: number | null;
  readonly by: By;
  /** The number at which the answered ask opened. */
  readonly ask: number;
  /** `pause` for the end of a pause, {@link TIME} for that of an ask of anybody. */
  readonly option: string;
  readonly args: Readonly<Record<string, ArgValue>>;
  readonly digest: string;
}

/** What a table is opened with, as plain data: together with the rows it gives every state again. */
export interface Header extends Setup {
  /** 64 hexadecimal digits, or a word that people type. */
  readonly seed: string;
  /** Cards promised to piles: pile path to faces, such as `{ "hand/1": "A♠ K♠" }`. */
  readonly gets?: Readonly<Record<string, string>>;
  /** What this table's shuffles are promised by; missing where nothing is promised, and at tables of earlier releases. */
  readonly fair?: FairHeader;
  /** Where this table left other ones, in order: up to the last of these its rows are theirs. */
  readonly branches?: readonly Branch[];
}

/** What a table is bound to before anything is dealt, besides its seats and settings. */
export interface FairHeader {
  readonly table: string;
  /** The hash of its sheet. */
  readonly sheet: string;
  readonly semantics: number;
  /** Whether the seed is shown once the game is over. */
  readonly shown?: boolean;
  /** What seats gave to its chance; missing where the service alone chose. */
  readonly gave?: Gave;
  /** Seats that promised something and did not show it, each time one did: all was begun anew without them. */
  readonly voids?: readonly number[];
}

/** A number at which a table branched off another one and unseen cards were dealt anew. */
export interface Branch {
  readonly number: number;
  /** The seed of those cards, and of all chance after them. */
  readonly redeal: string;
}
