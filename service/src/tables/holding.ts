import type { Program } from '@wily-jester/core';
import type { TableSummary } from '@wily-jester/protocol';
import type { Peers } from '../peers/peers.js';
import { Problem } from '../problems.js';
import { endWatchKeys, forgetKeys, type Right } from '../storage/keys.js';
import { demandBot, isSolved, type SeatHolder, type Seats, writeHolder, writeKey } from './seats.js';

/** The table whose seats are held. */
interface HeldTable {
  readonly id: string;
  readonly peers: Peers;
  readonly program: Program;
  readonly seats: Seats;
  /** Does something after what is under way at the table. */
  serial<T>(work: () => Promise<T>): Promise<T>;
  audit(by: Right, what: string): Promise<void>;
  /** Insists that its game can be solved. @throws Problem where it cannot */
  demandSolvable(): Promise<unknown>;
  /** Wakes those who wait for a seat, and tells everybody. */
  changed(): TableSummary;
}

/** Who holds the seats of a table in use, and the keys to it. */
export class Holding {
  constructor(private readonly table: HeldTable) {}

  /** Insists that a person holds a seat. One that was left is taken by using it. @throws Problem where a bot plays it */
  async demandHeld(seat: number): Promise<void> {
    const { seats } = this.table;
    const bot = seats.botOf(seat);
    if (bot !== null) throw new Problem('not-held', `The bot "${bot}" plays this seat now: take the seat back first.`);
    if (seats.holders[seat]?.held === 'free') await this.set(seat, { held: 'person' });
    else this.seen(seat);
  }

  /** A seat's key was used: from the first time on its clock runs. */
  seen(seat: number): void {
    const { id, peers, seats } = this.table;
    if (!seats.seen(seat)) return;
    this.table.changed();
    void this.table
      .serial(async () => {
        if (seats.holders[seat]?.held !== 'person') return;
        seats.holders = await writeHolder(peers.database, id, seat, { held: 'person' });
        await peers.notify(id, `here ${seat}`);
      })
      .catch((error: unknown) => peers.log.warn({ table: id, seat, error }, 'a seat that came could not be written'));
  }

  /** Gives a seat to a person, to a bot, or to nobody. */
  async set(seat: number, holder: SeatHolder): Promise<TableSummary> {
    const { id, peers, program, seats } = this.table;
    if (holder.held === 'bot') {
      demandBot(program, holder.bot);
      // The table goes on meanwhile.
      if (isSolved(holder.bot)) await this.table.demandSolvable();
    }
    return this.table.serial(async () => {
      seats.holders = await writeHolder(peers.database, id, seat, holder);
      if (holder.held === 'person') seats.returned(seat);
      await peers.notify(id, holder.held === 'person' ? `here ${seat}` : 'seats');
      return this.table.changed();
    });
  }

  /** Makes a new key. A seat's old ones end with it, and those who came with one are sent away. */
  async newKey(by: Right, right: Right): Promise<string> {
    const { id, peers } = this.table;
    await this.table.audit(by, right.role === 'seat' ? `new key of seat ${right.seat + 1}` : `new ${right.role} key`);
    const key = await writeKey(peers.database, right);
    if (right.role === 'seat') {
      forgetKeys(id, right.seat);
      await peers.notify(id, `keys ${right.seat}`);
    }
    return key;
  }

  /** Ends all keys to watch, and sends away those who came with one. */
  async endWatchKeys(by: Right): Promise<void> {
    const { id, peers } = this.table;
    await this.table.audit(by, 'ended the watch keys');
    await endWatchKeys(id);
    await peers.notify(id, 'watch-keys');
  }

  /** The bot that takes over where none is named. @throws Problem where the sheet has none */
  firstBot(): string {
    return this.table.program.bots[0]?.name ?? 'thinking';
  }
}
