/** What was counted as plain data: handed from worker to worker, and kept by jobs. */
import { type Cell, Counts, type Mark, type Quantity } from './counted.js';
import { type Exact, exactFrom, exactJson } from './exact.js';

type Sum = number | string;

interface QuantityJson {
  readonly key: Mark | null;
  readonly sums: readonly [x: Sum, xx: Sum, xy: Sum, crossXX: Sum, crossXY: Sum, crossYX: Sum];
  /** Least and most; missing where no values are kept. */
  readonly ends?: readonly [number, number];
  readonly coarse?: true;
  /** By part: values and how often each was counted, in turn. */
  readonly values?: readonly (readonly number[])[];
}

interface CellJson {
  readonly marks: readonly Mark[];
  readonly games: number;
  readonly sums: readonly [y: Sum, yy: Sum, crossYY: Sum];
  readonly quantities: readonly QuantityJson[];
}

/** One tally's counts. */
export interface CountsJson {
  readonly keys: number;
  readonly cells: readonly CellJson[];
}

const quantityJson = (of: Quantity): QuantityJson => ({
  key: of.key,
  sums: [of.x, of.xx, of.xy, ...of.cross].map(exactJson) as unknown as QuantityJson['sums'],
  ...(of.values.length > 0 ? { ends: [of.least, of.most] as const, values: Array.from(of.values, pairs) } : {}),
  ...(of.isCoarse ? { coarse: true as const } : {}),
});

/** A map as its entries, in turn. A part that holds nothing yet is empty. */
const pairs = (map: ReadonlyMap<number, number> | undefined): number[] => [...(map ?? [])].flat();

export const countsJson = (counts: Counts): CountsJson => ({
  keys: counts.keys,
  cells: counts.cells.map((cell) => ({
    marks: cell.marks,
    games: cell.games,
    sums: [cell.y, cell.yy, cell.cross].map(exactJson) as unknown as CellJson['sums'],
    quantities: [...cell.quantities.values()].map(quantityJson),
  })),
});

/** Counts as {@link countsJson} writes them. @param tallies as in {@link Counts} */
export function countsFrom(json: CountsJson, tallies = 1): Counts {
  const counts = new Counts(json.keys, tallies);
  for (const from of json.cells) {
    const [first = 0, second = 0] = from.marks;
    fill(counts.cell(first, second), from);
  }
  return counts;
}

function fill(cell: Cell, from: CellJson): void {
  cell.games = from.games;
  const [y, yy, cross] = from.sums.map(exactFrom) as [Exact, Exact, Exact];
  cell.y = y;
  cell.yy = yy;
  cell.cross = cross;
  for (const json of from.quantities) {
    const into = cell.quantity(json.key);
    const [x, xx, xy, ...products] = json.sums.map(exactFrom) as [Exact, Exact, Exact, Exact, Exact, Exact];
    into.x = x;
    into.xx = xx;
    into.xy = xy;
    for (const i of [0, 1, 2] as const) into.cross[i] = products[i] ?? 0;
    into.isCoarse = json.coarse === true;
    if (json.ends) [into.least, into.most] = json.ends;
    for (const [part, list] of (json.values ?? []).entries()) {
      if (list.length === 0) continue;
      const map = new Map<number, number>();
      for (let i = 0; i < list.length; i += 2) map.set(list[i] as number, list[i + 1] as number);
      into.values[part] = map;
    }
  }
}
