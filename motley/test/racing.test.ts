import { isPlayed, RandomPolicy, replay, ScriptedPolicy, Simulator, type Table } from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import { describe, expect, it } from 'vitest';
import { choose, openTable, programOf, sheetText } from './support.js';

const SEATS = ['Wren', 'Otter', 'Heron'];
/** A race in which the seats before a bound may grab, and anybody may step aside. */
const race = (rest = '', clock = '', list = 'seats'): string => `game "Grab" for 3 seats {
  deck standard
  var most = 0
  var grabbed: seat = nothing
  pile hand of each seat private
  play {
    deal 2 each from pack to hand
    ask any s in ${list} ${clock} {
      option grab(n: 1..3) "grab {n}" needs most == 0 or s.place <= most else "Too late, {s}." { grabbed = s  score s += n }
      option leave aside { say "{s} leaves." }
    } ${rest}
    ask seats[1] { option done { } }
    finish
  }
  bot first { grab(3) when me == seats[1] }
  bot last { grab(3) when me == seats[3] }
}`;
const open = (source = race()): Table => openTable(source, { seats: SEATS });
const refusal = (table: Table, seat: number, ask: number, option: string, args = {}) => {
  const result = table.choose(seat, { ask, option, args });
  if (isPlayed(result)) throw new Error('it was carried out');
  return result;
};

describe('ask any', () => {
  it('asks all at once, and the first answer is carried out at once', () => {
    const table = open();
    expect(table.waiting).toMatchObject({ how: 'any', together: false, seats: [1, 2, 3], answered: [] });
    for (const seat of [0, 1, 2])
      expect(table.view(seat).offers.map((offer) => offer.option)).toEqual(['grab', 'leave']);
    choose(table, 1, 'grab', { n: 2 });
    expect(table.scores()).toEqual([0, 2, 0]);
    expect(table.waiting).toMatchObject({ how: 'one', seats: [1] });
  });

  it('tells whoever comes late who was first', () => {
    const table = open();
    choose(table, 1, 'grab', { n: 2 });
    expect(refusal(table, 2, 0, 'grab', { n: 1 })).toMatchObject({ kind: 'stale', reason: 'Otter was first.' });
    expect(refusal(table, 0, 0, 'grab', { n: 1 })).toMatchObject({ kind: 'stale', reason: 'Otter was first.' });
    expect(refusal(table, 2, 1, 'done').reason).toContain("not Heron's turn");
  });

  it('stays open under its number for the others when a seat steps aside', () => {
    const table = open();
    choose(table, 0, 'leave');
    expect(table.waiting).toMatchObject({ how: 'any', ask: 0, seats: [2, 3], answered: [1] });
    expect(refusal(table, 0, 0, 'grab', { n: 1 }).kind).toBe('turn');
    const late = table.choose(2, { ask: 0, option: 'grab', args: { n: 3 } });
    expect(isPlayed(late)).toBe(true);
  });

  it('goes on behind it once all stepped aside, or runs what is stuck', () => {
    const table = open();
    for (const seat of [2, 0, 1]) choose(table, seat, 'leave');
    expect(table.waiting).toMatchObject({ how: 'one', seats: [1] });
    const stuck = open(race('stuck { score seats[3] += 7 }'));
    for (const seat of [2, 0, 1]) choose(stuck, seat, 'leave');
    expect(stuck.scores()).toEqual([0, 0, 7]);
  });

  it('looks whether anybody can answer, at first and after each who steps aside', () => {
    const one = open(race('stuck { score seats[3] += 7 }').replace('var most = 0', 'var most = 1'));
    expect(one.waiting).toMatchObject({ how: 'any', seats: [1, 2, 3] });
    choose(one, 0, 'leave');
    expect(one.scores()).toEqual([0, 0, 7]);
    expect(() =>
      open(race().replace('option leave aside { say "{s} leaves." }', '').replace('most == 0', 'most == 9')),
    ).toThrow('Several seats are asked, and none of them has a legal choice.');
  });

  it('asks only those of whom its condition holds, and nobody where it holds of none', () => {
    expect(open(race('', '', 'seats where s.place > 1')).waiting).toMatchObject({ seats: [2, 3] });
    expect(open(race('', '', 'seats where s.place > 3')).waiting).toMatchObject({ how: 'one', seats: [1] });
  });

  it('lets nothing of it be taken back', () => {
    const table = open();
    choose(table, 0, 'grab', { n: 1 });
    expect(table.mayUndo(0)).toBe(false);
  });

  it('ends with its clock: what is stuck, or what the clock plays for the first who can', () => {
    const stuck = open(race('stuck { score seats[3] += 7 }', 'within 5s else stuck'));
    expect(stuck.waiting).toMatchObject({ clock: { seconds: 5, otherwise: 'stuck' } });
    expect(stuck.endRace().row).toMatchObject({ seat: null, by: 'table', option: 'time', ask: 0 });
    expect(stuck.scores()).toEqual([0, 0, 7]);
    const bot = open(race('', 'within 5s else bot last'));
    expect(bot.endRace().row).toMatchObject({ seat: 3, by: 'clock', option: 'grab' });
    expect(() => open(race('', 'within 5s else bot last').replaceAll('seats[3]', 'seats[4]')).endRace()).toThrow();
  });

  it('asks the clock in the order of its list, and whoever stepped aside no more', () => {
    const within = (list: string): Table =>
      open(race('', 'within 5s else bot eager', list).replace('bot first', 'bot eager { grab(1) }\n  bot first'));
    expect(within('reversed(seats)').endRace().row.seat).toBe(3);
    expect(within('[seats[2], seats[1], seats[2]]').endRace().row.seat).toBe(2);
    const left = within('seatsFrom(seats[2])');
    choose(left, 1, 'leave');
    expect(left.endRace().row.seat).toBe(3);
  });

  it('is played again from its record, time and asides included', () => {
    const source = race('stuck { score seats[3] += 7 }', 'within 5s else stuck');
    const table = open(source);
    const rows = [choose(table, 1, 'leave').row, table.endRace().row, choose(table, 0, 'done').row];
    const again = replay(programOf(source), table.header, rows);
    expect(again.digest()).toBe(table.digest());
  });

  it('is won in simulations by chance, and silent bots do not win', () => {
    const program = programOf(race());
    const wins = [0, 0, 0];
    const simulator = Simulator.of(program, { seats: SEATS });
    const random = SEATS.map(() => new RandomPolicy());
    for (let seed = 0; seed < 300; seed++) {
      simulator.open(seed).play({ policies: random, most: 1 });
      simulator.scores().forEach((score, seat) => {
        if (score > 0) wins[seat] = (wins[seat] as number) + 1;
      });
    }
    for (const won of wins) expect(won).toBeGreaterThan(70);
    const bots = SEATS.map(() => new ScriptedPolicy({ program }, 'last'));
    for (let seed = 0; seed < 20; seed++) {
      simulator.open(seed).play({ policies: bots, most: 1 });
      expect(simulator.scores()).toEqual([0, 0, 3]);
    }
  });

  it.each([
    ['ask any s in [seats[1]] { option a { } }', 'Nobody is there to race'],
    ['ask any s in seats { option a aside { } }', 'Somebody must be able to answer'],
    ['ask any s in seats { option a { }  option b aside { score s += 1 } }', 'With "b" a seat steps aside'],
    ['ask any s in seats within 5s else stuck { option a { } }', 'There is no "stuck" part'],
    ['ask seats[1] within 5s else stuck { option a { } } stuck { }', '"else stuck" goes with "ask any"'],
    ['ask any s in seats about s.hand because "why" { option a { } }', 'goes with an ask of one'],
  ])('refuses %s', (ask, message) => {
    const { problems } = compileSheet(
      `game "Wrong" for 2 seats { deck standard pile hand of each seat private play { ${ask} finish } }`,
    );
    expect(problems.map((problem) => problem.message).join('\n')).toContain(message);
  });

  it('warns where it looks into the hands of others, and not into the own', () => {
    const look = (hand: string): string =>
      `game "Look" for 2 seats { deck standard pile hand of each seat private play { deal 2 each from pack to hand ask any s in seats { option lay(c: card in ${hand}) needs c.rank > 2 { } option no aside { } } stuck { } finish } }`;
    expect(compileSheet(look('s.hand')).problems).toEqual([]);
    expect(compileSheet(look('seats[1].hand')).problems[0]?.message).toContain('only their owner sees');
  });

  it('plays a bundled race to its end, whoever is first', () => {
    const program = programOf(sheetText('ford-dash.motley'));
    const simulator = Simulator.of(program, { seats: SEATS });
    for (let seed = 0; seed < 20; seed++)
      expect(simulator.open(seed).play({ policies: SEATS.map(() => new RandomPolicy(3)) }).isOver).toBe(true);
  });
});
