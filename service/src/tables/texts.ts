/** Room for the first texts, in bytes. */
const FIRST = 1_024;
/** How much more is taken when it does not suffice. */
const GROWTH = 1.5;
/** So full, and it grows; else those still kept are pushed together. */
const FULL = 0.8;

/**
 * The latest texts of a table, numbered from 0 in the order in which they came. Every choice leaves some, and few are
 * ever read again: as bytes in one piece they are nothing that a collection of garbage copies or goes through.
 */
export class Texts {
  private bytes = Buffer.alloc(0);
  /** Where each begins, by its number modulo {@link most}. */
  private readonly starts: number[] = [];
  private end = 0;
  private count = 0;

  /** @param most how many are kept */
  constructor(private readonly most: number) {}

  /** The number of the latest; −1 before there is one. */
  get last(): number {
    return this.count - 1;
  }

  /** The number of the oldest that is still kept. */
  get oldest(): number {
    return Math.max(0, this.count - this.most);
  }

  /** Keeps a text, and gives its number. */
  add(text: string): number {
    const length = Buffer.byteLength(text);
    const number = this.count;
    if (this.end + length > this.bytes.length) this.makeRoom(length);
    this.count++;
    this.starts[number % this.most] = this.end;
    this.end += this.bytes.write(text, this.end);
    return number;
  }

  /** A text that is kept. */
  at(number: number): string {
    return this.bytes.toString(
      'utf8',
      this.startOf(number),
      number === this.last ? this.end : this.startOf(number + 1),
    );
  }

  private startOf(number: number): number {
    return this.starts[number % this.most] as number;
  }

  /** Pushes those that stay when one more comes to the front, of more room where they fill it. */
  private makeRoom(length: number): void {
    const first = Math.max(0, this.count + 1 - this.most);
    const from = first < this.count ? this.startOf(first) : this.end;
    const needed = this.end - from + length;
    let size = Math.max(FIRST, this.bytes.length);
    while (needed > FULL * size) size = Math.ceil(size * GROWTH);
    const bytes = size === this.bytes.length ? this.bytes : Buffer.allocUnsafeSlow(size);
    this.bytes.copy(bytes, 0, from, this.end);
    for (let number = first; number < this.count; number++)
      this.starts[number % this.most] = this.startOf(number) - from;
    this.bytes = bytes;
    this.end -= from;
  }
}
