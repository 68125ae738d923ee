import tutorial from '../../../../docs/tutorial.md?raw';
import type { DraftTexts } from '../files';
import type { Rehearsed } from '../workers/proof.worker';
import type { Look } from '../workers/table.worker';

/** A step of the tour: what it is about, the text that it leads to, and what is to be seen at the table. */
export interface Step {
  readonly title: string;
  readonly words: string;
  readonly sheet: string | null;
  readonly rehearsals: string | null;
  readonly see: string;
  /** Whether it was seen. */
  isSeen(known: {
    readonly look: Look | null;
    readonly results: readonly Rehearsed[];
    readonly shelf: string | null;
  }): boolean;
}

const said = (look: Look | null, words: RegExp): boolean => look?.said.some(({ text }) => words.test(text)) === true;
const sizes = (look: Look | null, pile: string): number[] =>
  Object.values((look?.view.piles[pile] ?? {}) as Record<string, { size?: number }>).map(({ size = 0 }) => size);

/** What is to be seen of each step of the tutorial, in its order. */
const SEEN: readonly Pick<Step, 'see' | 'isSeen'>[] = [
  { see: 'Under the table it says how many cards there are.', isSeen: ({ look }) => said(look, /^52 cards/) },
  {
    see: 'Everybody has three cards, face up.',
    isSeen: ({ look }) => sizes(look, 'hand').length > 1 && sizes(look, 'hand').every((n) => n === 3),
  },
  {
    see: 'Go a choice back and forward, and change eyes: a hand is its seat’s own until it is turned up.',
    isSeen: ({ look }) => look?.plan.piles.some(({ name, facing }) => name === 'hand' && facing === 'private') === true,
  },
  {
    see: 'Swap a card, or keep all three.',
    isSeen: ({ look }) => (look?.at ?? 0) > 0 && look?.made.some(({ words }) => /keep|swap/.test(words)) === true,
  },
  {
    see: 'A figure stands beside your hand. Play to the end: the nearest one scores.',
    isSeen: ({ look }) => said(look, /comes nearest with/),
  },
  { see: 'Play a round: chips go from hand to hand.', isSeen: ({ look }) => said(look, /the pot with \d+/) },
  {
    see: 'All rehearsals pass, with a tick each.',
    isSeen: ({ results }) => results.length >= 4 && results.every(({ failure }) => failure === null),
  },
  { see: 'Put it on the shelf: others can play it now.', isSeen: ({ shelf }) => shelf !== null },
];

/** What the tour begins with: a game that only shuffles. */
export const FIRST: DraftTexts = {
  sheet: `// Barge Nines: three cards each, and the hand nearest to nineteen takes the pot.
game "Barge Nines" for 2 to 4 seats {
  deck standard

  play {
    shuffle pack
  }
}
`,
  rehearsals: '',
  parts: {},
};

/** The steps, out of the tutorial's own page: what is learnt there and here is one text. */
export function stepsOf(page: string): Step[] {
  const parts = page.split(/^(?=## )/m).slice(1);
  return parts.flatMap((part, i): Step[] => {
    const seen = SEEN[i];
    if (!seen) return [];
    const title = (/^## (.*)$/m.exec(part)?.[1] ?? '').replace(/^[\d., and]+\s*/, '').replace(/, and \d+\. /, ', ');
    const code = (kind: string): string | null =>
      new RegExp(`\`\`\`motley ${kind}\\n([\\s\\S]*?)\`\`\``).exec(part)?.[1] ?? null;
    const words = part
      .replace(/^## .*\n/, '')
      .replace(/```[\s\S]*?```/g, '')
      .replace(/[`_]/g, '')
      .split('\n\n')
      .map((text) => text.replace(/\s+/g, ' ').trim())
      // What is done on the command line is done by buttons here.
      .filter((text) => text !== '' && !/\.\/wily|npm start/.test(text))
      .join(' ');
    return [{ title, words, sheet: code('sheet'), rehearsals: code('rehearsal'), ...seen }];
  });
}
export const STEPS: readonly Step[] = stepsOf(tutorial);

const laid = (line: string): string => line.trim().replace(/\s+/g, ' ');

/** The lines of a text that another one does not have yet, however they are laid out. */
export function missingLines(target: string, now: string): string[] {
  const have = new Map<string, number>();
  for (const line of now.split('\n')) have.set(laid(line), (have.get(laid(line)) ?? 0) + 1);
  return target.split('\n').filter((line) => {
    const key = laid(line);
    if (key === '' || key === '}') return false;
    const left = have.get(key) ?? 0;
    if (left > 0) have.set(key, left - 1);
    return left === 0;
  });
}

/** What is still to be written for a step. */
export const toWrite = (step: Step, texts: DraftTexts): string[] =>
  step.rehearsals !== null
    ? missingLines(step.rehearsals, texts.rehearsals)
    : step.sheet !== null
      ? missingLines(step.sheet, texts.sheet)
      : [];

/** The texts with a step written. */
export const written = (step: Step, texts: DraftTexts): DraftTexts => ({
  ...texts,
  ...(step.sheet === null ? {} : { sheet: step.sheet }),
  ...(step.rehearsals === null ? {} : { rehearsals: step.rehearsals }),
});
