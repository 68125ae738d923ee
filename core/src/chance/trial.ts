import { sha256 } from '@noble/hashes/sha2.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import { below, type Chance, type Generator, type KeyedChance } from './generator.js';
import { Xoshiro } from './quick.js';
import { spread } from './spread.js';

/** 128 bits from which all games of a trial come. */
export type TrialRoot = readonly [number, number, number, number];

/** The root that a seed stands for: the first 128 bits of its SHA-256, as four little-endian words. */
export function trialRoot(seed: string): TrialRoot {
  const bytes = sha256(utf8ToBytes(`wily-jester trial/1 ${seed}`));
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  return [0, 4, 8, 12].map((at) => view.getInt32(at, true)) as unknown as TrialRoot;
}

/** The 32 bits that stand for a text. */
function wordOf(text: string): number {
  let word = 0;
  for (const letter of text) word = spread((word + (letter.codePointAt(0) ?? 0)) | 0);
  return word;
}

const STEP = 0x9e3779b9;

/** So many numbers there are of 32 bits. */
const ALL = 0x1_0000_0000;
/** Up to here the product with a number of 32 bits is exact. */
const EXACT = 0x20_0000;

/** A stream that draws by multiplying instead of dividing (Lemire 2019): each number equally likely, and quicker. */
class TrialStream extends Xoshiro {
  choose(n: number): number {
    if (n > EXACT) return below({ next: () => this.next() }, n);
    let product = this.next() * n;
    let high = Math.floor(product / ALL);
    let low = product - high * ALL;
    if (low < n) {
      const refused = ALL % n;
      while (low < refused) {
        product = this.next() * n;
        high = Math.floor(product / ALL);
        low = product - high * ALL;
      }
    }
    return high;
  }
}

/** A stream that is made when the first number is drawn from it: many are never read. */
class Lazy implements Generator {
  private readonly inner = new TrialStream();
  private isReady = false;
  private purpose = 0;
  private first = 0;
  private second = 0;

  constructor(private readonly chance: TrialChance) {}

  set(purpose: number, first: number, second: number): this {
    this.purpose = purpose;
    this.first = first;
    this.second = second;
    this.isReady = false;
    return this;
  }
  private get begun(): TrialStream {
    if (!this.isReady) {
      this.chance.seed(this.inner, this.purpose, this.first, this.second);
      this.isReady = true;
    }
    return this.inner;
  }
  next(): number {
    return this.begun.next();
  }
  choose(n: number): number {
    return this.begun.choose(n);
  }
}

/**
 * Chance of one game of a trial. A stream goes by the game's number, what it is for, and how often that was asked for;
 * the rules' settings are no part of it, so that games of several settings share their cards. One object serves all
 * games of a worker: {@link begin} takes the next.
 */
export class TrialChance implements Chance, KeyedChance {
  readonly name = 'quick/2';
  private game = 0;
  private readonly counts = new Map<number, number>();
  /** Read as soon as it is asked for, so it is begun at once. */
  private readonly drawn = new TrialStream();
  private readonly players = new Lazy(this);
  private readonly paths = new Map<string, number>();

  constructor(private readonly root: TrialRoot) {}

  get keyed(): KeyedChance {
    return this;
  }

  /** Begins a game. @param game its number, from 0 */
  begin(game: number): this {
    this.game = game;
    this.counts.clear();
    return this;
  }

  /** Puts a generator where a stream begins. */
  seed(into: TrialStream, purpose: number, first: number, second: number): TrialStream {
    const { root, game } = this;
    const low = game | 0;
    const high = Math.floor(game / 0x1_0000_0000) | 0;
    const lane = (i: number): number => {
      let h = root[i] as number;
      const more = Math.imul(i, STEP);
      h = spread((h + low + more) | 0);
      h = spread((h + high + more) | 0);
      h = spread((h + purpose + more) | 0);
      h = spread((h + first + more) | 0);
      return spread((h + second + more) | 0);
    };
    into.begin(lane(0), lane(1), lane(2), lane(3));
    return into;
  }

  stream(purpose: string, count: number): Generator {
    const made = new TrialStream();
    this.seed(made, wordOf(purpose), count, 0);
    return made;
  }

  /** How often something was asked for before in this game. */
  private counted(key: number): number {
    const count = this.counts.get(key) ?? 0;
    this.counts.set(key, count + 1);
    return count;
  }

  shuffle(pile: string): Generator {
    const path = this.paths.get(pile) ?? this.newPath(pile);
    return this.seed(this.drawn, SHUFFLE, path, this.counted(path));
  }
  /** @throws RangeError where two piles would be shuffled alike: about one sheet in ten million has such */
  private newPath(pile: string): number {
    const path = wordOf(`pile ${pile}`);
    for (const [other, word] of this.paths)
      if (word === path) throw new RangeError(`"${pile}" and "${other}" would be shuffled alike: call one otherwise.`);
    this.paths.set(pile, path);
    return path;
  }
  pick(place: number): Generator {
    return this.seed(this.drawn, PICK, place, this.counted(2 ** 33 + place));
  }
  player(seat: number, chapter: number): Generator {
    const key = 2 ** 40 + chapter * 64 + seat;
    return this.players.set(PLAYER + seat, chapter, this.counted(key));
  }
}

const SHUFFLE = wordOf('shuffle');
const PICK = wordOf('pick');
const PLAYER = wordOf('player');
