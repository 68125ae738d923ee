import { faceText } from '../cards/face.js';
import type { Arg, DomainCode, OptionCode } from '../machine/code.js';
import { TooDear } from '../machine/fault.js';
import { ASK } from '../machine/layout.js';
import type { State } from '../machine/state.js';
import { render, wordsOf } from '../machine/text.js';
import type { Option, Param } from '../program/types.js';
import { eachValue, setSizes } from '../rules/domains.js';
import { asSeen } from '../rules/handles.js';
import { whyNot } from '../rules/judge.js';
import { isLegal, waysOf } from '../rules/legal.js';
import { renderingFor } from '../rules/rendering.js';
import type { Rules } from '../rules/rules.js';
import type { Naming } from '../rules/values.js';
import { type ArgValue, type Value, writeArg, writeValue } from '../rules/values.js';

/** Orders handles by their places, `#10` behind `#9`. */
const byNumber = new Intl.Collator('en', { numeric: true });

/** Greatest number of ways that are listed whole in an offer. */
const MOST_LISTED = 256;

/** What one parameter may be, so that a client that knows nothing of the game can draw it. */
export type OfferedParam = { readonly name: string; readonly type: string } & (
  | {
      readonly kind: 'range';
      readonly from: number;
      readonly to: number;
      readonly by: number;
      readonly landmarks: readonly { readonly value: number; readonly label: string | null }[];
    }
  | {
      readonly kind: 'values';
      /** Values with a legal way to go on; for cards with their face, where it is seen. */
      readonly values: readonly { readonly value: Value; readonly face?: string }[];
    }
  | {
      /** Several cards at once, out of these. */
      readonly kind: 'cards';
      readonly least: number;
      /** `null` where the sheet names shapes of cards instead of a number. */
      readonly most: number | null;
      readonly values: readonly { readonly value: Value; readonly face?: string }[];
    }
  | {
      /** What may be chosen depends on the parameters before it: see `ways`. */
      readonly kind: 'depends';
    }
);

/** An option as it is offered to a seat. */
export interface Offer {
  readonly option: string;
  /** Words for a button; `{name}` stands for a parameter's value. */
  readonly label: string;
  /** `false`: shown as "not now", with the reason. */
  readonly legal: boolean;
  readonly reason: string | null;
  readonly line: number;
  /** Piles that it is drawn on. */
  readonly on: readonly string[];
  readonly quick: boolean;
  readonly aside: boolean;
  /** The clock would play this. */
  readonly byClock: boolean;
  /** Whether it is known to be legal: `false` where more ways than are ever tested would have to be. */
  readonly sure: boolean;
  readonly params: readonly OfferedParam[];
  /** All legal ways, where there are few enough to list; `null` where there are more. */
  readonly ways: readonly (readonly ArgValue[])[] | null;
}

function labelOf(rules: Rules, s: State, seat: number, option: Option, code: OptionCode): string {
  const pieces = code.template?.(s, seat, 0, 0, 0, 0);
  if (pieces) return render(pieces, renderingFor(rules, seat));
  const params = option.params.filter((param) => param.t !== 'flag').map((param) => `{${param.name}}`);
  return [wordsOf(option.name), ...(option.params.some((p) => p.domain.k === 'range') ? params : [])].join(' ');
}

function rangeParam(s: State, seat: number, param: Param, domain: Extract<DomainCode, { k: 'range' }>): OfferedParam {
  const from = domain.from(s, seat);
  const to = domain.to(s, seat);
  const by = Math.max(1, domain.by?.(s, seat) ?? 1);
  const fits = (v: number): boolean => v >= from && v <= to && (v === to || (v - from) % by === 0);
  const declared = param.domain.k === 'range' ? param.domain.landmarks : [];
  const landmarks = domain.marks
    .map((mark, i) => ({ value: mark(s, seat), label: declared[i]?.label ?? null }))
    .filter((mark) => fits(mark.value));
  return { name: param.name, type: param.t, kind: 'range', from, to, by, landmarks };
}

function valueEntry(rules: Rules, naming: Naming, param: Param, v: number): { value: Value; face?: string } {
  const value = writeValue(rules, naming, param.t, v);
  if (param.t !== 'card' || !naming.isNamed(v)) return { value };
  return { value, face: faceText(rules.layout.faces[v] as number) };
}

/** Values in the order of their domain; cards that lie where nobody may know their place in that of their handles. */
function entriesOf(
  rules: Rules,
  naming: Naming,
  param: Param,
  values: readonly number[],
): { value: Value; face?: string }[] {
  const entries = values.map((v) => valueEntry(rules, naming, param, v));
  const isBlind = param.t === 'card' && values.some((v) => naming.isBlind(v));
  return isBlind ? entries.sort((a, b) => byNumber.compare(String(a.value), String(b.value))) : entries;
}

/** The same of ways. */
function waysWritten(rules: Rules, naming: Naming, option: Option, ways: readonly Arg[][]): ArgValue[][] {
  const types = option.params.map((param) => param.t);
  const written = ways.map((way) => way.map((v, p) => writeArg(rules, naming, types[p] ?? 'int', v)));
  const isBlind = (v: Arg, p: number): boolean =>
    typeof v === 'number' ? types[p] === 'card' && naming.isBlind(v) : v.some((card) => naming.isBlind(card));
  if (!ways.some((way) => way.some(isBlind))) return written;
  return written.sort((a, b) => byNumber.compare(JSON.stringify(a), JSON.stringify(b)));
}

function paramsOf(
  rules: Rules,
  s: State,
  seat: number,
  option: Option,
  code: OptionCode,
  ways: readonly Arg[][] | null,
  naming: Naming,
): OfferedParam[] {
  return option.params.map((param, i): OfferedParam => {
    const domain = code.domains[i] as DomainCode;
    if (i === 0 && domain.k === 'range') return rangeParam(s, seat, param, domain);
    if (i > 0) return { name: param.name, type: param.t, kind: 'depends' };
    if (domain.k === 'cards') {
      const sizes = setSizes(domain, s, seat);
      const list = [...new Set(domain.list(s, seat))];
      return {
        name: param.name,
        type: param.t,
        kind: 'cards',
        least: sizes?.[0] ?? 1,
        most: sizes?.[1] ?? null,
        values: entriesOf(rules, naming, { ...param, t: 'card' }, list),
      };
    }
    const firsts = new Set<number>();
    if (ways) for (const way of ways) firsts.add(way[0] as number);
    else
      eachValue(rules, domain, s, seat, [], (value) => {
        firsts.add(value as number);
        return false;
      });
    return {
      name: param.name,
      type: param.t,
      kind: 'values',
      values: entriesOf(rules, naming, param, [...firsts]),
    };
  });
}

/** One option as it is offered to a seat; `null` where it is not there. @throws TooDear */
function offerOf(rules: Rules, s: State, seat: number, ask: number, option: Option, i: number): Offer | null {
  const code = rules.code.options[ask]?.[i];
  if (!code || (code.when && !code.when(s, seat))) return null;
  const refused = whyNot(rules, s, ask, i, seat);
  const naming = asSeen(rules, s, seat);
  const single = option.params.length === 1 && option.params[0]?.domain.k === 'range';
  const listed = refused || single ? [] : waysOf(rules, s, ask, i, seat, MOST_LISTED + 1);
  const sure = refused !== null || single || option.params.length === 0 || listed.length > 0;
  const ways = refused ? [] : single || !sure || listed.length > MOST_LISTED ? null : listed;
  const on = code.on?.(s, seat);
  return {
    ...unlisted(option),
    label: labelOf(rules, s, seat, option, code),
    legal: refused === null,
    sure,
    reason: refused?.reason ?? null,
    line: refused?.line ?? Math.floor(option.at / 4096),
    on: (on === undefined ? [] : typeof on === 'number' ? [on] : on).map((p) => rules.layout.piles[p]?.path ?? ''),
    params: refused ? [] : paramsOf(rules, s, seat, option, code, ways, naming),
    ways: ways && waysWritten(rules, naming, option, ways),
  };
}

/** An option whose ways are too dear to be found: it is offered, and each choice is judged when it comes. */
const unlisted = (option: Option): Offer => ({
  option: option.name,
  label: wordsOf(option.name),
  legal: true,
  reason: null,
  line: Math.floor(option.at / 4096),
  on: [],
  quick: option.quick,
  aside: option.aside,
  byClock: false,
  sure: false,
  params: option.params.map((param) => ({ name: param.name, type: param.t, kind: 'depends' })),
  ways: null,
});

/** What a search gives within what it may cost, or something else. */
function affordable<T>(search: () => T, otherwise: T): T {
  try {
    return search();
  } catch (error) {
    if (error instanceof TooDear) return otherwise;
    throw error;
  }
}

/**
 * All options of the open ask that are there for a seat, legal or not now. What it costs is counted on from where the
 * count stands: whoever asks begins it, once for all seats.
 * @throws Fault where a clause is one
 */
export function offersOf(rules: Rules, s: State, seat: number): Offer[] {
  const ask = s.f[ASK] as number;
  const declared = rules.program.asks[ask];
  const otherwise = declared?.clock?.otherwise ?? [];
  const isPlayed = (name: string): boolean =>
    affordable(
      () => declared?.options.some((o, i) => o.name === name && isLegal(rules, s, ask, i, seat)) === true,
      false,
    );
  const byClock = otherwise === 'stuck' || 'bot' in otherwise ? undefined : otherwise.find(isPlayed);
  return (declared?.options ?? []).flatMap((option, i): Offer[] => {
    const offer = affordable(() => offerOf(rules, s, seat, ask, option, i), unlisted(option));
    return offer ? [{ ...offer, byClock: option.name === byClock }] : [];
  });
}
