import { Client } from '@wily-jester/client';
import type { Session } from '@wily-jester/protocol';
import { ref, shallowRef } from 'vue';

const KEPT = 'wily-jester key';

/** Who this page is to the service; `null` until it has answered. */
export const role = ref<Session['role'] | null>(null);
/** Speaks to the service that served this page. */
export const client = shallowRef(new Client({ address: '', key: sessionStorage.getItem(KEPT) ?? undefined }));

/** Asks the service who we are. */
export async function greet(): Promise<void> {
  role.value = (await client.value.session()).role;
}

/** Uses a key that was typed in, for as long as the page is open. Gives whether it is known. */
export async function useKey(key: string): Promise<boolean> {
  const tried = new Client({ address: '', key });
  const session = await tried.session();
  if (session.role === 'nobody') return false;
  sessionStorage.setItem(KEPT, key);
  client.value = tried;
  role.value = session.role;
  return true;
}
