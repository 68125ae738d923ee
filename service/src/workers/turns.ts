import { Problem } from '../problems.js';

/** The share of a processor that a table may use for long. */
const SHARE = 0.05;
/** What it may have in store, in milliseconds of processor time. */
const STORE = 1_000;
/** So long works run one after the other, in milliseconds, before sockets are read again. */
const STRETCH = 4;
/** What a turn costs besides its work, in milliseconds. */
const TURN = 0.05;
/** So long a long turn waits for the database at most, in milliseconds. */
const LONGEST_WAIT = 25;
/** Choices of one table that wait for their turn at most. */
const MOST_WAITING = 16;

/** The processor time of one table: what it has left, and where it stands among the others. */
export class Account {
  /** Grows with what it uses: the table that used least lately goes first. */
  virtual = 0;
  waiting = 0;
  /** What its latest turn took, in milliseconds. */
  latest = 0;
  private left = STORE;
  private at = performance.now();

  /** What it has left now, in milliseconds: less than nothing where it owes. */
  get balance(): number {
    const now = performance.now();
    this.left = Math.min(STORE, this.left + (now - this.at) * SHARE);
    this.at = now;
    return this.left;
  }
  /** After how many milliseconds it owes nothing more. */
  get debtEnds(): number {
    return Math.max(0, -this.balance / SHARE);
  }
  charge(milliseconds: number): void {
    this.left = this.balance - milliseconds;
    this.virtual += milliseconds;
    this.latest = milliseconds;
  }
}

interface Entry {
  readonly account: Account;
  /** What people wait for goes before what a table does by itself. */
  readonly isByPerson: boolean;
  readonly run: () => void;
}

/**
 * Whose turn it is: work of many tables is done piece by piece, each as long as a step at most, and the table that
 * used least lately goes first. Time decides only when something is done, never what comes of it.
 */
export class Turns {
  private readonly ready: Entry[] = [];
  /** What the latest turn's table had used: who was idle begins here, and saves up nothing. */
  private now = 0;
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
  run<T>(account: Account, isByPerson: boolean, work: () => T): Promise<T> {
    if (isByPerson && (account.debtEnds > 0 || account.waiting >= MOST_WAITING)) throw tooMany(account);
    account.virtual = Math.max(account.virtual, this.now);
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

  private async done<T>(account: Account, work: () => T): Promise<T> {
    const from = performance.now();
    this.now = Math.max(this.now, account.virtual);
    try {
      return work();
    } finally {
      const spent = performance.now() - from;
      this.used += spent;
      account.charge(spent + TURN);
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

  /** The place of the entry of the table that used least; of one table, people first. A handful wait, so all are looked at. */
  private next(): number {
    let best = 0;
    for (let i = 1; i < this.ready.length; i++) {
      const [a, b] = [this.ready[i] as Entry, this.ready[best] as Entry];
      const less = a.account.virtual - b.account.virtual;
      if (less < 0 || (less === 0 && a.isByPerson && !b.isByPerson)) best = i;
    }
    return best;
  }
}

function tooMany(account: Account): Problem {
  const retryAfter = Math.max(1, Math.ceil(account.debtEnds / 1_000));
  return new Problem(
    'too-many',
    `This table has used up its share of the processor: its sheet does very much at each choice. Try again in ${retryAfter} s.`,
    { retryAfter },
  );
}
