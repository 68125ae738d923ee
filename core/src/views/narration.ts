import { pileCalled } from '../machine/pile-names.js';
import type { Rules } from '../rules/rules.js';
import type { TableEvent } from './events.js';

/** The option under which a seat takes back its last choice; no sheet can name one so. */
export const UNDO = 'undo';

/** One line of what was said at the table. */
export interface Line {
  /** The number of the step that made it. */
  readonly number: number;
  readonly kind: 'chapter' | 'said' | 'chosen' | 'dealt' | 'table';
  /** The seat that it is about, counted from 1. */
  readonly seat: number | null;
  readonly text: string;
}

/** The third person of a verb: `hit` hits, `pass` passes, `carry` carries. */
export function third(verb: string): string {
  if (/[^aeiou]y$/.test(verb)) return `${verb.slice(0, -1)}ies`;
  return /(s|x|z|ch|sh|o)$/.test(verb) ? `${verb}es` : `${verb}s`;
}

/** A verb phrase after a name: its first word in the third person. */
function does(phrase: string, you: boolean): string {
  const [verb = '', ...rest] = phrase.split(' ');
  return [you ? verb : third(verb), ...rest].join(' ');
}

const listOfCards = (faces: readonly (string | null)[]): string => {
  const seen = faces.filter((face) => face !== null);
  const unseen = faces.length - seen.length;
  const parts = seen.length > 0 ? [seen.join(' ')] : [];
  if (unseen > 0) parts.push(unseen === 1 ? 'a card' : `${unseen} cards`);
  return parts.join(' and ');
};

/**
 * Puts a step into sentences, from events that are already redacted for the viewer: what seats chose,
 * what they got, what the table laid out and what the script says. An option whose body says something
 * of its seat is not repeated.
 */
export function tell(rules: Rules, events: readonly TableEvent[], number: number, viewer: number): Line[] {
  const lines: Line[] = [];
  const name = (seat: number): string => (seat - 1 === viewer ? 'You' : (rules.layout.seats[seat - 1] ?? 'Nobody'));
  const got = new Map<string, (string | null)[]>();
  let chosen: { seat: number; phrase: string; gains: (string | null)[] } | null = null;

  const pileOf = (path: string): { seat: number; label: string | null; shown: boolean } => {
    const placed = rules.layout.piles.find((p) => p.path === path);
    const decl = rules.program.piles[placed?.decl ?? 0];
    const of = decl?.by ?? 'table';
    const label =
      placed && decl?.label ? pileCalled({ label: decl.label, of }, placed.steps.slice(1).map(Number)) : null;
    return { seat: (placed?.seat ?? -1) + 1, label, shown: decl?.facing === 'up' };
  };
  /** Whether the script says itself what a seat has just chosen: of the seat by name, and nothing that we know better. */
  const speaksOf = ({ seat, gains }: { seat: number; gains: readonly (string | null)[] }, text: string): boolean =>
    gains.every((face) => face === null) && text.startsWith(`${rules.layout.seats[seat - 1]} `);
  const flushChosen = (): void => {
    if (!chosen) return;
    const { seat, phrase } = chosen;
    // What the label names is not told twice.
    const gains = chosen.gains.filter((face) => face === null || !phrase.includes(face));
    const you = seat - 1 === viewer;
    const gain = gains.length > 0 ? ` and ${you ? 'get' : 'gets'} ${listOfCards(gains)}` : '';
    lines.push({ number, kind: 'chosen', seat, text: `${name(seat)} ${does(phrase, you)}${gain}.` });
    chosen = null;
  };
  const flushDealt = (): void => {
    for (const [path, faces] of got) {
      const { seat, label } = pileOf(path);
      if (seat > 0) {
        const verb = seat - 1 === viewer ? 'get' : 'gets';
        lines.push({ number, kind: 'dealt', seat, text: `${name(seat)} ${verb} ${listOfCards(faces)}.` });
      } else if (label)
        lines.push({
          number,
          kind: 'table',
          seat: null,
          text: `${label.charAt(0).toUpperCase()}${label.slice(1)} ${third('get')} ${listOfCards(faces)}.`,
        });
    }
    got.clear();
  };
  const flush = (): void => {
    flushChosen();
    flushDealt();
  };
  const [first] = events;
  if (first?.kind === 'chosen' && first.option === UNDO) {
    const you = first.seat - 1 === viewer;
    return [{ number, kind: 'chosen', seat: first.seat, text: `${name(first.seat)} ${does(first.label, you)}.` }];
  }
  for (const event of events) {
    switch (event.kind) {
      case 'chosen':
        flush();
        chosen = { seat: event.seat, phrase: event.label, gains: [] };
        break;
      case 'moved': {
        const to = pileOf(event.to);
        const from = pileOf(event.from);
        const cards = new Array<string | null>(event.count ?? 1).fill(event.face);
        if (chosen !== null && to.seat === (chosen as { seat: number }).seat && from.seat === 0) {
          (chosen as { gains: (string | null)[] }).gains.push(...cards);
          break;
        }
        if (from.seat > 0 || (to.seat === 0 && to.label === null)) break;
        flushChosen();
        got.set(event.to, [...(got.get(event.to) ?? []), ...cards]);
        break;
      }
      case 'turned': {
        const { label } = pileOf(event.pile);
        if (event.face === null || label === null) break;
        flush();
        lines.push({
          number,
          kind: 'table',
          seat: null,
          text: `${label.charAt(0).toUpperCase()}${label.slice(1)} shows ${event.face}.`,
        });
        break;
      }
      case 'chapter':
        flush();
        lines.push({ number, kind: 'chapter', seat: null, text: event.title });
        break;
      case 'said':
        // What the script says of a choice is said better than by us.
        if (chosen !== null && speaksOf(chosen, event.text)) chosen = null;
        flush();
        lines.push({ number, kind: 'said', seat: null, text: event.text });
        break;
      case 'told':
        flush();
        lines.push({ number, kind: 'said', seat: null, text: event.text });
        break;
      default:
    }
  }
  flush();
  return lines;
}
