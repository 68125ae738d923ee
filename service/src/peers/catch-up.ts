/** Catches a table up with choices that other processes stored, with one read for any number of notices. */
export class CatchUp {
  private last = 0;
  private isToBeRead = false;

  /**
   * @param known the number at which the table stands here
   * @param act does something in the table's own order
   * @param read carries out the rows that are kept and not yet known here
   * @param isAway whether an error says that the database is unavailable: the same notice then counts again
   */
  constructor(
    private readonly table: {
      known(): number;
      act(work: () => Promise<void>): void;
      read(): Promise<void>;
      isAway(error: unknown): boolean;
    },
  ) {}

  /** Another process stored a choice: it is read, with all after it. */
  of(number: number): void {
    const { table } = this;
    if (number <= table.known() || number <= this.last) return;
    this.last = number;
    if (this.isToBeRead) return;
    this.isToBeRead = true;
    table.act(async () => {
      this.isToBeRead = false;
      if (this.last <= table.known()) return;
      try {
        await table.read();
      } catch (error) {
        if (table.isAway(error)) this.last = 0;
        throw error;
      }
    });
  }
}
