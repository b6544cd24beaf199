import { type EntriesResponse, type LogsRequest, MAX_LOGS, MAX_OFFLINE, type OfflineSet } from '@gavrel/contract';
import type { LoggedEntry, Subject } from '@gavrel/core';
import { api } from '../device/api';
import { beginSet, entryCount, holds, keepLogs, notOnDevice, wanting } from '../device/on-device';
import { cursor } from '../device/store';
import { DAY_MS } from '@gavrel/core';

/** A device may grow by a quarter before it asks anew what to hold. */
const GROWN = MAX_OFFLINE * 1.25;

/** Fetches whole logs, and those of the machines, jobs and places they name. What is cut off in between stays wanted. */
export async function fetchLogs(subjects: readonly Subject[]): Promise<LoggedEntry[]> {
  const all: LoggedEntry[] = [];
  let rest = [...subjects];
  while (rest.length > 0) {
    const asked = rest.splice(0, MAX_LOGS);
    const { entries } = await api<EntriesResponse>('POST', '/entries/of', { subjects: asked } satisfies LogsRequest);
    all.push(...entries);
    rest = [...new Set([...rest, ...(await keepLogs(asked, entries))])];
  }
  return all;
}

/** Asks what to hold when the device is new, has grown too large, or has not asked for a day. @returns whether that changed anything. */
async function renew(): Promise<boolean> {
  const now = await holds();
  const fresh = now !== null && Date.now() - Date.parse(now.at) < DAY_MS;
  const first = now === null && (await cursor()) === 0;
  if (!first && (fresh || now === null) && (await entryCount()) < GROWN) return false;
  const set = await api<OfflineSet>('GET', '/offline-set');
  if (set.whole) return false;
  await beginSet(set, new Date());
  return true;
}

/** Brings this device to what it is to hold. @returns whether the whole fold must be made anew. */
export async function syncOfflineSubset(): Promise<boolean> {
  const renewed = await renew();
  const missing = await wanting();
  if (missing.length > 0) await fetchLogs(missing);
  return renewed || missing.length > 0;
}

/** The logs behind new entries, where a device that holds a part has not got them. */
export async function fetchBehind(entries: readonly LoggedEntry[]): Promise<LoggedEntry[]> {
  const missing = await notOnDevice(entries.flatMap((e) => e.subjects));
  return missing.length > 0 ? fetchLogs(missing) : [];
}
