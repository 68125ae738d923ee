import { signed } from '@wily-jester/charts';
import { figureCalled } from '@wily-jester/core';
import type { TableSummary, TableView } from '@wily-jester/protocol';

/** What a table waits for, in a few words. */
export function statusOf(view: TableView | null, table: TableSummary | null): string {
  const waiting = view?.waiting;
  if (!waiting || !table) return '';
  if (table.status === 'closed') return 'The table is closed';
  if (waiting.kind === 'over') return 'The game is over';
  if (waiting.kind === 'pause') return 'A moment’s rest';
  const names = (waiting.seats ?? []).map((seat) => table.seats[seat - 1]?.name);
  if (waiting.how === 'any')
    return `${names.slice(0, -1).join(', ')}${names.length > 1 ? ' or ' : ''}${names.at(-1)} may be first`;
  const [only] = waiting.seats ?? [];
  const bot = only === undefined ? null : table.seats[only - 1]?.bot;
  if (names.length === 1 && bot?.startsWith('thinking')) return `${names[0]} thinks`;
  return names.length === 1 ? `${names[0]} is asked` : `${names.slice(0, -1).join(', ')} and ${names.at(-1)} are asked`;
}

/** A figure as it stands at the table, with a true minus sign; whatever is no number stays as it is. */
export function figureWords(value: unknown): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (value === null) return 'none';
  return typeof value === 'number' && value < 0 ? `−${-value}` : String(value);
}

/** The figures of a view that are drawn, with their words. One flag of many is its words alone where it is set. */
export function drawnFigures(
  values: Readonly<Record<string, unknown>>,
  labels: Readonly<Record<string, string>>,
): { name: string; words: string; value: string }[] {
  return Object.entries(values).flatMap(([name, value]) => {
    const isOneOfMany = name.includes('[') && typeof value === 'boolean';
    if (isOneOfMany && !value) return [];
    return [{ name, words: figureCalled(labels, name), value: isOneOfMany ? '' : figureWords(value) }];
  });
}

/** A change, with its sign. */
export const changeWords = (change: number): string => (change > 0 ? `+${change}` : figureWords(change));

/** What a choice is worth, with the 95 % interval of it: `+1.2 ± 0.4`. */
export const worthWords = (mean: number, error: number): string => `${signed(mean, 1)} ± ${(1.96 * error).toFixed(1)}`;

/** A word for a choice that nobody used before; browsers have no `randomUUID` where the address is not their own machine's. */
export const newWord = (): string =>
  typeof crypto.randomUUID === 'function'
    ? crypto.randomUUID()
    : [...crypto.getRandomValues(new Uint8Array(16))].map((b) => b.toString(16)).join('');

/** Words that lead to a value, and lead nowhere without it. */
const LEADING = /( (to|for|of|at|by|with|on|from|in))? ?…$/;

/** An option in words, before its values are chosen: "raise to {total}" is "raise", "bring {c} home" is "bring … home". */
export function offerWords(label: string): string {
  let words = label.replace(/\{\w+\}\w*/g, '…');
  while (LEADING.test(words)) words = words.replace(LEADING, '');
  return words.trim() || label.replace(/[{}]/g, '');
}

/** A plain value of a choice on a button. */
export function valueWords(view: TableView, type: string, value: unknown): string {
  if (type === 'seat') return view.seats[Number(value) - 1]?.name ?? String(value);
  return value === true ? 'yes' : value === false ? 'no' : String(value);
}
