import { maskShows } from '../machine/runtime/visibility.js';
import type { Rules } from '../rules/rules.js';
import type { StepEvents, TableEvent } from './events.js';
import { type Line, tell } from './narration.js';

/** The events and sentences of a step for one viewer. */
export interface ReportedStep {
  readonly events: readonly TableEvent[];
  readonly lines: readonly Line[];
}

/** The report for all viewers who may know as much as one of them. */
interface Version {
  readonly viewer: number;
  /** The visibility masks that the events depended on. */
  readonly asked: ReadonlySet<number>;
  readonly events: readonly TableEvent[];
  /** The sentences for viewers they are not about, made on first use. */
  lines: readonly Line[] | null;
}

/**
 * One step, reported to several viewers in turn: those who may know the same get the same
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

/** Whether a sentence is about the viewer's own seat: it then reads "You". */
const isSpokenTo = (lines: readonly Line[], viewer: number): boolean => lines.some(({ seat }) => seat === viewer + 1);

/** Whether a version fits a viewer: every mask that it depended on gives the viewer the same answer. */
function isFor(version: Version, viewer: number): boolean {
  for (const mask of version.asked) if (maskShows(mask, viewer) !== maskShows(mask, version.viewer)) return false;
  return true;
}
