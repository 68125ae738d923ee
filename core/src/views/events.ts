import { type Face, faceText } from '../cards/face.js';
import { maskShows, type Sees } from '../machine/runtime/visibility.js';
import { type Piece, render } from '../machine/text.js';
import {
  ACTED,
  CHAPTER,
  MOVED,
  placeLeft,
  placeTaken,
  SAID,
  SHOWN,
  SHUFFLED,
  TOLD,
  TURNED,
  WIDTH,
} from '../machine/trace.js';
import { positionsFor, withoutPlaces } from '../rules/handles.js';
import { renderingFor } from '../rules/rendering.js';
import type { Rules } from '../rules/rules.js';
import type { ArgValue } from '../rules/values.js';

/** Something that happened in a step, as one viewer may know it. `count` unseen cards that move together are one event. */
export type TableEvent =
  | {
      readonly kind: 'chosen';
      readonly seat: number;
      readonly option: string;
      readonly label: string;
      readonly args: readonly ArgValue[];
    }
  | {
      readonly kind: 'moved';
      readonly from: string;
      readonly to: string;
      readonly face: string | null;
      /** The place that it left, and the one that it took, from 1: in piles that are no private ones. */
      readonly fromPlace?: number;
      readonly toPlace?: number;
      readonly count?: number;
    }
  | { readonly kind: 'turned'; readonly pile: string; readonly position: number | null; readonly face: string | null }
  /** A card was shown for a moment; `seat` saw it, `null` where all did. */
  | {
      readonly kind: 'shown';
      readonly pile: string;
      readonly position: number | null;
      readonly face: string | null;
      readonly seat: number | null;
    }
  | { readonly kind: 'shuffled'; readonly pile: string; readonly commitment: string | null }
  | { readonly kind: 'said'; readonly text: string }
  | { readonly kind: 'told'; readonly text: string }
  | { readonly kind: 'chapter'; readonly title: string };

/** A choice that is carried out in a step: who chose what, with its label made while it was still open. */
export interface Carried {
  readonly seat: number;
  readonly option: string;
  readonly label: readonly Piece[];
  readonly args: readonly ArgValue[];
}

/** What a step noted, as plain data. */
export interface Noted {
  /** Rows of the trace. */
  readonly rows: readonly number[];
  /** Texts and commitments, which the rows name by their place here. */
  readonly refs: readonly unknown[];
  /** The choices that were carried out in it. */
  readonly carried: readonly Carried[];
}

/** The recorded events of one step, independent of the engine, to be redacted for any viewer at any time. */
export class StepEvents {
  /** @param noted at a table of this game */
  constructor(
    private readonly rules: Rules,
    private readonly noted: Noted,
  ) {}

  /** Takes over what the game's last step noted. */
  static ofLastStep(rules: Rules, carried: readonly Carried[]): StepEvents {
    return new StepEvents(rules, { rows: rules.trace.numbers(), refs: rules.trace.kept(), carried });
  }

  /** The plain data that the events can be read from again. As text it is much smaller. */
  toJSON(): Noted {
    return this.noted;
  }

  /**
   * The events of the step for a viewer, in order, with faces only where they were seen.
   * @param asked takes the visibility masks that the events depend on: viewers who see equally much of each of these get
   *   equal events
   */
  for(viewer: number, asked?: Set<number>): TableEvent[] {
    const { rules } = this;
    const { piles, faces } = rules.layout;
    const sees: Sees = (mask) => {
      asked?.add(mask);
      return maskShows(mask, viewer);
    };
    const voice = renderingFor(rules, viewer, sees);
    const path = (p: number): string => piles[p]?.path ?? '';
    const face = (card: number, before: number, after: number): string | null =>
      sees(before | after) ? faceText(faces[card] as Face) : null;
    const hasPositions = positionsFor(rules, sees);
    // What everybody may know alike is told in the same words: in a hand its owner finds a card by its face.
    const isInSight = (p: number): boolean => rules.program.piles[piles[p]?.decl ?? 0]?.facing !== 'private';
    const shown = withoutPlaces(rules, sees);
    const events: TableEvent[] = [];
    const { rows, refs } = this.noted;
    for (let at = 0; at < rows.length; at += WIDTH) {
      const kind = rows[at];
      const a = rows[at + 1] as number;
      const b = rows[at + 2] as number;
      const c = rows[at + 3] as number;
      const d = rows[at + 4] as number;
      const e = rows[at + 5] as number;
      const f = rows[at + 6] as number;
      switch (kind) {
        case MOVED:
          if (a < 0) addMove(events, { kind: 'moved', from: path(b), to: path(c), face: null }, f);
          else
            addMove(
              events,
              {
                kind: 'moved',
                from: path(b),
                to: path(c),
                face: face(a, d, e),
                ...(isInSight(b) ? { fromPlace: placeLeft(f) } : {}),
                ...(isInSight(c) ? { toPlace: placeTaken(f) } : {}),
              },
              1,
            );
          break;
        case TURNED:
          if ((d | e) !== 0)
            events.push({
              kind: 'turned',
              pile: path(b),
              position: hasPositions(b) ? c + 1 : null,
              face: face(a, d, e),
            });
          break;
        case SHOWN:
          events.push({
            kind: 'shown',
            pile: path(b),
            position: hasPositions(b) ? c + 1 : null,
            face: face(a, d, d),
            seat: e < 0 ? null : e + 1,
          });
          break;
        case SHUFFLED:
          events.push({ kind: 'shuffled', pile: path(a), commitment: c < 0 ? null : (refs[c] as string) });
          break;
        case SAID:
          events.push({ kind: 'said', text: render(refs[a] as Piece[], voice) });
          break;
        case TOLD:
          if (sees(1 << b)) events.push({ kind: 'told', text: render(refs[a] as Piece[], voice) });
          break;
        case CHAPTER:
          events.push({ kind: 'chapter', title: render(refs[a] as Piece[], voice) });
          break;
        case ACTED: {
          const carried = this.noted.carried.find((entry) => entry.seat === a);
          if (carried)
            events.push({
              kind: 'chosen',
              seat: a + 1,
              option: carried.option,
              label: render(carried.label, voice),
              args: carried.args.map(shown),
            });
          break;
        }
        default:
      }
    }
    return events;
  }
}

/** Adds a move; a row of unseen cards on one way is one event with their count. */
function addMove(events: TableEvent[], move: Extract<TableEvent, { kind: 'moved' }>, cards: number): void {
  const last = events.at(-1);
  const { face, from, to } = move;
  if (face === null && last?.kind === 'moved' && last.face === null && last.from === from && last.to === to)
    events[events.length - 1] = { kind: 'moved', from, to, face, count: (last.count ?? 1) + cards };
  else events.push(cards > 1 ? { ...move, count: cards } : move);
}
