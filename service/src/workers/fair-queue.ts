/** What waits, of several developers: whoever was served longest ago goes first, and of each what came first. */
export class FairQueue<Item> {
  private readonly waiting = new Map<string, Item[]>();
  /** When each was served last, in numbers that grow. */
  private readonly served = new Map<string, number>();
  private serving = 0;
  private count = 0;

  get size(): number {
    return this.count;
  }
  sizeOf(developer: string): number {
    return this.waiting.get(developer)?.length ?? 0;
  }

  push(developer: string, item: Item): void {
    const items = this.waiting.get(developer);
    if (items) items.push(item);
    else this.waiting.set(developer, [item]);
    this.count++;
  }

  /** Takes what goes next, of those who may be served now; `undefined` where there is nothing. */
  next(mayBeServed: (developer: string) => boolean = () => true): Item | undefined {
    const [developer] = [...this.waiting.keys()]
      .filter(mayBeServed)
      .sort((a, b) => (this.served.get(a) ?? 0) - (this.served.get(b) ?? 0));
    const items = developer === undefined ? undefined : this.waiting.get(developer);
    const item = items?.shift();
    if (developer === undefined || items === undefined || item === undefined) return undefined;
    if (items.length === 0) this.waiting.delete(developer);
    this.served.set(developer, ++this.serving);
    this.count--;
    return item;
  }

  /** Takes all that waits. */
  empty(): Item[] {
    const all = [...this.waiting.values()].flat();
    this.waiting.clear();
    this.count = 0;
    return all;
  }
}
