import { readFile } from 'node:fs/promises';
import {
  type Decision,
  type Policy,
  type Program,
  RandomPolicy,
  ScriptedPolicy,
  SolvedPolicy,
  StrengthError,
  solution,
  strengthOf,
  strengthWords,
  ThinkingPolicy,
  UnknownPlace,
  Unsolved,
} from '@wily-jester/core';
import { Exit, NO, WRONG_USE } from '../exit.js';
import { budgetFor } from '../play/opponents.js';

/** A policy, and how long it takes for a choice. */
export class Timed {
  private spent = 0;
  private choices = 0;
  readonly policy: Policy;

  constructor(inner: Policy) {
    const timed = <A extends unknown[], R>(work: (...given: A) => R, ...given: A): R => {
      const began = performance.now();
      const found = work(...given);
      this.spent += performance.now() - began;
      this.choices++;
      return found;
    };
    const wrap = (policy: Policy): Policy => ({
      name: policy.name,
      choose: (...asked) => timed(policy.choose.bind(policy), ...asked),
    });
    const { sitDown } = inner;
    this.policy = sitDown
      ? {
          ...wrap(inner),
          sitDown: (...where) => {
            const seated = sitDown.apply(inner, where);
            return { ...wrap(seated), witness: seated.witness.bind(seated) };
          },
        }
      : wrap(inner);
  }

  /** Milliseconds for a choice, on average. */
  get each(): number {
    return this.choices === 0 ? 0 : this.spent / this.choices;
  }
}

/** The table that players sit down at. */
export interface Where {
  readonly program: Program;
  readonly seats: number;
  readonly settings: Record<string, number | boolean | string>;
}

/** Who plays, by strength; `solved` finds the strategy first, `solved:FILE` reads it. @throws Exit where there is no such bot */
export async function policyOf(where: Where, words: string): Promise<Policy> {
  const { program } = where;
  if (words.startsWith('solved:')) return solvedPolicy(where, await read(words.slice('solved:'.length)));
  try {
    const strength = strengthOf(words);
    if (strength.kind === 'random') return new RandomPolicy();
    if (strength.kind === 'scripted') return new ScriptedPolicy({ program }, strength.name);
    if (strength.kind === 'solved') return solvedPolicy(where);
    const { milliseconds, playouts } = strength;
    return new ThinkingPolicy(strengthWords(strength), () => budgetFor(milliseconds, playouts));
  } catch (error) {
    if (error instanceof StrengthError) throw new Exit(error.message, WRONG_USE);
    throw error;
  }
}

/** A policy that plays by a solution. @param decisions as they were written; without them it is found here @throws Exit where there is none */
export function solvedPolicy({ program, ...table }: Where, decisions?: readonly Decision[]): SolvedPolicy {
  try {
    return new SolvedPolicy(decisions ?? solution(program, table));
  } catch (error) {
    if (error instanceof Unsolved || error instanceof UnknownPlace) throw new Exit(error.message, NO);
    throw error;
  }
}

/** Reads what `./wily solve --out` wrote. */
async function read(file: string): Promise<Decision[]> {
  const text = await readFile(file, 'utf8').catch(() => {
    throw new Exit(`There is no file ${file}.`, WRONG_USE, 'Write one with: ./wily solve FILE --out strategy.json');
  });
  try {
    const { decisions } = JSON.parse(text) as { decisions: readonly Decision[] };
    return decisions.map(({ seat, holding, choices }) => ({ seat: seat - 1, holding, choices: { ...choices } }));
  } catch {
    throw new Exit(`${file} is no strategy.`, WRONG_USE, 'Write one with: ./wily solve FILE --out strategy.json');
  }
}
