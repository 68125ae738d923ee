/** A small game that works: two or more seats draw a card each round, and the higher one scores. */
export const starterSheet = (
  title: string,
): string => `// ${title}: every round each seat draws or stays out, and the highest card drawn scores.
game "${title}" for 2 to 5 seats {

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
`;

export const starterRehearsals = (): string => `rehearse "the higher card takes the round" {
  seats Wren, Otter
  settings rounds = 1
  Wren.hand gets "9♠"   Otter.hand gets "K♦"
  Wren: draw
  expect asked Otter
  Otter: draw
  expect said "Otter takes the round with K♦."
  expect Otter.score == 1 and Wren.score == 0
  expect finished
}
`;
