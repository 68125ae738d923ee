/** War against war by hand, and how long one choice of hold'em takes. */
import { allows, type Chance, drawChoice, type Policy, quickChance, Simulator, Table } from '@wily-jester/core';
import { WarByHand } from './by-hand/war.js';
import { cheapChance, type Rate, sheet } from './rounds.js';

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;
const LIMIT = 400;
const TURN = { option: 0, args: [] };

interface Outcome {
  readonly scores: readonly number[];
  readonly battles: number;
  readonly choices: number;
}

function byHand(chance: Chance): Outcome {
  const war = new WarByHand(chance, LIMIT, 3);
  let choices = 0;
  while (war.wait !== 'over') {
    if (war.wait === 'pause') war.resume();
    else
      for (const seat of [0, 1])
        if (war.wait === 'turn' && (war.asked & (1 << seat)) !== 0) {
          if (!war.answer(seat)) throw new Error('an illegal choice');
          choices++;
        }
  }
  return { scores: [...war.scores], battles: war.battles, choices };
}

/** Turns a card whenever asked, and insists that it may. */
const TURNS: Policy = {
  name: 'turns',
  choose: (rules, state, seat) => {
    if (!allows(rules, state, seat, TURN)) throw new Error('an illegal choice');
    return TURN;
  },
};

function byEngine(simulator: Simulator, chance: Chance): Outcome {
  const { choices } = simulator.open(chance).play({ policies: [TURNS, TURNS] });
  const { game, state } = simulator;
  const battles = state.f[
    game.layout.varBase[game.program.vars.findIndex((v) => v.name === 'battles')] as number
  ] as number;
  return { scores: game.scores(state), battles, choices };
}

/** Battles of Long War a second, two seats: the engine against the game written by hand. */
export function measureWar(): Rate[] {
  const program = sheet('long-war');
  const open = (quiet: boolean) =>
    Simulator.of(program, { seats: ['Wren', 'Otter'], settings: { limit: LIMIT }, quiet });
  const [alone, told] = [open(true), open(false)];
  const run = (name: string, simulator: Simulator, make: (seed: number) => Chance, times: number): Rate => {
    const rates: { hand: number; engine: number; ratio: number }[] = [];
    for (let i = 0; i < times; i++) {
      const start = performance.now();
      const a = byHand(make(i));
      const middle = performance.now();
      const b = byEngine(simulator, make(i));
      const end = performance.now();
      if (JSON.stringify(a) !== JSON.stringify(b))
        throw new Error(`the two differ for seed ${i}: ${JSON.stringify({ a, b })}`);
      if (i < times / 3) continue;
      const [hand, engine] = [(a.battles * 1000) / (middle - start), (b.battles * 1000) / (end - middle)];
      rates.push({ hand, engine, ratio: engine / hand });
    }
    return {
      name,
      handWritten: median(rates.map((r) => r.hand)),
      engine: median(rates.map((r) => r.engine)),
      ratio: median(rates.map((r) => r.ratio)),
    };
  };
  for (const simulator of [alone, told]) run('warming up', simulator, quickChance, 200);
  return [
    run('in place, told to nobody', alone, quickChance, 300),
    run('the same, shuffles next to free', alone, cheapChance, 300),
    run('in place, everything noted for those who are told', told, quickChance, 300),
  ];
}

export interface Latency {
  readonly seats: number;
  /** Microseconds. */
  readonly median: number;
  readonly late: number;
}

/** One choice of hold'em from judging to the views of four viewers, at tables of several sizes. */
export function holdemChoices(): Latency[] {
  const program = sheet('long-pot');
  const names = ['Wren', 'Otter', 'Heron', 'Pike', 'Teal', 'Newt', 'Moth', 'Vole', 'Rook', 'Lark'];
  return [2, 4, 6, 10].map((seats) => {
    const times: number[] = [];
    const generator = quickChance(seats).stream('player', 0);
    for (let i = 0; times.length < 3000; i++) {
      const table = new Table(program, {
        seats: names.slice(0, seats),
        seed: `bench ${i}`,
        settings: { handLimit: 3 },
      });
      while (!table.isOver) {
        if (table.isPaused) {
          table.resume();
          continue;
        }
        const [seat = 0] = table.asked;
        const answer = drawChoice(table.game, table.state, seat, generator, false);
        if (!answer) break;
        const start = performance.now();
        const { stepEvents } = table.carryOut(seat, answer, 'person');
        for (const viewer of [0, 1, -1, -2]) {
          table.view(viewer);
          stepEvents.for(viewer);
        }
        times.push((performance.now() - start) * 1000);
      }
    }
    const sorted = times.slice(500).sort((a, b) => a - b);
    return { seats, median: sorted[sorted.length >> 1] ?? 0, late: sorted[Math.floor(sorted.length * 0.99)] ?? 0 };
  });
}
