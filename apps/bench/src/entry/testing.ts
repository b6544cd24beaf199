import type { Person } from '@gavrel/contract';
import type { LoggedEntry } from '@gavrel/core';
import { dropDrafts } from '../device/drafts';
import { keepPulled, startOver } from '../device/store';
import { type Draft, makeEntry } from '../device/write';
import { makeStore, type Store } from '../state';
import { applyEntries } from '../state/projection';
import { signedIn } from '../state/session';

/** Test helper: who is signed in, and a device that holds what the server sent. */
export const ANNA: Person = { id: 'a0000000-0000-4000-8000-000000000001', name: 'Anna', role: 'technician', competent: false };
export const PACK = 'b0000000-0000-4000-8000-000000000001';

/** A store with these entries on record, numbered as a server would; the device held nothing before. */
export async function storeWith(drafts: readonly Draft[]): Promise<Store> {
  await startOver();
  dropDrafts();
  const store = makeStore();
  store.dispatch(signedIn({ person: ANNA, workshop: { id: 'w', name: 'W', zone: 'UTC' }, people: [] }));
  const author = { workshop: 'w', person: ANNA.id, device: 'd' };
  const from = Date.now() - 60_000;
  const entries = drafts.map((d, i): LoggedEntry => {
    const e = makeEntry(author, d, from + i * 1000, null);
    return { ...e, seq: i + 1, recordedAt: e.at, effectiveAt: e.at };
  });
  await keepPulled(entries, entries.length);
  await applyEntries(store, entries);
  return store;
}
