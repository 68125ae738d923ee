import {
  type FairHeader,
  type FairLine,
  factsHash,
  factsOf,
  type Header,
  isPlayed,
  lettersOf,
  linkOf,
  Pledge,
  parseFace,
  type Row,
  readFairness,
  replay,
  seatPromise,
  Table,
  WATCHER,
} from '@wily-jester/core';
import { programOf, sheetText } from './support.js';

export const FAIR_SEED = '5f'.repeat(32);
const SHEET = 'lantern-twenty-one.motley';
const FAIR: FairHeader = { table: 'abcdefghijkm', sheet: 'a'.repeat(64), semantics: 2 };

type Of<K extends FairLine['fair']> = Extract<FairLine, { readonly fair: K }>;
export const linesOf = <K extends FairLine['fair']>(lines: readonly FairLine[], kind: K): Of<K>[] =>
  lines.filter((line): line is Of<K> => line.fair === kind);

/** A game of two seats who both gave chance, its record, and what a watcher is given of it. */
export function promisedGame(): {
  header: Header;
  rows: Row[];
  program: ReturnType<typeof programOf>;
  told: (isShown: boolean) => FairLine[];
} {
  const program = programOf(sheetText(SHEET));
  const plain: Header = { seats: ['Wren', 'Otter'], seed: FAIR_SEED, fair: FAIR };
  const facts = factsOf(program, plain, FAIR);
  const { commitment } = new Pledge(facts, Buffer.from(FAIR_SEED, 'hex'));
  const shown = ['11'.repeat(32), '22'.repeat(32)];
  const promises = shown.map((bytes, i) =>
    Buffer.from(seatPromise(factsHash(facts), commitment, i + 1, Buffer.from(bytes, 'hex'))).toString('hex'),
  );
  const header: Header = { ...plain, fair: { ...FAIR, gave: { promises, shown } } };
  const table = new Table(program, header);
  const rows: Row[] = [];
  for (let step = 0; step < 60 && !table.isOver; step++) {
    const [seat = 0] = table.asked;
    const done = table.isPaused ? table.resume() : table.playAny(seat);
    if (done && isPlayed(done)) rows.push(done.row);
  }
  const followed = replay(program, header, rows, { live: true, openings: true });
  const told = (isShown: boolean): FairLine[] =>
    readFairness([...(followed.fairnessFor(WATCHER, isShown) ?? [])].map((line) => JSON.stringify(line)).join('\n'));
  return { header, rows, program, told };
}

/** Binds changed lines to each other anew, as whoever forges them would. */
export function bound(lines: readonly FairLine[]): FairLine[] {
  let after = '';
  return lines.map((line): FairLine => {
    if (line.fair === 'earlier') after = line.hash;
    if (line.fair === 'end') return { ...line, head: lettersOf(after) };
    if (!('after' in line)) return line;
    const linked = { ...line, after };
    after = linkOf(linked);
    return linked;
  });
}

/** Changes the first line of a kind, puts others in its place, or leaves it out. */
export function changed<K extends FairLine['fair']>(
  lines: readonly FairLine[],
  kind: K,
  change: (line: Of<K>) => readonly object[],
): FairLine[] {
  let isDone = false;
  return lines.flatMap((line): FairLine[] => {
    if (line.fair !== kind || isDone) return [line];
    isDone = true;
    return change(line as Of<K>).map((one) => ({ ...line, ...one }) as FairLine);
  });
}

/** One way to deceive, and what a verifier says of it. */
export interface Forgery {
  readonly name: string;
  readonly lines: readonly FairLine[];
  /** What ours says of it, and what the one in another language does. */
  readonly wrong: RegExp;
  readonly python: RegExp;
}

/** Lines that a service could make up, with everything bound together anew: each must be refused. */
export function forgeries(): Forgery[] {
  const { told, header, program } = promisedGame();
  const [open, shut] = [told(true), told(false)];
  const facts = factsOf(program, header, header.fair as FairHeader);
  const pledge = new Pledge(facts, Buffer.from(FAIR_SEED, 'hex'), header.fair?.gave);
  /** Another order of the first shuffle: promised, and opened as it was promised. */
  const dealt = (lines: readonly FairLine[], faces: readonly string[]): FairLine[] => {
    const [first] = linesOf(lines, 'shuffle');
    const tree = pledge.tree(first?.shuffle ?? 1, faces.map(parseFace));
    return lines.map((line): FairLine => {
      if (line.fair === 'shuffle' && line.shuffle === first?.shuffle) return { ...line, root: tree.root };
      if (line.fair === 'order' && line.shuffle === first?.shuffle) return { ...line, faces };
      if (line.fair !== 'card' || line.shuffle !== first?.shuffle) return line;
      const face = faces[line.place - 1] as string;
      return {
        ...line,
        face,
        salt: Buffer.from(tree.saltOf(line.place)).toString('hex'),
        path: tree.pathTo(line.place),
      };
    });
  };
  const order = linesOf(open, 'order')[0]?.faces ?? [];
  const forged = (name: string, lines: readonly FairLine[], wrong: RegExp, python: RegExp): Forgery => ({
    name,
    lines: bound(lines),
    wrong,
    python,
  });
  return [
    forged(
      'a pack of aces of spades',
      dealt(
        shut,
        order.map(() => 'AS'),
      ),
      /AS was opened \d+ times in shuffle 1, and the deck has \d/,
      /more often than in the deck/,
    ),
    forged(
      'a stacked pack, with the seed',
      dealt(open, [...order].reverse()),
      /not the one that the seed gives/,
      /not the one that the seed gives/,
    ),
    forged(
      'orders of a seed that is not the one that was promised',
      changed(open, 'seed', () => [{ seed: '60'.repeat(32) }]),
      /not the one that was promised/,
      /not the one that was promised/,
    ),
    forged(
      'what one seat showed, told twice',
      changed(shut, 'show', () => [{}, {}]),
      /seat 1 is told of twice/,
      /Seat 1 is told of twice/,
    ),
    forged(
      'what seat 1 showed told of seat 2 as well',
      changed(
        changed(shut, 'show', (line) => [line, { ...line, seat: 2 }]),
        'promise',
        (line) => [line],
      ),
      /told of twice/,
      /told of twice/,
    ),
    forged(
      'a seat that showed something else',
      changed(shut, 'show', () => [{ bytes: '33'.repeat(32) }]),
      /seat 1 showed something else/,
      /Seat 1 showed something else/,
    ),
    forged(
      'a seat that gave nothing, said to have taken part',
      changed(shut, 'promise', () => []),
      /showed something else|that was frozen is another one/,
      /that was frozen is another one/,
    ),
    forged(
      'a seat that is not there',
      changed(shut, 'show', () => [{}, { seat: 7 }]),
      /there is no seat 7/,
      /There is no seat 7/,
    ),
    forged(
      'another deck than the one that was promised',
      changed(shut, 'table', ({ facts: of }) => [{ facts: { ...of, deck: of.deck.map(() => 'AS') } }]),
      /not those that the promises are about/,
      /not those that the promises are about/,
    ),
    forged(
      'a shuffle that is left out',
      changed(shut, 'shuffle', () => []),
      /no such shuffle|is missing/,
      /no such shuffle|is missing/,
    ),
    forged(
      'a shuffle that is told twice',
      changed(shut, 'shuffle', () => [{}, {}]),
      /shuffle 2 is missing/,
      /Shuffle 2 is missing/,
    ),
    forged(
      'orders without a seed',
      changed(open, 'seed', () => []),
      /told without the seed/,
      /told without the seed/,
    ),
    forged(
      'orders that are left out',
      changed(open, 'order', () => []),
      /not one for each shuffle/,
      /not one order for each shuffle/,
    ),
    forged(
      'two seeds',
      changed(open, 'seed', () => [{}, {}]),
      /"seed" is told 2 times/,
      /"seed" is told 2 times/,
    ),
    forged(
      'choices that are bound nowhere',
      changed(shut, 'choices', () => []),
      /bound nowhere/,
      /"choices" is told 0 times/,
    ),
    forged(
      'choices that are bound twice',
      changed(shut, 'choices', () => [{}, {}]),
      /bound more than once/,
      /"choices" is told 2 times/,
    ),
    forged(
      'an end at another choice',
      changed(shut, 'end', ({ at }) => [{ at: at - 1 }]),
      /the end is told at another number/,
      /The end is told at another number/,
    ),
    forged(
      'a shuffle after the last choice',
      changed(shut, 'shuffle', () => [{ at: 999 }]),
      /told of after choice 999|after the last choice/,
      /told of at another number|end is told at another/,
    ),
    {
      name: 'lines whose chain is cut',
      lines: changed(shut, 'ready', () => [{ after: '0'.repeat(64) }]),
      wrong: /does not follow the one before it/,
      python: /does not follow the one before it/,
    },
    {
      name: 'a fingerprint of other lines',
      lines: changed(shut, 'end', () => [{ head: 'a'.repeat(26) }]),
      wrong: /not that of these lines/,
      python: /not that of these lines/,
    },
    {
      name: 'a line that comes too late',
      lines: [...shut.filter(({ fair }) => fair !== 'frozen'), ...shut.filter(({ fair }) => fair === 'frozen')],
      wrong: /comes too late/,
      python: /comes too late/,
    },
  ];
}
