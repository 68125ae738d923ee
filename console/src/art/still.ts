import type { SheetSummary } from '@wily-jester/protocol';

type Look = SheetSummary['look'];
type Pile = Look['piles'][number];

/** One card of a still life: its left upper corner, in widths of a card. */
export interface StillCard {
  readonly x: number;
  readonly y: number;
  /** A face, a back (`null`) or an empty place (`undefined`). */
  readonly face: string | null | undefined;
}

export interface Still {
  readonly cards: readonly StillCard[];
  readonly width: number;
  readonly height: number;
}

const HEIGHT = 1.4;
const FACES = 'A♠ K♥ Q♦ J♣ 10♥ 9♣ 8♠ 7♦ 6♥ 5♣ 4♠ 3♦ 2♥ K♠ 9♦ A♥ Q♣ J♥ 8♦ 7♣ 6♠ 5♥ 4♦ 3♣'.split(' ');
const BESIDE = 1.2;
const GAP = 0.6;
const OVER = { fan: 0.5, row: 1.06, cascade: 0.34 } as const;
/** Members of a family that are drawn at most, and piles of a row. */
const MOST_MEMBERS = 8;
const MOST_HANDS = 3;

/** Cards in a pile of this kind, as they lie before the first choice or soon after. */
const cardsIn = (pile: Pile): number => (pile.shape === 'stack' ? 1 : pile.of === 'seat' ? 2 : 3);
const members = (pile: Pile): number =>
  pile.of === 'suit' ? 4 : pile.open ? 2 : Math.min(MOST_MEMBERS, Math.max(1, pile.many ?? 1));
const isAcross = (pile: Pile): boolean => pile.shape === 'fan' || pile.shape === 'row';

/** Piles that wait to be built up stand empty at first. */
const isEmpty = (pile: Pile): boolean => pile.of === 'suit';

/**
 * A small still life of a game's table, out of what its sheet lays out: the same one each time. The lot says with
 * which faces it begins.
 */
export function stillOf({ piles, layout }: Look, seats: number, lot: number): Still {
  const cards: StillCard[] = [];
  let next = lot;
  const face = (pile: Pile): string | null => {
    next += 7;
    return pile.facing === 'down' ? null : (FACES[next % FACES.length] ?? null);
  };
  /** Lays one pile, and gives how far it reaches to the right. */
  const lay = (pile: Pile, x: number, y: number): number => {
    const count = isEmpty(pile) ? 1 : cardsIn(pile);
    const step = isAcross(pile) ? OVER[pile.shape === 'row' ? 'row' : 'fan'] : 0;
    for (let i = 0; i < count; i++)
      cards.push({
        x: x + i * step,
        y: y + (pile.shape === 'cascade' ? i * OVER.cascade : 0),
        face: isEmpty(pile) ? undefined : face(pile),
      });
    return x + (count - 1) * step + 1;
  };
  const named = new Map(piles.map((pile) => [pile.name, pile]));
  const spotted = piles.filter((pile) => pile.spots);
  if (spotted.length > 0) {
    for (const pile of spotted)
      for (const [left = 0, top = 0] of pile.spots ?? [])
        cards.push({ x: left / 2, y: (top * HEIGHT) / 4, face: face(pile) });
    return framed(cards);
  }
  let y = 0;
  for (const row of layout) {
    let x = 0;
    let deep = HEIGHT;
    const from = cards.length;
    for (const name of row) {
      const pile = name === null ? undefined : named.get(name);
      if (!pile) {
        x += GAP;
        continue;
      }
      for (let i = 0; i < members(pile); i++) x = lay(pile, x, y) + BESIDE - 1;
      if (pile.shape === 'cascade') deep = HEIGHT + (cardsIn(pile) - 1) * OVER.cascade;
    }
    centre(cards, from);
    y += deep + 0.3;
  }
  const hand = piles.find((pile) => pile.of === 'seat');
  let x = 0;
  const from = cards.length;
  for (let seat = 0; hand && seat < Math.min(MOST_HANDS, seats); seat++) x = lay(hand, x, y) + GAP;
  centre(cards, from);
  return framed(cards);
}

/** Moves what was laid last so that its middle is at nothing. */
function centre(cards: StillCard[], from: number): void {
  const row = cards.slice(from);
  if (row.length === 0) return;
  const middle = (Math.min(...row.map((card) => card.x)) + Math.max(...row.map((card) => card.x)) + 1) / 2;
  for (const [i, card] of row.entries()) cards[from + i] = { ...card, x: card.x - middle };
}

/** Moves all so that they begin at nothing, and measures them. */
function framed(cards: readonly StillCard[]): Still {
  if (cards.length === 0) return { cards, width: 1, height: HEIGHT };
  const left = Math.min(...cards.map((card) => card.x));
  const top = Math.min(...cards.map((card) => card.y));
  const moved = cards.map((card) => ({ ...card, x: card.x - left, y: card.y - top }));
  return {
    cards: moved,
    width: Math.max(...moved.map((card) => card.x)) + 1,
    height: Math.max(...moved.map((card) => card.y)) + HEIGHT,
  };
}
