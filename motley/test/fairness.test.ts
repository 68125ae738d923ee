import { hash } from 'node:crypto';
import {
  type FairLine,
  type Header,
  isPlayed,
  type Row,
  readFairness,
  replay,
  Table,
  verifyFairness,
  verifyRecord,
  WATCHER,
  type WholeRecord,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { bundledSheets, programOf, script, sheetText } from './support.js';

const SEED = '5f'.repeat(32);
const headerFor = (seats: string[], more: Partial<Header> = {}): Header => ({
  seats,
  seed: SEED,
  fair: { table: 'abcdefghijkm', sheet: 'a'.repeat(64), semantics: 2 },
  ...more,
});

/** Plays a sheet at random for so many steps, and gives its table again with its cards followed. */
function played(source: string, header: Header, steps: number): { table: Table; rows: Row[]; views: Table } {
  const program = programOf(source);
  const table = new Table(program, header);
  const rows: Row[] = [];
  for (let step = 0; step < steps && !table.isOver; step++) {
    const [seat = 0] = table.asked;
    const done = table.isPaused ? table.resume() : table.playAny(seat);
    if (done && isPlayed(done)) rows.push(done.row);
  }
  return { table, rows, views: replay(program, header, rows, { live: true, openings: true }) };
}
const given = (table: Table, viewer: number, isShown = false): FairLine[] => {
  const lines = table.fairnessFor(viewer, isShown);
  if (!lines) throw new Error('nothing is promised here');
  return readFairness([...lines].map((line) => JSON.stringify(line)).join('\n'));
};
type Of<K extends FairLine['fair']> = Extract<FairLine, { readonly fair: K }>;
const all = <K extends FairLine['fair']>(lines: readonly FairLine[], kind: K): Of<K>[] =>
  lines.filter((line): line is Of<K> => line.fair === kind);
const wrongIn = (lines: readonly FairLine[]): string[] =>
  verifyFairness(lines).checks.flatMap(({ wrong }) => wrong ?? []);

describe('promised shuffles', () => {
  const twenty = sheetText('lantern-twenty-one.motley');

  it('are followed card by card, and every card that was opened agrees', () => {
    const { views, table } = played(twenty, headerFor(['Wren', 'Otter']), 60);
    expect(views.digest()).toBe(table.digest());
    const fairness = given(views, 0);
    const { agrees, cards, isWhole } = verifyFairness(fairness);
    expect(wrongIn(fairness)).toEqual([]);
    expect(agrees).toBe(true);
    expect(cards.opened).toBeGreaterThan(10);
    expect(cards).toMatchObject({ agree: cards.opened, seenNotOpened: 0 });
    expect(isWhole).toBe(false);
    expect(JSON.stringify(fairness)).not.toContain(SEED);
  });

  it('are told before their cards move, as the roots of these very orders', () => {
    const source = script(
      'for n in 1..4 { gather all to stock  shuffle stock  deal 2 from stock to row  ask seats[1] { option go { } } } finish',
    );
    const header = headerFor(['Wren']);
    const { rows, views } = played(source, header, 10);
    const told: (string | null)[] = [];
    const note = (events: ReturnType<Table['opening']['for']>): void => {
      for (const event of events) if (event.kind === 'shuffled') told.push(event.commitment);
    };
    const again = new Table(programOf(source), header, { live: true });
    note(again.opening.for(WATCHER));
    replay(programOf(source), header, rows, { live: true, seen: (done) => note(done.stepEvents.for(WATCHER)) });
    expect(told).toHaveLength(4);
    expect(new Set(told).size).toBe(4);
    expect(all(given(views, 0), 'shuffle').map(({ root }) => root)).toEqual(told);
  });

  it('show all orders with the seed, and agree with them, also in two packs', () => {
    const { views } = played(twenty, headerFor(['Wren', 'Otter'], { settings: { decks: 2, rounds: 30 } }), 400);
    const fairness = given(views, WATCHER, true);
    expect(all(fairness, 'seed')).toEqual([{ fair: 'seed', seed: SEED }]);
    expect(wrongIn(fairness)).toEqual([]);
    expect(verifyFairness(fairness).isWhole).toBe(true);
  });

  it('do not open cards that came by way of another hand, nor those that were never seen', () => {
    const source = script(
      `gather all to stock  shuffle stock  deal 3 each from stock to hand
       ask seats[1] { option go { } }
       let c = deal 1 from stock to row
       ask seats[1] { option go { } }
       move first(seats[2].hand) to row  ask seats[1] { option go { } } finish`,
    );
    const { views } = played(source, headerFor(['Wren', 'Otter']), 2);
    const places = (viewer: number): number => all(given(views, viewer), 'card').length;
    const notOpened = (viewer: number): number => verifyFairness(given(views, viewer)).cards.seenNotOpened;
    // Wren: three of the own hand, the card that was dealt openly; what Otter laid is seen, and not opened.
    expect(places(0)).toBe(4);
    expect(notOpened(0)).toBe(1);
    // Otter held that card, and so knows its place.
    expect(places(1)).toBe(4);
    expect(notOpened(1)).toBe(0);
    expect(places(WATCHER)).toBe(1);
    expect(notOpened(WATCHER)).toBe(1);
    const own = new Set(all(given(views, 1), 'card').map(({ face }) => face));
    for (const { face } of all(given(views, 0), 'card').slice(0, 3))
      if (own.has(face)) expect(all(given(views, WATCHER), 'card').map((card) => card.face)).toContain(face);
  });

  it('tell in no opening what its viewer has not seen, on every bundled sheet', () => {
    for (const file of bundledSheets()) {
      const source = sheetText(file);
      const program = programOf(source);
      const seats = ['Wren', 'Otter', 'Heron', 'Pike', 'Teal', 'Newt'].slice(
        0,
        Math.min(...program.seats.filter((n) => n > 1), 6) || 1,
      );
      const names = program.seats.includes(seats.length) ? seats : seats.slice(0, Math.min(...program.seats));
      const { views, table, rows } = played(source, headerFor(names), 25);
      expect(views.digest(), file).toBe(table.digest());
      for (const viewer of [0, names.length - 1, WATCHER]) {
        const fairness = given(views, viewer);
        expect(wrongIn(fairness), file).toEqual([]);
        const seen = new Set<string>();
        const again = new Table(program, headerFor(names), { live: true });
        const note = (events: ReturnType<Table['opening']['for']>): void => {
          for (const event of events)
            if ('face' in event && event.face)
              seen.add(event.face.replace('♠', 'S').replace('♥', 'H').replace('♦', 'D').replace('♣', 'C'));
        };
        note(again.opening.for(viewer));
        replay(program, headerFor(names), rows, {
          live: true,
          seen: (done) => note(done.stepEvents.for(viewer)),
        });
        for (const { face } of all(fairness, 'card'))
          if (!face.startsWith('JK')) expect(seen.has(face), `${file}: ${face}`).toBe(true);
      }
    }
  }, 60_000);

  it('are found out where anything was tampered with', () => {
    const { views } = played(twenty, headerFor(['Wren', 'Otter']), 60);
    const honest = given(views, 0, true);
    /** What is said once the first line of a kind is another one, or is gone. */
    const wrong = <K extends FairLine['fair']>(kind: K, change: (line: Of<K>) => Partial<Of<K>> | null): string => {
      let isFirst = true;
      const lines = honest.flatMap((line): FairLine[] => {
        if (line.fair !== kind || !isFirst) return [line];
        isFirst = false;
        const changed = change(line as Of<K>);
        return changed === null ? [] : [{ ...line, ...changed } as FairLine];
      });
      expect(isFirst).toBe(false);
      return wrongIn(lines).join(' · ') || 'agrees';
    };
    expect(wrong('card', () => ({}))).toBe('agrees');
    const [first] = all(honest, 'card');
    if (!first) throw new Error('no card was opened');
    const other = first.face === 'AS' ? 'KH' : 'AS';
    expect(wrong('card', () => ({ face: other }))).toContain(`${other} at place ${first.place}`);
    expect(wrong('card', ({ place }) => ({ place: place === 1 ? 2 : place - 1 }))).toMatch(
      /was not promised|not that of this place/,
    );
    expect(wrong('card', ({ path }) => ({ path: path.slice(1) }))).toContain('not that of this place');
    expect(wrong('card', () => ({ salt: 'no salt' }))).toContain('cannot be read');
    expect(wrong('card', () => ({ shuffle: 99 }))).toContain('no such shuffle');
    expect(
      wrong('table', ({ facts }) => ({ facts: { ...facts, settings: { ...facts.settings, decks: 1 } } })),
    ).toContain('not those that the promises are about');
    expect(wrong('service', () => ({ commitment: '0'.repeat(64) }))).toContain('the list that was frozen');
    expect(wrong('ready', () => ({ opening: '0'.repeat(64) }))).toMatch(
      /what all keys come from.*line 5 does not follow/,
    );
    expect(wrong('seed', () => ({ seed: '1'.repeat(64) }))).toContain('not the one that was promised');
    expect(wrong('shuffle', () => ({ root: '0'.repeat(64) }))).toMatch(
      /was not promised.*does not follow the one before/,
    );
    expect(wrong('shuffle', () => null)).toMatch(/no such shuffle before it.*does not follow the one before/);
    expect(wrong('ready', () => null)).toContain('"ready" is told nowhere');
    expect(wrong('order', ({ faces }) => ({ faces: [...faces].reverse() }))).toContain(
      'not the one that the seed gives',
    );
    expect(wrong('end', () => ({ head: 'a'.repeat(26) }))).toContain('not that of these lines');
    expect(wrongIn([...honest.slice(1, -1), ...honest.slice(0, 1), ...honest.slice(-1)])[0]).toContain(
      'comes too late',
    );
    expect(wrongIn([...honest, ...all(honest, 'seen')])[0]).toContain('"seen" is told 2 times');
    const { head } = verifyFairness(honest);
    expect(head).toMatch(/^[a-z2-7]{26}$/);
    // Whoever was told the same has the same fingerprint, whatever cards were opened to it.
    expect(verifyFairness(given(views, WATCHER)).head).toBe(head);
  });

  it('are no longer told once they are very many, and the chain holds', () => {
    const source = script(
      'repeat { gather all to stock  shuffle stock  ask seats[1] { option go { } option stop { finish } } }',
    ).replace('deck standard', 'deck standard copies 20');
    expect(source).toContain('copies 20');
    const header = headerFor(['Wren']);
    const program = programOf(source);
    const sha256 = (bytes: Uint8Array): Uint8Array => hash('sha256', bytes, 'buffer');
    const table = new Table(program, header, { live: true, openings: true, sha256 });
    const headsBefore = verifyFairness(given(table, 0)).head;
    for (let n = 0; n < 400; n++) expect(isPlayed(table.choose(0, { ask: n, option: 'go', args: {} }))).toBe(true);
    const lines = given(table, 0);
    expect(wrongIn(lines)).toEqual([]);
    const { promised, earlier } = verifyFairness(lines).shuffles;
    expect(promised).toBeLessThan(400);
    expect(promised + earlier).toBe(401);
    expect(verifyFairness(lines).head).not.toBe(headsBefore);
  });

  it('are told again where one was taken back', () => {
    const source = script(
      `repeat { gather all to stock  shuffle stock  let c = deal 1 from stock to row face up
        ask seats[1] { option go { } option stop { finish } } }`,
      'undo free',
    ).replace('1 to 4 seats', '1 seat');
    const header = headerFor(['Wren']);
    const table = new Table(programOf(source), header, { live: true, openings: true });
    const choose = (option: string): void => {
      expect(isPlayed(table.choose(0, { ask: table.openAsk, option, args: {} })), option).toBe(true);
    };
    for (const option of ['go', 'go', 'undo', 'undo', 'go', 'go', 'go']) choose(option);
    const lines = given(table, 0);
    expect(wrongIn(lines)).toEqual([]);
    expect(all(lines, 'back').map(({ shuffles }) => shuffles)).toEqual([1]);
    expect(all(lines, 'shuffle').map(({ shuffle }) => shuffle)).toEqual([1, 2, 3, 2, 3, 4]);
  });

  it('are those of the whole record, played again', () => {
    const sheet = 'a'.repeat(64);
    const header = headerFor(['Wren', 'Otter']);
    const { views, rows } = played(twenty, header, 60);
    const lines = given(views, 0);
    const wrong = (record: Partial<WholeRecord>, told = lines, text = sheet): string =>
      verifyRecord({ sheet, header, rows, ...record }, programOf(twenty), text, told)
        .flatMap((check) => check.wrong ?? [])
        .join(' · ');
    expect(wrong({})).toBe('');
    // What was told half-way is the beginning of it.
    expect(wrong({}, given(played(twenty, header, 20).views, 1))).toBe('');
    expect(wrong({}, lines, 'b'.repeat(64))).toContain('another text, or another version');
    expect(wrong({ header: { ...header, seed: '60'.repeat(32) } })).toMatch(
      /after choice 1 .*another one|another one than the record says/i,
    );
    expect(wrong({ rows: rows.map((row, i) => (i === 3 ? { ...row, option: 'stnad' } : row)) })).toContain('Choice 4');
    const elsewhere = { ...header, fair: { table: 'another', sheet, semantics: 2 } };
    expect(wrong({ header: elsewhere })).toContain('it is of another one');
    // A record that was made up with another seed, and holds: it is not what was told.
    const forged = played(twenty, { ...header, seed: '60'.repeat(32) }, 60);
    expect(wrong({ header: { ...header, seed: '60'.repeat(32) }, rows: forged.rows })).toBe(
      '"service" was told otherwise',
    );
  });

  it('leave tables that promise nothing as they were', () => {
    const program = programOf(twenty);
    const plain: Header = { seats: ['Wren'], seed: SEED };
    expect(new Table(program, plain, { live: true, openings: true }).fairnessFor(0, true)).toBeNull();
    expect(new Table(program, headerFor(['Wren']), { live: true }).fairnessFor(0, true)).toBeNull();
  });
});
