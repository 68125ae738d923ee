import { randomBytes } from 'node:crypto';
import type { Client } from '@wily-jester/client';
import { SeatChance } from '@wily-jester/core';
import type { GatheringView } from '@wily-jester/protocol';
import { until } from './service.js';

/** Plays one seat's part until the table is open, or for so many moves. */
export async function takePart(client: Client, id: string, seat: number, moves = 99): Promise<GatheringView> {
  const chance = new SeatChance(seat, () => randomBytes(32));
  let view = await client.gathering(id);
  for (let done = 0; view.phase !== 'open' && done < moves; ) {
    const move = chance.next(view);
    if (move) {
      done++;
      view = await client.giveChance(id, {
        kind: move.kind,
        value: move.kind === 'promise' ? move.promise : move.bytes,
      });
    } else {
      const before = JSON.stringify([view.phase, view.promises]);
      await until(async () => {
        view = await client.gathering(id);
        return JSON.stringify([view.phase, view.promises]) !== before;
      }, 'the others');
    }
  }
  return view;
}
