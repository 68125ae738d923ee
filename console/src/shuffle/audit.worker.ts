/** Audits shuffles apart from the page: known ones, or those of a file, which never leaves the browser. */
import { Audit, type AuditReport, LineError, namedShuffle, ShuffleLines } from '@wily-jester/core';

export type AuditAsked =
  | { readonly id: number; readonly name: string; readonly shuffles: number }
  | { readonly id: number; readonly file: File };
export type AuditTold =
  | { readonly id: number; readonly report: AuditReport; readonly words: string }
  | { readonly id: number; readonly problem: string };

const CARDS = 52;
/** Largest file that is read, in bytes. */
const LARGEST = 512 * 1024 * 1024;

async function auditFile(file: File): Promise<AuditReport> {
  if (file.size > LARGEST) throw new RangeError('The file is larger than 512 MB: the command line reads any.');
  const lines = new ShuffleLines();
  let audit: Audit | null = null;
  const take = (orders: Iterable<Uint16Array>): void => {
    for (const order of orders) {
      const { deck } = lines;
      if (!audit && deck) audit = new Audit(deck);
      audit?.add(order);
    }
  };
  const reader = file.stream().pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { value, done } = await reader.read();
    if (done) break;
    const parts = (rest + value).split('\n');
    rest = parts.pop() ?? '';
    for (const line of parts) take(lines.read(line));
  }
  take(lines.read(rest));
  take(lines.end());
  const made = audit as Audit | null;
  if (!made)
    throw new RangeError('There is no shuffle in this file: write one a line, its cards with blanks between them.');
  return made.report();
}

function auditNamed(name: string, shuffles: number): { report: AuditReport; words: string } {
  const shuffle = namedShuffle(name, CARDS, 'console');
  const audit = new Audit({ cards: CARDS });
  for (let i = 0; i < shuffles; i++) audit.add(shuffle.next());
  return { report: audit.report(), words: shuffle.words };
}

self.addEventListener('message', async ({ data }: MessageEvent<AuditAsked>) => {
  try {
    const found =
      'file' in data
        ? { report: await auditFile(data.file), words: data.file.name }
        : auditNamed(data.name, data.shuffles);
    self.postMessage({ id: data.id, ...found } satisfies AuditTold);
  } catch (error) {
    if (!(error instanceof LineError || error instanceof RangeError)) throw error;
    self.postMessage({ id: data.id, problem: error.message } satisfies AuditTold);
  }
});
