import { rehearse } from '@wily-jester/core';
import { describe, expect, it } from 'vitest';
import { compileRehearsals, compileSheet } from '../src/index.js';
import { openTable, said } from './support.js';

const sheet = (play: string, top = ''): string => `game "Keys" for 2 or 4 seats in 2 teams {
  deck standard
  pile row face up
  pile lock[3] face up
  kind Strain = clubsUp | noTrumps | spadesUp
  var opener of each Strain, team: seat = nothing
  var won of each Strain = 0
  var void of each seat, suit: flag
  var owed of each seat, seat = 0
  ${top}
  play { ${play} }
}`;
const FOUR = ['Wren', 'Otter', 'Heron', 'Pike'];
const spoken = (play: string, top = ''): string[] => said(openTable(sheet(`${play} finish`, top), { seats: FOUR }));
const errors = (play: string, top = ''): string[] =>
  compileSheet(sheet(`${play} finish`, top))
    .problems.filter((p) => p.severity === 'error')
    .map((p) => p.message);

describe('a variable that is kept', () => {
  it('for the members of a kind has a value for each', () => {
    expect(spoken('noTrumps.won += 2 for each x in Strain { say "{x.won}" }')).toEqual(['0', '2', '0']);
  });

  it('for pairs has one for each combination, and all are reset together', () => {
    const play = `opener[noTrumps, seats[2].team] = seats[2]
      for each x in Strain { for each t in teams { if opener[x, t] != nothing { say "{x} {t.place} {opener[x, t]}" } } }
      reset opener say "{count(Strain, x => any(teams, t => opener[x, t] != nothing))}"`;
    expect(spoken(play)).toEqual([expect.stringMatching(/2 Otter$/), '0']);
  });

  it('for pairs of one type keeps their order, and flags and numbers are told apart', () => {
    const play = `owed[seats[1], seats[2]] = 5 owed[seats[2], seats[1]] += 7
      void[seats[3], hearts] = yes
      say "{owed[seats[1], seats[2]]} {owed[seats[2], seats[1]]} {owed[seats[1], seats[1]]}"
      say "{count(seats, s => any(suits, t => void[s, t]))}"`;
    expect(spoken(play)).toEqual(['5 7 0', '1']);
  });

  it('is said to be kept so where a key is missing, or none', () => {
    expect(errors('say "{opener}"')[0]).toBe(
      '"opener" is kept for each Strain and team: write opener[a Strain, a team].',
    );
    expect(errors('say "{opener[noTrumps]}"')[0]).toContain('two keys go in these brackets');
    expect(errors('say "{opener[seats[1], teams[1]]}"')[0]).toContain('The first key of opener must be a Strain');
    expect(errors('say "{won}"')[0]).toBe('"won" is kept for each Strain: say whose, such as s.won.');
    expect(errors('finish', 'var x of each Strian = 0')[0]).toContain('Did you mean "Strain"?');
    expect(errors('finish', 'var x of each Strain = 0 "drawn"').join()).not.toContain('label');
  });

  it('stops the step where a key is nothing, with its place', () => {
    expect(() => spoken('let s = find(seats, t => t.score > 3) void[s, hearts] = yes')).toThrow(/nothing/);
  });

  it('is started by a rehearsal', () => {
    const text = `rehearse "it" { seats Wren, Otter
      start opener[noTrumps, teams[2]] = Wren
      start void[Otter, hearts] = yes
      start noTrumps.won = 4
      expect opener[noTrumps, teams[2]] == Wren and void[Otter, hearts] and noTrumps.won == 4 and opener[noTrumps, teams[1]] == nothing }`;
    const { program, rehearsals, problems } = compileRehearsals(text, sheet('ask seats[1] { option go { } }'));
    expect(problems.filter((p) => p.severity === 'error')).toEqual([]);
    expect(program && rehearsals[0] && rehearse(program, rehearsals[0]).failure).toBeNull();
  });
});
