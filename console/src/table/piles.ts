import type { OfferedOption, PileState, Plan, TableView } from '@wily-jester/protocol';

/** One pile to draw. */
export interface DrawnPile {
  readonly path: string;
  readonly name: string;
  readonly label: string;
  readonly facing: Plan['piles'][number]['facing'];
  readonly shape: Plan['piles'][number]['shape'];
  readonly state: PileState;
  readonly suit: number | null;
  readonly notes: readonly { readonly name: string; readonly value: unknown }[];
}

/** All piles of a declared one, as a view has them. @param seat only those of one seat */
export function pilesOf(view: TableView, plan: Plan, name: string, seat: number | null = null): DrawnPile[] {
  const declared = plan.piles.find((pile) => pile.name === name);
  if (!declared) return [];
  const found: DrawnPile[] = [];
  const visit = (path: string, node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    if (!('size' in node && typeof node.size === 'number')) {
      for (const [key, inner] of Object.entries(node)) visit(`${path}/${key}`, inner);
      return;
    }
    const steps = path.split('/');
    if (seat !== null && steps[1] !== String(seat)) return;
    const index = declared.of === 'suit' ? Number(steps[1]) - 1 : null;
    const counted = declared.many !== null && index === null ? ` ${steps.at(-1)}` : '';
    found.push({
      path,
      name,
      label: declared.label + counted,
      facing: declared.facing,
      shape: declared.shape,
      state: node as PileState,
      suit: index,
      notes: view.notes[path] ?? [],
    });
  };
  visit(name, (view.piles as Record<string, unknown>)[name]);
  return found;
}

/** The middle of the table: rows of piles, and gaps. */
export function middleOf(view: TableView, plan: Plan, all: boolean): (DrawnPile[] | null)[][] {
  const rows = plan.layout.map((row) => row.map((name) => (name === null ? null : pilesOf(view, plan, name))));
  if (!all) return rows;
  const shown = new Set(plan.layout.flat());
  const rest = plan.piles
    .filter((pile) => pile.of !== 'seat' && !shown.has(pile.name))
    .flatMap((pile) => pilesOf(view, plan, pile.name));
  const filled = rest.filter((pile) => pile.state.size > 0);
  return filled.length > 0 ? [...rows, filled.map((pile) => [pile])] : rows;
}

/** Offers whose first parameter may be the card at a handle. */
export const touchesOf = (offers: readonly OfferedOption[], handle: string): OfferedOption[] =>
  offers.filter(
    (offer) =>
      offer.legal && offer.params[0]?.kind === 'values' && offer.params[0].values?.some((v) => v.value === handle),
  );

/** Legal second values after the first was chosen. */
export const secondsOf = (offer: OfferedOption, first: unknown): unknown[] =>
  (offer.ways ?? []).filter((way) => way[0] === first).map((way) => way[1]);
