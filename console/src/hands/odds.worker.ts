/** Counts odds apart from the page, so that the page stays quick. */
import { chachaChance, type Odds, type OddsQuestion, oddsOf } from '@wily-jester/core';

export interface Asked {
  readonly id: number;
  readonly question: OddsQuestion;
}
export interface Told {
  readonly id: number;
  readonly odds: Odds;
}

self.addEventListener('message', ({ data }: MessageEvent<Asked>) => {
  const generator = chachaChance(crypto.getRandomValues(new Uint8Array(32))).stream('odds', 0);
  const told: Told = { id: data.id, odds: oddsOf(data.question, generator) };
  self.postMessage(told);
});
