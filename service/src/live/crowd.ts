/** Sockets of one address that have not said who they are, of one key, and of all. */
const MOST_UNKNOWN = 64;
const MOST_OF_KEY = 64;
const MOST = 16_384;

/** Counts sockets, so that nobody takes all of them. */
export class Crowd {
  private all = 0;
  private readonly unknown = new Map<string, number>();
  private readonly keys = new Map<string, number>();

  /** A socket from an address comes; `null` where there are too many. Gives what tells of its key, and of its end. */
  enter(address: string): { known(key: string): boolean; left(): void } | null {
    if (this.all >= MOST || (this.unknown.get(address) ?? 0) >= MOST_UNKNOWN) return null;
    this.all++;
    count(this.unknown, address, 1);
    let key: string | null = null;
    let isUnknown = true;
    const forget = (): void => {
      if (isUnknown) count(this.unknown, address, -1);
      if (key !== null) count(this.keys, key, -1);
      isUnknown = false;
      key = null;
    };
    return {
      known: (said) => {
        if (key === said) return true;
        if ((this.keys.get(said) ?? 0) >= MOST_OF_KEY) return false;
        forget();
        key = said;
        count(this.keys, said, 1);
        return true;
      },
      left: () => {
        forget();
        this.all--;
      },
    };
  }
}

function count(counts: Map<string, number>, name: string, by: 1 | -1): void {
  const now = (counts.get(name) ?? 0) + by;
  if (now === 0) counts.delete(name);
  else counts.set(name, now);
}
