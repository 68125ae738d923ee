/** The beginning of a text that fits so many bytes of UTF-8, cut between two signs. */
export function cutTo(text: string, most: number): string {
  if (Buffer.byteLength(text) <= most) return text;
  let bytes = 0;
  let cut = '';
  for (const sign of text) {
    bytes += Buffer.byteLength(sign);
    if (bytes > most) break;
    cut += sign;
  }
  return cut;
}
