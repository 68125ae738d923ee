import { figureCalled, pileCalled } from '@wily-jester/core';
import type { OfferedOption, PileState, Plan, TableView } from '@wily-jester/protocol';

/** One pile to draw. */
export interface DrawnPile {
  readonly path: string;
  readonly name: string;
  readonly label: string;
  readonly facing: Plan['piles'][number]['facing'];
  readonly shape: Plan['piles'][number]['shape'];
  readonly state: PileState;
  readonly suit: number | null;
  /** Positions (from 1) in the order in which they are drawn. */
  readonly order: readonly number[];
  /** Where it is drawn: the left edge in half cards, the top in quarter cards. */
  readonly spot: readonly [number, number] | null;
  readonly notes: readonly DrawnNote[];
}

/** A figure beside a pile or a seat. */
export interface DrawnNote {
  readonly name: string;
  readonly words: string;
  readonly value: unknown;
  /** The figure does not speak for itself: its words stand beside it. */
  readonly isNamed: boolean;
}

/**
 * The figures at a path. Those that stand beside hands are known by their place there; a text says by itself what it is; a
 * flag is its words where it is set.
 */
export function notesOf(view: TableView, plan: Plan, path: string): DrawnNote[] {
  return (view.notes[path] ?? []).flatMap(({ name, value }): DrawnNote[] => {
    if (value === false) return [];
    const note = plan.notes.find((declared) => name === declared.name || name.startsWith(`${declared.name}[`));
    const labels = note ? { [note.name]: note.words } : {};
    const words = figureCalled(labels, name);
    if (value === true) return [{ name, words, value: words, isNamed: false }];
    const isOfHands =
      note?.beside !== 'seat' && plan.piles.some((pile) => pile.of === 'seat' && note?.beside.includes(pile.name));
    return [{ name, words, value, isNamed: typeof value !== 'string' && !isOfHands }];
  });
}

/** All piles of a declared one, as a view has them. @param seat only those of one seat */
export function pilesOf(view: TableView, plan: Plan, name: string, seat: number | null = null): DrawnPile[] {
  const declared = plan.piles.find((pile) => pile.name === name);
  if (!declared) return [];
  const found: DrawnPile[] = [];
  const visit = (path: string, node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    if (!('size' in node && typeof node.size === 'number')) {
      for (const [key, inner] of Object.entries(node)) visit(`${path}/${key}`, inner);
      return;
    }
    const steps = path.split('/');
    if (seat !== null && steps[1] !== String(seat)) return;
    const state = node as PileState;
    if (declared.open && state.size === 0) return;
    const index = declared.of === 'suit' ? Number(steps[1]) - 1 : null;
    const [x, y] = declared.spots?.[steps.length > 1 ? Number(steps.at(-1)) - 1 : 0] ?? [];
    found.push({
      path,
      name,
      label: declared.spots ? declared.label : pileCalled(declared, steps.slice(1).map(Number)),
      facing: declared.facing,
      shape: declared.shape,
      state,
      suit: index,
      order: view.orders?.[path] ?? orderOf(state, declared.sorted, plan),
      spot: x === undefined || y === undefined ? null : [x, y],
      notes: notesOf(view, plan, path),
    });
  };
  visit(name, (view.piles as Record<string, unknown>)[name]);
  return found;
}

/** Suits as hands are sorted where the game does not rank them: the colours in turn. */
const SUITS = ['♣', '♦', '♥', '♠'];

/**
 * A hand in the order in which it is drawn: as it lies, by rank or by suit, as the game orders them. Cards that are not
 * seen stay as they lie.
 */
function orderOf(state: PileState, sorted: Plan['piles'][number]['sorted'], { ranks, suits }: Plan): number[] {
  const cards = state.cards ?? [];
  const positions = Array.from({ length: state.size }, (_, i) => i + 1);
  if (sorted === null || sorted === 'own' || cards.length < state.size || cards.some((face) => face === null))
    return positions;
  const order = suits.length > 0 ? suits : SUITS;
  const key = (position: number): number => {
    const face = cards[position - 1] ?? '';
    const suit = order.indexOf(face.slice(-1));
    const rank = suit < 0 ? Number(face) : ranks.indexOf(face.slice(0, -1));
    return sorted === 'rank' || suit < 0 ? rank * 4 + suit : suit * 100 + rank;
  };
  return positions.sort((a, b) => key(a) - key(b));
}

/** Piles that the sheet gives a place of their own, moved so that the first begins at nothing; and how far they reach. */
export function spottedOf(view: TableView, plan: Plan): { piles: DrawnPile[]; width: number; height: number } | null {
  const piles = plan.piles.filter((pile) => pile.spots).flatMap((pile) => pilesOf(view, plan, pile.name));
  if (piles.length === 0) return null;
  const xs = piles.map((pile) => pile.spot?.[0] ?? 0);
  const ys = piles.map((pile) => pile.spot?.[1] ?? 0);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return {
    piles: piles.map((pile) => ({ ...pile, spot: [(pile.spot?.[0] ?? 0) - left, (pile.spot?.[1] ?? 0) - top] })),
    width: Math.max(...xs) - left + 2,
    height: Math.max(...ys) - top + 4,
  };
}

/** The middle of the table: rows of piles, and gaps. */
export function middleOf(view: TableView, plan: Plan, all: boolean): (DrawnPile[] | null)[][] {
  const spotted = new Set(plan.piles.filter((pile) => pile.spots).map((pile) => pile.name));
  const rows = plan.layout
    .map((row) => row.filter((name) => name === null || !spotted.has(name)))
    .filter((row) => row.some((name) => name !== null))
    .map((row) => row.map((name) => (name === null ? null : pilesOf(view, plan, name))));
  if (!all) return rows;
  const shown = new Set(plan.layout.flat());
  const rest = plan.piles
    .filter((pile) => pile.of !== 'seat' && !shown.has(pile.name) && !spotted.has(pile.name))
    .flatMap((pile) => pilesOf(view, plan, pile.name));
  const filled = rest.filter((pile) => pile.state.size > 0);
  return filled.length > 0 ? [...rows, filled.map((pile) => [pile])] : rows;
}

/** Offers whose first parameter may be the card at a handle. */
export const touchesOf = (offers: readonly OfferedOption[], handle: string): OfferedOption[] =>
  offers.filter(
    (offer) =>
      offer.legal && offer.params[0]?.kind === 'values' && offer.params[0].values?.some((v) => v.value === handle),
  );

/** Legal second values after the first was chosen. */
export const secondsOf = (offer: OfferedOption, first: unknown): unknown[] =>
  (offer.ways ?? []).filter((way) => way[0] === first).map((way) => way[1]);

/** An offer of several cards at once. */
export const isSet = (offer: OfferedOption): boolean => offer.params.length === 1 && offer.params[0]?.kind === 'cards';

/** Offers of several cards among which the card at a handle may be. */
export const setsWith = (offers: readonly OfferedOption[], handle: string): OfferedOption[] =>
  offers.filter((offer) => offer.legal && isSet(offer) && offer.params[0]?.values?.some((v) => v.value === handle));

/** A choice that the card picked up still lacks: words for a button, and what it plays. */
export interface Finisher {
  readonly option: string;
  readonly words: string;
  readonly args: Record<string, string | number | boolean | null | readonly string[]>;
}

/** What a picked-up card may do that needs no second touch, or a second value that is no card or pile. */
export function finishersOf(
  offers: readonly OfferedOption[],
  handle: string,
  faceOf: (handle: string) => string,
): Finisher[] {
  return touchesOf(offers, handle).flatMap((offer): Finisher[] => {
    const [first, second] = offer.params;
    const words = (value: unknown): string =>
      offer.label.replace(`{${first?.name}}`, faceOf(handle)).replace(`{${second?.name}}`, shown(value));
    const shown = (value: unknown): string => (Array.isArray(value) ? value.map(faceOf).join(' ') : String(value));
    if (!first) return [];
    if (!second) return [{ option: offer.option, words: words(''), args: { [first.name]: handle } }];
    if (offer.params.length > 2 || second.type === 'card' || second.type === 'pile') return [];
    return secondsOf(offer, handle).map((value) => ({
      option: offer.option,
      words: offer.label.includes('{') ? words(value) : `${offer.label}: ${shown(value)}`,
      args: { [first.name]: handle, [second.name]: value as string },
    }));
  });
}

/** All piles of one seat, as they are drawn. */
export const seatPilesOf = (view: TableView, plan: Plan, seat: number): DrawnPile[] =>
  plan.piles.filter((pile) => pile.of === 'seat').flatMap((pile) => pilesOf(view, plan, pile.name, seat));
