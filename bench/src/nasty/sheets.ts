/** Sheets that ask for as much as they can in one step: each is a fault with its line, or ends soon. */

const big = (play: string, top = ''): string =>
  `game "Nasty" for 1 to 2 seats {
  deck standard copies 20
  pile row face up
  pile hand of each seat private
  var n = 0
  var kept: cards = []
  ${top}
  play {
    ask seats[1] { option go { } }
    ${play}
    finish
  }
}`;
const loop = (body: string, top = ''): string => big(`while n >= 0 { n += 1 ${body} }`, top);
const LONG = 'shape long = 2+ cards in rank order shape pairs2 = 2..4 cards of one rank';
const longBody = Array.from({ length: 2_000 }, () => 'n = n + 1').join(' ');
const sum = (item: string, times: number): string => Array.from({ length: times }, () => item).join(' + ');

/** What the first choice of a nasty sheet comes to: too dear, too much of something, or a question that can be answered. */
export type Outcome = 'dear' | 'events' | 'text' | 'said' | 'texts' | 'asks';

export interface NastySheet {
  readonly name: string;
  readonly outcome: Outcome;
  readonly source: string;
}

const nasty = (outcome: Outcome, sheets: readonly (readonly [string, string])[]): NastySheet[] =>
  sheets.map(([name, source]) => ({ name, outcome, source }));

export const NASTY: readonly NastySheet[] = [
  ...nasty('dear', [
    ['shuffles of a large pile', loop('shuffle pack')],
    ['picks out of a large pile', loop('let c = first(pack)')],
    ['the last of a large pile', loop('let c = last(pack, 1)')],
    ['copies of a large pile', loop('kept = pack')],
    ['lists added', loop('kept = first(pack, 500) + first(pack, 500)')],
    ['a card looked for in a list', loop('if first(pack) in kept { n += 1 }')],
    ['lists compared', loop('if kept == kept { n += 1 }')],
    ['lists turned over', loop('kept = reversed(kept)')],
    ['a long body', loop(longBody)],
    ['a long body, run by hand', big(`for i in 1..1000000 { ${longBody} }`)],
    ['defs of many parts', loop('n = n + heavy(n) - heavy(n)', `def heavy(a: int) = ${sum('a', 95)}`)],
    [
      'defs that call defs',
      loop(
        'n = f5(1)',
        Array.from({ length: 6 }, (_, i) => `def f${i}(a: int) = ${i === 0 ? 'a' : sum(`f${i - 1}(a)`, 12)}`).join(
          '\n',
        ),
      ),
    ],
    ['sorting', loop('kept = sorted(pack, c => 0 - c.pips)')],
    ['sorting by lists', loop('kept = sorted(pack, c => [c.pips, 1, c.pips, 2, c.pips, 3])')],
    ['groups', loop('n = n + size(groups(pack, c => c.rank)) - 1')],
    ['groups by lists', loop('n = n + size(groups(pack, c => [c.pips, 1, 2])) - 1')],
    ['distinct cards', loop('kept = distinct(pack, c => c.place)')],
    ['ways to choose', loop('n = n + count(choose(first(pack, 60), 5), cs => cs[1].pips > 20)')],
    ['ways of all sizes', loop('n = n + count(choose(first(pack, 40), 0..40), cs => empty(cs))')],
    ['groups chosen', loop('n = n + count(choose(first(pack, 40), long), cs => empty(cs))', LONG)],
    ['arrangements', loop('n = n + size(arranged(first(pack, 20), pairs2 | long)) * 0', LONG)],
    ['ranges', loop('n = n + size(1..4000) * 0')],
    ['lists left out', loop('kept = without(pack, map(first(pack, 300), c => pack + []))')],
    ['keys turned round', loop('kept = sorted(pack, c => -(1..4000))')],
    ['pairs reset', loop('reset met', 'var met of each card, seat = 0')],
    ['folds in folds', loop('n = n + count(pack, c => any(pack, d => d.pips > 20))')],
    ['only some of them', loop('kept = only(pack, c => c.pips > 0)')],
    ['places of cards', loop('n = n + sum(pack, c => c.place) - 1')],
    ['revealed', loop('turn pack to seats[1]')],
    ['the best hand of all cards', loop('if pokerHigh(pack) > pokerHigh(first(pack, 20)) { n += 1 }')],
    ['lows', loop('if aceToFive(first(pack, 14)) > aceToFive(last(pack, 14)) { n += 1 }')],
    ['the largest run', loop('kept = largest(long, pack)', 'shape long = 3+ cards in rank order')],
    ['picks by chance', loop('pick any1 from pack', 'var any1: card = nothing')],
  ]),
  ...nasty('events', [
    ['moved one by one', loop('move first(pack) to row move first(row) to pack')],
    ['dealt one by one', loop('deal 1000 from pack to row move all from row to pack reversed')],
    ['whole piles moved', loop('move all from pack to row move all from row to pack')],
    ['moved beneath', loop('move pack to row beneath move row to pack beneath')],
    ['turned up and down', loop('turn up pack turn down pack')],
    ['shown to all', loop('show pack')],
    ['many events', loop('show first(pack)')],
  ]),
  ...nasty('text', [
    ['texts that double', big('for i in 1..40 { t = "{t}{t}" } say "{t}"', 'var t = "ha"')],
    ['texts of nothing that double', big('for i in 1..60 { t = "{t}{t}" } say "{t}"', 'var t = ""')],
  ]),
  ...nasty('said', [
    ['much that is said', loop(`say "${'much '.repeat(200)}"`)],
    ['much that is said of cards', loop('say "{pack}"')],
  ]),
  ...nasty('texts', [
    [
      'many texts kept',
      big(
        'for each c in pack { c.spoken = "{n} {c} {n} {c} {n} {c} {n} {c} {n} {c} {n} {c} {n} {c}" }',
        'var spoken of each card = ""',
      ),
    ],
  ]),
  ...nasty('asks', [
    [
      'ways without end',
      big(
        'move all from pack to row ask seats[1] { option take(a: card in row, b: card in row, c: card in row) needs a.pips + b.pips + c.pips > 50 { } option no { } }',
      ),
    ],
    [
      'sets without end',
      big(
        'move all from pack to row ask seats[1] { option take(cs: 0..900 cards in row while sum(cs, c => c.pips) > 100000) { } option no { } }',
      ),
    ],
    [
      'sets that are told apart late',
      big(
        'move all from pack to row ask seats[1] { option take(cs: 1..6 cards in row) needs sum(cs, c => c.pips) == 77 { } option no { } }',
      ),
    ],
    [
      'shapes without end',
      big(
        'move all from pack to row ask seats[1] { option lay(cs: long in row) needs sum(cs, c => c.pips) > 100000 { } option no { } }',
        'shape long = 2+ cards in rank order',
      ),
    ],
    [
      'a clause that is dear',
      big(
        'move all from pack to row ask seats[1] { option go when all(row, c => all(row, d => d.pips + c.pips > 0)) { } option no { } }',
      ),
    ],
  ]),
];
