import { faceText } from '../cards/face.js';
import { quickChance } from '../chance/quick.js';
import { HiddenRead } from '../machine/fault.js';
import { isRef } from '../machine/layout.js';
import { OPEN } from '../machine/runtime/visibility.js';
import type { State } from '../machine/state.js';
import { type Piece, plural, render } from '../machine/text.js';
import type { Note, Program, Type, Variable } from '../program/types.js';
import { Game } from '../rules/game.js';
import { toldTo } from '../rules/handles.js';
import { keptValues, keysOf } from '../rules/kept-for.js';
import { renderingFor } from '../rules/rendering.js';
import { writeValue } from '../rules/values.js';

/** One value of a name: whose it is, where there is one for each of something, and what it is, in words. */
export interface NamedValue {
  readonly of: string | null;
  readonly words: string;
}

/** What a name of the sheet is worth at a table now. */
export interface NameNow {
  readonly kind: 'variable' | 'pile' | 'setting' | 'def';
  readonly values: readonly NamedValue[];
}

/** So many values of one name are told at most. */
const MOST_TOLD = 14;
/** So many cards of one pile. */
const MOST_CARDS = 12;

/**
 * What the names of a sheet are worth at its table, for certain eyes: what they may not see is left out. Defs are
 * worked out by a quiet twin of the table's game, with the guard that labels have.
 */
export class Values {
  private lens: Game | null = null;

  constructor(private readonly game: Game) {}

  /** What a name is worth; `null` where it is no name of the table, or where these eyes see nothing of it. */
  of(state: State, name: string, viewer: number): NameNow | null {
    const { program } = this.game;
    const setting = program.settings.findIndex((s) => s.name === name);
    if (setting >= 0) return { kind: 'setting', values: [{ of: null, words: this.settingWords(setting) }] };
    const variable = program.vars.findIndex((v) => v.name === name);
    if (variable >= 0) return told('variable', this.variable(state, variable, viewer));
    const pile = program.piles.findIndex((p) => p.name === name);
    if (pile >= 0) return told('pile', this.piles(state, pile, viewer));
    const def = program.defs.findIndex((d) => d.name === name);
    return def >= 0 ? told('def', this.def(state, def, viewer)) : null;
  }

  private settingWords(i: number): string {
    const { program, layout } = this.game;
    const { domain } = program.settings[i] as Program['settings'][number];
    const value = layout.settings[i] as number;
    if (domain.k === 'flag') return value === 0 ? 'no' : 'yes';
    return domain.k === 'words' ? (domain.words[value] ?? '') : String(value);
  }

  private variable(state: State, i: number, viewer: number): NamedValue[] {
    const { layout } = this.game;
    const declared = this.game.program.vars[i] as Variable;
    const ofSeat = keysOf(declared)[0]?.k === 'seat';
    return keptValues(layout, i).flatMap(({ owners, slot }): NamedValue[] => {
      const isOwn = ofSeat && owners[0]?.i === viewer;
      if (declared.hidden && viewer !== OPEN && !isOwn) return [];
      const raw = isRef(declared.t) ? state.refs[slot] : state.f[slot];
      const of = owners.map((owner) => owner.words).join(', ') || null;
      return [{ of, words: this.words(state, declared.t, raw, viewer) }];
    });
  }

  private piles(state: State, decl: number, viewer: number): NamedValue[] {
    const { layout, rt } = this.game;
    return layout.piles.flatMap((pile, p): NamedValue[] => {
      if (pile.decl !== decl) return [];
      const cards = rt.pileCards(state, p);
      const seen = cards.filter((card) => rt.sees(state, card, viewer));
      const faces = seen.slice(0, MOST_CARDS).map((card) => faceText(layout.faces[card] as number));
      const shown = faces.length > 0 ? `: ${faces.join(' ')}${seen.length > MOST_CARDS ? ' …' : ''}` : '';
      return [{ of: this.pileOwner(p), words: `${plural(cards.length, 'card')}${shown}` }];
    });
  }

  private pileOwner(p: number): string | null {
    const { layout } = this.game;
    const pile = layout.piles[p];
    if (!pile || pile.steps.length === 1) return null;
    const who = pile.seat >= 0 ? [layout.seats[pile.seat] ?? ''] : [];
    return [...who, ...(pile.index >= 0 ? [String(pile.index + 1)] : [])].join(' ');
  }

  private def(state: State, i: number, viewer: number): NamedValue[] {
    const { program } = this.game;
    const def = program.defs[i];
    if (!def || def.params.length > 1) return [];
    const [param] = def.params;
    if (param && param.t !== 'seat' && param.t !== 'list:card') return [];
    this.lens ??= this.lensFor();
    const { lens } = this;
    const read = lens.code.notes[lens.program.notes.findIndex((note) => note.def === i)];
    if (!read) return [];
    const held = lens.copy(state);
    const at = (of: string | null, value: number): NamedValue[] => {
      try {
        lens.code.begin();
        return [{ of, words: this.words(held, def.t, read(held, viewer, value), viewer) }];
      } catch (error) {
        if (error instanceof HiddenRead) return [];
        // What cannot be worked out now, such as the top of an empty pile, is no value.
        return error instanceof Error && error.name === 'Fault' ? [] : raise(error);
      }
    };
    const found = !param
      ? at(null, -1)
      : param.t === 'seat'
        ? lens.rt.seats.flatMap((seat) => at(lens.layout.seats[seat] ?? '', seat))
        : lens.layout.piles.flatMap((pile, p) =>
            (state.len[p] as number) > 0 && pile.decl > 0 && pile.seat >= 0
              ? at(`${pile.steps[0]} of ${this.pileOwner(p)}`, p)
              : [],
          );
    lens.recycle(held);
    return found;
  }

  /** A twin whose notes are the defs that can be worked out without more values. */
  private lensFor(): Game {
    const { program, layout } = this.game;
    const notes = program.defs.flatMap(({ name, params: [param, ...more] }, def): Note[] => {
      if (more.length > 0 || (param && param.t !== 'seat' && param.t !== 'list:card')) return [];
      const beside = param?.t === 'list:card' ? program.piles.flatMap((_, p) => (p > 0 ? [p] : [])) : 'seat';
      return [{ name, def, beside }];
    });
    const settings = Object.fromEntries(
      program.settings.map(({ name, domain }, i) => {
        const value = layout.settings[i] as number;
        return [name, domain.k === 'flag' ? value !== 0 : domain.k === 'words' ? (domain.words[value] ?? '') : value];
      }),
    );
    const chance = quickChance(1);
    return new Game({ ...program, notes }, { seats: layout.seats, settings, chance, quiet: true }, this.game);
  }

  private words(state: State, t: Type, raw: unknown, viewer: number): string {
    const { game } = this;
    if (t === 'text') return render(raw as Piece[], renderingFor(game, viewer));
    if (Array.isArray(raw)) {
      const item = t.slice('list:'.length) as Type;
      const shown = raw.slice(0, MOST_CARDS).map((one) => this.words(state, item, one, viewer));
      return shown.length === 0 ? 'none' : `${shown.join(' ')}${raw.length > MOST_CARDS ? ' …' : ''}`;
    }
    if (typeof raw === 'boolean') return raw ? 'yes' : 'no';
    const value = raw as number;
    if (t === 'seat') return value < 0 ? 'nothing' : (game.layout.seats[value] ?? 'nobody');
    if (t === 'card')
      return value < 0
        ? 'nothing'
        : game.rt.sees(state, value, viewer)
          ? faceText(game.layout.faces[value] as number)
          : 'a card';
    const written = writeValue(game, toldTo(game, state, viewer), t, value);
    return written === true ? 'yes' : written === false ? 'no' : written === null ? 'nothing' : String(written);
  }
}

function raise(error: unknown): never {
  throw error;
}

const told = (kind: NameNow['kind'], values: readonly NamedValue[]): NameNow | null =>
  values.length === 0 ? null : { kind, values: values.slice(0, MOST_TOLD) };
