import type { Worth } from '@wily-jester/charts';
import type { Analysis, Step } from '@wily-jester/protocol';
import type { Chapter } from '../table/chapters';

/** The chapter that a number belongs to: a choice belongs to the one in which it was made. */
export interface Stretch {
  readonly title: string;
  readonly from: number;
  readonly to: number;
}

/** The stretch of the record in which a choice with a number was made. */
export function stretchAt(chapters: readonly Chapter[], number: number, last: number): Stretch {
  const i = Math.max(
    0,
    chapters.findLastIndex((chapter) => chapter.from < number),
  );
  const here = chapters[i];
  return { title: here?.title ?? '', from: i === 0 ? 0 : (here?.from ?? 0), to: chapters[i + 1]?.from ?? last };
}

/** The numbers at which a seat chose in a stretch. */
export const choicesOf = (steps: readonly Step[], seat: number, { from, to }: Stretch): number[] =>
  steps
    .filter(
      ({ number, events }) =>
        number > from && number <= to && events.some((e) => e.kind === 'chosen' && e.seat === seat),
    )
    .map(({ number }) => number)
    .sort((a, b) => a - b);

/** A line of a chapter: a choice of the seat that is looked at, or whatever else was said. */
export interface Line {
  readonly key: string;
  readonly number: number;
  readonly text: string;
  readonly own: boolean;
}

/** What was said in a stretch: the step in which it began from its title on, the one that ended it up to the next title. */
export function linesOf(steps: readonly Step[], { from, to }: Stretch, numbers: readonly number[]): Line[] {
  return steps
    .filter(({ number }) => number >= from && number <= to)
    .flatMap(({ number, lines }) => {
      const titles = lines.flatMap(({ kind }, i) => (kind === 'chapter' ? [i] : []));
      const begin = number === from && number > 0 ? (titles.at(-1) ?? lines.length) + 1 : 0;
      const end = number === to && number > from ? (titles[0] ?? lines.length) : lines.length;
      return lines
        .slice(begin, end)
        .filter(({ kind }) => kind !== 'chapter')
        .map(({ text }, i) => ({ key: `${number}/${i}`, number, text, own: i === 0 && numbers.includes(number) }));
    });
}

/** What a choice cost, beside the best that there was: 0 where nothing was clearly better. */
export const costOf = ({ choices }: Analysis): number => {
  const [best] = choices;
  return best && !best.taken ? Math.max(0, best.gain) : 0;
};

/** Whether there was too little time to say what a choice was worth. */
export const isUnknown = ({ choices }: Analysis): boolean => choices.find((choice) => choice.taken)?.error === null;

/** What a seat could expect in a stretch, of the choices that have been looked back at. */
export function worthOf(
  seat: string,
  stretch: Stretch,
  numbers: readonly number[],
  found: ReadonlyMap<number, Analysis>,
): Worth {
  const known = numbers.flatMap((number) => found.get(number) ?? []);
  const steps = known.flatMap((analysis) => {
    const taken = analysis.choices.find((choice) => choice.taken);
    const [best] = analysis.choices;
    if (!taken || !best || taken.error === null) return [];
    const soFar = analysis.ahead - analysis.begun;
    return {
      number: analysis.number,
      words: taken.words,
      best: soFar + taken.mean + costOf(analysis),
      taken: soFar + taken.mean,
      half: 1.96 * taken.error,
      cost: costOf(analysis),
    };
  });
  const last = known.at(-1);
  return {
    seat,
    chapter: stretch.title,
    from: stretch.from,
    to: stretch.to,
    steps,
    missing: numbers.length - known.length,
    ended: last ? last.ended - last.begun : null,
  };
}

/** The costliest choice first: what stands at the head of the paper. */
export function headline(worth: Worth, you: boolean): { readonly title: string; readonly rest: string } {
  const { steps, missing, ended, seat } = worth;
  const costs = steps.filter(({ cost }) => cost > 0).sort((a, b) => b.cost - a.cost);
  const [worst, ...others] = costs;
  const who = you ? 'You' : seat;
  const end = ended === null ? '' : ` ${who} ended ${pointsWords(ended)}.`;
  if (missing > 0)
    return { title: 'Thinking it over', rest: `${steps.length} of ${steps.length + missing} choices are weighed.` };
  if (steps.length === 0) return { title: 'Nothing to weigh', rest: `${who} had no choice between two things here.` };
  if (!worst) return { title: 'Nothing was clearly better', rest: `Every choice was as good as the bot’s.${end}` };
  const rest =
    others.length === 0
      ? 'Nothing else cost anything.'
      : `The rest cost ${others.reduce((sum, { cost }) => sum + cost, 0).toFixed(1)}.`;
  return { title: `“${worst.words}” cost ${worst.cost.toFixed(1)}`, rest: `${rest}${end}` };
}

/** How far ahead or behind, in words. */
function pointsWords(points: number): string {
  if (points === 0) return 'level with the others';
  const size = Number.isInteger(points) ? String(Math.abs(points)) : Math.abs(points).toFixed(1);
  return `${size} ${size === '1' ? 'point' : 'points'} ${points > 0 ? 'ahead' : 'behind'}`;
}
