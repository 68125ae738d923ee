import { type Face, faceText } from '../../cards/face.js';
import type { At } from '../../program/types.js';
import { fault, ok } from '../fault.js';
import { MOST_PILES, type StateLayout } from '../layout.js';
import { pileCalled } from '../pile-names.js';
import type { State } from '../state.js';
import { wordsOf } from '../text.js';

/** A pile, or the piles that agree in the numbers so far, by their next one. */
type Cells = number | Map<number, Cells>;

function addCell(cells: Map<number, Cells>, [first, ...rest]: readonly number[], pile: number): void {
  if (first === undefined) return;
  if (rest.length === 0) {
    cells.set(first, pile);
    return;
  }
  const inside = cells.get(first);
  const next = inside instanceof Map ? inside : new Map<number, Cells>();
  cells.set(first, next);
  addCell(next, rest, pile);
}

/** Runtime functions for seats and teams in order, piles of families, and cards by name. */
export function seating(layout: StateLayout) {
  const { faces, piles, program } = layout;
  const n = layout.seats.length;
  // Not frozen: V8 goes through frozen arrays by its slow path. Nothing writes to lists.
  const seats: readonly number[] = Array.from({ length: n }, (_, i) => i);
  const suits: readonly number[] = [0, 1, 2, 3];
  const ranks: readonly number[] = [...program.rankOrder];
  const teams: readonly number[] = Array.from({ length: program.teams }, (_, i) => i);
  const pileName = (p: number): string => {
    const placed = piles[p];
    const decl = placed ? program.piles[placed.decl] : undefined;
    if (!placed || !decl) return 'a pile';
    const whose = placed.seat >= 0 ? `${layout.seats[placed.seat]}'s ` : '';
    return `${whose}${decl.name}${placed.index >= 0 ? `[${placed.index + 1}]` : ''}`;
  };
  /** What a pile is called in a text. */
  const pileWords = (p: number): string => {
    const placed = piles[p];
    const decl = placed ? program.piles[placed.decl] : undefined;
    if (!placed || !decl) return 'nothing';
    const named = {
      label: decl.label ?? wordsOf(decl.name),
      of: decl.perSeat ? 'seat' : (decl.by ?? 'table'),
    } as const;
    return pileCalled(named, placed.steps.slice(1).map(Number), (seat) => layout.seats[seat - 1] ?? '');
  };
  const families = new Map<number, readonly number[]>();
  /** The piles of a family, which are always the same ones. */
  const family = (base: number, count: number): readonly number[] => {
    const key = base * (MOST_PILES + 1) + count;
    let found = families.get(key);
    if (!found) {
      found = Array.from({ length: count }, (_, i) => base + i);
      families.set(key, found);
    }
    return found;
  };
  const member = (base: number, i: number, count: number, at: At): number =>
    i >= 0 && i < count ? base + i : fault(`There is no pile ${i + 1} in a family of ${count}.`, at);
  /** The piles of a family that grows: those with cards. */
  const openFamily = (s: State, base: number, count: number): readonly number[] =>
    family(base, count).filter((p) => s.len[p] !== 0);
  const fresh = (s: State, base: number, count: number, at: At): number => {
    for (let p = base; p < base + count; p++) if (s.len[p] === 0) return p;
    return fault(`All ${count} piles of this family are in use.`, at);
  };
  /** By declaration: the piles of a family with several numbers, number by number. */
  const cells = new Map<number, Cells>();
  for (const [p, placed] of piles.entries()) {
    const keys = program.piles[placed.decl]?.cells?.keys[placed.index];
    if (keys) addCell(cells, [placed.decl, ...keys], p);
  }
  const cell = (decl: number, index: readonly number[], at: At): number => {
    let found = cells.get(decl);
    for (let i = 0; i < index.length && typeof found === 'object'; i++) found = found.get(index[i] as number);
    return typeof found === 'number'
      ? found
      : fault(`There is no ${program.piles[decl]?.name}[${index.join(', ')}].`, at);
  };
  const cellKey = (p: number, k: number, at: At): number => {
    const placed = piles[ok(p, at)];
    const keys = placed && program.piles[placed.decl]?.cells?.keys[placed.index];
    return keys?.[k] ?? fault(`${pileName(p)} has no such number.`, at);
  };
  /** The one card with a face. */
  const cardOf = (face: Face, at: At): number => {
    const c = faces.indexOf(face);
    if (c < 0) return fault(`There is no ${faceText(face)} in this deck.`, at);
    return faces.lastIndexOf(face) === c ? c : fault(`There are several ${faceText(face)} in this deck.`, at);
  };
  const teamOf = (seat: number, at: At): number => ok(seat, at) % program.teams;
  const seatsOf = (team: number, at: At): readonly number[] => {
    ok(team, at);
    return seats.filter((seat) => seat % program.teams === team);
  };
  const nextTeam = (team: number, at: At): number => (ok(team, at) + 1) % program.teams;
  const nextSeat = (seat: number, step: number, at: At): number => (ok(seat, at) + step + n) % n;
  const seatsFrom = (seat: number, at: At): readonly number[] => seats.map((_, i) => (ok(seat, at) + i) % n);
  const others = (seat: number): readonly number[] => seats.filter((other) => other !== seat);
  /** By rank: the one after it in the game's order, or −1. */
  const nextRank = Int8Array.from({ length: 14 }, (_, r) => program.rankOrder[program.rankOrder.indexOf(r) + 1] ?? -1);

  return {
    seats,
    suits,
    ranks,
    teams,
    ok,
    pileName,
    pileWords,
    family,
    member,
    openFamily,
    fresh,
    cell,
    cellKey,
    cardOf,
    teamOf,
    seatsOf,
    nextTeam,
    nextSeat,
    seatsFrom,
    others,
    nextRank,
  };
}
