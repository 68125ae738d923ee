import {
  bestResponse,
  type Decision,
  decisionsOf,
  exploitabilityOf,
  match,
  RandomPolicy,
  type Row,
  ScriptedPolicy,
  type SolvedChoice,
  SolvedPolicy,
  Solver,
  solution,
  solvedChoice,
  Table,
  treeOf,
  UnknownPlace,
  valuesOf,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { choose, programOf, sheetText } from './support.js';

const duel = () => programOf(sheetText('three-card-duel.motley'));

describe('a small game', () => {
  it('is solved: the three-card duel is worth −1/18 to the first seat', () => {
    const { tree } = treeOf(duel(), {});
    expect(tree.infos).toHaveLength(12);
    const solver = new Solver(tree);
    solver.run(3_000);
    const { values, exploitability } = solver.standing;
    expect(values[0]).toBeCloseTo(-1 / 18, 4);
    expect(values[1]).toBeCloseTo(1 / 18, 4);
    expect(exploitability).toBeLessThan(2e-4);
  });

  it('tells cards that nobody has seen apart only when they come up', () => {
    const { tree } = treeOf(programOf(sheetText('four-rank-duel.motley')), {});
    // By hand: 8 cards of the own, 2 decisions each before the shared card and, for each of 7 shared ones and 3 ways to get
    // there, 2 after it; both seats.
    expect(tree.infos).toHaveLength(2 * (8 * 2 + 8 * 7 * 3 * 2));
    const solver = new Solver(tree);
    solver.run(250);
    expect(solver.standing.exploitability).toBeLessThan(1e-3);
  });

  it('of one seat is played as well as can be', () => {
    const { tree } = treeOf(
      programOf(`game "Keep" for 1 seat {
        deck of "A♠" "2♠" "3♠"
        pile hand of each seat private
        play {
          shuffle pack
          deal 1 each from pack to hand
          ask seats[1] { option keep { }  option swap { move all from seats[1].hand to pack  gather all to pack  shuffle pack  deal 1 each from pack to hand } }
          score seats[1] = sum(seats[1].hand, c => c.pips)
          finish
        }
      }`),
      {},
    );
    // A new card is worth 2 on average: an ace is swapped, a three kept, a two is worth as much either way.
    expect(
      bestResponse(
        tree,
        tree.infos.map(({ choices }) => choices.map(() => 0)),
        0,
      ),
    ).toBeCloseTo((2 + 2 + 3) / 3, 9);
    const solver = new Solver(tree);
    solver.run(200);
    expect(solver.standing.exploitability).toBeLessThan(0.01);
  });

  it('is solved wherever it goes: nothing is gained by a mistake, and each is made to pay', () => {
    const { tree } = treeOf(
      programOf(`game "Fork" for 2 seats { deck standard play { for n in 1..4 { for each s in seats { ask s {
        option right { score s += 1 score next(s) -= 1 }
        option left { score s -= 1 score next(s) += 1 }
      } } } finish } }`),
      {},
    );
    const solver = new Solver(tree);
    solver.run(100);
    expect(solver.standing.exploitability).toBeLessThan(1e-3);
    const decisions = decisionsOf(tree, solver.strategy);
    expect(decisions).toHaveLength(2 ** 8 - 1);
    for (const { choices } of decisions) expect(choices.right).toBeGreaterThan(0.99);
  });

  it('is brought as close as what is at stake asks for', () => {
    const dear = programOf(
      sheetText('three-card-duel.motley')
        .replace('int = 1 ', 'int = 100000 ')
        .replaceAll('paid += 1', 'paid += 100000'),
    );
    const known = new Map(solution(dear, { seats: 2 }).map(({ holding, choices }) => [holding, choices]));
    // Of the first who holds the queen, and of the second who holds it and is bet at: never, and a third (Kuhn 1950).
    expect(known.get('Q♠, to begin with')?.bet).toBeCloseTo(0, 1);
    expect(known.get('Q♠, after Wren bet')?.call).toBeCloseTo(1 / 3, 1);
  });

  it('is refused where it is too large, or has more than two seats', () => {
    expect(() => treeOf(programOf(sheetText('eights-aside.motley')), {})).toThrow('too large to be solved');
    const { tree } = treeOf(duel(), {});
    expect(() => new Solver({ ...tree, seats: ['a', 'b', 'c'] })).toThrow('one or two seats');
  });
});

describe("a sheet's bot", () => {
  const measured = (text: string) => {
    const program = programOf(text);
    const { tree, shares } = treeOf(program, {}, new ScriptedPolicy({ program }, 'balanced'));
    const strategy = tree.infos.map((_, i) => shares.get(i) ?? []);
    return { exploitability: exploitabilityOf(tree, strategy), values: valuesOf(tree, strategy) };
  };

  it('is held against the solver: nothing can be gained on the balanced one', () => {
    const { exploitability, values } = measured(sheetText('three-card-duel.motley'));
    expect(exploitability).toBeLessThan(1e-9);
    expect(values[0]).toBeCloseTo(-1 / 18, 9);
  });

  it('that calls too seldom with the queen gives away an eighteenth', () => {
    const { exploitability } = measured(
      sheetText('three-card-duel.motley').replace('chance(if me == opener then 2 else 1, 3)', 'chance(1, 3)'),
    );
    expect(exploitability).toBeCloseTo(1 / 18, 9);
  });
});

describe('a bot that plays a solved game', () => {
  it('gains what the strategy is worth, drawing among choices by their shares', () => {
    const program = duel();
    const { tree } = treeOf(program, {});
    const solver = new Solver(tree);
    solver.run(600);
    const solved = new SolvedPolicy(decisionsOf(tree, solver.strategy));
    const { standings } = match(program, {
      deals: 4_000,
      seed: 5,
      policies: [solved, new ScriptedPolicy({ program }, 'balanced')],
    });
    // `balanced` is an equilibrium too: from both seats together nothing is gained.
    const [margin] = standings.map((standing) => standing.margin);
    expect(Math.abs(margin?.mean ?? 1)).toBeLessThan(3 * ((margin?.deviation ?? 0) / Math.sqrt(margin?.count ?? 1)));
    const random = match(program, { deals: 2_000, seed: 5, policies: [solved, new RandomPolicy()] }).standings[0];
    expect(random?.margin.interval[0]).toBeGreaterThan(0.1);
  });

  it('knows where it knows nothing: in another game, and where two places read the same', () => {
    const { tree } = treeOf(duel(), {});
    const decisions = decisionsOf(
      tree,
      tree.infos.map(({ choices }) => choices.map(() => 1 / choices.length)),
    );
    const program = programOf(sheetText('four-rank-duel.motley'));
    const policies = [new SolvedPolicy(decisions), new RandomPolicy()];
    expect(() => match(program, { deals: 9, seed: 1, policies })).toThrow(UnknownPlace);
    expect(() => new SolvedPolicy([...decisions, ...decisions])).toThrow('cannot be played by words');
  });
});

describe('what a seat is told', () => {
  const worthOf = (sheet: string): { worth: number; decisions: Decision[] } => {
    const { tree } = treeOf(programOf(sheet), {});
    const solver = new Solver(tree);
    solver.run(1_200);
    return { worth: solver.standing.values[0] as number, decisions: decisionsOf(tree, solver.strategy) };
  };

  it('is not which card was laid face down: a guess is worth nothing', () => {
    const { worth, decisions } = worthOf(`game "Which One" for 2 seats {
      deck of "A♠" "K♠"
      pile hand of each seat private
      pile laid face down
      var high of each seat: flag = no
      play {
        deal 2 from pack to seats[1].hand
        ask seats[1] { option lay(c: card in seats[1].hand) { move c to laid } }
        ask seats[2] { option high { seats[2].high = yes } option low { } }
        if (top(laid).rank == A) == seats[2].high { score seats[2] += 1 score seats[1] -= 1 } else { score seats[1] += 1 score seats[2] -= 1 }
        finish
      }
    }`);
    expect(worth).toBeCloseTo(0, 3);
    expect(decisions.filter(({ seat }) => seat === 1).map(({ holding }) => holding)).toEqual([
      'nothing in hand, after Wren lay a card',
    ]);
  });

  const pennies = (then: string): string => `game "Two Pennies" for 2 seats {
    deck standard
    var heads of each seat: flag = no
    play {
      ask every s in seats { option heads { s.heads = yes } option tails { } }
      ${then}
      finish
    }
  }`;

  it('is not what others answer at the same time', () => {
    const sheet = pennies(`if seats[1].heads == seats[2].heads {
        let won = if seats[1].heads then 2 else 1
        score seats[1] += won score seats[2] -= won
      } else { score seats[1] -= 1 score seats[2] += 1 }`);
    const { worth, decisions } = worthOf(sheet);
    // By hand: both show heads two times in five, and the first seat wins a fifth of a point.
    expect(worth).toBeCloseTo(0.2, 2);
    expect(decisions).toHaveLength(2);
    for (const { holding, choices } of decisions) {
      expect(holding).toBe('nothing in hand, to begin with');
      expect(choices.heads).toBeCloseTo(0.4, 1);
    }
    const policy = new SolvedPolicy(decisions);
    // It finds its place from either seat: other places are an error.
    match(programOf(sheet), { deals: 20, seed: 1, policies: [policy, new RandomPolicy()] });
  });

  it('is what was answered, once all are in', () => {
    const { worth } = worthOf(
      pennies(`ask seats[2] {
        option wasHeads { if seats[1].heads { score seats[2] += 1 score seats[1] -= 1 } else { score seats[1] += 1 score seats[2] -= 1 } }
        option wasTails { if seats[1].heads { score seats[1] += 1 score seats[2] -= 1 } else { score seats[2] += 1 score seats[1] -= 1 } }
      }`),
    );
    expect(worth).toBeCloseTo(-1, 3);
  });
});

describe('a solution at a table', () => {
  const header = { seats: ['Ada', 'Bo'], seed: 'at a table' };
  const decisions = solution(duel(), { seats: 2 });
  const policy = new SolvedPolicy(decisions);

  it('has a seat choose what is legal there, whatever the seats are called', () => {
    const table = new Table(duel(), header);
    const rows: Row[] = [];
    while (!table.isOver) {
      const [seat = 0] = table.asked;
      expect(solvedChoice(duel(), header, rows, 1 - seat, policy)).toBeNull();
      const choice = solvedChoice(duel(), header, rows, seat, policy) as SolvedChoice;
      rows.push(choose(table, seat, choice.option).row);
    }
    expect(rows.length).toBeGreaterThan(1);
  });

  it('is drawn by its shares, with the chance of the table', () => {
    const GAMES = 600;
    const bets = Array.from({ length: GAMES }, (_, i) => {
      const opened = { ...header, seed: `jack ${i}`, gets: { 'hand/1': 'J♠' } };
      return solvedChoice(duel(), opened, [], 0, policy)?.option;
    }).filter((option) => option === 'bet').length;
    const share = decisions.find(({ holding }) => holding === 'J♠, to begin with')?.choices.bet ?? Number.NaN;
    expect(Math.abs(bets / GAMES - share)).toBeLessThan(4 * Math.sqrt((share * (1 - share)) / GAMES));
  });

  it('minds what was taken back: only what stands is done', () => {
    const doors = programOf(`game "Doors" for 1 seat {
      deck standard
      var right of each seat: flag = no
      play {
        ask seats[1] { option left { } option right { seats[1].right = yes } }
        ask seats[1] { option stop { score seats[1] = if seats[1].right then 0 else 1 } option more { score seats[1] = if seats[1].right then 1 else 0 } }
        finish
      }
    }`);
    const alone = { seats: ['Ada'], seed: 'doors' };
    const table = new Table(doors, alone);
    const rows = ['left', 'undo', 'right'].map((option) => choose(table, 0, option).row);
    const strategy = new SolvedPolicy(solution(doors, { seats: 1 }));
    expect(solvedChoice(doors, alone, rows, 0, strategy)?.option).toBe('more');
  });

  it('is refused for what cannot be solved, with the reason', () => {
    const both = programOf(
      'game "Both" for 2 seats { deck standard play { ask seats[1] { option go { score seats[1] = 1 score seats[2] = 1 } } finish } }',
    );
    expect(() => solution(both, { seats: 2 })).toThrow('both may win at once');
    expect(() => solution(programOf(sheetText('long-pot.motley')), { seats: 3 })).toThrow('one or two seats');
  });
});
