import { readdirSync, readFileSync } from 'node:fs';
import {
  type Found,
  type Header,
  isPlayed,
  type Json,
  type Played,
  type Program,
  patchText,
  Table,
} from '@wily-jester/core';
import { compileSheet } from '@wily-jester/motley';
import type { Operation } from 'fast-json-patch';

const SHEETS = new URL('../../sheets/', import.meta.url);

/** A bundled sheet's text, by its file's name. */
export const sheetText = (name: string): string => readFileSync(new URL(name, SHEETS), 'utf8');

/** The files of all bundled sheets, without their rehearsals. */
export const bundledSheets = (): string[] => readdirSync(SHEETS).filter((file) => /(?<!rehearsal)\.motley$/.test(file));

/** How often something is tried: `WILY_FULL=1` plays the long form. */
export const inLong = (long: number, short: number): number => (process.env.WILY_FULL === '1' ? long : short);

const programs = new Map<string, Program>();

/** The program of a sheet that must have no errors: one for each text, as programs are never changed. */
export function programOf(source: string): Program {
  const known = programs.get(source);
  if (known) return known;
  const { program, problems } = compileSheet(source);
  if (!program) throw new Error(problems.map((p) => `${p.line}:${p.column} ${p.message}`).join('\n'));
  programs.set(source, program);
  return program;
}

export const lantern = (): Program => programOf(sheetText('lantern-twenty-one.motley'));

/** A one-seat sheet around a script; `top` holds further declarations. */
export const script = (body: string, top = ''): string => `game "Trial Run" for 1 to 4 seats {
  deck standard
  pile stock face down
  pile row face up as fan
  pile hand of each seat private as fan
  ${top}
  play { ${body} }
}`;

/** Opens a table on a source. */
export function openTable(source: string, header: Partial<Header> = {}): Table {
  return new Table(programOf(source), { seats: ['Wren'], seed: 'test', ...header });
}

/** What the script said, in order, at the opening. */
export function said(table: Table): string[] {
  return table.opening.for(-2).flatMap((event) => (event.kind === 'said' ? [event.text] : []));
}

/** Chooses, and insists that it was carried out. */
export function choose(table: Table, seat: number, option: string, args: Record<string, unknown> = {}): Played {
  const result = table.choose(seat, { ask: table.openAsk, option, args });
  if (!isPlayed(result)) throw new Error(`${option} was refused: ${result.reason}`);
  return result;
}

/** The value of a small expression, said by a script. */
export function exprValue(expression: string, before = '', top = ''): string {
  return said(openTable(script(`${before} say "{${expression}}" finish`, top))).at(-1) ?? '';
}

/** What must be done to one view to make it another. */
export const patchOf = (before: unknown, after: unknown, found?: Found): Operation[] =>
  JSON.parse(patchText(before as Json, after as Json, found)) as Operation[];
