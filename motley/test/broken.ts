/** Broken sheets: each is the small working sheet below with one thing wrong in it. */
export const WORKING = `// A small game that works.
game "Reed Draw" for 2 to 4 seats {
  setting rounds: 1..9 = 3 "rounds to play"
  deck standard
  kind Mood = calm | keen
  pile stock face down
  pile hand of each seat face up as fan
  pile secret of each seat private
  var bank of each seat: int = 10 "chips"
  var mood of each seat: Mood = calm
  var pot = 0 "pot"
  def worth(c: card) = min(c.pips, 10)
  def total(h: cards) = sum(h, worth)
  play {
    shuffle pack
    move all from pack to stock
    deal 2 each from stock to hand
    for n in 1..rounds {
      for each s in seats { turnOf(s) }
    }
    finish
  }
  routine turnOf(s: seat) {
    ask s within 10s else pass {
      option draw(n: 1..3) needs total(s.hand) < 30 else "Too much." { deal n from stock to s.hand }
      option pass { s.mood = keen  pot += 1  s.bank -= 1 }
    }
    if total(s.hand) > 30 and s.mood == keen { say "{s} is over." }
  }
  always "chips" sum(seats, s => s.bank) + pot == 10 * size(seats)
  bot plain { draw(n) when total(me.hand) < 12 prefer n  pass }
}
`;

/** What is wrong: the text that is replaced, what stands there instead, and the message that it must give. */
export interface Broken {
  readonly name: string;
  readonly from: string;
  readonly to: string;
}

export const BROKEN: readonly Broken[] = [
  // words and signs
  { name: 'a misspelt declaration', from: 'setting rounds', to: 'seting rounds' },
  { name: 'a misspelt statement', from: 'shuffle pack', to: 'shufle pack' },
  { name: 'a misspelt deal', from: 'deal 2 each', to: 'dael 2 each' },
  { name: 'a misspelt option', from: 'option pass', to: 'optoin pass' },
  { name: 'a text that is not closed', from: '"Too much."', to: '"Too much.' },
  { name: 'a brace too few', from: '    finish\n  }', to: '    finish' },
  { name: 'a brace too many', from: 'finish\n  }', to: 'finish\n  }}' },
  { name: 'the wrong bracket', from: 'sum(h, worth)', to: 'sum(h, worth]' },
  { name: 'a strange sign', from: 'pot += 1', to: 'pot += 1;' },
  { name: 'a keyword as a name', from: 'var pot = 0', to: 'var deal = 0' },
  { name: 'a decimal', from: '1..9 = 3', to: '1..9 = 3.5' },
  { name: 'nothing but words', from: 'game "Reed Draw" for 2 to 4 seats {', to: 'Reed Draw {' },
  // names
  { name: 'an unknown name', from: 's.bank -= 1', to: 's.bnak -= 1' },
  { name: 'an unknown function', from: 'sum(h, worth)', to: 'summ(h, worth)' },
  { name: 'an unknown def', from: 'sum(h, worth)', to: 'sum(h, wroth)' },
  { name: 'an unknown pile', from: 'deal 2 each from stock', to: 'deal 2 each from stok' },
  { name: 'an unknown kind member', from: 's.mood = keen', to: 's.mood = ken' },
  { name: 'an unknown routine', from: 'turnOf(s) }', to: 'turnOff(s) }' },
  { name: 'an unknown type', from: 'def worth(c: card)', to: 'def worth(c: crad)' },
  { name: 'an unknown property', from: 'c.pips', to: 'c.pip' },
  { name: 'a name declared twice', from: 'var pot = 0', to: 'var bank = 0' },
  { name: "a name of the language's own", from: 'def worth(c: card)', to: 'def size(c: card)' },
  { name: 'a name that hides another', from: 'for n in 1..rounds', to: 'for pot in 1..rounds' },
  { name: 'an option that a bot does not have', from: 'prefer n  pass }', to: 'prefer n  rest }' },
  { name: 'a clock option that is not there', from: 'else pass {', to: 'else rest {' },
  { name: 'a seat variable without its seat', from: 's.bank -= 1', to: 'bank -= 1' },
  { name: 'a table variable of a seat', from: 'pot += 1', to: 's.pot += 1' },
  { name: 'a routine used as a value', from: 'pot += 1', to: 'pot += turnOf(s)' },
  { name: 'a value used as a statement', from: 'shuffle pack', to: 'total(stock)' },
  { name: 'a routine without its parentheses', from: 'turnOf(s) }', to: 'turnOf }' },
  // types
  { name: 'a number where a flag is needed', from: 'if total(s.hand) > 30 and', to: 'if total(s.hand) and' },
  { name: 'a text where a number is needed', from: 'pot += 1', to: 'pot += "one"' },
  { name: 'adding to a kind', from: 's.mood = keen', to: 's.mood += keen' },
  { name: 'comparing cards by order', from: 'min(c.pips, 10)', to: 'if c < c then 1 else 2' },
  { name: 'a rank that is none', from: 'min(c.pips, 10)', to: 'if c.rank == 14 then 1 else 2' },
  { name: 'a face that is none', from: 'min(c.pips, 10)', to: 'if c is "11♠" then 1 else 2' },
  { name: 'too few values', from: 'min(c.pips, 10)', to: 'min()' },
  { name: 'a wrong argument', from: 'total(s.hand) < 30', to: 'total(s) < 30' },
  { name: 'the parts of an if that differ', from: 'min(c.pips, 10)', to: 'if c.rank == A then 1 else no' },
  { name: 'dividing by zero', from: 'min(c.pips, 10)', to: 'c.pips / 0' },
  { name: 'a pile where several are', from: 'deal n from stock to s.hand', to: 'deal n from stock to hand' },
  { name: 'each to a single pile', from: 'deal 2 each from stock to hand', to: 'deal 2 each from pack to stock' },
  // whole sheets
  { name: 'no deck', from: '  deck standard\n', to: '' },
  { name: 'a deck that is too small', from: 'deal 2 each', to: 'deal 14 each' },
  { name: 'a default out of range', from: '1..9 = 3', to: '1..9 = 30' },
  { name: 'a range that is empty', from: 'n: 1..3', to: 'n: 3..1' },
  { name: 'a loop without a way out', from: 'for n in 1..rounds {', to: 'repeat {' },
  { name: 'a break outside any loop', from: 'shuffle pack', to: 'break' },
  { name: 'a line that is never reached', from: 'shuffle pack', to: 'finish\n    shuffle pack' },
  { name: 'an option that can never be chosen', from: 'option pass {', to: 'option pass when no {' },
  { name: 'two options of one name', from: 'option draw(n: 1..3)', to: 'option pass { } option draw(n: 1..3)' },
  { name: 'a clock option with a parameter', from: 'else pass {', to: 'else draw {' },
  { name: 'a def that calls itself', from: 'sum(h, worth)', to: 'total(h)' },
  { name: 'routines in a circle', from: 'pot += 1', to: 'turnOf(s)' },
  { name: 'a setting that asks in the middle of a deal', from: 'face down\n', to: 'face down refill turnOf\n' },
  { name: 'a private pile of the table', from: 'pile stock face down', to: 'pile stock private' },
  { name: 'a variable without a type', from: 'var pot = 0 "pot"', to: 'var pot' },
  { name: 'a variable that nobody reads', from: 'var pot = 0 "pot"', to: 'var pot = 0 "pot"\n  var spare = 0' },
  { name: 'a pile that nobody uses', from: 'pile stock face down', to: 'pile spare face down\n  pile stock face down' },
  { name: 'a choice that looks into a hidden pile', from: 'total(s.hand) < 30', to: 'total(stock) < 30' },
  {
    name: "a choice that looks at another seat's secret",
    from: 'total(s.hand) < 30',
    to: 'total(next(s).secret) < 30',
  },
  { name: 'a bot that peeks', from: 'when total(me.hand) < 12', to: 'when total(stock) < 12' },
  { name: 'a clock that may not be allowed', from: 'option pass {', to: 'option pass when pot < 5 {' },
  { name: 'too many seats', from: 'for 2 to 4 seats', to: 'for 2 to 14 seats' },
  { name: 'a bot without lines', from: '{ draw(n) when total(me.hand) < 12 prefer n  pass }', to: '{ }' },
  { name: 'me outside a bot', from: 'total(s.hand) < 30', to: 'total(me.hand) < 30' },
  { name: 'changing what keeps its value', from: 'pot += 1', to: 'let q = 1  q += 1' },
  {
    name: 'an ask inside the answers of all',
    from: 'ask s within 10s else pass {',
    to: 'ask every t in seats { option go { break } }\n    ask s within 10s else pass {',
  },
  // once not to be had
  { name: 'a set of cards', from: 'draw(n: 1..3)', to: 'draw(n: 1..3 cards in s.hand)' },
  { name: 'sorted', from: 'sum(h, worth)', to: 'size(sorted(h))' },
  // more of each
  { name: 'an unknown setting', from: 'for n in 1..rounds', to: 'for n in 1..ronds' },
  { name: 'a setting that is no flag', from: '1..9 = 3 "rounds to play"', to: 'flag = perhaps' },
  { name: 'a standard word that is none', from: '1..9 = 3 "rounds to play"', to: 'long | short = middling' },
  { name: 'a standard number that is none', from: '1..9 = 3 "rounds to play"', to: '1 | 3 = 2' },
  { name: 'a setting that follows from one below it', from: '1..9 = 3', to: '1..later = 3 setting later: 1..9 = 3' },
  { name: 'a setting that follows from the seats', from: '1..9 = 3', to: '1..size(seats) = 1' },
  {
    name: 'two declarations that cannot be read',
    from: 'kind Mood = calm | keen\n  pile stock face down',
    to: 'kind Mood = | keen\n  pile stock faced down',
  },
  { name: 'texts that are compared', from: 'pot += 1', to: 'let t = "x"  if t == t { pot += 1 }' },
  {
    name: 'a card that may be nothing',
    from: 'finish\n  }',
    to: 'let ace = find(pack, c => c.rank == A)\n    if ace.suit == hearts { pot += 1 }\n    finish\n  }',
  },
  {
    name: 'a seat that may be nothing, without a name',
    from: 'finish\n  }',
    to: 'say "{find(seats, s => s.bank > 90).bank}"\n    finish\n  }',
  },
  {
    name: 'a break that skips what follows',
    from: 'finish\n  }',
    to: 'repeat { ask seats[1] { option pass { break } } pot += 1 }\n    finish\n  }',
  },
  {
    name: 'a choice with too many ways',
    from: 'draw(n: 1..3) needs',
    to: 'mix(a: 1..900, b: 1..900) needs a * b == 12 { } option draw(n: 1..3) needs',
  },
  {
    name: 'a def that looks into the hand of another seat',
    from: 'bot plain { draw(n) when',
    to: 'def strong(x: seat) = any(x.secret, c => c.rank == A)\n  bot plain { draw(n) when strong(next(me)) and',
  },
  { name: 'a setting whose range is empty', from: '1..9 = 3', to: '9..1 = 3' },
  { name: 'seats that run backwards', from: 'for 2 to 4 seats', to: 'for 4 to 2 seats' },
  { name: 'an unknown suit', from: 'deck standard', to: 'deck ranks 2..9 suits spades, harts' },
  { name: 'an unknown rank in a deck', from: 'deck standard', to: 'deck ranks 2..B' },
  { name: 'ranks that run backwards', from: 'deck standard', to: 'deck ranks K..3' },
  { name: 'a numbered deck that runs backwards', from: 'deck standard', to: 'deck numbered 60..1' },
  { name: 'too many decks', from: 'deck standard', to: 'deck standard copies 99' },
  { name: 'a rank twice in an order', from: 'deck standard', to: 'deck standard order ranks 2..A, 5' },
  { name: 'an unknown form of a pile', from: 'face up as fan', to: 'face up as fun' },
  {
    name: 'a family that is too large',
    from: 'pile stock face down',
    to: 'pile lock[99] face up pile stock face down',
  },
  { name: 'a refill that is no routine', from: 'face down\n', to: 'face down refill turnOff\n' },
  { name: 'a private variable of the table', from: 'var pot = 0 "pot"', to: 'private var pot = 0 "pot"' },
  { name: 'a variable of each nothing', from: 'var pot = 0 "pot"', to: 'var pot of each sect: int = 0 "pot"' },
  {
    name: 'a kind in small letters',
    from: 'kind Mood = calm | keen',
    to: 'kind mood2 = cold | hot kind Mood = calm | keen',
  },
  { name: 'two scripts', from: '  routine turnOf', to: '  play { finish }\n  routine turnOf' },
  { name: 'no script', from: '  play {', to: '  routine gone {' },
  { name: 'two layouts', from: '  always', to: '  layout { stock } layout { stock }\n  always' },
  { name: "a seat's pile in the layout", from: '  always', to: '  layout { stock hand }\n  always' },
  { name: 'an unknown pile in the layout', from: '  always', to: '  layout { stok }\n  always' },
  { name: 'a note that is no def', from: '  always', to: '  layout { stock note totl on hand }\n  always' },
  {
    name: 'a note that takes the wrong thing',
    from: '  always',
    to: '  layout { stock note worth on hand }\n  always',
  },
  { name: 'counters that are no variable', from: '  always', to: '  layout { stock counters pott }\n  always' },
  { name: 'two bots of one name', from: '  bot plain', to: '  bot plain { pass }\n  bot plain' },
  { name: 'a bot called as one that any sheet has', from: '  bot plain', to: '  bot solved { pass }\n  bot plain' },
  { name: 'a bot that gives too much', from: 'draw(n) when', to: 'draw(n, 2) when' },
  { name: 'chance outside a bot', from: 'total(s.hand) < 30', to: 'chance(1, 2)' },
  { name: 'a short function where a value is', from: 'total(s.hand) < 30', to: 'total(c => c) < 30' },
  { name: 'a value where a short function is', from: 'sum(h, worth)', to: 'sum(h, 3)' },
  { name: 'a face without quotes', from: 'min(c.pips, 10)', to: 'if c is queen then 1 else 2' },
  { name: 'a list of two sorts', from: 'min(c.pips, 10)', to: 'sum([1, yes])' },
  { name: 'an index of a number', from: 'min(c.pips, 10)', to: 'c.pips[1]' },
  { name: 'what a pile does not have', from: 'min(c.pips, 10)', to: 'c.pile.rank' },
  { name: 'what a number does not have', from: 'min(c.pips, 10)', to: 'c.pips.suit' },
  { name: 'ways without an end', from: 'min(c.pips, 10)', to: '1 when c.rank == A, 2 when c.rank == K' },
  { name: 'otherwise in the middle', from: 'min(c.pips, 10)', to: '1 otherwise, 2 when c.rank == K, 3 otherwise' },
  { name: 'a step of nothing', from: 'n: 1..3', to: 'n: 1..3 by 0' },
  { name: 'choosing from another sort', from: 'n: 1..3', to: 'n: card in seats' },
  { name: 'choosing from nowhere', from: 'n: 1..3', to: 'n: card' },
  { name: 'on something that is no pile', from: 'option pass {', to: 'option pass on pot {' },
  { name: 'other parameters elsewhere', from: 'option pass {', to: 'option pass(k: flag) {' },
  { name: 'dealing nothing', from: 'deal 2 each', to: 'deal 0 each' },
  { name: 'shuffling a seat', from: 'shuffle pack', to: 'shuffle seats[1]' },
  { name: 'a score in an assignment', from: 'pot += 1', to: 's.score = 1' },
  { name: 'resetting a pile', from: 'shuffle pack', to: 'reset stock' },
  {
    name: 'a pause in the answers of all',
    from: 'ask s within 10s else pass {',
    to: 'ask every t in seats { option go { pause 2s } }\n    ask s within 10s else pass {',
  },
  { name: 'an option too many values', from: 'deal n from stock', to: 'worth(1, 2)\n deal n from stock' },
  { name: 'a clock that is an unknown bot', from: 'else pass {', to: 'else bot plane {' },
  // sets, shapes, teams and families
  { name: 'a set that is empty', from: 'draw(n: 1..3)', to: 'draw(n: 3..1 cards in s.hand)' },
  { name: 'a set of seats', from: 'draw(n: 1..3)', to: 'draw(n: 1..3 cards in seats)' },
  { name: 'a shape without a pattern', from: 'kind Mood', to: 'shape run = 3+ cards in order\n  kind Mood' },
  { name: 'a shape that is upside down', from: 'kind Mood', to: 'shape trio = 3..2 cards of one rank\n  kind Mood' },
  { name: 'an unknown shape', from: 'if total(s.hand) > 30', to: 'if s.hand is rnu' },
  {
    name: 'a misspelt shape',
    from: 'kind Mood = calm | keen\n',
    to: 'shape run = 3+ cards of one suit in rank order\n  kind Mood = calm | keen\n  always "no run" not (stock is rnu)\n',
  },
  { name: 'teams that do not fit', from: '2 to 4 seats', to: '2 to 4 seats in 2 teams' },
  { name: 'one team', from: '2 to 4 seats', to: '4 seats in 1 teams' },
  {
    name: 'teams where there are none',
    from: 'for each s in seats { turnOf(s) }',
    to: 'for each t in teams { pot += t.score }',
  },
  { name: 'the team of a seat without teams', from: 's.mood = keen', to: 'pot += s.team.score' },
  {
    name: 'a pile of each team without teams',
    from: 'pile secret of each seat private',
    to: 'pile secret of each team face up',
  },
  {
    name: 'a family that grows for each seat',
    from: 'pile secret of each seat private',
    to: 'pile secret[many] of each seat face up',
  },
  { name: 'a new pile of a family that does not grow', from: 'shuffle pack', to: 'move top(pack) to new stock' },
  {
    name: 'two numbers for a plain family',
    from: 'pile secret of each seat private',
    to: 'pile lock[3] face up\n  always "a lock" empty(lock[1, 2])',
  },
  {
    name: 'a family whose numbers are unknown',
    from: 'pile secret of each seat private',
    to: 'pile heap[r in 1..rounds, i in 1..r] face up',
  },
  { name: 'a place that reads a card', from: 'pile secret of each seat private', to: 'pile heap face up at top, 2' },
  { name: 'can without an option', from: 'total(s.hand) < 30', to: 'can drw' },
  { name: 'can with too many values', from: 'total(s.hand) < 30', to: 'can pass(1)' },
  { name: 'can with another sort', from: 'total(me.hand) < 12', to: 'can draw(yes)' },
  { name: 'a card that is none', from: 'min(c.pips, 10)', to: 'if c == card "1S" then 1 else 2' },
  { name: 'two cards in one pair of quotes', from: 'min(c.pips, 10)', to: 'if c == card "A♠ K♠" then 1 else 2' },
  { name: 'a card without quotes', from: 'min(c.pips, 10)', to: 'if c == card A♠ then 1 else 2' },
  { name: 'a key that cannot be compared', from: 'min(c.pips, 10)', to: 'best(seats, s => s.hand).bank' },
  { name: 'a hand of seats', from: 'min(c.pips, 10)', to: 'pokerHigh(seats).category' },
  { name: 'a property that a hand does not have', from: 'min(c.pips, 10)', to: 'size(pokerHigh(c).suits)' },
  { name: 'texts compared', from: 'total(s.hand) > 30', to: 'pokerHigh(s.hand).name == "flush"' },
  { name: 'where after a range', from: 'draw(n: 1..3)', to: 'draw(n: 1..3 where n != 2)' },
  { name: 'a range in brackets', from: 'sum(h, worth)', to: 'sum([1..5])' },
  { name: 'ways as a list', from: 'sum(h, worth)', to: 'size(choose(h, 2))' },
  { name: 'arranging by nothing', from: 'sum(h, worth)', to: 'size(arranged(h, worth))' },
  { name: 'the greatest of cards', from: 'sum(h, worth)', to: 'max(h).pips' },
  { name: 'a value written out twice', from: 'draw(n: 1..3)', to: 'draw(n: 1 | 1)' },
  { name: 'values of two types', from: 'draw(n: 1..3)', to: 'draw(n: 1 | hearts)' },
  { name: 'minus a card', from: 'sum(h, worth)', to: 'sum(h, c => -c)' },
  { name: 'groups without a key', from: 'sum(h, worth)', to: 'size(groups(h))' },
  { name: 'showing a seat', from: 'shuffle pack', to: 'show seats[1]' },
];
