import {
  type Answer,
  Knowledge,
  match,
  quickChance,
  RandomPolicy,
  ScriptedPolicy,
  Simulator,
  type State,
  Table,
  Thinker,
  ThinkingPolicy,
  Worlds,
} from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { played } from './played.js';
import { choose, programOf, sheetText } from './support.js';

describe('choices that are worth weighing', () => {
  const many = programOf(`game "Many" for 1 seat { deck standard  pile hand of each seat face up
    play { deal 20 from pack to seats[1].hand
      ask seats[1] { option lay(cs: 5 cards in seats[1].hand) { score seats[1] = sum(cs, c => c.pips) } option pass { } } finish } }`);
  const weighed = (isOver: () => boolean, isLate = () => false): number => {
    const table = new Table(many, { seats: ['Wren'], seed: 'many' }, { thinking: [0] });
    const thought = table.think(0, { playouts: 600, isOver, isLate });
    expect(thought?.answer).toBeDefined();
    return thought?.choices.length ?? 0;
  };

  it('are looked for as long as there is time: one of each option will do, and one at all where it is late', () => {
    expect(weighed(() => false)).toBe(41);
    expect(weighed(() => true)).toBe(2);
    expect(
      weighed(
        () => true,
        () => true,
      ),
    ).toBe(0);
    let looks = 0;
    expect(weighed(() => ++looks > 10)).toBeLessThan(20);
  });

  it('are those of each line of the bot, too, where there are many', () => {
    const withBots = (bots: string): Table => {
      const program = programOf(`game "Lines" for 1 seat { deck standard  pile hand of each seat face up
        play { deal 20 from pack to seats[1].hand
          ask seats[1] { option lay(cs: 5 cards in seats[1].hand) { score seats[1] = sum(cs, c => c.pips) } option pass { } } finish }
        ${bots} }`);
      return new Table(program, { seats: ['Wren'], seed: 'lines' }, { thinking: [0] });
    };
    const best = withBots('bot greedy { lay(cs) prefer sum(cs, c => c.pips) }').playBot(0, 0);
    const meek = withBots('bot meek { pass lay(cs) prefer sum(cs, c => c.pips) }');
    expect(meek.wireOf(0, meek.botsAnswer(0, 0) as Answer).option).toBe('pass');
    // Its second line never has its turn, and knows the best of 15,504 ways.
    expect(meek.playThought(0, { playouts: 600 })?.scores).toEqual(best.scores);
    const blind = withBots('bot blind { pass }');
    expect(blind.playThought(0, { playouts: 600 })?.scores[0]).toBeLessThan(best.scores[0] as number);
  });
});

describe('where the first answer counts', () => {
  const doubting = programOf(`game "Doubts" for 2 seats {
    deck standard
    pile hand of each seat private
    pile laid face down
    play {
      deal 4 each from pack to hand
      for each s in seats {
        ask s { option lay(c: card in s.hand) { move c to laid } }
        ask any t in others(s) within 10s else stuck { option doubt { score t += 3 } option believe aside { } } stuck { }
      }
      finish
    }
    bot meek { lay(c) believe }
  }`);

  it("the bot's answer stands, and what others would be worth is told", () => {
    const table = new Table(doubting, { seats: ['Wren', 'Otter'], seed: 'doubts' }, { thinking: [1] });
    table.playBot(0, 0);
    const thought = table.think(1, { playouts: 60 });
    expect(table.wireOf(0, thought?.answer as Answer).option).toBe('believe');
    const gains = thought?.choices.map(({ answer, gain }) => [table.wireOf(0, answer).option, gain]);
    expect(gains).toEqual([
      ['believe', 0],
      ['doubt', 3],
    ]);
  });

  it("a thinking seat plays the bot's answer at once, without a playout", () => {
    const table = new Table(doubting, { seats: ['Wren', 'Otter'], seed: 'doubts' }, { thinking: [0, 1] });
    const never = (): boolean => {
      throw new Error('it thinks');
    };
    expect(() => table.playThought(0, { playouts: 60, isOver: never, isLate: never })).toThrow('it thinks');
    table.playBot(0, 0);
    expect(table.playThought(1, { playouts: 60, isOver: never, isLate: never })?.row.option).toBe('believe');
  });
});

describe('a private variable of another seat', () => {
  const guessing = `game "Guessing" for 2 seats {
    deck standard
    private var wish of each seat: int = 0
    private var mood of each seat: int = 7
    play {
      for round in 1..3 {
        reset wish, mood
        ask seats[1] { option hide(n: 1..6) { seats[1].wish = n  seats[1].mood = n * 2 } }
        ask seats[2] {
          option guess(n: 1..6) { if n == seats[1].wish { score seats[2] += 6 } }
          option pass { score seats[2] += 2 }
        }
      }
      finish
    }
  }`;
  const steps = (
    hidden: number,
    seat = 1,
  ): { table: Table; thought: ReturnType<Table['think']>; worlds: Set<string> } => {
    const table = new Table(programOf(guessing), { seats: ['Wren', 'Otter'], seed: 'guess' }, { thinking: [0, 1] });
    choose(table, 0, 'hide', { n: hidden });
    const { game, state } = table;
    const knowledge = new Knowledge(game, seat, quickChance(3).stream('k', 0));
    const begun = game.open();
    knowledge.note(begun, state, 0, { option: 0, args: [hidden] });
    const worlds = new Worlds(game, state, knowledge);
    const generator = quickChance(5).stream('worlds', 0);
    const [wish, mood] = game.layout.varBase as [number, number];
    const drawn = Array.from({ length: 60 }, () => {
      const world = state.copy();
      worlds.draw(world, generator);
      return `${world.f[wish]} ${world.f[mood]}`;
    });
    return { table, thought: table.think(1, { playouts: 600 }), worlds: new Set(drawn) };
  };

  it('is drawn anew out of what its seat may have chosen, and leaves no trace in what is thought', () => {
    const [two, five] = [steps(2), steps(5)];
    // What was not chosen as it is, is thought to be as with the seat itself.
    expect([...two.worlds].sort()).toEqual(['1 7', '2 7', '3 7', '4 7', '5 7', '6 7']);
    expect(two.worlds).toEqual(five.worlds);
    expect(two.thought?.choices.map(({ mean }) => mean)).toEqual(five.thought?.choices.map(({ mean }) => mean));
    // A guess is worth one in six of six, passing two: looking would make it six.
    expect(two.table.wireOf(0, two.thought?.answer as Answer).option).toBe('pass');
  });

  it('of the seat itself stays as it is', () => {
    expect([...steps(2, 0).worlds]).toEqual(['2 4']);
  });

  it('shows in nothing that is made of how its seat chose: the bot may read it, the one who thinks may not', () => {
    const program = programOf(`game "Moods" for 2 seats {
      deck standard
      pile hand of each seat private
      private var mood of each seat: int = 0
      play {
        shuffle pack
        deal 3 each from pack to hand
        ask seats[2] { option raise { } option hold { } }
        ask seats[1] { option call { score seats[1] += top(seats[2].hand).pips - 6 } option drop { } }
        finish
      }
      bot moody { raise when top(me.hand).pips + me.mood > 10  hold  drop  call }
    }`);
    const simulator = Simulator.of(program, { seats: ['Wren', 'Otter'], tracking: true });
    const { game } = simulator;
    const slot = (game.layout.varBase[0] as number) + (game.layout.varWidth[0] as number);
    const thoughtWith = (mood: number): unknown => {
      simulator.open(1);
      const before = simulator.state.copy();
      before.f[slot] = mood;
      const after = game.answer(before, 1, { option: 0, args: [] });
      const thinker = new Thinker(game, 0, 1);
      thinker.note(before, after, 1, { option: 0, args: [] });
      return thinker.think(after, { playouts: 100 })?.choices.map(({ answer, mean }) => [answer.option, mean]);
    };
    expect(thoughtWith(20)).toEqual(thoughtWith(0));
  });
});

describe('an answer to an ask of all', () => {
  it('tells nothing to those who have not answered yet', () => {
    const program = programOf(`game "At Once" for 2 seats {
      deck standard
      pile hand of each seat private
      play {
        shuffle pack
        deal 3 each from pack to hand
        ask every s in seats { option raise { score s += top(s.hand).pips - 7 } option hold { } }
        finish
      }
      bot tall { raise when top(me.hand).pips > 7  hold }
    }`);
    const simulator = Simulator.of(program, { seats: ['Wren', 'Otter'], tracking: true });
    const { game } = simulator;
    const thoughtAfter = (option: number): unknown => {
      const before = simulator.open(1).state.copy();
      const after = game.answer(before, 1, { option, args: [] });
      const thinker = new Thinker(game, 0, 1);
      thinker.note(before, after, 1, { option, args: [] });
      return thinker.think(after, { playouts: 200 })?.choices.map(({ answer, mean }) => [answer.option, mean]);
    };
    expect(thoughtAfter(0)).toEqual(thoughtAfter(1));
  });
});

describe('a seat that thinks', () => {
  const versus = (sheet: string, deals: number, playouts: number, settings = {}) => {
    const program = programOf(sheetText(sheet));
    const other = program.bots[0] ? new ScriptedPolicy({ program }, program.bots[0].name) : new RandomPolicy();
    const thinking = new ThinkingPolicy('thinking', () => ({ playouts }));
    const [mine, theirs] = match(program, { deals, seed: 3, policies: [thinking, other], settings }).standings;
    return { mine: mine?.scores.mean ?? 0, theirs: theirs?.scores.mean ?? 0 };
  };

  it('plays better than the bot of its sheet', () => {
    const program = programOf(sheetText('standing-trump.motley'));
    const other = new ScriptedPolicy({ program }, program.bots[0]?.name ?? '');
    const thinking = new ThinkingPolicy('thinking', () => ({ playouts: 60 }));
    const policies = [thinking, other, thinking, other];
    const [mine, theirs] = match(program, { deals: 2, seed: 3, policies, settings: { target: 50 } }).standings;
    expect(mine?.scores.mean).toBeGreaterThan(theirs?.scores.mean ?? 0);
  });

  it('keeps for later what later chapters need', () => {
    // Each lamp is a chapter, and each card can be laid once: whoever looks no further wins the first and loses the rest.
    const { mine, theirs } = versus('ferry-lamps.motley', 2, 400);
    expect(mine).toBeGreaterThan(theirs);
  });

  it('minds how others bet: what they hold is no longer any five cards', () => {
    const program = programOf(`game "Tall Tales" for 2 seats {
      deck standard
      pile hand of each seat private
      play {
        for n in 1..6 {
          chapter "Tale {n}"
          gather all to pack
          shuffle pack
          deal 1 each from pack to hand
          ask seats[2] { option raise { } option hold { } }
          ask seats[1] {
            option call { if top(seats[2].hand).pips > 10 { score seats[2] += 2 } else { score seats[1] += 2 } }
            option drop { score seats[2] += 1 }
          }
        }
        finish
      }
      bot honest { raise when top(me.hand).pips > 10  hold  drop  call }
    }`);
    // By the cards alone calling pays, for three ranks of thirteen win: who raised has one of them, who held has none.
    const simulator = Simulator.of(program, { seats: ['Wren', 'Otter'], tracking: true });
    const { game } = simulator;
    const optionAfter = (raises: boolean): string | undefined => {
      simulator.open(1);
      const thinker = new Thinker(game, 0, 1);
      const before = simulator.state.copy();
      const answer = { option: raises ? 0 : 1, args: [] };
      const after = game.answer(before, 1, answer);
      thinker.note(before, after, 1, answer);
      const thought = thinker.think(after, { playouts: 400 });
      return thought ? (thought.answer.option === 0 ? 'call' : 'drop') : undefined;
    };
    expect([optionAfter(true), optionAfter(false)]).toEqual(['drop', 'call']);
  });

  it('needs no bot in the sheet', () => {
    const source = `game "Higher" for 2 seats {
      deck standard
      pile hand of each seat private
      pile laid of each seat face up
      play {
        shuffle pack
        deal 4 each from pack to hand
        for n in 1..4 {
          for each s in seats { ask s { option lay(c: card in s.hand) { move c to s.laid } } }
          if top(seats[2].laid).rank > top(seats[1].laid).rank { score seats[2] += 1 } else { score seats[1] += 1 }
        }
        finish
      }
    }`;
    const program = programOf(source);
    const thinking = new ThinkingPolicy('thinking', () => ({ playouts: 150 }));
    const { standings } = match(program, { deals: 40, seed: 2, policies: [thinking, new RandomPolicy()] });
    expect(standings[0]?.scores.mean).toBeGreaterThan((standings[1]?.scores.mean ?? 0) + 0.2);
  });

  it('plays for the score itself where all score together', () => {
    const program = programOf(`game "Lift" for 2 seats {
      deck standard
      play {
        for turn1 in 1..3 { for each s in seats { ask s { option rest { }  option lift(n: 1..2) { for each t in seats { score t += n } } } } }
        finish
      }
    }`);
    const thinking = new ThinkingPolicy('thinking', () => ({ playouts: 120 }));
    const { standings } = match(program, { deals: 3, seed: 1, policies: [thinking, thinking] });
    expect(standings.map(({ scores }) => scores.mean)).toEqual([12, 12]);
  });

  it('answers early with what it has, and counts playouts alone where time is given', () => {
    const { game, steps } = played('thorn-and-lady.motley', 4, 20);
    const state = steps.at(-1)?.before as State;
    const seat = game.asked(state)[0] as number;
    const thinker = new Thinker(game, seat, 1);
    let asked = 0;
    const thought = thinker.think(state, { playouts: 100_000, isOver: () => ++asked > 3 });
    expect(thought?.playouts).toBeGreaterThan(0);
    expect(thought?.playouts).toBeLessThan(1_000);
  });

  it('leaves what is under way where its time is up for good, and still has a legal choice', () => {
    const { game, steps } = played('thorn-and-lady.motley', 4, 20);
    const state = steps.at(-1)?.before as State;
    const seat = game.asked(state)[0] as number;
    for (const patience of [0, 1, 30]) {
      let asked = 0;
      const thought = new Thinker(game, seat, 1).think(state, { playouts: 100_000, isLate: () => ++asked > patience });
      // Once in the loop, and once where a playout is left.
      expect(asked).toBeLessThan(patience + 4);
      expect(thought?.answer).toBeDefined();
      expect(() => game.answer(state, seat, thought?.answer as Answer)).not.toThrow();
    }
  });
});
