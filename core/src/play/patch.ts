/** What JSON can hold. */
export type Json = string | number | boolean | null | readonly Json[] | { readonly [name: string]: Json };

/** One change of a JSON Patch (RFC 6902); its path is a JSON Pointer (RFC 6901). */
export type PatchOperation =
  | { readonly op: 'add' | 'replace'; readonly path: string; readonly value: Json }
  | { readonly op: 'remove'; readonly path: string };

type Members = { readonly [name: string]: Json };

/**
 * What must be done to one JSON value to make it another, as a JSON Patch. What is the very same object in both is
 * not looked into, so that views that share their unchanged parts are compared at the cost of what changed.
 */
export function patchOf(before: Json, after: Json): PatchOperation[] {
  const changes: PatchOperation[] = [];
  compare(before, after, '', changes);
  return changes;
}

function compare(before: Json, after: Json, path: string, changes: PatchOperation[]): void {
  if (before === after) return;
  if (Array.isArray(before)) {
    if (Array.isArray(after)) {
      compareLists(before, after, path, changes);
      return;
    }
  } else if (isMembers(before) && isMembers(after)) {
    compareMembers(before, after, path, changes);
    return;
  }
  changes.push({ op: 'replace', path, value: after });
}

const isMembers = (value: Json): value is Members =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

function compareMembers(before: Members, after: Members, path: string, changes: PatchOperation[]): void {
  for (const name of Object.keys(before)) {
    const now = Object.hasOwn(after, name) ? after[name] : undefined;
    if (now === undefined) changes.push({ op: 'remove', path: `${path}/${escaped(name)}` });
    else if (now !== before[name]) compare(before[name] as Json, now, `${path}/${escaped(name)}`, changes);
  }
  for (const name of Object.keys(after)) {
    const now = after[name];
    if (now !== undefined && !Object.hasOwn(before, name))
      changes.push({ op: 'add', path: `${path}/${escaped(name)}`, value: now });
  }
}

/** Lists mostly grow and shrink at one place: what is alike before and behind it stays. */
function compareLists(before: readonly Json[], after: readonly Json[], path: string, changes: PatchOperation[]): void {
  const least = Math.min(before.length, after.length);
  let head = 0;
  while (head < least && before[head] === after[head]) head++;
  let tail = 0;
  while (tail < least - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++;
  const both = least - tail;
  for (let i = head; i < both; i++) compare(before[i] as Json, after[i] as Json, `${path}/${i}`, changes);
  for (let i = before.length - tail - 1; i >= both; i--) changes.push({ op: 'remove', path: `${path}/${i}` });
  for (let i = both; i < after.length - tail; i++)
    changes.push({ op: 'add', path: `${path}/${i}`, value: after[i] as Json });
}

const escaped = (name: string): string =>
  name.includes('~') || name.includes('/') ? name.replaceAll('~', '~0').replaceAll('/', '~1') : name;
