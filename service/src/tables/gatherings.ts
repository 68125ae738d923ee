import { factsHash, factsOf } from '@wily-jester/core';
import type { Gather, Gathered as GatheredTable, GatheringView, SeatPart } from '@wily-jester/protocol';
import { Op } from 'sequelize';
import { newId } from '../ids.js';
import type { Peers } from '../peers/peers.js';
import { Problem } from '../problems.js';
import { isTaken } from '../storage/database.js';
import { endKeysAt, forgetTable } from '../storage/keys.js';
import { GatheringRow, KeyRow, TableRow } from '../storage/models.js';
import { Gathering, type GatheringState } from './gathering.js';
import { opening, type Rooms } from './rooms.js';
import { makeTableKeys } from './table-keys.js';

/** So many tables gather at once, and of one developer. */
const MOST = 2_000;
const MOST_OF_ONE = 200;
/** How long seats are waited for where nothing is said, in seconds. */
const USUAL_WAIT = 60;
/** So long after all is over at the latest it is told how a gathering stands, in milliseconds. */
const REMEMBERED = 10 * 60_000;

/** Why a table cannot be opened, now or later. */
const FOR_GOOD: ReadonlySet<string> = new Set(['setup', 'fault', 'not-found']);

const gatheringOf = ({ state }: Pick<GatheringRow, 'state'>): Gathering =>
  new Gathering(JSON.parse(state) as GatheringState);

/**
 * Tables whose seats give chance before anything is dealt. They are kept: a seat may come to any process that serves the
 * database, and a restart ends none. The process that somebody came to goes on with one when its time has come.
 */
export class Gatherings {
  /** By table: when this process looks at its gathering again. */
  private readonly timers = new Map<string, NodeJS.Timeout>();
  /** Tables that are being opened here. */
  private readonly underWay = new Map<string, Promise<void>>();
  private isStopped = false;

  constructor(
    private readonly rooms: Rooms,
    private readonly house: Peers,
  ) {}

  /** Begins to gather. @throws Problem where sheet, seats or settings do not fit, or too many gather */
  async begin(developer: string, { wait, ...wanted }: Gather): Promise<GatheredTable> {
    const now = Date.now();
    await GatheringRow.destroy({ where: { endsAt: { [Op.lt]: new Date(now) } } });
    if ((await GatheringRow.count({ where: { isOpen: false, developer } })) >= MOST_OF_ONE)
      throw new Problem('too-many', `${MOST_OF_ONE} tables of yours gather chance now. Try again in a minute.`, {
        retryAfter: 60,
      });
    if ((await GatheringRow.count({ where: { isOpen: false } })) >= MOST)
      throw new Problem('too-many', 'Too many tables gather chance now. Try again in a minute.', { retryAfter: 60 });
    const id = newId();
    const { sheet, program, header, holders } = await this.rooms.planned(developer, id, wanted);
    const { fair } = header;
    if (!fair) throw new Error('a table that gathers promises something');
    const facts = await opening(async () => factsHash(factsOf(program, header, fair)));
    const milliseconds = (wait ?? USUAL_WAIT) * 1_000;
    const people = holders.map(({ held }) => held === 'person');
    const gathering = Gathering.begin({ facts, names: header.seats, people, wait: milliseconds }, now);
    const endsAt = new Date(now + milliseconds + REMEMBERED);
    const keys = await this.house.database.transaction(async (transaction) => {
      const made = await makeTableKeys(id, holders, transaction);
      // Should the table never be there, its keys end too.
      await endKeysAt(id, endsAt, transaction);
      // What the seats are told belongs to this version of the sheet, whatever is added meanwhile.
      const wish = JSON.stringify({ ...wanted, sheet });
      await GatheringRow.create(
        { id, developer, wish, state: JSON.stringify(gathering.state), isOpen: gathering.isOpen, endsAt },
        { transaction },
      );
      return made;
    });
    this.lookAgain(id, gathering);
    return { gathering: gathering.view(id, now), keys };
  }

  private async known(id: string): Promise<GatheringRow> {
    const row = await GatheringRow.findByPk(id, { raw: true });
    if (!row) throw new Problem('not-found', `Nobody gathers chance for a table ${id}.`);
    return row;
  }

  /** Changes a gathering, one change after the other in all processes. */
  private change(id: string, work: (gathering: Gathering, now: number) => void): Promise<Gathering> {
    return this.house.database.transaction(async (transaction) => {
      const row = await GatheringRow.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
      if (!row) throw new Problem('not-found', `Nobody gathers chance for a table ${id}.`);
      const [gathering, now] = [gatheringOf(row), Date.now()];
      gathering.goOn(now);
      work(gathering, now);
      row.state = JSON.stringify(gathering.state);
      row.isOpen = gathering.isOpen;
      await row.save({ transaction });
      return gathering;
    });
  }

  private async changed(id: string, work: (gathering: Gathering, now: number) => void): Promise<GatheringView> {
    const gathering = await this.change(id, work);
    return this.told(id, gathering);
  }

  /** How it stands; once it is open, the table is there. @throws Problem where the table could not be opened */
  private async told(id: string, gathering: Gathering): Promise<GatheringView> {
    if (gathering.isOpen) await this.open(id);
    else this.lookAgain(id, gathering);
    return gathering.view(id, Date.now());
  }

  async at(id: string): Promise<GatheringView> {
    const gathering = gatheringOf(await this.known(id));
    return gathering.isDue(Date.now()) ? this.changed(id, () => undefined) : this.told(id, gathering);
  }
  take(id: string, seat: number, part: SeatPart): Promise<GatheringView> {
    return this.changed(id, (gathering, now) => gathering.take(seat, part, now));
  }
  deal(id: string): Promise<GatheringView> {
    return this.changed(id, (gathering, now) => gathering.freeze(now));
  }

  /** Goes on with a gathering when its time has come, or opens its table at once. */
  private lookAgain(id: string, gathering: Gathering): void {
    clearTimeout(this.timers.get(id));
    if (this.isStopped) return;
    const timer = setTimeout(
      () => {
        this.timers.delete(id);
        this.at(id).catch((error: unknown) => {
          this.house.log.warn({ table: id, error }, 'a table whose seats gave chance could not go on');
        });
      },
      gathering.isOpen ? 0 : Math.max(0, gathering.state.until - Date.now()),
    );
    timer.unref();
    this.timers.set(id, timer);
  }

  /** Opens the table, unless it is there: several processes may come to that at once. */
  private open(id: string): Promise<void> {
    const known = this.underWay.get(id);
    if (known) return known;
    const work = this.openNow(id).finally(() => this.underWay.delete(id));
    this.underWay.set(id, work);
    return work;
  }

  private async openNow(id: string): Promise<void> {
    if ((await TableRow.count({ where: { id } })) > 0) return;
    const row = await this.known(id);
    try {
      await this.rooms.openGathered(row.developer, JSON.parse(row.wish) as Gather, {
        id,
        ...gatheringOf(row).gathered,
      });
    } catch (error) {
      if (isTaken(error)) return;
      this.house.log.warn({ table: id, error }, 'a table whose seats gave chance could not be opened');
      // What may pass is tried again when somebody asks.
      if (!(error instanceof Problem && FOR_GOOD.has(error.kind))) throw error;
      await KeyRow.destroy({ where: { tableId: id } });
      await GatheringRow.destroy({ where: { id } });
      forgetTable(id);
      throw error;
    }
  }

  stop(): void {
    this.isStopped = true;
    for (const timer of this.timers.values()) clearTimeout(timer);
  }
}
