import { faceAscii } from '../cards/face.js';
import { toHex } from '../fair/messages.js';
import { factsHash, type Gave, type Opened, type OpeningFacts, type Pledge, type ShuffleOf } from '../fair/pledge.js';
import { layoutOf } from '../machine/layout.js';
import { bitOf } from '../machine/runtime/visibility.js';
import { settingsByName } from '../machine/setup.js';
import { ALL, MOVED, SHOWN, SHUFFLED, TURNED, WIDTH } from '../machine/trace.js';
import type { Program } from '../program/types.js';
import type { Rules } from '../rules/rules.js';
import type { Noted } from '../views/events.js';
import type { FairHeader, Header } from './record.js';

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

/** A shuffle that was promised, as everybody is told of it. */
export interface PromisedShuffle extends ShuffleOf {
  /** The root of its order, told before any card of it moved. */
  readonly root: string;
  /** The table's number after the step in which it was. */
  readonly number: number;
}

/** What one viewer may check of a table's shuffles. */
export interface Fairness {
  readonly form: 'wily-jester-fair/1';
  readonly facts: OpeningFacts;
  /** The hash of these facts. */
  readonly table: string;
  /** What the service promised of its seed before anything was dealt. */
  readonly commitment: string;
  /** Seats whose own chance took part; none where the service alone chose. */
  readonly took: readonly number[];
  /** What seats gave, by seat. */
  readonly gave?: Gave;
  /** Seats that promised something and did not show it, each time one did. */
  readonly voids?: readonly number[];
  readonly shuffles: readonly PromisedShuffle[];
  /** Cards that the viewer has seen, and could follow from their place to where they were seen. */
  readonly cards: readonly Opened[];
  /** Cards that the viewer has seen, but that came by way of another's hand: their places would tell when. */
  readonly seenNotOpened: number;
  /** The service's seed, with every order: once the game is over, where the table was opened so. */
  readonly whole?: { readonly seed: string; readonly orders: readonly (readonly string[])[] };
}

/** One shuffle as it is kept here: its cards by their numbers. */
interface Kept extends PromisedShuffle {
  readonly order: readonly number[];
}

/**
 * Follows the cards of a table from each shuffle on, to know which of them may be opened to whom: whoever has seen a
 * card's face, and was told of every place where it lay since. A card that went through another seat's hand is not
 * opened, for its place would tell when that seat got it.
 */
export class Openings {
  private readonly shuffles: Kept[] = [];
  private readonly waiting: Omit<Kept, 'number'>[] = [];
  /** For each card the shuffle and the place where it lay, and who has been told of all its places since. */
  private readonly from: ({ readonly shuffle: number; readonly place: number } | null)[];
  private readonly followed: number[];
  /** By viewer's bit: `shuffle place` of all cards that were opened, and those that were seen and not. */
  private readonly opened = new Map<number, Map<string, { shuffle: number; place: number }>>();
  private readonly unopened = new Map<number, Set<string>>();

  constructor(
    private readonly rules: Rules,
    private readonly pledge: Pledge,
    private readonly facts: OpeningFacts,
    private readonly fair: FairHeader | undefined,
  ) {
    const cards = rules.layout.faces.length;
    this.from = new Array<null>(cards).fill(null);
    this.followed = new Array<number>(cards).fill(0);
  }

  /** Hears of a shuffle as it is made. */
  readonly shuffled = (
    { shuffle, pile, cards }: { shuffle: number; pile: string; cards: Uint16Array },
    root: string,
  ): void => {
    this.waiting.push({ shuffle, pile, cards: cards.length, root, order: [...cards] });
  };

  /** Hears of a step once it is done. @param isUndo whether it took one back: what was followed is lost then */
  stepped(number: number, { rows }: Noted, isUndo: boolean): void {
    if (isUndo) {
      this.followed.fill(0);
      this.waiting.length = 0;
      return;
    }
    for (let at = 0; at < rows.length; at += WIDTH) {
      const [kind, card = -1, , to = 0, before = 0, after = 0] = rows.slice(at, at + WIDTH);
      if (kind === SHUFFLED) this.takeShuffle(number);
      if (card < 0 || (kind !== MOVED && kind !== TURNED && kind !== SHOWN)) continue;
      if (kind === MOVED) this.lose(card, to);
      this.see(card, kind === SHOWN ? before : before | after);
    }
  }

  private takeShuffle(number: number): void {
    const made = this.waiting.shift();
    if (!made) return;
    const known = this.shuffles.findIndex(({ shuffle }) => shuffle === made.shuffle);
    if (known >= 0) this.shuffles.splice(known);
    this.shuffles.push({ ...made, number });
    for (const [i, card] of made.order.entries()) {
      this.from[card] = { shuffle: made.shuffle, place: i + 1 };
      this.followed[card] = ALL;
    }
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
    if (!from || mask === 0) return;
    const key = `${from.shuffle} ${from.place}`;
    for (let bit = 1; bit <= ALL; bit <<= 1) {
      if ((mask & bit) === 0) continue;
      if (((this.followed[card] as number) & bit) !== 0) {
        const all = this.opened.get(bit) ?? new Map<string, { shuffle: number; place: number }>();
        this.opened.set(bit, all.set(key, from));
      } else {
        const all = this.unopened.get(bit) ?? new Set<string>();
        this.unopened.set(bit, all.add(key));
      }
    }
  }

  /** What a viewer may check. @param seed shown with every order, where the game is over and it is to be shown */
  for(viewer: number, seed: Uint8Array | null): Fairness {
    const { rules, pledge, facts, fair } = this;
    const bit = bitOf(viewer);
    const opened = this.opened.get(bit) ?? new Map<string, { shuffle: number; place: number }>();
    const faces = (order: readonly number[]): number[] => order.map((card) => rules.layout.faces[card] as number);
    const cards = this.shuffles.flatMap(({ shuffle, order }) => {
      const places = [...opened.values()].filter((one) => one.shuffle === shuffle).map(({ place }) => place);
      return pledge.open(
        shuffle,
        faces(order),
        places.sort((a, b) => a - b),
      );
    });
    const unopened = [...(this.unopened.get(bit) ?? [])].filter((key) => !opened.has(key));
    return {
      form: 'wily-jester-fair/1',
      facts,
      table: toHex(factsHash(facts)),
      commitment: toHex(pledge.commitment),
      took: (fair?.gave?.shown ?? []).flatMap((shown, i) => (shown === '' ? [] : [i + 1])),
      ...(fair?.gave ? { gave: fair.gave } : {}),
      ...(fair?.voids?.length ? { voids: fair.voids } : {}),
      shuffles: this.shuffles.map(({ order: _, ...told }) => told),
      cards,
      seenNotOpened: unopened.length,
      ...(seed
        ? { whole: { seed: toHex(seed), orders: this.shuffles.map(({ order }) => faces(order).map(faceAscii)) } }
        : {}),
    };
  }
}
