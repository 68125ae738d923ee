import { maskShows } from '../machine/runtime/visibility.js';
import type { Rules } from '../rules/rules.js';
import type { StepEvents, TableEvent } from './events.js';
import { type Line, tell } from './narration.js';

/** A step as one viewer hears of it. */
export interface ReportedStep {
  readonly events: readonly TableEvent[];
  readonly lines: readonly Line[];
}

/** What the step is to those who know as much of it as one of them. */
interface Version {
  readonly viewer: number;
  /** The masks of what depended on who looks. */
  readonly asked: ReadonlySet<number>;
  readonly events: readonly TableEvent[];
  /** The sentences of all who are not spoken to in them, once somebody asked for them. */
  lines: readonly Line[] | null;
}

/**
 * One step that is told to several viewers, one after the other: those who may know the same of it get the very same
 * objects, so that these need to be made, compared and written only once.
 */
export class StepReport {
  private readonly versions: Version[] = [];

  constructor(
    private readonly rules: Rules,
    private readonly stepEvents: StepEvents,
    private readonly number: number,
  ) {}

  for(viewer: number): ReportedStep {
    const version = this.versions.find((known) => isFor(known, viewer)) ?? this.versionOf(viewer);
    const { events } = version;
    if (version.lines && !isSpokenTo(version.lines, viewer)) return { events, lines: version.lines };
    const lines = tell(this.rules, events, this.number, viewer);
    if (!isSpokenTo(lines, viewer)) version.lines = lines;
    return { events, lines };
  }

  private versionOf(viewer: number): Version {
    const asked = new Set<number>();
    const events = this.stepEvents.for(viewer, asked);
    const version: Version = { viewer, asked, events, lines: null };
    this.versions.push(version);
    return version;
  }
}

/** Only a seat that a sentence is about hears it otherwise: as "You". */
const isSpokenTo = (lines: readonly Line[], viewer: number): boolean => lines.some(({ seat }) => seat === viewer + 1);

/** Whether everything that a version depends on is the same for a viewer: then it would be told just so. */
function isFor(version: Version, viewer: number): boolean {
  for (const mask of version.asked) if (maskShows(mask, viewer) !== maskShows(mask, version.viewer)) return false;
  return true;
}
