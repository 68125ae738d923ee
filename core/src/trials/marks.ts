import { CATEGORIES } from '../hands/score.js';
import { REGULARS } from '../program/names.js';
import type { Type } from '../program/types.js';
import { type Mark, OTHERS } from './counted.js';
import type { TrialArm } from './trial.js';

const RANKS = ['?', 'A', '2', '3', '4', '5', '6', '7', '8', '9', '10', 'J', 'Q', 'K'];
const SUITS = ['spades', 'hearts', 'diamonds', 'clubs'];

/** What a mark stands for, in words. */
export function markWords(
  { program, seats = REGULARS }: Pick<TrialArm, 'program' | 'seats'>,
  type: Type,
  mark: Mark,
): string {
  if (mark === OTHERS) return 'others';
  if (typeof mark === 'string') return mark;
  if (type.startsWith('kind:')) {
    const name = type.slice('kind:'.length);
    const member = program.kinds.find((kind) => kind.name === name)?.members[mark];
    if (member) return member.label ?? member.name;
    return CATEGORIES[mark] ?? String(mark);
  }
  if (mark < 0 && type !== 'int') return 'none';
  switch (type) {
    case 'flag':
      return mark === 1 ? 'yes' : 'no';
    case 'seat':
      return seats[mark] ?? `seat ${mark + 1}`;
    case 'team':
      return `team ${mark + 1}`;
    case 'rank':
      return RANKS[mark] ?? '?';
    case 'suit':
      return SUITS[mark] ?? '?';
    case 'color':
      return mark === 1 ? 'red' : 'black';
    default:
      return String(mark);
  }
}
