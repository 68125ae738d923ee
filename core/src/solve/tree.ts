import { faceText } from '../cards/face.js';
import type { Answer } from '../machine/code.js';
import { ASK, CHANCES } from '../machine/layout.js';
import type { Setup } from '../machine/setup.js';
import type { State } from '../machine/state.js';
import { ALL } from '../machine/trace.js';
import { HiddenPlaces } from '../opponents/hidden.js';
import { choiceWords } from '../play/carried.js';
import { REGULARS } from '../program/names.js';
import type { Program } from '../program/types.js';
import { Game } from '../rules/game.js';
import { waysOf } from '../rules/legal.js';
import { redeal } from '../rules/redeal.js';
import type { Policy } from '../simulate/policy.js';
import type { View } from '../views/view.js';
import { Views } from '../views/views.js';
import { type Done, doneAfter, nothingDone } from './done.js';
import { Enumerated, type Outcome, Unsolved } from './outcomes.js';

/** A place in the game: the end, a draw of chance, or a decision of one seat. */
export type Node =
  | { readonly kind: 'end'; readonly scores: readonly number[] }
  | { readonly kind: 'chance'; readonly next: readonly Node[]; readonly probabilities: readonly number[] }
  | { readonly kind: 'decision'; readonly info: number; readonly next: readonly Node[] };

/** What one seat cannot tell apart: the same was seen, and the same may be chosen. */
export interface InfoSet {
  readonly seat: number;
  /** What there is to choose, in words. */
  readonly choices: readonly string[];
  /** What the seat holds and what was done, in words. */
  readonly words: string;
}

export interface Tree {
  readonly seats: readonly string[];
  readonly root: Node;
  readonly infos: readonly InfoSet[];
  readonly nodes: number;
}

/** Larger trees are not built. */
const MOST_NODES = 1_500_000;
/** So many ways to choose are gone through at one decision. */
const MOST_WAYS = 64;
/** So deep a game may go, in choices. */
const DEEPEST = 200;

/** What each seat has seen so far, as a text that is the same exactly where the seat cannot tell. */
type Seen = readonly string[];

/** A decision's choices, each with the policy's share where one is asked for. */
type Shares = Map<number, readonly number[]>;

/** Builds the whole tree of a small game. */
class Builder {
  private readonly chance = new Enumerated();
  private readonly game: Game;
  private readonly views: Views;
  private readonly infos: InfoSet[] = [];
  private readonly numbers = new Map<string, number>();
  /** Texts by what they say, so that each is kept once. */
  private readonly kept = new Map<string, string>();
  private nodes = 0;
  /** How often the policy that is looked at chooses what, by set of what its seat cannot tell apart. */
  readonly shares: Shares = new Map();

  constructor(
    program: Program,
    setup: Setup,
    private readonly policy: Policy | null,
  ) {
    this.game = new Game(program, { ...setup, chance: this.chance, tracking: true });
    this.views = new Views(this.game);
  }

  build(): Tree {
    const root = this.branched(
      this.merged(this.chance.each(() => this.game.open())),
      () => ({ seen: this.game.rt.seats.map(() => ''), done: nothingDone(this.game) }),
      0,
    );
    return { seats: this.game.layout.seats, root, infos: this.infos, nodes: this.nodes };
  }

  private branched(
    outcomes: readonly Outcome<State>[],
    known: (state: State) => { readonly seen: Seen; readonly done: Done },
    depth: number,
  ): Node {
    const next = outcomes.map(({ value }) => {
      const { seen, done } = known(value);
      return this.node(value, this.looked(value, seen), done, depth);
    });
    const [only] = next;
    if (next.length === 1 && only) return only;
    this.count();
    return { kind: 'chance', next, probabilities: outcomes.map(({ probability }) => probability) };
  }

  private count(): void {
    if (++this.nodes > MOST_NODES)
      throw new Unsolved(
        `This game has more than ${MOST_NODES.toLocaleString('en')} places: it is too large to be solved. Smaller settings may do.`,
      );
  }

  /** What each seat has seen, once it looked at a state too. */
  private looked(state: State, seen: Seen): Seen {
    const snapshot = this.views.snapshot(state);
    return this.game.rt.seats.map((seat) => {
      const text = `${seen[seat]}\n${shown(snapshot.view(seat))}`;
      const kept = this.kept.get(text) ?? String(this.kept.size);
      this.kept.set(text, kept);
      return kept;
    });
  }

  private node(state: State, seen: Seen, done: Done, depth: number): Node {
    const { game } = this;
    if (depth > DEEPEST) throw new Unsolved(`This game goes on for more than ${DEEPEST} choices: it cannot be solved.`);
    if (game.isPaused(state))
      return this.branched(
        this.outcomes(state, (from) => game.resume(from)),
        () => ({ seen, done }),
        depth + 1,
      );
    this.count();
    if (game.isOver(state)) return { kind: 'end', scores: game.scores(state) };
    const [seat] = game.asked(state);
    if (seat === undefined || game.isRace(state)) throw new Unsolved('Games in which seats race cannot be solved.');
    const answers = answersAt(game, state, seat);
    const words = answers.map((answer) => choiceWords(game, state, seat, answer));
    const info = this.infoOf(state, seat, `${seat} ${seen[seat]}`, words, done);
    if (this.policy && !this.shares.has(info)) this.shares.set(info, this.sharesOf(state, seat, answers));
    const next = answers.map((answer, i) => {
      const outcomes = this.outcomes(state, (from) => game.answer(from, seat, answer));
      const after = (to: State): { seen: Seen; done: Done } => {
        const now = doneAfter(game, done, state, to, seat, answer);
        const heard = now.told.map((told, viewer) => told.slice(done.told[viewer]?.length).join());
        return { seen: seen.map((text, viewer) => `${text} ${viewer === seat ? i : ''} ${heard[viewer]}`), done: now };
      };
      return this.branched(outcomes, after, depth + 1);
    });
    return { kind: 'decision', info, next };
  }

  /**
   * All that may come of a step. Cards that nobody has seen are settled when they come up: until then it does not matter
   * how they lie, and states that differ in nothing else are one.
   */
  private outcomes(state: State, step: (from: State) => State): Outcome<State>[] {
    const { game, chance } = this;
    const found = chance.all(() => step(state));
    const unseen = nobodysCards(game, state);
    const comesUp = ({ value }: Outcome<State>): boolean =>
      nobodysCards(game, value).length !== unseen.length || value.f[CHANCES] !== state.f[CHANCES];
    if (unseen.length < 2 || !found.some(comesUp)) return found;
    const dealt = chance.each(() => {
      const from = game.copy(state);
      redeal(game, from, chance.stream());
      const to = step(from);
      game.recycle(from);
      return to;
    });
    return this.merged(dealt);
  }

  /** Outcomes that differ only in cards that nobody has seen, taken as one. */
  private merged(outcomes: Iterable<Outcome<State>>): Outcome<State>[] {
    const { game } = this;
    const found: { value: State; probability: number }[] = [];
    const byHash = new Map<number, (typeof found)[number][]>();
    for (const { value, probability } of outcomes) {
      const cards = nobodysCards(game, value);
      new HiddenPlaces(game, value, cards).lay(value, Uint16Array.from(cards).sort());
      const hash = hashOf(value);
      const alike = byHash.get(hash) ?? [];
      byHash.set(hash, alike);
      const known = alike.find((other) => isSame(other.value, value));
      if (known) {
        known.probability += probability;
        game.recycle(value);
      } else {
        const one = { value, probability };
        found.push(one);
        alike.push(one);
      }
    }
    return found;
  }

  private infoOf(state: State, seat: number, key: string, choices: readonly string[], done: Done): number {
    const known = this.numbers.get(key);
    if (known !== undefined) return known;
    const info = this.infos.length;
    this.numbers.set(key, info);
    this.infos.push({ seat, choices, words: placeAt(this.game, state, seat, done) });
    return info;
  }

  /** How often the policy chooses each answer, its own chance gone through as well. */
  private sharesOf(state: State, seat: number, answers: readonly Answer[]): number[] {
    const shares = answers.map(() => 0);
    const keys = answers.map((answer) => JSON.stringify(answer));
    const { policy, game, chance } = this;
    for (const { value, probability } of chance.all(() => {
      const answer = policy?.choose(game, state, seat, chance.stream());
      return answer ? JSON.stringify({ option: answer.option, args: answer.args }) : '';
    })) {
      const i = keys.indexOf(value);
      if (i < 0) throw new Unsolved(`${policy?.name} finds nothing to choose at a place of this game.`);
      shares[i] = (shares[i] as number) + probability;
    }
    return shares;
  }
}

/** All that a seat may choose. @throws Unsolved where it is too much */
export function answersAt(game: Game, state: State, seat: number): Answer[] {
  const ask = state.f[ASK] as number;
  const options = game.program.asks[ask]?.options ?? [];
  game.code.begin();
  const answers = options.flatMap((_, option) =>
    waysOf(game, state, ask, option, seat, MOST_WAYS + 1).map((args): Answer => ({ option, args })),
  );
  if (answers.length > MOST_WAYS)
    throw new Unsolved(`One decision has more than ${MOST_WAYS} choices: this game is too large to be solved.`);
  return answers;
}

/** What a seat holds, what lies open, and what it was told was done, in words. */
export function placeAt({ rt, layout, program }: Game, state: State, seat: number, { told }: Done): string {
  const done = told[seat] ?? [];
  const hands = layout.piles.flatMap((pile, p) =>
    pile.seat === seat && program.piles[pile.decl]?.facing === 'private' ? rt.pileCards(state, p) : [],
  );
  const faces = (cards: readonly number[]): string => cards.map((c) => faceText(layout.faces[c] as number)).join(' ');
  const open = layout.piles.flatMap((pile, p) =>
    pile.seat < 0 ? rt.pileCards(state, p).filter((c) => rt.maskOf(state, c) === ALL) : [],
  );
  return [
    faces(hands) || 'nothing in hand',
    ...(open.length > 0 ? [`${faces(open)} on the table`] : []),
    done.length > 0 ? `after ${done.join(', ')}` : 'to begin with',
  ].join(', ');
}

/** A hash of a state: equal states have equal ones (FNV-1a over its numbers, Fowler, Noll and Vo 1991). */
function hashOf({ f, row }: State): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < f.length; i++) hash = Math.imul(hash ^ (f[i] as number), 0x01000193);
  for (let i = 0; i < row.length; i++) hash = Math.imul(hash ^ (row[i] as number), 0x01000193);
  return hash;
}

/** Whether two states of one game are equal. */
function isSame(a: State, b: State): boolean {
  for (let i = 0; i < a.f.length; i++) if (a.f[i] !== b.f[i]) return false;
  for (let i = 0; i < a.row.length; i++) if (a.row[i] !== b.row[i]) return false;
  return JSON.stringify(a.refs) === JSON.stringify(b.refs);
}

/** The cards that no seat has seen since they were last shuffled. */
function nobodysCards({ rt, layout }: Game, state: State): number[] {
  const cards: number[] = [];
  for (let p = 0; p < layout.piles.length; p++)
    for (const c of rt.pileCards(state, p)) if (rt.maskOf(state, c) === 0 && state.known[c] === 0) cards.push(c);
  return cards;
}

/** What a view shows that tells anything: numbers of steps and labels of buttons do not. */
const shown = ({ number, offers, undo, ...view }: View): string => JSON.stringify([number, view]);

/**
 * The whole tree of a small game.
 * @param policy whose choices are looked at, too: how often it chooses what comes back beside the tree
 * @throws Unsolved where it has too many places, outcomes or choices
 */
export function treeOf(
  program: Program,
  setup: Omit<Setup, 'seats'> & { readonly seats?: number },
  policy: Policy | null = null,
): { readonly tree: Tree; readonly shares: ReadonlyMap<number, readonly number[]> } {
  const seats = REGULARS.slice(0, setup.seats ?? Math.min(...program.seats));
  const builder = new Builder(program, { ...(setup.settings ? { settings: setup.settings } : {}), seats }, policy);
  return { tree: builder.build(), shares: builder.shares };
}
