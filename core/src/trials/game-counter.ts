import type { Answer, Counted, Counting } from '../machine/code.js';
import { ASK, CHAPTERS } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { render } from '../machine/text.js';
import type { Tally } from '../program/types.js';
import type { Game } from '../rules/game.js';
import { Counts, type Mark } from './counted.js';

/** What every trial counts, whatever the sheet says. */
export const ALWAYS_COUNTED: readonly Tally[] = [
  { name: 'score', form: 'number', of: 'int', by: [{ t: 'seat', words: 'seat' }], at: 0 },
  { name: 'best score', form: 'share', of: 'flag', by: [{ t: 'seat', words: 'seat' }], at: 0 },
  { name: 'choices of a game', form: 'number', of: 'int', by: [], at: 0 },
  { name: 'chapters of a game', form: 'number', of: 'int', by: [], at: 0 },
  { name: 'options taken', form: 'category', of: 'text', by: [], at: 0 },
];
const [SCORE, BEST, CHOICES, CHAPTERS_TALLY, OPTIONS] = [0, 1, 2, 3, 4] as const;

/** What a game of these rules counts: what every trial counts, then the sheet's own. */
export const talliesOf = ({ tallies = [] }: { readonly tallies?: readonly Tally[] }): readonly Tally[] => [
  ...ALWAYS_COUNTED,
  ...tallies,
];

/** Counts the games of one worker under one setting, block by block. */
export class GameCounter {
  private readonly tallies: readonly Tally[];
  private counts: readonly Counts[];
  private part = 0;
  private choices = 0;
  private options = new Map<string, number>();
  private game: Game | null = null;

  constructor(program: { readonly tallies?: readonly Tally[] }) {
    this.tallies = talliesOf(program);
    this.counts = this.fresh();
  }

  private fresh(): Counts[] {
    return this.tallies.map(({ by }) => new Counts(by.length, this.tallies.length));
  }

  /** The game whose tallies are heard: its texts are read with its own voice. */
  listenTo(game: Game): void {
    this.game = game;
  }

  /** Begins to count anew. */
  reset(): void {
    this.counts = this.fresh();
  }

  /** Begins a block. @param part of the distributions that its games belong to */
  beginBlock(part: number): void {
    this.part = part;
  }

  /** What was counted since the last reset, by tally. */
  get counted(): readonly Counts[] {
    return this.counts;
  }

  /** Begins a game. */
  begin(): void {
    this.choices = 0;
    this.options.clear();
  }

  private mark(value: Counted): Mark {
    if (typeof value === 'number') return value;
    return this.game ? render(value, this.game.rt.plainVoice) : '';
  }

  /** Hears what the sheet counts. */
  readonly hear: Counting = (tally, value, per, first, second) => {
    const place = tally + ALWAYS_COUNTED.length;
    const counts = this.counts[place] as Counts;
    const a = this.mark(first);
    const b = this.mark(second);
    switch ((this.tallies[place] as Tally).form) {
      case 'category':
        counts.count(a, b, this.mark(value), 1, 1, -1);
        break;
      case 'ratio':
        counts.count(a, b, null, value as number, per, -1);
        break;
      case 'share':
        counts.count(a, b, null, value as number, 1, -1);
        break;
      case 'number':
        counts.count(a, b, null, value as number, 1, counts.keys === 0 ? this.part : -1);
    }
  };

  /** Notes a choice before it is carried out. */
  readonly choosing = (state: State, _seat: number, answer: Answer): void => {
    this.chose(this.game?.program.asks[state.f[ASK] as number]?.options[answer.option]?.name ?? '');
  };

  /** Notes a choice by the name of its option. */
  chose(option: string): void {
    this.choices++;
    this.options.set(option, (this.options.get(option) ?? 0) + 1);
  }

  /** Counts what every game has once it has ended. */
  end(game: Game, state: State): void {
    const { counts, part } = this;
    const scores = game.scores(state);
    const best = game.program.winsLeast ? Math.min(...scores) : Math.max(...scores);
    for (const [seat, score] of scores.entries()) {
      counts[SCORE]?.count(seat, 0, null, score, 1, part);
      if (scores.length > 1) counts[BEST]?.count(seat, 0, null, score === best ? 1 : 0, 1, -1);
    }
    counts[CHOICES]?.count(0, 0, null, this.choices, 1, part);
    counts[CHAPTERS_TALLY]?.count(0, 0, null, state.f[CHAPTERS] as number, 1, part);
    for (const [option, count] of this.options) counts[OPTIONS]?.count(0, 0, option, count, count, -1);
  }

  /**
   * Puts the game's counts into the sums.
   * @param first the same game under the first setting, and where each of its tallies stands there (−1: nowhere)
   */
  fold(first: GameCounter | null, places: readonly number[]): void {
    for (const [i, counts] of this.counts.entries()) counts.fold(first?.counts[places[i] ?? -1] ?? null);
  }

  clear(): void {
    for (const counts of this.counts) counts.clear();
  }
}
