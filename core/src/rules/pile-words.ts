import { faceAscii } from '../cards/face.js';
import type { StateLayout } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { FACINGS, type Program } from '../program/types.js';
import type { Rules } from './rules.js';

interface Kept {
  readonly stamp: number;
  readonly words: string;
}

type CardWords = readonly (readonly string[])[];

/** By program, then by what decides on its deck: tables of the same kind share the words of their cards. */
const known = new WeakMap<Program, Map<string, CardWords>>();

/** What each card is called, by its facing. */
function cardWordsOf({ program, settings, seats, faces }: StateLayout): CardWords {
  const words = known.get(program) ?? new Map<string, CardWords>();
  known.set(program, words);
  const key = JSON.stringify([settings, seats.length]);
  let found = words.get(key);
  if (!found) {
    found = FACINGS.map((_, facing) => faces.map((face, c) => `${c}=${faceAscii(face)}${facing}`));
    words.set(key, found);
  }
  return found;
}

/** The piles of a table in the words from which digests are made, kept as long as a pile bears the same stamp. */
export class PileWords {
  private readonly kept: (Kept | undefined)[] = [];
  private readonly cardWords: CardWords;

  constructor(private readonly rules: Rules) {
    this.cardWords = cardWordsOf(rules.layout);
  }

  /** One pile: each card, its facing, who sees it besides, and who knows it. */
  of(s: State, p: number): string {
    // What seats remember changes without touching the pile's stamp.
    if (this.rules.tracking) return this.wordsOf(s, p);
    const stamp = s.stamp[p] as number;
    let found = this.kept[p];
    if (found?.stamp !== stamp) {
      found = { stamp, words: this.wordsOf(s, p) };
      this.kept[p] = found;
    }
    return found.words;
  }

  private wordsOf(s: State, p: number): string {
    const { tracking, layout } = this.rules;
    const from = s.start[p] as number;
    const size = s.len[p] as number;
    // Joined at once: a text that grows card by card would be kept as a chain of its pieces.
    const words = new Array<string>(size);
    for (let i = 0; i < size; i++) {
      const c = s.cards[from + i] as number;
      let word = this.cardWords[s.facing[c] as number]?.[c] as string;
      if (s.seen[c]) word += `+${s.seen[c]}`;
      if (tracking && s.known[c]) word += `~${s.known[c]}`;
      words[i] = word;
    }
    return `pile ${layout.piles[p]?.path} ${words.join(' ')}`;
  }
}
