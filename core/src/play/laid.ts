import { type Face, parseFaces } from '../cards/face.js';
import { chachaChance, deriveKey, seedFrom } from '../chance/chacha.js';
import { commitToOrder } from '../chance/commitment.js';
import type { Chance } from '../chance/generator.js';
import type { Sha256 } from '../chance/short-hmac.js';
import { TurningChance } from '../chance/turning.js';
import { Pledge } from '../fair/pledge.js';
import type { State } from '../machine/state.js';
import type { Program } from '../program/types.js';
import { Digests, type Hmac } from '../rules/digest.js';
import { Game, type Opening } from '../rules/game.js';
import { factsOf, Openings } from './openings.js';
import type { Header } from './record.js';

/** What a table may be opened with besides its header. */
export interface TableOptions {
  /** Publishes a commitment to each shuffle. */
  readonly live?: boolean;
  /** Changes the first state before anything happens, as rehearsals do. */
  readonly prepare?: (game: Game, state: State) => void;
  readonly reached?: Opening['reached'];
  readonly counting?: Opening['counting'];
  /** Cards are followed from each shuffle on, so that they can be opened. */
  readonly openings?: boolean;
  /** Seats that may think: the table keeps what they have seen, and what others' choices tell them. */
  readonly thinking?: readonly number[];
  /** Another chance than that of the header's seed, as soaks have one. */
  readonly chance?: Chance;
  /** Keeps promises by way of other piles and whole ones too; for this it keeps what each seat has seen. */
  readonly rehearsing?: boolean;
  /** Makes the digests, and the commitments, where a quicker way is at hand. */
  readonly hmac?: Hmac;
  readonly sha256?: Sha256;
}

/** What a table is made of before its first step. */
export interface Laid {
  readonly game: Game;
  readonly chance: TurningChance;
  readonly pledge: Pledge | null;
  readonly openings: Openings | null;
  readonly digests: Digests;
}

/**
 * Puts together the game of a table, its chance, and what it promises of its shuffles.
 * @throws SetupError or FaceError where the header does not fit the program
 */
export function layTable(program: Program, header: Header, options: TableOptions): Laid {
  const seed = seedFrom(header.seed);
  const facts = header.fair ? factsOf(program, header, header.fair) : null;
  const pledge = facts ? new Pledge(facts, seed, header.fair?.gave) : null;
  const chance = new TurningChance(options.chance ?? pledge?.chance ?? chachaChance(seed));
  let openings: Openings | null = null;
  const game: Game = new Game(program, {
    ...header,
    chance,
    tracking: options.rehearsing === true || (options.thinking ?? []).length > 0 || (header.branches?.length ?? 0) > 0,
    rehearsing: options.rehearsing === true,
    promised: Object.fromEntries(Object.entries(header.gets ?? {}).map(([path, faces]) => [path, parseFaces(faces)])),
    reached: options.reached,
    counting: options.counting,
    commit: options.live
      ? (shuffled) => {
          const order = Array.from(shuffled.cards, (card) => game.layout.faces[card] as Face);
          if (!pledge) return commitToOrder(order, deriveKey(seed, 'salt', shuffled.count), options.sha256);
          const { root } = pledge.tree(shuffled.shuffle, order, options.sha256);
          openings?.shuffled(shuffled, root);
          return root;
        }
      : undefined,
  });
  if (pledge && facts && options.openings) openings = new Openings(game, pledge, facts, header.fair, options.sha256);
  const digests = new Digests(game, pledge?.key('digest') ?? deriveKey(seed, 'digest', 0), options.hmac);
  return { game, chance, pledge, openings, digests };
}
