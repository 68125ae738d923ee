/** What JSON can hold. */
export type Json = string | number | boolean | null | readonly Json[] | { readonly [name: string]: Json };

/** One change of a JSON Patch (RFC 6902); its path is a JSON Pointer (RFC 6901). */
export type PatchOperation =
  | { readonly op: 'add' | 'replace'; readonly path: string; readonly value: Json }
  | { readonly op: 'remove'; readonly path: string };

/** So many changes of one list are longer than what is left of it. */
const MANY = 8;

type Members = { readonly [name: string]: Json };

/**
 * What must be done to one JSON value to make it another, as a JSON Patch. What is the very same object in both is
 * not looked into, so that views that share their unchanged parts are compared at the cost of what changed.
 * @param found what other comparisons found, where these are parts of this one too
 */
export function patchOf(before: Json, after: Json, found?: Found): PatchOperation[] {
  const comparison = new Comparison(found);
  comparison.compare(before, after);
  return comparison.changes;
}

type Steps = readonly (string | number)[];

/** Two values at a place, and what one must become the other. */
interface Part {
  readonly before: Json;
  readonly steps: Steps;
  readonly changes: readonly PatchOperation[];
}

/**
 * What comparisons found before. Where several pairs of values share parts, as the views of one table do, each part
 * is compared once, and its changes are the very same objects in every patch.
 */
export class Found {
  private readonly parts = new Map<Json, Part>();

  /** The changes that were found between two objects at a place. */
  between(before: Json, after: Json, steps: Steps): readonly PatchOperation[] | undefined {
    const known = this.parts.get(after);
    return known?.before === before && isSamePlace(known.steps, steps) ? known.changes : undefined;
  }

  keep(before: Json, after: Json, steps: Steps, changes: readonly PatchOperation[]): void {
    this.parts.set(after, { before, steps: [...steps], changes });
  }
}

const isSamePlace = (a: Steps, b: Steps): boolean => a.length === b.length && a.every((step, i) => step === b[i]);

const isMembers = (value: Json): value is Members =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** One comparison under way: where it stands, and what it found. A path is written only where something changed. */
class Comparison {
  readonly changes: PatchOperation[] = [];
  private readonly steps: (string | number)[] = [];

  constructor(private readonly found: Found | undefined) {}

  private get path(): string {
    let path = '';
    for (const step of this.steps) path += `/${typeof step === 'number' ? step : escaped(step)}`;
    return path;
  }

  private at(step: string | number): string {
    this.steps.push(step);
    const { path } = this;
    this.steps.pop();
    return path;
  }

  private inside(step: string | number, before: Json, after: Json): void {
    this.steps.push(step);
    this.compare(before, after);
    this.steps.pop();
  }

  compare(before: Json, after: Json): void {
    if (before === after) return;
    const known = this.found?.between(before, after, this.steps);
    if (known) {
      for (const change of known) this.changes.push(change);
      return;
    }
    const from = this.changes.length;
    if (Array.isArray(before) && Array.isArray(after)) this.compareLists(before, after);
    else if (isMembers(before) && isMembers(after)) this.compareMembers(before, after);
    else {
      this.changes.push({ op: 'replace', path: this.path, value: after });
      return;
    }
    this.found?.keep(before, after, this.steps, this.changes.slice(from));
  }

  private compareMembers(before: Members, after: Members): void {
    let kept = 0;
    for (const name in before) {
      const was = before[name] as Json;
      const now = memberOf(after, name);
      if (now !== undefined) kept++;
      if (was === now || was === undefined) continue;
      if (now === undefined) this.changes.push({ op: 'remove', path: this.at(name) });
      else this.inside(name, was, now);
    }
    // Mostly both have the same members.
    let all = 0;
    for (const _ in after) all++;
    if (all === kept) return;
    for (const name in after) {
      const now = after[name];
      if (now !== undefined && memberOf(before, name) === undefined)
        this.changes.push({ op: 'add', path: this.at(name), value: now });
    }
  }

  /**
   * Lists mostly grow and shrink at one place: what is alike before and behind it stays. Where more goes than is left,
   * as when a pile is gathered in, what is left is told whole.
   */
  private compareLists(before: readonly Json[], after: readonly Json[]): void {
    if (before.length > 2 * after.length + MANY) {
      this.changes.push({ op: 'replace', path: this.path, value: after });
      return;
    }
    const least = Math.min(before.length, after.length);
    let head = 0;
    while (head < least && before[head] === after[head]) head++;
    let tail = 0;
    while (tail < least - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++;
    const both = least - tail;
    for (let i = head; i < both; i++) this.inside(i, before[i] as Json, after[i] as Json);
    for (let i = before.length - tail - 1; i >= both; i--) this.changes.push({ op: 'remove', path: this.at(i) });
    for (let i = both; i < after.length - tail; i++)
      this.changes.push({ op: 'add', path: this.at(i), value: after[i] as Json });
  }
}

/** A member of its own: names that every object has from elsewhere, such as "constructor", are not the value's. */
function memberOf(members: Members, name: string): Json | undefined {
  const value = members[name];
  return value === undefined || Object.hasOwn(members, name) ? value : undefined;
}

const escaped = (name: string): string =>
  name.includes('~') || name.includes('/') ? name.replaceAll('~', '~0').replaceAll('/', '~1') : name;
