import banks from '../../../sheets/starters/between-the-banks.motley?raw';
import banksTests from '../../../sheets/starters/between-the-banks.rehearsal.motley?raw';
import heron from '../../../sheets/starters/high-heron.motley?raw';
import heronTests from '../../../sheets/starters/high-heron.rehearsal.motley?raw';
import stones from '../../../sheets/starters/nine-stones.motley?raw';
import stonesTests from '../../../sheets/starters/nine-stones.rehearsal.motley?raw';

/** A game to begin with: small, whole, and of another kind than the others. */
export interface Starter {
  readonly name: string;
  readonly kind: string;
  readonly words: string;
  readonly sheet: string;
  readonly rehearsals: string;
}

/** For whoever would rather begin with nothing: what every game needs, and no rule. */
export const EMPTY = `// What the game is, in a sentence.
game "New Game" for 2 to 4 seats {

  deck standard

  pile hand of each seat private as fan

  play {
    shuffle pack
    deal 5 each from pack to hand
    finish
  }
}
`;

export const STARTERS: readonly Starter[] = [
  {
    name: 'High Heron',
    kind: 'A drawing game',
    words: 'Draw or stay out; the highest card drawn takes the round.',
    sheet: heron,
    rehearsals: heronTests,
  },
  {
    name: 'Between the Banks',
    kind: 'A betting game',
    words: 'Two cards are the banks. Bet that the next one falls between them.',
    sheet: banks,
    rehearsals: banksTests,
  },
  {
    name: 'Nine Stones',
    kind: 'A patience',
    words: 'Nine cards lie open. Take pairs that make eleven, until none is left.',
    sheet: stones,
    rehearsals: stonesTests,
  },
];
