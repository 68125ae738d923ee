import { hmac } from '@noble/hashes/hmac.js';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import {
  ABOUT,
  ANSWERED,
  ASK,
  ASKED,
  ASKED_SEAT,
  CHANCES,
  CHAPTERS,
  isRef,
  NUMBER,
  OPENED,
  PAUSE,
  PC,
  SHUFFLES,
  WAIT,
  WAIT_ANY,
  WAIT_ASK,
  WAIT_EVERY,
  WAIT_OVER,
  WAIT_PAUSE,
  WAITS,
} from '../machine/layout.js';
import type { State } from '../machine/state.js';
import type { Variable } from '../program/types.js';
import type { Game } from './game.js';
import { PileWords } from './pile-words.js';

/**
 * A state in words: what it means, and nothing of how it is kept. Asks and calls are named by their
 * place in the sheet, slots by routine and local, so that the words stay the same when code is laid
 * out differently.
 */
export function meaningOf(game: Game, s: State, pileWords = new PileWords(game)): string {
  const { layout, program, parts } = game;
  const { f } = s;
  const lines: string[] = [
    `number ${f[NUMBER]}`,
    `chances ${f[CHANCES]}`,
    ...(game.isKeyed ? [`shuffles ${f[SHUFFLES]}`] : []),
    `chapters ${f[CHAPTERS]} ${JSON.stringify(game.rt.chapterTitle(s))}`,
  ];
  const wait = f[WAIT] as number;
  lines.push(`waits ${WAITS[wait]}`);
  if (wait !== WAIT_OVER) lines.push(`rests ${parts.restPlaces.get(f[PC] as number) ?? 0} since ${f[OPENED]}`);
  if (wait === WAIT_ASK) lines.push(`asks ${program.asks[f[ASK] as number]?.at} of ${f[ASKED_SEAT]} about ${f[ABOUT]}`);
  if (wait === WAIT_EVERY) {
    lines.push(`asks ${program.asks[f[ASK] as number]?.at} of all ${f[ASKED]}`);
    for (let seat = 0; seat < layout.seats.length; seat++)
      lines.push(`answer ${seat} ${JSON.stringify(s.refs[layout.pendingBase + seat])}`);
  }
  if (wait === WAIT_ANY)
    lines.push(`asks ${program.asks[f[ASK] as number]?.at} any ${f[ASKED]} about ${f[ABOUT]} without ${f[ANSWERED]}`);
  if (wait === WAIT_PAUSE) lines.push(`pause ${f[PAUSE]}`);
  for (let seat = 0; seat < layout.seats.length; seat++) lines.push(`score ${seat} ${f[layout.scoreBase + seat]}`);
  for (let i = 0; i < program.vars.length; i++) {
    const { name, t } = program.vars[i] as Variable;
    const base = layout.varBase[i] as number;
    const end = base + (layout.varCount[i] as number);
    // Numbers alone are written as JSON writes them.
    lines.push(
      `var ${name} ${isRef(t) ? JSON.stringify(s.refs.slice(base, end)) : `[${f.subarray(base, end).join()}]`}`,
    );
  }
  const { numberNames, refNames } = parts.slots;
  for (let i = 0; i < numberNames.length; i++) {
    const value = f[layout.slotBase + i] as number;
    if (value === 0) continue;
    const name = numberNames[i] as string;
    lines.push(name.endsWith('()') ? `call ${name} from ${parts.restPlaces.get(value)}` : `slot ${name} ${value}`);
  }
  for (let i = 0; i < refNames.length; i++) {
    const value = s.refs[layout.refSlotBase + i];
    if (value !== null) lines.push(`slot ${refNames[i]} ${JSON.stringify(value)}`);
  }
  for (let i = 0; i < game.promisedPiles.length; i++) lines.push(`promised ${i} ${f[game.promisedBase + i]}`);
  for (let p = 0; p < layout.piles.length; p++) lines.push(pileWords.of(s, p));
  return lines.join('\n');
}

/** HMAC-SHA-256 (RFC 2104) of a text, as hexadecimal digits. */
export type Hmac = (key: Uint8Array, text: string) => string;

/** An HMAC that runs everywhere. A quicker one may be passed instead: the digits are the same. */
export const pureHmac: Hmac = (key, text) => bytesToHex(hmac(sha256, key, utf8ToBytes(text)));

/** Digests of one table's states: 32 hexadecimal digits each, under a key that only the table's keeper has. */
export class Digests {
  private readonly pileWords: PileWords;

  constructor(
    private readonly game: Game,
    private readonly key: Uint8Array,
    private readonly hmac: Hmac = pureHmac,
  ) {
    this.pileWords = new PileWords(game);
  }

  of(state: State): string {
    return this.hmac(this.key, meaningOf(this.game, state, this.pileWords)).slice(0, 32);
  }
}

/** The fingerprint of anything that can be written as JSON, for views that clients compare. */
export function digestOfView(view: unknown): string {
  return bytesToHex(sha256(utf8ToBytes(JSON.stringify(view)))).slice(0, 32);
}
