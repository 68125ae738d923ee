import { below, type Generator } from '../chance/generator.js';
import type { Answer } from '../machine/code.js';
import { Fault } from '../machine/fault.js';
import { ASK, isRef } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { eachStmt } from '../program/tree.js';
import type { Game } from '../rules/game.js';

/** Where a seat's choice becomes the value of a private variable of its own, as it is. */
interface Source {
  readonly variable: number;
  readonly ask: number;
  readonly option: number;
  readonly param: number;
}

const found = new WeakMap<Game['program'], readonly Source[]>();

function sourcesIn(program: Game['program']): readonly Source[] {
  const known = found.get(program);
  if (known) return known;
  const sources: Source[] = [];
  for (const [ask, { options }] of program.asks.entries())
    for (const [option, { params, body }] of options.entries())
      eachStmt(body, program.asks, (s) => {
        if (s.s !== 'set' || s.target.k !== 'var' || s.op !== '=' || s.e.k !== 'local') return;
        const { i, second = null } = s.target;
        const { e } = s;
        const param = params.findIndex(({ local }) => local === e.i);
        if (program.vars[i]?.hidden && second === null && param >= 0) sources.push({ variable: i, ask, option, param });
      });
  found.set(program, sources);
  return sources;
}

/**
 * What one seat may think of the private variables of others: that they hold what their seats may have chosen, each value
 * as likely as any other, where everybody knows that they chose one; else what they held at the beginning. What was
 * not chosen as it is, is thought to be as with the seat itself.
 */
export class PrivateValues {
  private readonly hidden: readonly number[];
  private readonly sources: readonly Source[];
  /** `variable seat` of each value that was chosen since it was set otherwise, with where. */
  private readonly chosen = new Map<string, Source>();
  /** What each variable of the seat itself held at the beginning. */
  private readonly start = new Map<number, number>();

  constructor(
    private readonly game: Game,
    private readonly seat: number,
  ) {
    const { program } = game;
    this.hidden = program.vars.flatMap(({ hidden }, i) => (hidden ? [i] : []));
    this.sources = this.hidden.length > 0 ? sourcesIn(program) : [];
  }

  private slot(variable: number, seat: number): number {
    const { varBase, varWidth } = this.game.layout;
    return (varBase[variable] as number) + (varWidth[variable] as number) * seat;
  }

  /** Takes note of a choice that was carried out: that it was made is public, what it was is not. */
  note(before: State, after: State, seat: number, { option }: Answer): void {
    const ask = before.f[ASK] as number;
    const made = this.sources.filter((source) => source.ask === ask && source.option === option);
    for (const variable of this.hidden) {
      const own = this.slot(variable, this.seat);
      if (!this.start.has(variable)) this.start.set(variable, before.f[own] as number);
      // Where the seat's own one changes by itself, so do the others: a new deal, mostly.
      const isByItself = !(seat === this.seat && made.some((source) => source.variable === variable));
      if (before.f[own] !== after.f[own] && isByItself)
        for (const other of this.game.rt.seats) this.chosen.delete(`${variable} ${other}`);
    }
    for (const source of made) this.chosen.set(`${source.variable} ${seat}`, source);
  }

  /** Draws the private variables of all others anew. */
  draw(into: State, generator: Generator): void {
    const { program, layout, rt } = this.game;
    for (const variable of this.hidden) {
      const width = layout.varWidth[variable] as number;
      const own = this.slot(variable, this.seat);
      const { t = 'int' } = program.vars[variable] ?? {};
      // Cards are exchanged with those that are hidden.
      if (t === 'card' || t === 'list:card') continue;
      for (const other of rt.seats) {
        if (other === this.seat) continue;
        const at = this.slot(variable, other);
        const isKept = !this.sources.some((source) => source.variable === variable);
        if (isRef(t)) for (let k = 0; k < width; k++) into.refs[at + k] = into.refs[own + k] ?? null;
        else if (isKept) for (let k = 0; k < width; k++) into.f[at + k] = into.f[own + k] as number;
        else into.f[at] = this.drawn(into, variable, other, generator);
      }
    }
  }

  private drawn(state: State, variable: number, seat: number, generator: Generator): number {
    const start = this.start.get(variable) ?? (state.f[this.slot(variable, this.seat)] as number);
    const source = this.chosen.get(`${variable} ${seat}`);
    // What is chosen second hangs on what was chosen first.
    if (!source || source.param > 0) return start;
    const { code } = this.game;
    const domain = code.options[source.ask]?.[source.option]?.domains[0];
    code.begin();
    try {
      if (domain?.k === 'range') {
        const [from, to] = [domain.from(state, seat), domain.to(state, seat)];
        const by = Math.max(1, domain.by?.(state, seat) ?? 1);
        return from > to ? start : Math.min(to, from + by * below(generator, Math.ceil((to - from) / by) + 1));
      }
      const list = domain?.k === 'values' ? domain.list(state, seat) : [];
      return list.length === 0 ? start : (list[below(generator, list.length)] as number);
    } catch (error) {
      if (error instanceof Fault) return start;
      throw error;
    }
  }
}
