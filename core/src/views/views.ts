import type { State } from '../machine/state.js';
import type { Rules } from '../rules/rules.js';
import { PileViews } from './pile-views.js';
import { ViewSharing } from './sharing.js';
import { shownIn } from './shown.js';
import { Snapshot, type ViewCaches } from './snapshot.js';

/** The views of one table. Earlier views are cached, so that unchanged parts are the same objects. */
export class Views {
  private readonly caches: ViewCaches;

  constructor(private readonly rules: Rules) {
    const { vars } = rules.program;
    this.caches = {
      piles: new PileViews(rules),
      sharing: new ViewSharing(),
      areFiguresCommon: !vars.some(
        ({ label, hidden, t }) => label !== null && (hidden || t === 'text' || t === 'card'),
      ),
    };
  }

  /**
   * A state, for several viewers to look at. It holds as long as the state stays as it is.
   * @param shown what the sheet works out of it, where that is known
   * @throws Fault where it is not, and something of it faults
   */
  snapshot(state: State, shown = shownIn(this.rules, state)): Snapshot {
    return new Snapshot(this.rules, this.caches, state, shown);
  }
}
