import type { SpokenLine, Step } from '@wily-jester/protocol';

/** What was said in one chapter, and how scores changed in it. */
export interface Chapter {
  readonly title: string;
  /** The number of the step in which it began. */
  readonly from: number;
  readonly lines: SpokenLine[];
  readonly result: { readonly name: string; readonly change: number }[];
}

/** The chapters of a game, from its steps. */
export function chaptersOf(steps: readonly Step[], names: readonly string[]): Chapter[] {
  const found: Chapter[] = [];
  let before: readonly number[] = names.map(() => 0);
  let latest = before;
  const close = (): void => {
    const chapter = found.at(-1);
    if (chapter)
      for (const [i, name] of names.entries())
        chapter.result.push({ name, change: (latest[i] ?? 0) - (before[i] ?? 0) });
    before = latest;
  };
  for (const step of [...steps].sort((a, b) => a.number - b.number)) {
    for (const line of step.lines) {
      if (line.kind === 'chapter') {
        latest = step.scores.length > 0 ? step.scores : latest;
        close();
        found.push({ title: line.text, from: step.number, lines: [], result: [] });
      } else {
        if (found.length === 0) found.push({ title: '', from: step.number, lines: [], result: [] });
        found.at(-1)?.lines.push(line);
      }
    }
    if (step.scores.length > 0) latest = step.scores;
  }
  close();
  return found;
}
