import { Problem } from '../problems.js';
import type { TableAccount } from './accounts.js';

/** So long works run one after the other, in milliseconds, before sockets are read again. */
const STRETCH = 4;
/** What a turn costs besides its work, in milliseconds. */
const TURN = 0.05;
/**
 * No turn is charged for more: a step's operations are counted, and the dearest take a quarter of this here. Where it
 * took longer by the clock, the machine did something else meanwhile; only old records, whose steps may cost more when they
 * are loaded, come off cheaply by it.
 */
const LONGEST_TURN = 250;
/** So long a long turn waits for the database at most, in milliseconds. */
const LONGEST_WAIT = 25;
/** Choices of one table that wait for their turn at most. */
const MOST_WAITING = 16;

interface Entry {
  readonly account: TableAccount;
  /** What people wait for goes before what a table does by itself. */
  readonly isByPerson: boolean;
  readonly run: () => void;
}

/**
 * Whose turn it is: work of many tables is done piece by piece, each as long as a step at most. The developer whose
 * tables used least lately goes first, and of these the table that used least. Time decides only when something is done, never what comes of it.
 */
export class Turns {
  private readonly ready: Entry[] = [];
  /** What the latest turn's table, and its developer, had used: who was idle begins here, and saves up nothing. */
  private readonly now = { table: 0, developer: 0 };
  private used = 0;
  private pumping = false;
  /** Since when a long turn waits for what is being kept. */
  private waitsSince: number | null = null;

  /** @param isKeeping whether the database is writing: whoever waits for it goes before a long turn begins */
  constructor(private readonly isKeeping: () => boolean = () => false) {}

  /**
   * Does something for a table when its turn comes. The work is done in one go.
   * @throws Problem where somebody chooses at a table that has used up its share
   */
  run<T>(account: TableAccount, isByPerson: boolean, work: () => T): Promise<T> {
    if (isByPerson && (account.debtEnds > 0 || account.waiting >= MOST_WAITING)) throw tooMany(account);
    account.virtual = Math.max(account.virtual, this.now.table);
    account.developer.virtual = Math.max(account.developer.virtual, this.now.developer);
    // Mostly nobody else wants to go on. One whose turns are long waits for all sockets to be read, and goes after others.
    if (this.ready.length === 0 && this.used < STRETCH && account.latest < STRETCH) {
      this.pump();
      return this.done(account, work);
    }
    account.waiting++;
    return new Promise<T>((resolve, reject) => {
      const run = (): void => {
        account.waiting--;
        this.done(account, work).then(resolve, reject);
      };
      this.ready.push({ account, isByPerson, run });
      this.pump();
    });
  }

  private async done<T>(account: TableAccount, work: () => T): Promise<T> {
    const from = performance.now();
    this.now.table = Math.max(this.now.table, account.virtual);
    this.now.developer = Math.max(this.now.developer, account.developer.virtual);
    try {
      return work();
    } finally {
      const spent = performance.now() - from;
      this.used += spent;
      account.charge(Math.min(spent, LONGEST_TURN) + TURN);
    }
  }

  private pump(): void {
    if (this.pumping) return;
    this.pumping = true;
    setImmediate(() => this.goOn());
  }

  private goOn(): void {
    this.used = 0;
    while (this.ready.length > 0 && this.used < STRETCH) {
      const next = this.next();
      if (this.mustWait(this.ready[next] as Entry)) {
        setTimeout(() => this.goOn(), 1);
        return;
      }
      (this.ready.splice(next, 1)[0] as Entry).run();
    }
    this.pumping = false;
    if (this.ready.length > 0) this.pump();
  }

  /** Whether a long turn waits a moment, so that the answers of what is being kept are not held up by it. */
  private mustWait({ account }: Entry): boolean {
    const now = performance.now();
    const waits = account.latest >= STRETCH && this.isKeeping() && now - (this.waitsSince ?? now) < LONGEST_WAIT;
    this.waitsSince = waits ? (this.waitsSince ?? now) : null;
    return waits;
  }

  /** The place of the entry that goes first; of one table, people. A handful wait, so all are looked at. */
  private next(): number {
    let best = 0;
    for (let i = 1; i < this.ready.length; i++) {
      const [a, b] = [this.ready[i] as Entry, this.ready[best] as Entry];
      const less = a.account.developer.virtual - b.account.developer.virtual || a.account.virtual - b.account.virtual;
      if (less < 0 || (less === 0 && a.isByPerson && !b.isByPerson)) best = i;
    }
    return best;
  }
}

function tooMany(account: TableAccount): Problem {
  const retryAfter = Math.max(1, Math.ceil(account.debtEnds / 1_000));
  const whose =
    account.isOwnDebt || account.developer.debtEnds === 0
      ? 'This table has used up its share of the processor: its sheet does very much at each choice.'
      : "This developer's tables have used up their share of the processor together.";
  return new Problem('too-many', `${whose} Try again in ${retryAfter} s.`, { retryAfter });
}
