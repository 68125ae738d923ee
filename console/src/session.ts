import { Client } from '@wily-jester/client';
import type { Session } from '@wily-jester/protocol';
import { ref, shallowRef } from 'vue';

const KEPT = 'wily-jester key';

/** Who this page is to the service; `null` until it has answered. */
export const role = ref<Session['role'] | null>(null);
/** The table that our key belongs to, and the seat that it plays, where it is one of a table. */
export const tableHeld = ref<string | null>(null);
export const seatHeld = ref<number | null>(null);

function become(session: Session): void {
  role.value = session.role;
  tableHeld.value = session.table ?? null;
  seatHeld.value = session.seat ?? null;
}
/** Speaks to the service that served this page. */
export const client = shallowRef(new Client({ address: '', key: sessionStorage.getItem(KEPT) ?? undefined }));

/** Asks the service who we are. */
export async function greet(): Promise<void> {
  become(await client.value.session());
}

/** Uses a key that was typed in, for as long as the page is open. Gives whether it is known. */
export async function useKey(key: string): Promise<boolean> {
  const tried = new Client({ address: '', key });
  const session = await tried.session();
  if (session.role === 'nobody') return false;
  sessionStorage.setItem(KEPT, key);
  client.value = tried;
  become(session);
  return true;
}
