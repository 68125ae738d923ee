/** The first piece is so large, in bytes, and each further one twice as large as the one before, up to the largest. */
const FIRST = 1_024;
const LARGEST = 32_768;
/** The most bytes of one ring: a sheet may say much in each step. */
const MOST_BYTES = 262_144;

/** A piece of room. Places are counted through all pieces, as if these were one. */
interface Piece {
  readonly bytes: Buffer;
  /** Where it begins. */
  readonly from: number;
  /** The number of the last text in it. */
  last: number;
}

/**
 * The latest texts of a table, numbered from 0 in the order in which they came. Every choice leaves some, and few are
 * ever read again. As bytes in large reused pieces they cost the garbage collector nothing.
 */
export class TextRing {
  private readonly pieces: Piece[] = [];
  /** Where each begins, by its number modulo {@link most}. */
  private readonly starts: number[] = [];
  private end = 0;
  private count = 0;

  /** The oldest whose bytes, with those of all later ones, are not too many. */
  private lightest = 0;

  /** @param most how many are kept @param mostBytes how many bytes they may take, but for the latest */
  constructor(
    private readonly most: number,
    private readonly mostBytes = MOST_BYTES,
  ) {}

  /** The number of the latest; −1 before there is one. */
  get last(): number {
    return this.count - 1;
  }

  /** The number of the oldest that is still kept. */
  get oldest(): number {
    return Math.max(this.lightest, this.count - this.most);
  }

  /** Keeps a text, and gives its number. */
  add(text: string): number {
    const piece = this.roomFor(Buffer.byteLength(text));
    const number = this.count++;
    piece.last = number;
    this.starts[number % this.most] = this.end;
    this.end += piece.bytes.write(text, this.end - piece.from);
    this.lightest = this.oldest;
    while (this.lightest < number && this.end - this.startOf(this.lightest) > this.mostBytes) this.lightest++;
    return number;
  }

  /** Goes on after a number, without the texts up to it. */
  skipTo(number: number): void {
    this.count = number + 1;
    this.lightest = this.count;
  }

  /** A text that is kept. */
  at(number: number): string {
    const from = this.startOf(number);
    const to = number === this.last ? this.end : this.startOf(number + 1);
    const piece = this.pieces.findLast((each) => each.from <= from) as Piece;
    return piece.bytes.toString('utf8', from - piece.from, to - piece.from);
  }

  private startOf(number: number): number {
    return this.starts[number % this.most] as number;
  }

  /** The piece into which a text of so many bytes goes. */
  private roomFor(length: number): Piece {
    const latest = this.pieces.at(-1);
    if (latest && this.end - latest.from + length <= latest.bytes.length) return latest;
    let free: Buffer | undefined;
    while ((this.pieces[0]?.last ?? Number.POSITIVE_INFINITY) < this.oldest) free = this.pieces.shift()?.bytes;
    const size = Math.max(length, Math.min(LARGEST, 2 * (latest?.bytes.length ?? FIRST / 2)));
    const bytes = free && free.length >= size ? free : Buffer.allocUnsafeSlow(size);
    const piece: Piece = { bytes, from: this.end, last: this.count };
    this.pieces.push(piece);
    return piece;
  }
}
