import { faceText } from '../cards/face.js';
import { OPEN } from '../machine/runtime/visibility.js';
import type { State } from '../machine/state.js';
import { alike } from '../program/equal.js';
import type { Rules } from '../rules/rules.js';

/** One pile as a viewer sees it. */
export interface PileView {
  readonly size: number;
  /** Bottom first, `null` where the face is not seen; absent where no card of the pile is seen. */
  readonly cards?: readonly (string | null)[];
  /** In the open view: positions (from 1) of cards that not everybody sees. */
  readonly closed?: readonly number[];
}

/** The views of a pile that several have alike; `null` where each has one of its own. */
interface Shared {
  /** To everybody, the open view too. */
  readonly toAll: PileView | null;
  /** To all but the open view. */
  readonly toSeats: PileView | null;
}

interface Kept<T> {
  readonly stamp: number;
  readonly value: T;
}

/**
 * Views of single piles, cached by stamp: most piles do not change in most
 * steps, and a pile that did not change is the very same object in the next view.
 */
export class PileViews {
  /** By viewer, the open one first, then by pile. */
  private readonly views: ((Kept<PileView> | undefined)[] | undefined)[] = [];
  private readonly shared: (Kept<Shared> | undefined)[] = [];

  constructor(private readonly rules: Rules) {}

  viewed(s: State, p: number, viewer: number): PileView {
    const { toAll, toSeats } = this.sharedViews(s, p);
    return toAll ?? (viewer === OPEN ? null : toSeats) ?? this.ownView(s, p, viewer);
  }

  private sharedViews(s: State, p: number): Shared {
    const stamp = s.stamp[p] as number;
    let found = this.shared[p];
    if (found?.stamp !== stamp) {
      const toAll = isOpenToAll(this.rules, s, p) ? pileView(this.rules, s, p, OPEN) : null;
      const toSeats = !toAll && isClosedToAll(this.rules, s, p) ? { size: s.len[p] as number } : null;
      found = { stamp, value: { toAll, toSeats } };
      this.shared[p] = found;
    }
    return found.value;
  }

  private ownView(s: State, p: number, viewer: number): PileView {
    this.views[viewer - OPEN] ??= [];
    const kept = this.views[viewer - OPEN] as (Kept<PileView> | undefined)[];
    const stamp = s.stamp[p] as number;
    let found = kept[p];
    if (found?.stamp !== stamp) {
      const value = pileView(this.rules, s, p, viewer);
      found = this.seenSo(p, stamp, value) ?? { stamp, value };
      kept[p] = found;
    }
    return found.value;
  }

  /** The view of somebody else who sees the pile just so. */
  private seenSo(p: number, stamp: number, value: PileView): Kept<PileView> | undefined {
    for (const views of this.views) {
      const found = views?.[p];
      if (found?.stamp === stamp && alike(found.value, value)) return found;
    }
    return undefined;
  }
}

/** Whether a pile is a private hand, whose positions other viewers are not shown. */
const isHand = (rules: Rules, p: number): boolean =>
  rules.program.piles[rules.layout.piles[p]?.decl ?? 0]?.facing === 'private';

/** Whether all cards are face up and positions are public, so that every viewer sees the same. */
function isOpenToAll(rules: Rules, s: State, p: number): boolean {
  if (isHand(rules, p)) return false;
  const from = s.start[p] as number;
  const to = from + (s.len[p] as number);
  for (let i = from; i < to; i++) if (s.facing[s.cards[i] as number] !== 1) return false;
  return true;
}

/** Whether no seat and no watcher sees any card of a pile. */
function isClosedToAll(rules: Rules, s: State, p: number): boolean {
  const from = s.start[p] as number;
  const to = from + (s.len[p] as number);
  for (let i = from; i < to; i++) if (rules.rt.maskOf(s, s.cards[i] as number) !== 0) return false;
  return true;
}

function pileView(rules: Rules, s: State, p: number, viewer: number): PileView {
  const { rt, layout } = rules;
  const size = s.len[p] as number;
  const cards = rt.pileCards(s, p);
  if (!cards.some((c) => rt.sees(s, c, viewer))) return { size };
  const faces = cards.map((c) => (rt.sees(s, c, viewer) ? faceText(layout.faces[c] as number) : null));
  // In another seat's private pile there are no positions: what is seen there comes first.
  if (isHand(rules, p) && viewer !== OPEN && layout.piles[p]?.seat !== viewer) {
    const seen = faces.filter((face) => face !== null).sort();
    return { size, cards: [...seen, ...faces.filter((face) => face === null)] };
  }
  if (viewer !== OPEN) return { size, cards: faces };
  const closed = cards.flatMap((c, i) => (s.facing[c] === 1 ? [] : [i + 1]));
  return closed.length > 0 ? { size, cards: faces, closed } : { size, cards: faces };
}
