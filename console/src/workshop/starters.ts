/** Games to begin with: small, whole, and each of another kind. */
export interface Starter {
  readonly name: string;
  readonly kind: string;
  readonly words: string;
  readonly sheet: string;
  readonly rehearsals: string;
}

const DRAWING: Starter = {
  name: 'High Heron',
  kind: 'A drawing game',
  words: 'Draw or stay out; the highest card drawn takes the round.',
  sheet: `// High Heron: draw or stay out; the highest card drawn scores.
game "High Heron" for 2 to 5 seats as drawing {

  setting rounds: 1..20 = 5   "rounds to play"

  deck standard

  pile stock face down
  pile hand of each seat face up as fan
  pile spent face up

  layout { stock . spent }

  play {
    shuffle pack
    move all from pack to stock
    for n in 1..rounds {
      chapter "Round {n} of {rounds}"
      for each s in seats { turnOf(s) }
      settle()
    }
    finish
  }

  routine turnOf(s: seat) {
    ask s within 30s else stay {
      option draw on stock quick { deal 1 from stock to s.hand }
      option stay "stay out"     { }
    }
  }

  routine settle {
    let drawn = only(seats, s => not empty(s.hand))
    if not empty(drawn) {
      let winner = best(drawn, s => top(s.hand).rank)
      say "{winner} takes the round with {top(winner.hand)}."
      score winner += 1
    }
    gather hand to spent
  }

  bot plain {
    draw
  }
}
`,
  rehearsals: `rehearse "the higher card takes the round" {
  seats Wren, Otter
  settings rounds = 1
  Wren.hand gets "9♠"   Otter.hand gets "K♦"
  Wren: draw
  Otter: draw
  expect said "Otter takes the round with K♦."
  expect Otter.score == 1 and Wren.score == 0
  expect finished
}
`,
};

const BETTING: Starter = {
  name: 'Between the Banks',
  kind: 'A betting game',
  words: 'Two cards are the banks. Bet that the next one falls between them.',
  sheet: `// Between the Banks: bet that the next card falls between two.
game "Between the Banks" for 2 to 6 seats as betting {

  setting fare:   1..10 = 2    "chips that each pays first"
  setting rounds: 1..30 = 8    "rounds to play"

  deck standard

  pile stock face down
  pile left  "a bank" face up
  pile boat  face up
  pile right "a bank" face up
  pile spent face down

  var pot = 0 "pot"
  var chips of each seat = 60 "chips"

  layout { stock . left boat right . spent   counters chips }

  def low = min(top(left).pips, top(right).pips)
  def high = max(top(left).pips, top(right).pips)
  def gap = max(0, high - low - 1)
  def most(s: seat) = min(pot, s.chips)

  play {
    move all from pack to stock
    shuffle stock
    for n in 1..rounds {
      chapter "Round {n} of {rounds}"
      if pot == 0 { fares() }
      for each s in seats { crossing(s) }
    }
    for each s in seats { score s += s.chips }
    finish
  }

  routine fares {
    for each s in seats {
      let paid = min(s.chips, fare)
      s.chips -= paid
      pot += paid
    }
  }

  routine crossing(s: seat) {
    if pot == 0 { fares() }
    if size(stock) < 3 {
      gather spent to stock
      shuffle stock
    }
    deal 1 from stock to left
    deal 1 from stock to right
    ask s within 20s else stay {
      option cross(n: 1..most(s) such as ["half" pot / 2, "all" pot]) "bet {n}"
          needs gap > 0 else "No card comes between these banks."
      {
        deal 1 from stock to boat
        land(s, n)
      }
      option stay "stay ashore" { say "{s} stays ashore." }
    }
    gather left, boat, right to spent
  }

  routine land(s: seat, n: int) {
    if top(boat).pips in (low + 1)..(high - 1) {
      say "{s} crosses and takes {n}."
      pot -= n
      s.chips += n
    } else {
      say "{s} runs aground and pays {n}."
      s.chips -= n
      pot += n
    }
  }

  bot steady {
    cross(n) when gap > 6 prefer 0 - n
    stay
  }
}
`,
  rehearsals: `rehearse "a boat between the banks wins its bet" {
  seats Wren, Otter
  left gets "4♠"   right gets "J♦"   boat gets "8♥"
  expect pot == 4
  Wren: cross(3)
  expect Wren.chips == 61 and pot == 1
}

rehearse "banks that touch take no bet" {
  seats Wren, Otter
  left gets "7♠"   right gets "8♦"
  expect refused Wren: cross(1) because "No card comes between these banks."
  Wren: stay
  expect asked Otter
}
`,
};

const PATIENCE: Starter = {
  name: 'Nine Stones',
  kind: 'A patience',
  words: 'Nine cards lie open. Take pairs that make eleven, until none is left.',
  sheet: `// Nine Stones: take two of nine cards that make eleven.
game "Nine Stones" for 1 seat as patience {

  deck ranks A..10

  pile stock face down
  pile stone[9] face up
  pile gone face up

  layout { stock . stone . gone }

  def open = map(only(stone, p => not empty(p)), p => top(p))
  def taken = size(gone)

  play {
    move all from pack to stock
    shuffle stock
    for i in 1..9 { deal 1 from stock to stone[i] }
    repeat {
      ask seats[1] {
        option take(a: card in open, b: card in open) "take {a} and {b}"
            needs a != b else "Two cards are taken, not one."
            needs a.pips + b.pips == 11 else "{a} and {b} do not make eleven."
        {
          move a to gone
          move b to gone
          score seats[1] += 2
        }
        option giveUp "give up" aside { finish }
      } stuck { finish }
      for i in 1..9 { if empty(stone[i]) and not empty(stock) { deal 1 from stock to stone[i] } }
    } until taken == 40
    say "All stones are gone."
    finish
  }

  bot plain {
    take(a, b)
    giveUp
  }
}
`,
  rehearsals: `rehearse "two cards that make eleven go" {
  seats Wren
  stone[1] gets "4♠"   stone[2] gets "7♥"   stone[3] gets "2♣"
  expect refused Wren: take("4♠", "2♣") because "4♠ and 2♣ do not make eleven."
  Wren: take("4♠", "7♥")
  expect Wren.score == 2 and size(gone) == 2
}
`,
};

export const STARTERS: readonly Starter[] = [DRAWING, BETTING, PATIENCE];
