/** What JSON can hold. */
export type Json = string | number | boolean | null | readonly Json[] | { readonly [name: string]: Json };

/** So many changes of one list are longer than what is left of it. */
const MANY = 8;

type Members = { readonly [name: string]: Json };

/**
 * What must be done to one JSON value to make it another, as the text of a JSON Patch (RFC 6902; its paths are JSON
 * Pointers, RFC 6901). What is the very same object in both is not looked into, so that views that share their
 * unchanged parts are compared at the cost of what changed.
 * @param before a JSON value, as `after` is
 * @param found what other comparisons found, where these are parts of this one too
 */
export function patchText(before: Json | object, after: Json | object, found?: Found): string {
  const comparison = new Comparison(found);
  comparison.compare(before as Json, after as Json, '');
  return `[${comparison.text}]`;
}

/** A value at a place, what it was before, and what that must become. */
interface Part {
  readonly before: Json;
  readonly path: string;
  readonly text: string;
}

/**
 * What comparisons found before. Where several pairs of values share parts, as the views of one table do, each part
 * is compared once, and its changes are written once.
 */
export class Found {
  private readonly parts = new Map<Json, Part>();

  /** The text of the changes that were found between two objects at a place. */
  between(before: Json, after: Json, path: string): string | undefined {
    const known = this.parts.get(after);
    return known?.before === before && known.path === path ? known.text : undefined;
  }

  keep(before: Json, after: Json, path: string, text: string): void {
    this.parts.set(after, { before, path, text });
  }
}

const isMembers = (value: Json): value is Members =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** One comparison under way. A path is put together only where something changed. */
class Comparison {
  /** The changes, with commas between them. */
  text = '';

  constructor(private readonly found: Found | undefined) {}

  private add(text: string): void {
    this.text = this.text === '' ? text : `${this.text},${text}`;
  }

  private put(op: 'add' | 'replace', path: string, value: Json): void {
    this.add(`{"op":"${op}","path":${JSON.stringify(path)},"value":${JSON.stringify(value)}}`);
  }

  private remove(path: string): void {
    this.add(`{"op":"remove","path":${JSON.stringify(path)}}`);
  }

  compare(before: Json, after: Json, path: string): void {
    if (before === after) return;
    const areLists = Array.isArray(before) && Array.isArray(after);
    if (!areLists && !(isMembers(before) && isMembers(after))) {
      this.put('replace', path, after);
      return;
    }
    const { found } = this;
    if (!found) {
      this.look(before, after, path);
      return;
    }
    let changes = found.between(before, after, path);
    if (changes === undefined) {
      const outside = this.text;
      this.text = '';
      this.look(before, after, path);
      changes = this.text;
      this.text = outside;
      found.keep(before, after, path, changes);
    }
    if (changes !== '') this.add(changes);
  }

  /** Looks into two lists, or into two objects. */
  private look(before: Json, after: Json, path: string): void {
    if (Array.isArray(before)) this.compareLists(before, after as readonly Json[], path);
    else this.compareMembers(before as Members, after as Members, path);
  }

  private compareMembers(before: Members, after: Members, path: string): void {
    let kept = 0;
    for (const name in before) {
      const was = before[name] as Json;
      const now = memberOf(after, name);
      if (now !== undefined) kept++;
      if (was === now || was === undefined) continue;
      if (now === undefined) this.remove(inside(path, name));
      else this.compare(was, now, inside(path, name));
    }
    // Mostly both have the same members.
    let all = 0;
    for (const _ in after) all++;
    if (all === kept) return;
    for (const name in after) {
      const now = after[name];
      if (now !== undefined && memberOf(before, name) === undefined) this.put('add', inside(path, name), now);
    }
  }

  /**
   * Lists mostly grow and shrink at one place: what is alike before and behind it stays. Where more goes than is left,
   * as when a pile is gathered in, the rest is sent whole.
   */
  private compareLists(before: readonly Json[], after: readonly Json[], path: string): void {
    if (before.length > 2 * after.length + MANY) {
      this.put('replace', path, after);
      return;
    }
    const least = Math.min(before.length, after.length);
    let head = 0;
    while (head < least && before[head] === after[head]) head++;
    let tail = 0;
    while (tail < least - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++;
    const both = least - tail;
    for (let i = head; i < both; i++) this.compare(before[i] as Json, after[i] as Json, `${path}/${i}`);
    for (let i = before.length - tail - 1; i >= both; i--) this.remove(`${path}/${i}`);
    for (let i = both; i < after.length - tail; i++) this.put('add', `${path}/${i}`, after[i] as Json);
  }
}

const inside = (path: string, name: string): string => `${path}/${escaped(name)}`;

/** A member of its own: names that every object has from elsewhere, such as "constructor", are not the value's. */
function memberOf(members: Members, name: string): Json | undefined {
  const value = members[name];
  return value === undefined || Object.hasOwn(members, name) ? value : undefined;
}

const escaped = (name: string): string =>
  name.includes('~') || name.includes('/') ? name.replaceAll('~', '~0').replaceAll('/', '~1') : name;
