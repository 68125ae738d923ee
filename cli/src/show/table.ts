import { figureCalled, pileCalled } from '@wily-jester/core';
import type { OfferedOption, PileState, Plan, TableSummary, TableView } from '@wily-jester/protocol';
import { cards, padded, paint, sentence } from './paint.js';

const NAME_WIDTH = 12;

/** All piles of one declared pile: its path and what is seen of it. */
export function pilesOf(view: TableView, name: string): [string, PileState][] {
  const found: [string, PileState][] = [];
  const visit = (path: string, node: unknown): void => {
    if (typeof node !== 'object' || node === null) return;
    if ('size' in node && typeof node.size === 'number') found.push([path, node as PileState]);
    else for (const [key, inner] of Object.entries(node)) visit(`${path}/${key}`, inner);
  };
  visit(name, (view.piles as Record<string, unknown>)[name]);
  return found;
}

function pileText(pile: PileState): string {
  if (pile.size === 0) return paint.dim('empty');
  if (!pile.cards)
    return pile.size <= 5 ? `${cards(new Array<null>(pile.size).fill(null))}` : `${cards([null])} ${pile.size} cards`;
  return cards(pile.cards);
}

/** Figures with the words for them; a text speaks for itself. */
const notesText = (view: TableView, plan: Plan, path: string): string =>
  (view.notes[path] ?? [])
    .map(({ name, value }) => {
      const words = figureCalled(wordsOfNotes(plan), name);
      if (typeof value === 'boolean') return value ? words : '';
      return typeof value === 'string' && !name.includes('[') ? value : figureText(words, name, value);
    })
    .filter(Boolean)
    .join(' · ');

const wordsOfNotes = (plan: Plan): Readonly<Record<string, string>> =>
  Object.fromEntries(plan.notes.map(({ name, words }) => [name, words]));

/** A figure with its words. One flag of many is its words alone where it is set, and nothing where it is not. */
function figureText(words: string, name: string, value: TableView['values'][string] | undefined): string {
  if (typeof value === 'boolean' && name.includes('[')) return value ? words : '';
  return `${words} ${value === null ? 'none' : value === true ? 'yes' : value === false ? 'no' : String(value)}`;
}

function valuesText(values: TableView['values'], labels: Readonly<Record<string, string>>): string {
  return Object.entries(values)
    .map(([name, value]) => figureText(figureCalled(labels, name), name, value))
    .filter(Boolean)
    .join(' · ');
}

/** A table as lines of text, as one viewer sees it. */
export function tableLines(view: TableView, plan: Plan): string[] {
  const lines: string[] = [];
  const heading = view.chapter.title || plan.name;
  lines.push(`${paint.bold(heading)}  ${paint.dim(`number ${view.number}`)}`);
  const onTable = plan.piles.filter((pile) => pile.of !== 'seat');
  const laidOut = plan.layout.flat().filter((name) => name !== null);
  // The open view also shows the piles that the layout leaves out.
  const shown = view.viewer === 'open' ? onTable : onTable.filter((pile) => laidOut.includes(pile.name));
  for (const pile of shown)
    for (const [path, state] of pilesOf(view, pile.name)) {
      if (state.size === 0 && (pile.open || pile.spots)) continue;
      const called = pileCalled(pile, path.split('/').slice(1).map(Number));
      lines.push(`  ${padded(called, NAME_WIDTH)} ${pileText(state)}${note(view, plan, path)}`);
    }
  const table = valuesText(view.values, plan.labels.table);
  if (table) lines.push(`  ${paint.dim(table)}`);
  lines.push('');
  const asked = view.waiting.kind === 'ask' ? (view.waiting.seats ?? []) : [];
  for (const seat of view.seats) {
    const own = seat.seat === view.viewer ? ', you' : '';
    const mark = asked.includes(seat.seat) ? paint.yellow('▸') : ' ';
    const piles = plan.piles
      .filter((pile) => pile.of === 'seat')
      .flatMap((pile) => pilesOf(view, pile.name).filter(([path]) => path.split('/')[1] === String(seat.seat)));
    const hands = piles.map(([path, state]) => `${pileText(state)}${note(view, plan, path)}`).join('  ');
    const values = valuesText(seat.values, plan.labels.seat);
    const score = seat.score === 0 ? '' : `score ${seat.score}`;
    lines.push(
      `${mark} ${padded(seat.name + own, NAME_WIDTH)} ${hands}  ${paint.dim([values, score, notesText(view, plan, `seat/${seat.seat}`)].filter(Boolean).join(' · '))}`.trimEnd(),
    );
  }
  return lines;
}

const note = (view: TableView, plan: Plan, path: string): string => {
  const text = notesText(view, plan, path);
  return text ? `  ${paint.dim(`(${text})`)}` : '';
};

/** How an option is worded for a person: its parameters as `amount 10 to 200`. */
function optionText(offer: OfferedOption): string {
  const params = offer.params.map((param) => {
    if (param.kind === 'range') {
      const marks = (param.landmarks ?? []).map((mark) =>
        mark.label ? `${mark.label} ${mark.value}` : String(mark.value),
      );
      return `${param.name} ${param.from} to ${param.to}${(param.by ?? 1) > 1 ? ` by ${param.by}` : ''}${marks.length > 0 ? ` (${marks.join(', ')})` : ''}`;
    }
    if (param.kind === 'cards') {
      const { least = 0, most = null } = param;
      const range = most === null ? '' : least === most ? ` ${most} of` : ` ${least} to ${most} of`;
      return `${param.name}:${range} ${(param.values ?? []).map((v) => v.face ?? String(v.value)).join(' ')}`;
    }
    if (param.kind === 'values')
      return `${param.name}: ${(param.values ?? []).map((v) => v.face ?? String(v.value)).join(' ')}`;
    return param.name;
  });
  const on = offer.on.length > 0 ? ` on ${offer.on.join(', ')}` : '';
  return `${offer.label.replace(/ ?\{(\w+)\}/g, ' …')}${on}${params.length > 0 ? `  ${paint.dim(params.join('; '))}` : ''}`;
}

/** What may be chosen, numbered, and what may not now with the reason. */
export function offerLines(offers: readonly OfferedOption[]): string[] {
  let number = 0;
  return offers.map((offer) => {
    const name = padded(offer.option, NAME_WIDTH);
    return offer.legal
      ? `  ${paint.yellow(String(++number))}  ${name} ${optionText(offer)}${offer.byClock ? paint.dim('  (the clock plays this)') : ''}`
      : `  ${paint.dim(`–  ${name} not now: `)}${sentence(offer.reason ?? '')}`;
  });
}

/** A table in two lines: what it is, how it stands, who sits there. */
export function tableLine(table: TableSummary): string {
  const seats = table.seats.map((seat) => (seat.bot ? `${seat.name} (${seat.bot})` : seat.name)).join(', ');
  const standing = table.unplayable ? `only read beyond ${table.unplayable.number}` : table.status;
  const where = `${table.chapter || 'before the first chapter'} · number ${table.number} · ${standing}`;
  return `${paint.bold(table.id)}  ${table.game}  ${paint.dim(where)}\n  ${seats}`;
}
