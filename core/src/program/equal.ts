/** Whether two JSON values say the same. */
export function alike(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a)) {
    if (!Array.isArray(b) || a.length !== b.length) return false;
    for (let i = 0; i < a.length; i++) if (!alike(a[i], b[i])) return false;
    return true;
  }
  if (Array.isArray(b)) return false;
  let members = 0;
  for (const name in a) {
    if (!Object.hasOwn(b, name) || !alike((a as Members)[name], (b as Members)[name])) return false;
    members++;
  }
  for (const _ in b) members--;
  return members === 0;
}
type Members = Readonly<Record<string, unknown>>;
