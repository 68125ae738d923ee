import { faceText, RANKS, SUITS } from '../cards/face.js';
import type { Answer } from '../machine/code.js';
import { ASK } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { copiesOf } from '../rules/copies.js';
import type { Game } from '../rules/game.js';

/** What a choice gives: cards by their faces, or something that is found by asking. */
type Given = { readonly face: string } | { readonly faces: readonly string[] } | { readonly probe: number };

/** A pile as rehearsals write it. */
function pileWritten({ layout, program }: Game, p: number): string {
  const placed = layout.piles[p];
  const decl = program.piles[placed?.decl ?? 0];
  if (!placed || !decl) return 'pack';
  const { index, seat } = placed;
  const name = seat >= 0 ? `${layout.seats[seat]}.${decl.name}` : decl.name;
  if (index < 0) return name;
  if (decl.cells) return `${name}[${(decl.cells.keys[index] ?? []).join(', ')}]`;
  const number = index + 1;
  const words = { suit: SUITS[index], rank: RANKS[number], team: `teams[${number}]` };
  return `${name}[${(decl.by && words[decl.by]) ?? number}]`;
}

/**
 * Why a choice does not say which card it means: it names one by its face, and copies of it that lie in several piles
 * could be chosen. `null` where it is clear.
 */
export function ambiguity(
  game: Game,
  state: State,
  { seat, args }: { readonly seat: number; readonly args: readonly Given[] },
  answer: Answer,
): string | null {
  const ask = state.f[ASK] as number;
  const option = game.code.options[ask]?.[answer.option];
  const isLegal = (values: Answer['args']): boolean =>
    game.code.legal[ask]?.(state, seat, answer.option, values) === true;
  for (const [i, arg] of args.entries()) {
    const domain = option?.domains[i];
    if (!domain || domain.k === 'range' || 'probe' in arg) continue;
    const list = domain.list(state, seat, ...answer.args.slice(0, i));
    const chosen = answer.args[i] as number | readonly number[];
    for (const card of typeof chosen === 'number' ? [chosen] : chosen) {
      const others = copiesOf(game, card, list).filter((copy) => {
        if (copy === card || (typeof chosen !== 'number' && chosen.includes(copy))) return false;
        const instead =
          typeof chosen === 'number' ? copy : list.filter((c) => c === copy || (c !== card && chosen.includes(c)));
        return isLegal([...answer.args.slice(0, i), instead, ...answer.args.slice(i + 1)]);
      });
      const elsewhere = others.filter((copy) => state.where[copy] !== state.where[card]);
      if (elsewhere.length === 0) continue;
      const written = [card, ...elsewhere].map(
        (c) => `${pileWritten(game, state.where[c] as number)}[${game.rt.indexOf(state, c) + 1}]`,
      );
      return `several ${faceText(game.layout.faces[card] as number)} can be chosen: write ${written.join(' or ')}.`;
    }
  }
  return null;
}
