import type { Program } from '../../program/types.js';
import { isRef, PC } from '../layout.js';
import { type BlockWriter, casesOf, type Frame } from './blocks.js';
import type { Module } from './module.js';
import type { Place } from './places.js';
import { localsThere } from './presence.js';
import { RoutineScript } from './routine.js';
import { placeIn, type Slots, whole } from './slots.js';
import { keptLocals } from './waiting.js';
import { type Code, code, goTo, type Jump, withWayBack } from './written.js';

/**
 * Writes the part of a program that can wait: all routines with an ask or a pause, as blocks around a
 * program counter. Whatever cannot wait stays structured inside the blocks. A state needs no stack:
 * routines never call themselves, so each has one fixed set of slots.
 */
export class ScriptWriter implements BlockWriter {
  private readonly blocks: (string | Jump)[][] = [];
  private current = 0;
  readonly frames = new Map<number, Frame>();
  private readonly entries = new Map<number, number>();
  /** The blocks where the callers of each routine go on. */
  private readonly callers = new Map<number, number[]>();
  /** The sheet position of each block that a state may rest in: block numbers mean nothing outside of this code. */
  readonly restPlaces = new Map<number, number>();
  /** Blocks that are entered by a number in the state. */
  private readonly rests = new Set<number>();
  private readonly program: Program;
  /** The locals of each routine that are never nothing. */
  private readonly there: readonly ReadonlySet<number>[];

  constructor(
    readonly module: Module,
    readonly slots: Slots,
  ) {
    this.program = module.program;
    this.there = localsThere(module.program);
  }

  block(): number {
    return this.blocks.push([]) - 1;
  }
  at(block: number): void {
    this.current = block;
  }
  emit(code: string | Code): void {
    const block = this.blocks[this.current] as (string | Jump)[];
    if (typeof code === 'string') block.push(code);
    else block.push(...code);
  }
  write(): string {
    const waiting = [...this.program.routines.entries()].filter(([i, r]) => i === 0 || r.waits);
    for (const [i] of waiting) {
      this.entries.set(i, this.block());
      this.frames.set(i, this.frameOf(i));
    }
    for (const [i] of waiting) this.routine(i);
    const back = new Map(waiting.map(([i]) => [i, this.wayBack(i)]));
    const blocks = this.blocks.map((block) => withWayBack(block, (routine) => back.get(routine) as Code));
    const cases = casesOf(blocks, new Set([0, ...this.rests]));
    return `function script(s){let pc=${whole(PC)};run:for(;;){switch(pc){${cases.join('\n')}\ndefault:return;}}}`;
  }

  /** How a routine goes back to its caller; where only one calls it, that is known beforehand. */
  private wayBack(routine: number): Code {
    const frame = this.frames.get(routine);
    const [only, ...more] = this.callers.get(routine) ?? [];
    if (!frame || only === undefined) return ['return;'];
    const slot = `s.f[${frame.returnSlot}]`;
    if (more.length > 0) for (const block of [only, ...more]) this.rests.add(block);
    return more.length === 0 ? code`${slot}=0;${goTo(only)}` : [`pc=${whole(slot)};${slot}=0;continue run;`];
  }

  private routine(i: number): void {
    const routine = this.program.routines[i];
    const frame = this.frames.get(i);
    if (!routine || !frame) return;
    this.current = this.entries.get(i) as number;
    const own = new RoutineScript(this, i, frame);
    own.body(routine.body);
    this.emit(own.leaveRoutine());
  }

  private frameOf(i: number): Frame {
    const routine = this.program.routines[i];
    const places = new Map<number, Place>();
    const slot = (local: number): void => {
      const declared = routine?.locals[local];
      if (!declared || places.has(local)) return;
      const name = `${routine?.name}.${declared.name}`;
      const js = isRef(declared.t)
        ? `s.refs[${this.slots.ref(name, declared.t)}]`
        : `s.f[${this.slots.number(name, declared.t)}]`;
      places.set(local, { ...placeIn(js, declared.t), isThere: this.there[i]?.has(local) === true });
    };
    for (const param of routine?.params ?? []) slot(param);
    for (const local of keptLocals(this.program, routine?.body ?? [])) slot(local);
    return { places, returnSlot: this.slots.number(`${routine?.name}()`) };
  }

  called(routine: number, from: number): void {
    this.callers.set(routine, [...(this.callers.get(routine) ?? []), from]);
  }
  entry(routine: number): number {
    return this.entries.get(routine) as number;
  }
  place(block: number, at: number, isRest: boolean): void {
    this.restPlaces.set(block, at);
    if (isRest) this.rests.add(block);
  }
}
