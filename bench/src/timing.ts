/** Processor time, which a shared machine's other work does not lengthen as it does the wall clock's. */

/** Processor seconds that this process has used. */
export function processorSeconds(): number {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1e6;
}

export const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

/** A piece of work that gives how much it did. */
export type Work = (turn: number) => number;

/** How much each of several works does in a second of processor time, in turn, so that all meet the same machine. */
export function ratesInTurn(works: readonly Work[], rounds: number, seconds: number): number[][] {
  const rates = works.map((): number[] => []);
  let turn = 0;
  for (let round = -1; round < rounds; round++)
    for (const [i, work] of works.entries()) {
      const start = processorSeconds();
      let done = 0;
      let spent = 0;
      while (spent < seconds) {
        done += work(turn++);
        spent = processorSeconds() - start;
      }
      // The first round warms all of them up.
      if (round >= 0) rates[i]?.push(done / spent);
    }
  return rates;
}
