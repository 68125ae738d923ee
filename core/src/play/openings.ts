import { faceAscii } from '../cards/face.js';
import type { Sha256 } from '../chance/short-hmac.js';
import {
  Chain,
  choiceLink,
  FAIR_FORM,
  type FairLine,
  type LinkedLine,
  lettersOf,
  linkedAfter,
  linkOf,
  type SharedLine,
} from '../fair/lines.js';
import { toHex } from '../fair/messages.js';
import { factsHash, frozenHash, type OpeningFacts, type Pledge, type ShuffleOf } from '../fair/pledge.js';
import { layoutOf } from '../machine/layout.js';
import { bitOf } from '../machine/runtime/visibility.js';
import { settingsByName } from '../machine/setup.js';
import { ALL, MOVED, SHOWN, SHUFFLED, TURNED, WIDTH } from '../machine/trace.js';
import type { Program } from '../program/types.js';
import type { Rules } from '../rules/rules.js';
import type { Noted } from '../views/events.js';
import { UNDO } from '../views/narration.js';
import type { FairHeader, Header, Row } from './record.js';

/** The shuffles of so many cards are remembered, six bytes each; older ones are told of no more. */
export const MOST_FOLLOWED = 400_000;
/** What a shuffle weighs besides its cards. */
const SHUFFLE_WEIGHT = 100;

/** What everybody knows of a table before anything is dealt. */
export function factsOf(program: Program, header: Header, { table, sheet, semantics }: FairHeader): OpeningFacts {
  const { faces, settings } = layoutOf(program, header);
  return {
    table,
    sheet,
    semantics,
    settings: settingsByName(program, settings),
    seats: header.seats,
    deck: faces.map(faceAscii),
  };
}

/** A shuffle as it was made, and its cards by their numbers. */
interface Made extends ShuffleOf {
  readonly root: string;
  readonly order: Uint16Array;
}

/** One shuffle as it is kept here: what was told of it, and by place which viewers have been shown its cards. */
interface Kept {
  readonly made: Made;
  /** What everybody was told of it. */
  readonly lines: readonly LinkedLine[];
  /** Bits of viewers who have seen the card there, and could follow it from its place. */
  readonly opened: Uint16Array;
  /** Bits of viewers who have seen it after it came by way of another's hand. */
  readonly unopened: Uint16Array;
}

/**
 * Follows the cards of a table from each shuffle on, to know which of them may be opened to whom: whoever has seen a
 * card's face, and was told of every place where it lay since. A card that went through another seat's hand is not
 * opened, for its place would tell when that seat got it.
 */
export class Openings {
  private readonly shuffles: Kept[] = [];
  private readonly waiting: Made[] = [];
  /** For each card the shuffle and the place where it lay, and who has been told of all its places since. */
  private readonly from: ({ readonly shuffle: Kept; readonly place: number } | null)[];
  private readonly followed: Uint16Array;
  private readonly chain = new Chain();
  /** What everybody was told before anything was dealt. */
  private readonly beginning: readonly LinkedLine[];
  /** What the shuffles weigh that are remembered. */
  private weight = 0;
  /** How many are not, and what the line after them names. */
  private earlier = { shuffles: 0, hash: '' };
  private number = 0;
  /** What binds all choices so far. */
  private choices = '';

  /** @param hash where a quicker SHA-256 is at hand */
  constructor(
    private readonly rules: Rules,
    private readonly pledge: Pledge,
    facts: OpeningFacts,
    fair: FairHeader | undefined,
    private readonly hash?: Sha256,
  ) {
    const cards = rules.layout.faces.length;
    this.from = new Array<null>(cards).fill(null);
    this.followed = new Uint16Array(cards);
    this.beginning = beginningOf(pledge, facts, fair).map((line) => this.chain.link(line));
  }

  /** Hears of a shuffle as it is made. */
  readonly shuffled = (
    { shuffle, pile, cards }: { shuffle: number; pile: string; cards: Uint16Array },
    root: string,
  ): void => {
    this.waiting.push({ shuffle, pile, cards: cards.length, root, order: cards.slice() });
  };

  /** Hears of a step once it is done. @param row as it is kept; `null` for the opening */
  stepped({ rows }: Noted, row: Row | null): void {
    this.number = row?.number ?? 0;
    // What was taken back is followed no more.
    if (row?.option === UNDO) {
      this.followed.fill(0);
      this.waiting.length = 0;
    } else this.follow(rows);
    if (row) this.choices = choiceLink(this.choices, this.pledge.choices, row);
  }

  private follow(rows: Noted['rows']): void {
    for (let at = 0; at < rows.length; at += WIDTH) {
      const [kind, card = -1, , to = 0, before = 0, after = 0] = rows.slice(at, at + WIDTH);
      if (kind === SHUFFLED) this.takeShuffle();
      if (card < 0 || (kind !== MOVED && kind !== TURNED && kind !== SHOWN)) continue;
      if (kind === MOVED) this.lose(card, to);
      this.see(card, kind === SHOWN ? before : before | after);
    }
  }

  private takeShuffle(): void {
    const made = this.waiting.shift();
    if (!made) return;
    const { order, ...told } = made;
    // A shuffle that was taken back may come again.
    const isAgain = made.shuffle <= (this.shuffles.at(-1)?.made.shuffle ?? 0);
    const lines: SharedLine[] = [
      ...(isAgain ? [{ fair: 'back' as const, shuffles: made.shuffle - 1 }] : []),
      { fair: 'shuffle', ...told, at: this.number, choices: this.choices },
    ];
    const kept: Kept = {
      made,
      lines: lines.map((line) => this.chain.link(line)),
      opened: new Uint16Array(order.length),
      unopened: new Uint16Array(order.length),
    };
    this.shuffles.push(kept);
    for (const [place, card] of order.entries()) {
      this.from[card] = { shuffle: kept, place };
      this.followed[card] = ALL;
    }
    this.weight += SHUFFLE_WEIGHT + order.length;
    while (this.weight > MOST_FOLLOWED && this.shuffles.length > 1) this.forget();
  }

  /** Lets go of the oldest shuffle. What was told of it stays in the chain. */
  private forget(): void {
    const oldest = this.shuffles.shift();
    const last = oldest?.lines.at(-1);
    if (!oldest || !last) return;
    this.weight -= SHUFFLE_WEIGHT + oldest.made.cards;
    this.earlier = { shuffles: oldest.made.shuffle, hash: linkOf(last) };
  }

  /** A card that comes into a seat's hand is followed by that seat alone. */
  private lose(card: number, to: number): void {
    const { piles, program } = this.rules.layout;
    const pile = piles[to];
    if (!pile || pile.seat < 0 || program.piles[pile.decl]?.facing !== 'private') return;
    this.followed[card] = (this.followed[card] as number) & (1 << pile.seat);
  }

  private see(card: number, mask: number): void {
    const from = this.from[card];
    if (!from) return;
    const { shuffle, place } = from;
    const openly = mask & (this.followed[card] as number);
    shuffle.opened[place] = (shuffle.opened[place] as number) | openly;
    shuffle.unopened[place] = (shuffle.unopened[place] as number) | (mask & ~openly);
  }

  /**
   * What a viewer may check, as it stands, line by line: each shuffle's cards are opened when their lines are asked for.
   * @param seed shown with every order, where the game is over and it is to be shown
   */
  *for(viewer: number, seed: Uint8Array | null): Generator<FairLine> {
    const bit = bitOf(viewer);
    const { number, earlier, chain } = this;
    const choices = linkedAfter(chain.last, { fair: 'choices', at: number, hash: this.choices });
    const head = lettersOf(linkOf(choices));
    const shuffles = [...this.shuffles];
    yield* this.beginning;
    // It is no link of the chain: it stands for those that are left out.
    if (earlier.shuffles > 0) yield { fair: 'earlier', ...earlier };
    let seen = 0;
    for (const { made, lines, opened, unopened } of shuffles) {
      yield* lines;
      const places = [...opened.keys()].filter((place) => ((opened[place] as number) & bit) !== 0);
      for (const [place, mask] of unopened.entries())
        if ((mask & bit) !== 0 && ((opened[place] as number) & bit) === 0) seen++;
      yield* this.cards(made, places);
    }
    yield choices;
    yield { fair: 'seen', cards: seen };
    if (seed) {
      yield { fair: 'seed', seed: toHex(seed) };
      for (const { made } of shuffles)
        yield { fair: 'order', shuffle: made.shuffle, faces: this.facesOf(made).map(faceAscii) };
    }
    yield { fair: 'end', at: number, head };
  }

  private facesOf({ order }: Made): number[] {
    return Array.from(order, (card) => this.rules.layout.faces[card] as number);
  }

  /** Opens cards of a shuffle. @param places from 0 */
  private *cards(made: Made, places: readonly number[]): Generator<FairLine> {
    if (places.length === 0) return;
    const faces = this.facesOf(made);
    const { shuffle } = made;
    const tree = this.pledge.tree(shuffle, faces, this.hash);
    for (const i of places) {
      const place = i + 1;
      const face = faceAscii(faces[i] as number);
      yield { fair: 'card', shuffle, place, face, salt: toHex(tree.saltOf(place)), path: tree.pathTo(place) };
    }
  }
}

/** What everybody was told before anything was dealt. */
function beginningOf(pledge: Pledge, facts: OpeningFacts, fair: FairHeader | undefined): SharedLine[] {
  const table = factsHash(facts);
  const seats = facts.seats.length;
  const { promises = [], shown = [] } = fair?.gave ?? {};
  return [
    { fair: 'table', form: FAIR_FORM, facts, hash: toHex(table) },
    ...(fair?.voids ?? []).map((seat) => ({ fair: 'void' as const, seat })),
    { fair: 'service', commitment: toHex(pledge.commitment) },
    ...promises.flatMap((promise, i) => (promise === '' ? [] : [{ fair: 'promise' as const, seat: i + 1, promise }])),
    { fair: 'frozen', hash: toHex(frozenHash(table, pledge.commitment, seats, fair?.gave)) },
    ...shown.flatMap((bytes, i) => (bytes === '' ? [] : [{ fair: 'show' as const, seat: i + 1, bytes }])),
    { fair: 'ready', opening: toHex(pledge.opening) },
  ];
}
