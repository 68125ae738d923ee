/** Spreads one number over 32 bits, with their sign (the finalizer of MurmurHash3, public domain). */
export function spread(n: number): number {
  let h = n | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}
