import { FaceError, parseFace } from '../cards/face.js';
import { Chain, FAIR_FORM, type FairLine, type LinkedLine, lettersOf, linkOf, type PromisedShuffle } from './lines.js';
import { fromHex, type Hash, toHex } from './messages.js';
import {
  factsHash,
  frozenHash,
  type Gave,
  type Opened,
  type OpeningFacts,
  openingHash,
  Pledge,
  promisedFaces,
  wrongGave,
} from './pledge.js';
import { leafHash, rootFrom } from './tree.js';

/** One thing that was checked. */
export interface Check {
  readonly what: string;
  readonly agrees: boolean;
  /** What does not agree, in words. */
  readonly wrong?: string;
}

export interface Verdict {
  readonly agrees: boolean;
  readonly checks: readonly Check[];
  readonly facts: OpeningFacts;
  /** Seats whose own chance took part, from 1; none where the service alone chose. */
  readonly took: readonly number[];
  /** How often all was drawn anew, because a seat did not show what it had promised. */
  readonly voids: number;
  /** Shuffles that were promised, and those before them that are told no more. */
  readonly shuffles: { readonly promised: number; readonly earlier: number };
  /** Cards that agree, of all that were opened; and those that were seen and could not be opened. */
  readonly cards: { readonly agree: number; readonly opened: number; readonly seenNotOpened: number };
  /** Whether the whole of it could be checked, with the seed. */
  readonly isWhole: boolean;
  /** Whether the choices are bound to what everybody was told, as they are since 0.22. */
  readonly bindsChoices: boolean;
  /** The fingerprint of what everybody was told: whoever has the same was told the same. */
  readonly head: string;
}

/** So many cards that do not agree are named one by one. */
const MOST_NAMED = 8;

/** The order in which lines are told; shuffles and their cards take turns. */
const PHASES: Readonly<Record<FairLine['fair'], number>> = {
  table: 0,
  void: 1,
  service: 2,
  promise: 3,
  frozen: 4,
  show: 5,
  ready: 6,
  earlier: 7,
  back: 8,
  shuffle: 8,
  card: 8,
  choices: 9,
  seen: 10,
  seed: 11,
  order: 12,
  end: 13,
};
const ONCE: readonly FairLine['fair'][] = ['table', 'service', 'frozen', 'ready', 'end'];
const AT_MOST_ONCE: readonly FairLine['fair'][] = ['earlier', 'seen', 'seed'];

type Of<K extends FairLine['fair']> = Extract<FairLine, { readonly fair: K }>;
const all = <K extends FairLine['fair']>(lines: readonly FairLine[], kind: K): Of<K>[] =>
  lines.filter((line): line is Of<K> => line.fair === kind);

const isLinked = (line: FairLine): line is LinkedLine => 'after' in line;

/** Why lines do not stand as they were told; `null` where they do. */
function wrongOrder(lines: readonly FairLine[]): string | null {
  for (const kind of ONCE) {
    const many = all(lines, kind).length;
    if (many !== 1) return `"${kind}" is told ${many === 0 ? 'nowhere' : `${many} times`}`;
  }
  for (const kind of AT_MOST_ONCE) {
    const many = all(lines, kind).length;
    if (many > 1) return `"${kind}" is told ${many} times`;
  }
  const early = lines.findIndex((line, i) => i > 0 && PHASES[line.fair] < PHASES[lines[i - 1]?.fair ?? 'table']);
  return early < 0 ? null : `line ${early + 1} ("${lines[early]?.fair}") comes too late`;
}

/** Why the lines that all are told are no chain; `null` where they are. */
function wrongChain(lines: readonly FairLine[], chain: Chain): string | null {
  for (const [i, line] of lines.entries()) {
    if (line.fair === 'earlier') chain.last = line.hash;
    if (!isLinked(line)) continue;
    if (line.after !== chain.last) return `line ${i + 1} does not follow the one before it`;
    chain.last = linkOf(line);
  }
  return null;
}

/** Why the choices are not bound as they should be; `null` where they are. */
function wrongChoices(lines: readonly FairLine[]): string | null {
  const [choices, more] = all(lines, 'choices');
  if (!choices || more) return `they are bound ${more ? 'more than once' : 'nowhere'}`;
  let last: PromisedShuffle | undefined;
  for (const line of [
    ...all(lines, 'shuffle'),
    { ...choices, shuffle: 0, choices: choices.hash },
  ] as PromisedShuffle[]) {
    if (line.at < (last?.at ?? 0)) return `shuffle ${line.shuffle} was told of after choice ${last?.at}, at ${line.at}`;
    if (line.at > choices.at) return `shuffle ${line.shuffle} comes after the last choice`;
    if (line.at === last?.at && line.shuffle > 0 && line.choices !== last.choices)
      return `shuffles ${last.shuffle} and ${line.shuffle} of one step name other choices`;
    last = line;
  }
  return all(lines, 'end')[0]?.at === choices.at ? null : 'the end is told at another number';
}

/** How often each of some texts is there. */
function countsOf(texts: readonly string[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1);
  return counts;
}

/** What seats gave, by seat; empty for whoever was absent. */
function gaveIn(lines: readonly FairLine[], seats: number): Gave {
  const promises = new Array<string>(seats).fill('');
  const shown = new Array<string>(seats).fill('');
  const isSeat = ({ seat }: { readonly seat: number }): boolean => seat >= 1 && seat <= seats;
  for (const { seat, promise } of all(lines, 'promise').filter(isSeat)) promises[seat - 1] = promise;
  for (const { seat, bytes } of all(lines, 'show').filter(isSeat)) shown[seat - 1] = bytes;
  return { promises, shown };
}

/** Whether the promised shuffles have no gap between them: one that was taken back may come again. */
function wrongShuffles(lines: readonly FairLine[]): string | null {
  let last = 0;
  for (const line of lines) {
    if (line.fair === 'earlier') last = line.shuffles;
    if (line.fair === 'back') {
      if (line.shuffles >= last) return `nothing was taken back to shuffle ${line.shuffles}`;
      last = line.shuffles;
    }
    if (line.fair !== 'shuffle') continue;
    if (line.shuffle !== last + 1) return `shuffle ${last + 1} is missing`;
    if (fromHex(line.root) === null) return `the promise of shuffle ${line.shuffle} cannot be read`;
    last = line.shuffle;
  }
  return null;
}

const nameOf = ({ face, place, shuffle }: Opened): string => `${face} at place ${place} of shuffle ${shuffle}`;

/** Why an opened card does not agree; `null` where it does. @param shuffle the one that was told last before it */
function wrongCard(shuffle: PromisedShuffle | null, opening: Hash, card: Opened): string | null {
  const name = nameOf(card);
  if (shuffle?.shuffle !== card.shuffle) return `${name}: there is no such shuffle before it`;
  const salt = fromHex(card.salt);
  const path = card.path.map((text) => fromHex(text));
  if (!salt || path.some((hash) => hash === null)) return `${name}: its hashes cannot be read`;
  const { cards } = shuffle;
  const leaf = leafHash({ opening, shuffle: card.shuffle, cards, place: card.place, face: card.face, salt });
  const root = rootFrom(leaf, card.place, cards, path as Hash[]);
  if (!root) return `${name}: its path is not that of this place`;
  return toHex(root) === shuffle.root ? null : `${name} was not promised`;
}

/** The cards that were opened of one shuffle. */
class OpenedCards {
  private readonly places = new Map<number, string>();
  private readonly faces = new Map<string, number>();

  constructor(private readonly deck: ReadonlyMap<string, number>) {}

  /** Why a card cannot be there besides the others; `null` where it can. */
  wrong({ place, face, shuffle }: Opened): string | null {
    const known = this.places.get(place);
    if (known !== undefined) return `place ${place} of shuffle ${shuffle} was opened as ${known} and as ${face}`;
    this.places.set(place, face);
    const many = (this.faces.get(face) ?? 0) + 1;
    this.faces.set(face, many);
    const most = this.deck.get(face) ?? 0;
    return many > most ? `${face} was opened ${many} times in shuffle ${shuffle}, and the deck has ${most}` : null;
  }
}

/** Checks each card that was opened, against the shuffle it is of. */
function checkCards(
  lines: readonly FairLine[],
  facts: OpeningFacts,
  opening: Hash,
): { agree: number; wrong: string[]; twice: string | null } {
  const deck = countsOf(facts.deck);
  const wrong: string[] = [];
  let [agree, twice]: [number, string | null] = [0, null];
  let [shuffle, opened]: [PromisedShuffle | null, OpenedCards] = [null, new OpenedCards(deck)];
  for (const line of lines) {
    if (line.fair === 'shuffle') [shuffle, opened] = [line, new OpenedCards(deck)];
    if (line.fair !== 'card') continue;
    const why = wrongCard(shuffle, opening, line);
    if (why === null) agree++;
    else wrong.push(why);
    twice ??= opened.wrong(line);
  }
  return { agree, wrong, twice };
}

function isFace(text: string): boolean {
  try {
    parseFace(text);
    return true;
  } catch (error) {
    if (error instanceof FaceError) return false;
    throw error;
  }
}

/** Checks all orders with the seed: each is the one that the seed gives, and the one that was promised. */
function wrongWhole(lines: readonly FairLine[], facts: OpeningFacts, commitment: string, gave: Gave): string | null {
  const seed = fromHex(all(lines, 'seed')[0]?.seed);
  if (!seed) return 'the seed cannot be read';
  const pledge = new Pledge(facts, seed, gave);
  if (toHex(pledge.commitment) !== commitment) return 'the seed is not the one that was promised';
  if (facts.deck.some((face) => !isFace(face))) return 'the deck holds what is no card';
  const orders = all(lines, 'order');
  if (orders.length !== all(lines, 'shuffle').length)
    return `there are ${orders.length} orders, and not one for each shuffle`;
  for (const [i, { shuffle, pile, cards, root }] of all(lines, 'shuffle').entries()) {
    const order = orders[i];
    if (order?.shuffle !== shuffle || order.faces.length !== cards)
      return `shuffle ${shuffle} has no order, or one of another size`;
    const made = promisedFaces(pledge, { shuffle, pile, cards }, order.faces, facts.deck);
    if (!made) return `shuffle ${shuffle} holds cards that the deck has not`;
    if (made.join(' ') !== order.faces.join(' ')) return `shuffle ${shuffle} is not the one that the seed gives`;
    if (pledge.tree(shuffle, order.faces.map(parseFace)).root !== root)
      return `shuffle ${shuffle} is not the one that was promised`;
  }
  return null;
}

/**
 * Checks everything that a viewer was given of a table's shuffles, without the service. It never throws for what was
 * tampered with: what does not agree is said.
 * @param lines as `readFairness` reads them
 */
export function verifyFairness(lines: readonly FairLine[]): Verdict {
  const checks: Check[] = [];
  const check = (what: string, wrong: string | null): void => {
    checks.push(wrong === null ? { what, agrees: true } : { what, agrees: false, wrong });
  };
  const [table] = all(lines, 'table');
  if (!table) throw new Error('the first line tells of the table');
  const { facts } = table;
  const seats = facts.seats.length;
  const known = factsHash(facts);
  const chain = new Chain();
  check('all was told in order', wrongOrder(lines));
  check(
    'the table, its sheet, settings, seats and deck',
    toHex(known) === table.hash ? null : 'they are not those that the promises are about',
  );
  const commitment = all(lines, 'service')[0]?.commitment ?? '';
  const promised = fromHex(commitment);
  check('the service’s promise of its seed', promised ? null : 'it cannot be read');
  const gave = gaveIn(lines, seats);
  const took = [...new Set(all(lines, 'show').map(({ seat }) => seat))];
  const opening = promised && openingHash(known, promised, seats, gave);
  check(
    took.length === 0 ? 'that no seat gave chance of its own' : `what ${took.length} of ${seats} seats gave`,
    promised && wrongSeats(lines, known, promised, seats, gave),
  );
  check('the shuffles follow each other, each with its promise', wrongShuffles(lines));
  const bindsChoices = table.form === FAIR_FORM;
  if (bindsChoices) check('the choices, bound to what all were told', wrongChoices(lines));
  const { agree, wrong, twice } = opening ? checkCards(lines, facts, opening) : { agree: 0, wrong: [], twice: null };
  for (const one of wrong.slice(0, MOST_NAMED)) check('a card', one);
  if (wrong.length > MOST_NAMED) check('cards', `${wrong.length - MOST_NAMED} more do not agree`);
  check('no card is there twice', twice);
  const isWhole = all(lines, 'seed').length > 0;
  if (isWhole) check('the seed, and every order from it', wrongWhole(lines, facts, commitment, gave));
  else if (all(lines, 'order').length > 0) check('the orders', 'they are told without the seed');
  const cut = wrongChain(lines, chain);
  const head = fromHex(chain.last) ? lettersOf(chain.last) : '';
  const isHead = all(lines, 'end')[0]?.head === head;
  check('the fingerprint of what all were told', cut ?? (isHead ? null : 'it is not that of these lines'));
  return {
    agrees: checks.every(({ agrees }) => agrees),
    checks,
    facts,
    took,
    voids: all(lines, 'void').length,
    shuffles: { promised: all(lines, 'shuffle').length, earlier: all(lines, 'earlier')[0]?.shuffles ?? 0 },
    cards: { agree, opened: all(lines, 'card').length, seenNotOpened: all(lines, 'seen')[0]?.cards ?? 0 },
    isWhole,
    bindsChoices,
    head,
  };
}

const repeated = <T>(items: readonly T[]): T | undefined => items.find((item, i) => items.indexOf(item) < i);

/** Why what seats gave does not agree; `null` where it does, or nobody gave anything. */
function wrongSeats(lines: readonly FairLine[], known: Hash, promised: Hash, seats: number, gave: Gave): string | null {
  const told = [...all(lines, 'promise'), ...all(lines, 'show'), ...all(lines, 'void')];
  const stranger = told.find(({ seat }) => seat < 1 || seat > seats);
  if (stranger) return `there is no seat ${stranger.seat}`;
  for (const kind of ['promise', 'show'] as const) {
    const twice = repeated(all(lines, kind).map(({ seat }) => seat));
    if (twice !== undefined) return `seat ${twice} is told of twice ("${kind}")`;
  }
  const gives = wrongGave(known, promised, seats, gave);
  if (gives !== null) return gives;
  if (all(lines, 'frozen')[0]?.hash !== toHex(frozenHash(known, promised, seats, gave)))
    return 'the list that was frozen is another one';
  if (all(lines, 'ready')[0]?.opening !== toHex(openingHash(known, promised, seats, gave)))
    return 'what all keys come from is something else';
  return null;
}
