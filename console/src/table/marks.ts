import type { OfferedOption } from '@wily-jester/protocol';

/**
 * Where an amount may be set at once: the ends, and what the sheet names between them. Each amount stands there once,
 * by its name if it has one.
 */
export function marksOf(param: OfferedOption['params'][number] | undefined): { value: number; text: string }[] {
  const { from = 0, to = 0, landmarks = [] } = param ?? {};
  const between = new Map<number, string>();
  for (const { value, label } of landmarks) {
    if (value <= from || value >= to || (between.has(value) && !label)) continue;
    between.set(value, label ? `${value} ${label}` : String(value));
  }
  const named = [...between].map(([value, text]) => ({ value, text }));
  return [{ value: from, text: String(from) }, ...named, { value: to, text: `${to} all` }];
}
