/** Work for the tests of child processes: sums, and what goes wrong in all the ways that a stranger's text could. */
export default function work({ what, of }) {
  if (what === 'sum') return of.reduce((sum, number) => sum + number, 0);
  if (what === 'throw') throw new Error('no such sum');
  if (what === 'exit') process.exit(3);
  if (what === 'sleep') return new Promise(() => undefined);
  const kept = [];
  let text = 'x'.repeat(1024);
  for (;;) {
    if (what === 'fill') kept.push(new Array(100_000).fill(kept.length));
    if (what === 'buffers') kept.push(Buffer.alloc(10_000_000, 1));
    if (what === 'strings') {
      text += text;
      kept.push(Buffer.from(text).toString('latin1'));
    }
  }
}
