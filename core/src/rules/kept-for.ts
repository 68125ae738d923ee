import { faceText, RANKS, rankOf, SUITS, suitOf } from '../cards/face.js';
import type { StateLayout } from '../machine/layout.js';
import type { Key, Variable } from '../program/types.js';

/** One of those that a variable has a value for. */
interface Owner {
  /** Its place among them, from 0. */
  readonly i: number;
  readonly words: string;
}

/** A longer label is no name: what it stands for is told by its own. */
const LONGEST = 60;

const numbered = (words: readonly string[]): Owner[] => words.map((word, i) => ({ i, words: word }));

/** By table, then by key: every view of it asks for them. */
const known = new WeakMap<StateLayout, Map<string, readonly Owner[]>>();

/** Those that a variable has a value for, in words; ranks and suits that no card of the deck bears are left out. */
function ownersOf(layout: StateLayout, key: Key): readonly Owner[] {
  const owners = known.get(layout) ?? new Map<string, readonly Owner[]>();
  known.set(layout, owners);
  const name = key.k === 'kind' ? `kind ${key.kind}` : key.k === 'pile' ? `pile ${key.pile}` : key.k;
  const found = owners.get(name) ?? listed(layout, key);
  owners.set(name, found);
  return found;
}

function listed({ program, seats, piles, faces }: StateLayout, key: Key): Owner[] {
  switch (key.k) {
    case 'seat':
      return numbered(seats);
    case 'team':
      return Array.from({ length: program.teams }, (_, i) => ({ i, words: `team ${i + 1}` }));
    case 'suit': {
      const borne = new Set(faces.map(suitOf));
      return numbered(SUITS).filter(({ i }) => borne.has(i));
    }
    case 'rank': {
      const borne = new Set(faces.map(rankOf));
      return numbered(RANKS).filter(({ i }) => borne.has(i));
    }
    case 'kind':
      return numbered(
        (program.kinds[key.kind]?.members ?? []).map(({ name, label }) =>
          label !== null && label.length <= LONGEST ? label : name,
        ),
      );
    case 'pile':
      return numbered(piles.filter(({ decl }) => decl === key.pile).map(({ path }) => path));
    case 'card':
      return numbered(faces.map(faceText));
  }
}

/** What a variable has a value for, one key after the other: none where there is one value alone. */
export const keysOf = ({ of }: Pick<Variable, 'of'>): readonly Key[] =>
  of.k === 'table' ? [] : of.k === 'pair' ? of.keys : [of];

/** One value of a variable: whose it is, first key first, and where it is kept. */
export interface KeptValue {
  readonly owners: readonly Owner[];
  readonly slot: number;
}

/** All values of a variable, by its number. @param beside only those of one owner of the first key, by its place */
export function keptValues(layout: StateLayout, variable: number, beside: number | null = null): KeptValue[] {
  const declared = layout.program.vars[variable];
  const base = layout.varBase[variable] as number;
  const [first, second] = declared ? keysOf(declared) : [];
  if (!first) return [{ owners: [], slot: base }];
  const width = layout.varWidth[variable] as number;
  return ownersOf(layout, first)
    .filter(({ i }) => beside === null || i === beside)
    .flatMap((one): KeptValue[] =>
      second
        ? ownersOf(layout, second).map((other) => ({ owners: [one, other], slot: base + one.i * width + other.i }))
        : [{ owners: [one], slot: base + one.i * width }],
    );
}
