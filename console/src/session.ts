import { Client, ServiceError } from '@wily-jester/client';
import type { Session } from '@wily-jester/protocol';
import { ref, shallowRef } from 'vue';

const KEPT = 'wily-jester key';

/** Who this page is to the service; `null` until it has answered. */
/** Why the link that the page came by opened nothing. */
export const refusal = ref('');
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

/** The word of a link that opens the console, if this page came by one. It is used once, and stays in no history. */
function wordOfLink(): string | null {
  // Unit tests have no page.
  const word = /^#open=([\w-]{1,100})$/.exec(globalThis.location?.hash ?? '')?.[1] ?? null;
  if (word !== null) history.replaceState(history.state, '', location.pathname + location.search);
  return word;
}

/** Read before the router looks at the address, which would carry it on. */
let linkWord = wordOfLink();

/** Asks the service who we are; a page that came by a link comes in first. */
export async function greet(): Promise<void> {
  const word = linkWord;
  linkWord = null;
  if (word !== null) {
    try {
      become(await client.value.comeIn(word));
      return;
    } catch (error) {
      if (!(error instanceof ServiceError)) throw error;
      refusal.value = error.message;
    }
  }
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
