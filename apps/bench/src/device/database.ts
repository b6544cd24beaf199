import type { Problem } from '@gavrel/contract';
import type { LoggedEntry } from '@gavrel/core';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

/** One waiting entry: when it may go, whose it is, and what the server had against it. */
export interface OutboxItem {
  readonly id: string;
  readonly by: string;
  /** Epoch ms before which an Undo may still take it back. */
  readonly sendAfter: number;
  readonly problem?: Problem;
}

/** What goes to the server beside the log: a picture's bytes or an owner's name. */
export interface SideItem {
  /** Path under the interface, `blobs/...` or `owners/...`. */
  readonly path: string;
  readonly by: string;
  readonly type: string;
  readonly body: Blob | string;
  readonly problem?: Problem;
}

interface Schema extends DBSchema {
  pictures: { key: string; value: Blob };
  side: { key: string; value: SideItem };
  entries: { key: string; value: LoggedEntry; indexes: { subjects: string } };
  outbox: { key: string; value: OutboxItem };
  meta: { key: string; value: unknown };
  /** Subjects whose whole logs are here, on a device that holds a part. */
  held: { key: string; value: true };
}

export const DURABLE = { durability: 'strict' } as const;

/** Longest wait for the storage to open, ms: a broken one may never answer. */
const OPEN_MS = 6_000;

const openKept = (): Promise<IDBPDatabase<Schema>> =>
  openDB<Schema>('gavrel', 3, {
    upgrade(d, before) {
      if (before < 3) d.createObjectStore('held');
      if (before < 2) {
        d.createObjectStore('pictures');
        d.createObjectStore('side', { keyPath: 'path' });
      }
      if (before >= 1) return;
      d.createObjectStore('entries', { keyPath: 'id' }).createIndex('subjects', 'subjects', { multiEntry: true });
      d.createObjectStore('outbox', { keyPath: 'id' });
      d.createObjectStore('meta');
    },
    // A newer version of the program wants the store: this tab lets go and becomes that version; what was written is kept.
    blocking(_now, _wanted, e) {
      (e.target as IDBDatabase).close();
      globalThis.location.reload();
    },
  });

/** Why the storage of this device did not open, and what to do about it. */
function whyClosed(cause: unknown): string {
  const name = (cause as Error | undefined)?.name ?? '';
  if (name === 'VersionError')
    return 'A newer Gavrel wrote on this device before, and this older one cannot read it. Load the page anew; if this stays, ask the lead to update the server.';
  if (typeof indexedDB === 'undefined' || name === 'SecurityError' || name === 'InvalidStateError')
    return 'This window keeps nothing: a private window, or a setting that forbids it. Open Gavrel in an ordinary window.';
  return 'The storage of this device does not open: its disk may be full or broken. Free some space and load the page anew, or take another device.';
}

let trouble: string | null = null;
let opened: Promise<IDBPDatabase<Schema>> | null = null;

/** The device's storage; where it does not open, one in memory that ends with the page, so that danger can be told all the same. */
async function open(): Promise<IDBPDatabase<Schema>> {
  try {
    const late = new Promise<never>((_, no) => setTimeout(() => no(new Error('no answer')), OPEN_MS));
    return await Promise.race([openKept(), late]);
  } catch (e) {
    trouble = whyClosed(e);
    await import('./memory');
    return openKept();
  }
}

/** The device's own copy of the log. Opened once. */
export function db(): Promise<IDBPDatabase<Schema>> {
  opened ??= open();
  return opened;
}

/** Why nothing is kept beyond this page; null where the device keeps what is written. */
export async function storageTrouble(): Promise<string | null> {
  await db();
  return trouble;
}
