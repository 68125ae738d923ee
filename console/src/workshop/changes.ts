import type { TableView } from '@wily-jester/protocol';

/** A figure that is another one on the new text: where it stands, and what it was. */
export interface Change {
  /** `pot` of the table, `2 chips` of a seat, `stock` of a pile, `hand/1 total` of a note. */
  readonly where: string;
  readonly was: string;
}

function figuresIn(view: TableView): Map<string, string> {
  const found = new Map<string, string>();
  for (const [name, value] of Object.entries(view.values)) found.set(name, String(value));
  for (const seat of view.seats) {
    if (seat.score !== 0) found.set(`${seat.seat} score`, String(seat.score));
    for (const [name, value] of Object.entries(seat.values)) found.set(`${seat.seat} ${name}`, String(value));
  }
  for (const [path, notes] of Object.entries(view.notes))
    for (const { name, value } of notes) found.set(`${path} ${name}`, String(value));
  const visit = (path: string, node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    if ('size' in node && typeof node.size === 'number') found.set(path, String(node.size));
    else for (const [key, inner] of Object.entries(node)) visit(`${path}/${key}`, inner);
  };
  for (const [name, node] of Object.entries(view.piles)) visit(name, node);
  return found;
}

/** The figures that two views of a table both have, and that differ. */
export function changesBetween(before: TableView, after: TableView): Change[] {
  const was = figuresIn(before);
  return [...figuresIn(after)].flatMap(([where, now]) => {
    const old = was.get(where);
    return old === undefined || old === now ? [] : [{ where, was: old }];
  });
}
