import { type Piece, wordsOf } from '../machine/text.js';
import { MOVED, SHUFFLED, TURNED, WIDTH } from '../machine/trace.js';

/** Words that no verb phrase begins with: articles, prepositions, pronouns, numerals and the like. */
const NO_VERBS: ReadonlySet<string> = new Set(
  `a an the this that these those my your its their his her our all both half each every any some no not none more less most
   least only alone one two three four five six seven eight nine ten i you he she it we they and or but if as at by for from
   in into of off on onto out over to under up with without yes`.split(/\s+/),
);

/**
 * A label as a phrase that a sentence can be made of: it begins with a verb. Where it begins with a value, or with a word
 * that is none, the option's name gives the verb.
 */
export function phraseOf(option: string, label: readonly Piece[]): readonly Piece[] {
  const [first] = label;
  const word = typeof first === 'string' ? /^[a-z][a-z-]*/.exec(first)?.[0] : undefined;
  if (word !== undefined && !NO_VERBS.has(word)) return label;
  const verb = wordsOf(option);
  return [verb, verb.includes(' ') ? ': ' : ' ', ...label];
}

/**
 * The same pieces with each card named to those who saw it at its first move or turn in the step: what was laid open has
 * a name. A shuffle ends that: what went under has none.
 * @param rows of the step's trace
 */
export function namedBy(rows: readonly number[], pieces: readonly Piece[]): readonly Piece[] {
  const seen = new Map<number, number>();
  for (let at = 0; at < rows.length && rows[at] !== SHUFFLED; at += WIDTH) {
    const card = rows[at + 1] as number;
    if ((rows[at] === MOVED || rows[at] === TURNED) && card >= 0 && !seen.has(card))
      seen.set(card, (rows[at + 4] as number) | (rows[at + 5] as number));
  }
  return namedTo(pieces, (card) => seen.get(card) ?? 0);
}

/** The same pieces with each card named to more viewers. @param more by card, as masks of viewers are */
export function namedTo(pieces: readonly Piece[], more: (card: number) => number): readonly Piece[] {
  const named = (piece: Piece): Piece => {
    if (typeof piece !== 'object') return piece;
    if (Array.isArray(piece)) return (piece as readonly Piece[]).map(named);
    if ('card' in piece) return { card: piece.card, mask: piece.mask | more(piece.card) };
    if ('cards' in piece)
      return { cards: piece.cards, masks: piece.masks.map((mask, i) => mask | more(piece.cards[i] as number)) };
    return piece;
  };
  return pieces.map(named);
}
