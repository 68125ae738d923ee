import { isRef } from '../machine/layout.js';
import type { Variable } from '../program/types.js';
import { keysOf } from '../rules/kept-for.js';

/** Whether a variable is drawn, and beside what. */
export function isDrawn(variable: Pick<Variable, 'label' | 'of' | 't'>, beside: 'table' | 'seat' | 'pile'): boolean {
  if (variable.label === null || (isRef(variable.t) && variable.t !== 'text')) return false;
  const [first] = keysOf(variable);
  return beside === (first?.k === 'seat' || first?.k === 'pile' ? first.k : 'table');
}

/**
 * What a figure of a view is called: its label, and whose it is where there are several, as in "met keen".
 * @param name as the view has it, such as `met[keen]`
 */
export function figureCalled(labels: Readonly<Record<string, string>>, name: string): string {
  const at = name.indexOf('[');
  if (at < 0) return labels[name] ?? name;
  const base = name.slice(0, at);
  return `${labels[base] ?? base} ${name.slice(at + 1, -1)}`;
}
