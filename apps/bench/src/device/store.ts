import { type LoggedEntry, reachOf, type Region, type Subject, upcast, type Waits, withReached } from '@gavrel/core';
import type { Problem, SessionResponse } from '@gavrel/contract';
import { v4 } from 'uuid';
import { db, DURABLE, type OutboxItem, type SideItem } from './database';
import type { Cable } from './serial';
import { clearVolatile, removeVolatile, withVolatile } from './volatile';

export { db, DURABLE, type OutboxItem, type SideItem, storageTrouble } from './database';

/** Waits for all writes of a transaction. @throws why the browser ended it, which its single writes do not say. */
async function allOrNothing(
  tx: { readonly done: Promise<void>; readonly error: DOMException | null },
  writes: () => readonly unknown[],
): Promise<void> {
  try {
    await Promise.all([tx.done, ...writes()]);
  } catch (e) {
    throw tx.error ?? e;
  }
}

/** Writes new entries and their waiting notes in one durable transaction: after this a reload loses nothing. */
export async function keepNew(entries: readonly LoggedEntry[], sendAfter: number): Promise<void> {
  const tx = (await db()).transaction(['entries', 'outbox'], 'readwrite', DURABLE);
  await allOrNothing(tx, () => [
    ...entries.map((e) => tx.objectStore('entries').put(e)),
    ...entries.map((e) => tx.objectStore('outbox').put({ id: e.id, by: e.by, sendAfter })),
  ]);
}

/** Keeps what goes beside the log until the server has it; a picture also stays for looking at. */
export async function keepSide(item: SideItem, sha256?: string): Promise<void> {
  const tx = (await db()).transaction(['side', 'pictures'], 'readwrite', DURABLE);
  await allOrNothing(tx, () => [
    tx.objectStore('side').put(item),
    sha256 && item.body instanceof Blob ? tx.objectStore('pictures').put(item.body, sha256) : null,
  ]);
}

export const sideItems = async (): Promise<SideItem[]> => (await db()).getAll('side');
export const sideItem = async (path: string): Promise<SideItem | undefined> => (await db()).get('side', path);
export const dropSide = async (path: string): Promise<void> => (await db()).delete('side', path);
export const markSide = async (item: SideItem, problem: Problem): Promise<void> => {
  await (await db()).put('side', { ...item, problem });
};
export const pictureHere = async (sha256: string): Promise<Blob | undefined> => (await db()).get('pictures', sha256);

/** Takes entries back that were never sent. */
export async function dropUnsent(ids: readonly string[]): Promise<void> {
  const tx = (await db()).transaction(['entries', 'outbox'], 'readwrite', DURABLE);
  for (const id of ids) {
    if (!(await tx.objectStore('outbox').get(id))) continue;
    void tx.objectStore('entries').delete(id);
    void tx.objectStore('outbox').delete(id);
  }
  await tx.done;
}

/** Lets what waits go at that time at the latest. @param by epoch ms. @returns whether anything waited longer. */
export async function releaseHeld(by: number): Promise<boolean> {
  const tx = (await db()).transaction('outbox', 'readwrite', DURABLE);
  const waiting = (await tx.store.getAll()).filter((i) => i.sendAfter > by);
  for (const i of waiting) void tx.store.put({ ...i, sendAfter: by });
  await tx.done;
  return waiting.length > 0;
}

/** Stores what came from the server, together with how far that reaches. */
export async function keepPulled(entries: readonly LoggedEntry[], cursor: number): Promise<void> {
  const tx = (await db()).transaction(['entries', 'outbox', 'meta'], 'readwrite', DURABLE);
  for (const e of entries) {
    void tx.objectStore('entries').put(e);
    void tx.objectStore('outbox').delete(e.id);
  }
  void tx.objectStore('meta').put(cursor, 'cursor');
  await tx.done;
  removeVolatile(entries);
}

export interface Settled {
  readonly id: string;
  readonly seq: number;
  readonly recordedAt: string;
  readonly effectiveAt: string;
  readonly waits?: Waits;
}

/** Notes what the server accepted and what it refused. */
export async function settle(accepted: readonly Settled[], refused: readonly { id: string; problem: Problem }[]): Promise<void> {
  const tx = (await db()).transaction(['entries', 'outbox'], 'readwrite', DURABLE);
  for (const { id, ...numbers } of accepted) {
    const e = await tx.objectStore('entries').get(id);
    if (e) void tx.objectStore('entries').put({ ...e, ...numbers });
    void tx.objectStore('outbox').delete(id);
  }
  for (const { id, problem } of refused) {
    const item = await tx.objectStore('outbox').get(id);
    if (item) void tx.objectStore('outbox').put({ ...item, problem });
  }
  await tx.done;
}

export const outbox = async (): Promise<OutboxItem[]> => (await db()).getAll('outbox');
export const entryById = async (id: string): Promise<LoggedEntry | undefined> => (await db()).get('entries', id);
export const allEntries = async (): Promise<LoggedEntry[]> =>
  withVolatile((await (await db()).getAll('entries')) as LoggedEntry[]).map(upcast);
export const cursor = async (): Promise<number> => ((await (await db()).get('meta', 'cursor')) as number | undefined) ?? 0;

export const entriesOf = async (subject: Subject): Promise<LoggedEntry[]> =>
  withVolatile((await (await db()).getAllFromIndex('entries', 'subjects', subject)) as LoggedEntry[], subject).map(upcast);

/** A pack's own entries and the hazards written on its notebooks and places. */
export async function entriesOfPack(id: string): Promise<LoggedEntry[]> {
  const own = await entriesOf(`pack:${id}`);
  const subjects = [...new Set(reachOf(own).map((r) => r.subject))];
  const found = new Map(await Promise.all(subjects.map(async (s) => [s, await entriesOf(s)] as const)));
  return withReached(own, (s) => found.get(s));
}

/** Who was signed in last, so that the app opens without a server. */
export const rememberSession = async (s: SessionResponse | null): Promise<void> => {
  await (await db()).put('meta', s, 'session');
};
export const rememberedSession = async (): Promise<SessionResponse | null> =>
  ((await (await db()).get('meta', 'session')) as SessionResponse | undefined) ?? null;

/** A sign-out that the server has not heard of yet: its cookie is still here, and is not to let anybody in. */
export type Leaving = 'here' | 'everywhere';
export const rememberLeaving = async (l: Leaving | null): Promise<void> => {
  await (await db()).put('meta', l, 'leaving');
};
export const rememberedLeaving = async (): Promise<Leaving | null> =>
  ((await (await db()).get('meta', 'leaving')) as Leaving | undefined) ?? null;

/** When the server answered last: everything on the screen is as of then. */
export const rememberAnswer = async (at: string): Promise<void> => {
  await (await db()).put('meta', at, 'answered');
};
export const rememberedAnswer = async (): Promise<string | null> =>
  ((await (await db()).get('meta', 'answered')) as string | undefined) ?? null;

/** Small things this device remembers of its screen: theme, and which critical packs its people have read. */
export interface ScreenMemory {
  readonly theme: 'auto' | 'light' | 'dark';
  readonly readCritical: readonly string[];
  readonly shift?: Shift | null;
  readonly speak?: boolean;
  readonly putAway?: readonly string[];
  readonly region?: Region;
  readonly locked?: boolean;
  readonly unchecked?: boolean;
  readonly lockAfter?: number | null;
  readonly letters?: boolean;
  readonly cables?: Readonly<Record<string, Cable>>;
}

/** Instruments chosen for a shift: they hold for one person on one day. */
export interface Shift {
  readonly person: string;
  readonly day: string;
  /** Instrument by what it measures. */
  readonly chosen: Readonly<Record<string, string>>;
}
export const rememberScreen = async (m: ScreenMemory): Promise<void> => {
  await (await db()).put('meta', m, 'screen');
};
export const rememberedScreen = async (): Promise<ScreenMemory | undefined> =>
  (await (await db()).get('meta', 'screen')) as ScreenMemory | undefined;

/** Forms that were begun and not kept, by whose and which. */
export const readDrafts = async (): Promise<Readonly<Record<string, unknown>>> =>
  ((await (await db()).get('meta', 'drafts')) as Record<string, unknown> | undefined) ?? {};
export const writeDrafts = async (all: Readonly<Record<string, unknown>>): Promise<void> => {
  await (await db()).put('meta', all, 'drafts');
};
export const forgetDrafts = async (): Promise<void> => (await db()).delete('meta', 'drafts');

/** What people practised on this device, by person. It is no part of the log and never goes out. */
export const readPractice = async (): Promise<Readonly<Record<string, unknown>>> =>
  ((await (await db()).get('meta', 'practice')) as Record<string, unknown> | undefined) ?? {};
export const writePractice = async (all: Readonly<Record<string, unknown>>): Promise<void> => {
  await (await db()).put('meta', all, 'practice');
};

/** A name for this device, made once. */
export async function deviceName(): Promise<string> {
  const d = await db();
  const known = (await d.get('meta', 'device')) as string | undefined;
  if (known) return known;
  const made = `device-${v4().slice(0, 8)}`;
  await d.put('meta', made, 'device');
  return made;
}

/** Forgets everything of another workshop: an outbox that is not empty is kept and said. */
export async function startOver(): Promise<void> {
  clearVolatile();
  const tx = (await db()).transaction(['entries', 'outbox', 'meta', 'pictures', 'side', 'held'], 'readwrite', DURABLE);
  void tx.objectStore('held').clear();
  void tx.objectStore('pictures').clear();
  void tx.objectStore('side').clear();
  void tx.objectStore('entries').clear();
  void tx.objectStore('outbox').clear();
  for (const k of ['cursor', 'holds', 'wanting', 'drafts', 'practice']) void tx.objectStore('meta').delete(k);
  void tx.objectStore('meta').delete('session');
  await tx.done;
}
