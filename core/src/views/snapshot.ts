import { CHAPTERS, NUMBER, WAIT, WAIT_OVER } from '../machine/layout.js';
import { OPEN } from '../machine/runtime/visibility.js';
import type { State } from '../machine/state.js';
import type { Rules } from '../rules/rules.js';
import type { PileView, PileViews } from './pile-views.js';
import type { Own, ViewSharing } from './sharing.js';
import type { Shown } from './shown.js';
import { type Figures, figuresView, type PilesView, pilesView, type View, waitingIn, winnersOf } from './view.js';

/** Caches that outlive a snapshot. */
export interface ViewCaches {
  readonly piles: PileViews;
  readonly sharing: ViewSharing;
  /** Whether figures are common to all viewers: none is hidden, and none is a text, which may name a hidden card. */
  readonly areFiguresCommon: boolean;
}

/**
 * A state that several viewers look at, one after the other: what is the same for some of them is made once, or at
 * least is the very same object. It holds as long as the state stays as it is.
 */
export class Snapshot {
  private readonly common: Pick<View, 'number' | 'chapter' | 'waiting' | 'result'>;
  /** Figures common to all viewers, from the first viewer on. */
  private figures: Figures | undefined;
  private readonly own: Own[] = [];
  private readonly piles: { readonly views: readonly PileView[]; readonly placed: PilesView }[] = [];

  constructor(
    private readonly rules: Rules,
    private readonly caches: ViewCaches,
    private readonly s: State,
    private readonly shown: Shown,
  ) {
    this.common = {
      number: s.f[NUMBER] as number,
      ...caches.sharing.share({
        chapter: { count: s.f[CHAPTERS] as number, title: rules.rt.chapterTitle(s) },
        waiting: waitingIn(rules, s),
      }),
      result: s.f[WAIT] === WAIT_OVER ? { winners: winnersOf(rules, s) } : null,
    };
  }

  /**
   * The state as a viewer sees it: a seat's number (from 0), {@link WATCHER} or {@link OPEN}.
   * @param undo whether the seat may take back its last choice
   */
  view(viewer: number, undo = false): View {
    const { rules, caches, s, shown } = this;
    const { seats, values } = this.figures ?? figuresView(rules, s, viewer);
    const own = caches.sharing.shareFor(
      viewer,
      {
        seats,
        values,
        notes: shown.notes.get(viewer) ?? {},
        orders: shown.orders.get(viewer),
        offers: shown.offers.get(viewer) ?? [],
      },
      this.own,
    );
    this.own.push(own);
    if (caches.areFiguresCommon) this.figures = own;
    const { number, chapter, waiting, result } = this.common;
    return {
      number,
      viewer: viewer === OPEN ? 'open' : viewer < 0 ? 'watch' : viewer + 1,
      chapter,
      seats: own.seats,
      values: own.values,
      piles: this.pilesFor(viewer),
      notes: own.notes,
      ...(own.orders ? { orders: own.orders } : {}),
      waiting,
      offers: own.offers,
      undo,
      result,
    };
  }

  /** All piles as a viewer sees them: one object for all viewers who see the same. */
  private pilesFor(viewer: number): PilesView {
    const { rules, caches, s } = this;
    const views = rules.layout.piles.map((_, p) => caches.piles.viewed(s, p, viewer));
    const known = this.piles.find((other) => views.every((view, p) => view === other.views[p]));
    if (known) return known.placed;
    const placed = pilesView(rules, views);
    this.piles.push({ views, placed });
    return placed;
  }
}
