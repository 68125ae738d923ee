import type { State } from '../machine/state.js';
import type { Carried } from '../views/events.js';
import type { Undoable } from './undo.js';

/** A state as plain data. Its bytes are as this machine orders them. */
interface FrozenState {
  readonly bytes: Uint8Array;
  readonly refs: readonly unknown[];
}

/**
 * A position of a table as plain data, to be kept outside of this process. Only the same program at the same
 * release reads it again, and its digest says whether it did.
 */
export interface Frozen {
  readonly number: number;
  readonly digest: string;
  readonly state: FrozenState;
  readonly answers: readonly (readonly [number, Carried])[];
  /** What may be taken back, the last choice first. */
  readonly undoable: readonly { readonly seat: number; readonly state: FrozenState; readonly told: boolean }[];
}

export const frozenState = (state: State): FrozenState => ({ bytes: state.bytesCopied(), refs: [...state.refs] });

/** What may be taken back, as a list. */
export function frozenChain(undoable: Undoable | null): Frozen['undoable'] {
  const links: Frozen['undoable'][number][] = [];
  for (let link = undoable; link; link = link.under) {
    const { seat, state, told } = link;
    links.push({ seat, state: frozenState(state), told });
  }
  return links;
}

/** A state from its plain data; `null` where it is of another form. @param blank a state of the form, which is filled */
export const thawedState = (frozen: FrozenState, blank: State): State | null =>
  blank.fill(frozen.bytes, frozen.refs) ? blank : null;

/** The list as a chain again; `undefined` where a state is of another form. */
export function thawedChain(links: Frozen['undoable'], blank: () => State): Undoable | null | undefined {
  let under = null as Undoable | null;
  for (const { seat, state, told } of [...links].reverse()) {
    const thawed = thawedState(state, blank());
    if (!thawed) return undefined;
    under = { seat, state: thawed, under, told, depth: (under?.depth ?? 0) + 1 };
  }
  return under;
}
