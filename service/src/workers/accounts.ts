/** What somebody may use of the processor. */
interface Allowed {
  /** The share that may be used for long. */
  readonly share: number;
  /** What may be in store, in milliseconds of processor time. */
  readonly store: number;
}
const TABLE: Allowed = { share: 0.05, store: 1_000 };
const DEVELOPER: Allowed = { share: 0.25, store: 2_000 };
/** So long after its last turn a developer counts as one who uses the processor, in milliseconds. */
const LATELY = 5_000;

/** The processor time of somebody: what is left, and where they stand among the others. */
class Account {
  /** Grows with what is used: who used least lately goes first. */
  virtual = 0;
  private left: number;
  private at = performance.now();

  constructor(private readonly allowed: Allowed) {
    this.left = allowed.store;
  }

  /** What is left now, in milliseconds: less than nothing where something is owed. */
  private get balance(): number {
    const now = performance.now();
    this.left = Math.min(this.allowed.store, this.left + (now - this.at) * this.allowed.share);
    this.at = now;
    return this.left;
  }
  /** After how many milliseconds nothing more is owed. */
  get debtEnds(): number {
    return Math.max(0, -this.balance / this.allowed.share);
  }
  charge(milliseconds: number): void {
    this.left = this.balance - milliseconds;
    this.virtual += milliseconds;
  }
}

/** The processor time of a developer's tables together. Who is alone may use all of it, and owes nothing for that. */
export class DeveloperAccount extends Account {
  constructor(private readonly isAlone: (account: DeveloperAccount) => boolean) {
    super(DEVELOPER);
  }
  override get debtEnds(): number {
    return this.isAlone(this) ? 0 : super.debtEnds;
  }
  override charge(milliseconds: number): void {
    if (this.isAlone(this)) this.virtual += milliseconds;
    else super.charge(milliseconds);
  }
}

/** The processor time of one table. */
export class TableAccount extends Account {
  waiting = 0;
  /** What its latest turn took, in milliseconds. */
  latest = 0;

  constructor(
    private readonly developers: DeveloperAccounts,
    readonly developer: DeveloperAccount,
  ) {
    super(TABLE);
  }
  /** After how many milliseconds neither it owes anything, nor all tables of its developer together. */
  override get debtEnds(): number {
    return Math.max(super.debtEnds, this.developer.debtEnds);
  }
  override charge(milliseconds: number): void {
    super.charge(milliseconds);
    this.latest = milliseconds;
    this.developers.used(this.developer);
    this.developer.charge(milliseconds);
  }
  /** Whether its own share is used up, not its developer's. */
  get isOwnDebt(): boolean {
    return super.debtEnds > 0;
  }
}

/** The accounts of all developers. */
export class DeveloperAccounts {
  private readonly all = new Map<string, DeveloperAccount>();
  /** The latest two who had a turn, and when: whether somebody else had one lately is seen from these. */
  private lately: readonly { readonly account: DeveloperAccount; readonly at: number }[] = [];

  /** The account of a new table of a developer. */
  table(name: string): TableAccount {
    return new TableAccount(this, this.of(name));
  }
  private of(name: string): DeveloperAccount {
    let account = this.all.get(name);
    if (!account) {
      account = new DeveloperAccount((one) => this.isAlone(one));
      this.all.set(name, account);
    }
    return account;
  }

  /** Takes note that a developer's table had a turn. */
  used(account: DeveloperAccount): void {
    const before = this.lately.filter((one) => one.account !== account);
    this.lately = [{ account, at: performance.now() }, ...before.slice(0, 1)];
  }
  private isAlone(account: DeveloperAccount): boolean {
    const other = this.lately.find((one) => one.account !== account);
    return other === undefined || other.at < performance.now() - LATELY;
  }
}
