/** Text, an element's beginning or end, or a comment: all that our pictures are made of. */
const TOKEN =
  /<(\/?)([A-Za-z][\w:.-]*)((?:\s+[A-Za-z_:][\w:.-]*="(?:[^"<&]|&(?:amp|lt|gt|quot|apos|#\d+);)*")*)\s*(\/?)>|(?:[^<&]|&(?:amp|lt|gt|quot|apos|#\d+);)+/y;

/** Where a text stops being well-formed XML with one root, or `null`: browsers show such a file as an error. */
export function xmlFault(text: string): string | null {
  const open: string[] = [];
  let roots = 0;
  for (let at = 0; at < text.length; ) {
    TOKEN.lastIndex = at;
    const found = TOKEN.exec(text);
    if (!found) return text.slice(at, at + 120);
    const [token, ends, name, , closes] = found;
    if (name !== undefined) {
      if (ends !== '' && open.pop() !== name) return token;
      if (ends === '' && open.length === 0) roots++;
      if (ends === '' && closes === '') open.push(name);
    }
    at += token.length;
  }
  return open.length > 0 || roots !== 1 ? `${roots} roots, ${open.join(' ')} left open` : null;
}
