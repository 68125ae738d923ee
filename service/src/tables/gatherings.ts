import { factsHash, factsOf } from '@wily-jester/core';
import type { Gather, GatheringView, Opened, SeatPart } from '@wily-jester/protocol';
import { newId } from '../ids.js';
import type { Peers } from '../peers/peers.js';
import { Problem } from '../problems.js';
import { endKeysAt, forgetTable } from '../storage/keys.js';
import { KeyRow } from '../storage/models.js';
import { Gathering } from './gathering.js';
import { type Gathered, opening, type Rooms } from './rooms.js';
import { makeTableKeys } from './table-keys.js';

/** So many tables gather at once. */
const MOST = 200;
/** How long seats are waited for where nothing is said, in seconds. */
const USUAL_WAIT = 60;
/** So long it is told that a table was opened, in milliseconds. */
const REMEMBERED = 10 * 60_000;

/** Tables whose seats give chance before anything is dealt. They are in this process alone: a restart deals nothing and loses nothing. */
export class Gatherings {
  private readonly entries = new Map<string, Gathering>();
  /** Settled once the table is there, or could not be opened. */
  private readonly opened = new Map<string, Promise<unknown>>();

  constructor(
    private readonly rooms: Rooms,
    private readonly house: Peers,
  ) {}

  /** Begins to gather. @throws Problem where sheet, seats or settings do not fit, or too many gather */
  async begin(
    developer: string,
    { wait, ...wanted }: Gather,
  ): Promise<{ gathering: GatheringView; keys: Opened['keys'] }> {
    if (this.entries.size >= MOST)
      throw new Problem('too-many', 'Too many tables gather chance now. Try again in a minute.', { retryAfter: 60 });
    const id = newId();
    const { program, header, holders } = await this.rooms.planned(developer, id, wanted);
    const { fair } = header;
    if (!fair) throw new Error('a table that gathers promises something');
    const facts = await opening(async () => factsHash(factsOf(program, header, fair)));
    const seconds = wait ?? USUAL_WAIT;
    const keys = await this.house.database.transaction(async (transaction) => {
      const made = await makeTableKeys(id, holders, transaction);
      // Should this process end before the table is there, its keys end too.
      await endKeysAt(id, new Date(Date.now() + seconds * 1_000 + REMEMBERED), transaction);
      return made;
    });
    const gathering = new Gathering(
      {
        id,
        facts,
        keys,
        names: header.seats,
        people: holders.map(({ held }) => held === 'person'),
        wait: seconds * 1_000,
      },
      (gathered) => this.open(developer, id, wanted, gathered),
    );
    this.entries.set(id, gathering);
    // Where bots alone sit there is nobody to wait for.
    if (!holders.some(({ held }) => held === 'person')) gathering.freeze();
    return { gathering: gathering.view, keys };
  }

  private open(developer: string, id: string, wanted: Omit<Gather, 'wait'>, gathered: Gathered): void {
    const opened = this.rooms.openTable(developer, wanted, gathered).catch(async (error: unknown) => {
      this.house.log.warn({ table: id, error }, 'a table whose seats gave chance could not be opened');
      await KeyRow.destroy({ where: { tableId: id } });
      forgetTable(id);
      throw error;
    });
    // Whoever asks hears of it; if nobody does, it is in the log.
    opened.catch(() => undefined);
    this.opened.set(id, opened);
    setTimeout(() => {
      this.entries.delete(id);
      this.opened.delete(id);
    }, REMEMBERED).unref();
  }

  private known(id: string): Gathering {
    const gathering = this.entries.get(id);
    if (!gathering) throw new Problem('not-found', `Nobody gathers chance for a table ${id}.`);
    return gathering;
  }

  /** How it stands; once it is open, the table is there. @throws Problem where the table could not be opened */
  async at(id: string): Promise<GatheringView> {
    const gathering = this.known(id);
    await this.opened.get(id);
    return gathering.view;
  }
  take(id: string, seat: number, part: SeatPart): Promise<GatheringView> {
    this.known(id).take(seat, part);
    return this.at(id);
  }
  deal(id: string): Promise<GatheringView> {
    this.known(id).freeze();
    return this.at(id);
  }

  stop(): void {
    for (const gathering of this.entries.values()) gathering.stop();
  }
}
