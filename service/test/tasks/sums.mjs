import { taskOf } from '../../dist/workers/task.js';

/** Work for the tests of the worker pool: sums, and what goes wrong in all the ways that a stranger's text could. */
export default taskOf(({ what, of }) => {
  if (what === 'sum') return of.reduce((sum, number) => sum + number, 0);
  if (what === 'throw') throw new Error('no such sum');
  const kept = [];
  for (;;) if (what === 'fill') kept.push(new Array(100_000).fill(kept.length));
});
