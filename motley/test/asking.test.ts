import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { choose, openTable, said, script } from './support.js';

describe('asking', () => {
  const ASK = script(
    'deal 3 each from pack to hand  repeat { ask s1() { option lay(c: card in s1().hand) quick needs c.rank != Q else "{c} stays." { move c to row } option raise(most: 2..9 by 3 such as [5, 20]) "raise to {most}" { say "{most}" } option side(b: flag, k: Mood) { say "{b} {k}" } option stop aside { finish } } stuck { say "stuck" finish } }',
    'kind Mood = calm | keen  def s1 = seats[1]',
  ).replaceAll('s1()', 's1');

  it('offers options with all that a client needs', () => {
    const { offers, waiting } = openTable(ASK).view(0);
    expect(waiting).toMatchObject({ kind: 'ask', seats: [1], ask: 0 });
    expect(offers.map((o) => o.option)).toEqual(['lay', 'raise', 'side', 'stop']);
    expect(offers[0]).toMatchObject({
      quick: true,
      params: [
        {
          kind: 'values',
          values: [
            { value: 'hand/1#1', face: 'K♣' },
            { value: 'hand/1#3', face: 'J♣' },
          ],
        },
      ],
    });
    expect(offers[1]).toMatchObject({
      label: 'raise to {most}',
      params: [{ kind: 'range', from: 2, to: 9, by: 3, landmarks: [{ value: 5 }] }],
    });
    expect(offers[2]?.ways).toEqual([
      [false, 'calm'],
      [false, 'keen'],
      [true, 'calm'],
      [true, 'keen'],
    ]);
    expect(offers[3]?.aside).toBe(true);
  });

  it('carries choices out, by handle or by face', () => {
    const table = openTable(ASK);
    choose(table, 0, 'lay', { c: 'hand/1#3' });
    choose(table, 0, 'lay', { c: 'K♣' });
    expect(table.view(0).piles).toMatchObject({ row: { cards: ['J♣', 'K♣'] }, hand: { 1: { cards: ['Q♣'] } } });
    expect(table.number).toBe(2);
    choose(table, 0, 'raise', { most: 9 });
    choose(table, 0, 'side', { b: true, k: 'keen' });
    choose(table, 0, 'stop');
    expect(table.isOver).toBe(true);
  });

  it.each([
    ['lay', { c: 'Q♣' }, 'illegal', 'Q♣ stays.'],
    ['lay', { c: 'A♠' }, 'malformed', 'not among'],
    ['lay', { c: 'hand/1#9' }, 'malformed', 'no card at'],
    ['lay', {}, 'malformed', 'needs its "c"'],
    ['lay', { c: 'K♣', d: 1 }, 'malformed', 'takes no "d"'],
    ['raise', { most: 3 }, 'illegal', 'from 2 to 9 in steps of 3'],
    ['raise', { most: 2.5 }, 'malformed', 'a whole number'],
    ['side', { b: 'perhaps', k: 'calm' }, 'malformed', 'yes or no'],
    ['side', { b: true, k: 'cross' }, 'malformed', 'calm, keen'],
    ['fly', {}, 'unknown', 'There are lay, raise, side, stop'],
  ])('refuses %s %j with the reason', (option, args, kind, reason) => {
    const table = openTable(ASK);
    const before = table.digest();
    const result = table.choose(0, { ask: 0, option, args });
    expect(result).toMatchObject({ kind });
    expect((result as { reason: string }).reason).toContain(reason);
    expect(table.digest()).toBe(before);
    expect(table.number).toBe(0);
  });

  it('refuses who is not asked, and what was asked before', () => {
    const table = openTable(ASK, { seats: ['Wren', 'Otter'] });
    expect(table.choose(1, { ask: 0, option: 'stop' })).toMatchObject({
      kind: 'turn',
      reason: "It is not Otter's turn: Wren is asked.",
    });
    choose(table, 0, 'raise', { most: 5 });
    expect(table.choose(0, { ask: 0, option: 'raise', args: { most: 5 } })).toMatchObject({ kind: 'stale' });
  });

  it('runs the stuck part where nothing but asides is left', () => {
    const source = script(
      'repeat { ask seats[1] { option lay(c: card in row) { } option stop aside { finish } } stuck { say "stuck" finish } }',
    );
    expect(said(openTable(source))).toEqual(['stuck']);
  });

  describe('after "ask every"', () => {
    const TURNS = script(
      `deal 2 each from pack to hand
       ask every s in seats {
         option lay(c: card in s.hand) needs c.rank == A else "Aces only." { move c to row }
       } stuck { s.luck -= 1  say "{s} has no ace." }
       say "{seats[1].luck} {seats[2].luck} {seats[3].luck}" finish`,
      'var luck of each seat: int = 0',
    );
    const seats = ['Wren', 'Otter', 'Heron'];
    const opened = (gets: Record<string, string>) => openTable(TURNS, { seats, gets });

    it('runs for those who can choose nothing, in their turn, when all the others have chosen', () => {
      const table = opened({ 'hand/1': 'A♠ 2♠', 'hand/2': '3♠ 4♠', 'hand/3': 'A♥ 5♠' });
      expect(table.asked).toEqual([0, 2]);
      expect(said(table)).toEqual([]);
      choose(table, 2, 'lay', { c: 'A♥' });
      const { stepEvents } = choose(table, 0, 'lay', { c: 'A♠' });
      const told = stepEvents.for(-1).flatMap((event) => (event.kind === 'said' ? [event.text] : []));
      expect(told).toEqual(['Otter has no ace.', '0 -1 0']);
      const events = stepEvents.for(-1).map((event) => event.kind);
      expect(events.filter((kind) => kind === 'chosen')).toHaveLength(2);
      expect(table.isOver).toBe(true);
    });

    it('runs at once where nobody can choose anything', () => {
      const table = opened({ 'hand/1': '6♠ 2♠', 'hand/2': '3♠ 4♠', 'hand/3': '7♥ 5♠' });
      expect(said(table).at(-1)).toBe('-1 -1 -1');
      expect(table.isOver).toBe(true);
    });

    it('may not ask, pause or break, like all answers to it', () => {
      const wrong = TURNS.replace('s.luck -= 1', 'pause 1s');
      expect(compileSheet(wrong).problems[0]?.message).toContain('"pause" cannot stand in the answers');
    });
  });

  it('faults where nothing is left and no stuck part says what then', () => {
    expect(() => openTable(script('ask seats[1] { option lay(c: card in row) { } }'))).toThrow(/has no legal choice/);
  });

  it('shows what is not allowed now with its reason, and hides what makes no sense', () => {
    const source = script(
      'ask seats[1] { option go { } option fly needs size(row) > 3 { } option hide when size(row) > 3 { } }',
    );
    const { offers } = openTable(source).view(0);
    expect(offers.map((o) => [o.option, o.legal])).toEqual([
      ['go', true],
      ['fly', false],
    ]);
    expect(offers[1]?.reason).toBe('"fly" needs this: size(row) > 3.');
  });

  it.each([
    ['option lay(c: card in row) { }', 'There is no card for "lay" now.'],
    ['option discard(cs: 1..3 cards in row) { }', 'There is no card for "discard" now.'],
    ['option putDown(p: pile in hand where size(p) > 0) { }', 'There is no pile for "put down" now.'],
    ['option bid(amount: 3..size(row)) { }', 'There is no amount for "bid" now.'],
  ])('says what is missing for %s', (option, reason) => {
    const { offers } = openTable(script(`ask seats[1] { option go { } ${option} }`)).view(0);
    expect(offers[1]).toMatchObject({ legal: false, reason });
  });

  it('breaks out of the loop around it, from inside an option', () => {
    const table = openTable(
      script('repeat { ask seats[1] { option more { say "more" } option enough { break } } } say "done" finish'),
    );
    choose(table, 0, 'more');
    choose(table, 0, 'more');
    const last = choose(table, 0, 'enough');
    expect(last.stepEvents.for(-1)).toContainEqual({ kind: 'said', text: 'done' });
    expect(table.isOver).toBe(true);
  });

  it('asks inside routines inside loops, and comes back with everything in its place', () => {
    const top =
      'var log = 0 "log"  routine outer(a: int) { for i in 1..2 { let kept = a * 10 + i  inner(kept)  log += kept } }  routine inner(n: int) { ask seats[1] { option add(m: 1..5) { log += n * 100 * m } } pause 3s }';
    const table = openTable(script('for a in 1..2 { outer(a) } finish', top));
    const expected = [11, 12, 21, 22];
    for (const n of expected) {
      expect(table.isPaused).toBe(false);
      choose(table, 0, 'add', { m: 2 });
      expect(table.isPaused).toBe(true);
      expect(table.view(-1).waiting).toMatchObject({ kind: 'pause', seconds: 3 });
      table.resume();
      void n;
    }
    expect(table.isOver).toBe(true);
    expect(table.view(-1).values.log).toBe(expected.reduce((sum, n) => sum + n * 201, 0));
  });
});

describe('asking everybody', () => {
  const EVERY = script(
    'repeat { chapter "Bids"  ask every s in seats where s.bank > 0 within 9s else pass { option bid(n: 1..s.bank) { s.bank -= n  say "{s} bids {n}." } option pass { } } if none(seats, s => s.bank > 0) { finish } }',
    'var bank of each seat: int = 3 "chips"',
  );
  const three = (): ReturnType<typeof openTable> => openTable(EVERY, { seats: ['Wren', 'Otter', 'Heron'] });

  it('keeps answers to itself until all are in, and carries them out in seat order', () => {
    const table = three();
    const first = choose(table, 2, 'bid', { n: 3 });
    expect(first.stepEvents.for(-2)).toEqual([]);
    expect(table.view(0).waiting).toMatchObject({ seats: [1, 2], answered: [3], together: true });
    expect(table.view(0).seats[2]?.values.bank).toBe(3);
    choose(table, 0, 'bid', { n: 1 });
    const last = choose(table, 1, 'pass');
    expect(last.stepEvents.for(-1).flatMap((e) => (e.kind === 'said' ? [e.text] : []))).toEqual([
      'Wren bids 1.',
      'Heron bids 3.',
    ]);
    expect(table.view(0).seats.map((s) => s.values.bank)).toEqual([2, 3, 0]);
    expect(table.asked).toEqual([0, 1]);
    expect(table.number).toBe(3);
  });

  it('takes answers of one opening without making each other stale, and each once', () => {
    const table = three();
    choose(table, 0, 'pass');
    expect(table.choose(0, { ask: 0, option: 'pass' })).toMatchObject({ kind: 'turn' });
    expect(table.choose(1, { ask: 0, option: 'pass' })).toHaveProperty('row');
  });

  it('passes at once where nobody is asked', () => {
    expect(said(openTable(script('ask every s in seats where no { option go { } } say "on" finish')))).toEqual(['on']);
  });
});

describe('the clock and bots', () => {
  it('plays the first of its options that is legal', () => {
    const table = openTable(
      script(
        'ask seats[1] within 5s else check or fold { option check needs size(row) > 0 { } option fold { say "folds" } } finish',
      ),
    );
    expect(table.view(0).offers.map((o) => [o.option, o.byClock])).toEqual([
      ['check', false],
      ['fold', true],
    ]);
    expect(table.view(0).waiting).toMatchObject({ clock: { seconds: 5, otherwise: 'check or fold' } });
    expect(table.playClock(0).row).toMatchObject({ by: 'clock', option: 'fold' });
  });

  it('may hand over to a bot', () => {
    const top = 'bot steady { raise(4) }';
    const table = openTable(
      script('ask seats[1] within 1min else bot steady { option raise(most: 2..9) { } } finish', top),
    );
    expect(table.playClock(0).row).toMatchObject({ by: 'clock', option: 'raise', args: { most: 4 } });
  });

  it('plays the first line that fits, and there the most preferred', () => {
    const top = 'bot wary { lay(c) when c.rank < J prefer c.pips  lay(c) prefer 0 - c.pips  stop }';
    const body =
      'deal 6 from pack to seats[1].hand  repeat { ask seats[1] { option lay(c: card in seats[1].hand) { move c to row } option stop { finish } } }';
    const table = openTable(script(body, top));
    for (let i = 0; i < 6; i++) table.playBot(0, 0);
    expect(table.view(0).piles).toMatchObject({ row: { cards: ['10♣', '9♣', '8♣', 'J♣', 'Q♣', 'K♣'] } });
    expect(table.playBot(0, 0).row.option).toBe('stop');
  });

  it('never reads what its seat may not see', () => {
    const peek = openTable(
      script(
        'deal 1 each from pack to hand  ask seats[1] { option go { } } finish',
        'bot nosy { go when top(next(me).hand).rank > 2 }',
      ),
      { seats: ['Wren', 'Otter'] },
    );
    expect(() => peek.playBot(0, 0)).toThrow(/may not see/);
    const shut = openTable(
      script(
        'ask seats[1] { option go { } } finish',
        'private var plan of each seat: int = 1 "plan"  bot nosy { go when next(me).plan > 0 }',
      ),
      { seats: ['Wren', 'Otter'] },
    );
    expect(() => shut.playBot(0, 0)).toThrow(/private variable/);
    expect(shut.view(0).seats.map((s) => s.values)).toEqual([{ plan: 1 }, {}]);
  });

  it('has lines that end, or faults', () => {
    const table = openTable(script('ask seats[1] { option go { } } finish', 'bot shy { go when no }'));
    expect(() => table.playBot(0, 0)).toThrow(/no line that fits/);
    expect(table.number).toBe(0);
  });
});

describe('always', () => {
  it('names what no longer holds, and the table stays at its last good choice', () => {
    const table = openTable(
      script(
        'repeat { ask seats[1] { option lose { bank -= 5 } option keep { } option stop { finish } } }',
        'var bank = 7 "bank"  always "no debts" bank >= 0',
      ),
    );
    choose(table, 0, 'lose');
    const before = table.digest();
    expect(() => choose(table, 0, 'lose')).toThrow('"no debts" does not hold any more.');
    expect(table.digest()).toBe(before);
    choose(table, 0, 'keep');
    expect(table.number).toBe(2);
  });
});
