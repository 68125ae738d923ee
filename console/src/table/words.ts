import type { TableSummary, TableView } from '@wily-jester/protocol';

/** What a table waits for, in a few words. */
export function statusOf(view: TableView | null, table: TableSummary | null): string {
  const waiting = view?.waiting;
  if (!waiting || !table) return '';
  if (table.status === 'closed') return 'The table is closed';
  if (waiting.kind === 'over') return 'The game is over';
  if (waiting.kind === 'pause') return 'A moment’s rest';
  const names = (waiting.seats ?? []).map((seat) => table.seats[seat - 1]?.name);
  return names.length === 1 ? `${names[0]} is asked` : `${names.slice(0, -1).join(', ')} and ${names.at(-1)} are asked`;
}
