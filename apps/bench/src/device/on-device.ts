import type { OfflineSet } from '@gavrel/contract';
import { type LoggedEntry, type Subject, subjectType } from '@gavrel/core';
import { db, DURABLE } from './store';

/** Where a device holds a part of a long log: how much of what is on site. */
export interface Holds {
  /** When the set was asked for, ISO time. */
  readonly at: string;
  readonly onSite: number;
  readonly held: number;
}

/** Is something on site not here? The most dangerous is here first, but counts are too low. */
export const isShort = (h: Holds | null): boolean => h !== null && h.held < h.onSite;
export const partWords = (h: Holds): string =>
  `This device holds ${h.held} of ${h.onSite} packs on site: do not count or place by it.`;

/** Null where the whole log is here. */
export const holds = async (): Promise<Holds | null> => ((await (await db()).get('meta', 'holds')) as Holds | undefined) ?? null;

/** Subjects whose logs are here from their first entry to the cursor; null where every log is. */
export async function subjectsOnDevice(): Promise<ReadonlySet<string> | null> {
  return (await holds()) === null ? null : new Set(await (await db()).getAllKeys('held'));
}

/** Those of the subjects whose logs must be fetched. */
export async function notOnDevice(subjects: Iterable<Subject>): Promise<Subject[]> {
  const here = await subjectsOnDevice();
  return here === null ? [] : [...new Set(subjects)].filter((s) => !here.has(s));
}

/** Subjects of the set that are still to be fetched. */
export const wanting = async (): Promise<readonly Subject[]> =>
  ((await (await db()).get('meta', 'wanting')) as readonly Subject[] | undefined) ?? [];

export const entryCount = async (): Promise<number> => (await db()).count('entries');

/** The machines, jobs and places that entries name: without their logs a hazard would not reach a pack. Other packs are not followed. */
const namedIn = (entries: readonly LoggedEntry[]): Subject[] =>
  entries.flatMap((e) => e.subjects).filter((s) => subjectType(s) !== 'pack');

/**
 * Begins to hold a part: what of the set is here already stays, with what it names; what is not is wanted. Whatever is no longer kept
 * and does not wait to be sent is dropped.
 */
export async function beginSet(set: OfflineSet, now: Date): Promise<void> {
  const before = await subjectsOnDevice();
  const tx = (await db()).transaction(['entries', 'outbox', 'meta', 'held'], 'readwrite', DURABLE);
  const entries = tx.objectStore('entries');
  const meta = tx.objectStore('meta');
  const known = (await meta.get('cursor')) as number | undefined;
  // A device that never pulled begins at the end of the log: what came before is fetched subject by subject.
  if (known === undefined) void meta.put(set.last, 'cursor');
  const complete = async (s: Subject) =>
    known !== undefined && (before === null ? (await entries.index('subjects').count(s)) > 0 : before.has(s));
  const keep = new Set<Subject>();
  const want = new Set<Subject>();
  for (const queue = [...set.subjects]; queue.length > 0;) {
    const s = queue.pop()!;
    if (keep.has(s) || want.has(s)) continue;
    if (!(await complete(s))) want.add(s);
    else {
      keep.add(s);
      queue.push(...namedIn((await entries.index('subjects').getAll(s)) as LoggedEntry[]));
    }
  }
  const whole = tx.objectStore('held');
  await whole.clear();
  for (const s of keep) void whole.put(true, s);
  const waits = new Set(await tx.objectStore('outbox').getAllKeys());
  for (let c = await entries.openCursor(); c; c = await c.continue()) {
    if (!waits.has(c.value.id) && !c.value.subjects.some((s) => keep.has(s))) await c.delete();
  }
  void meta.put({ at: now.toISOString(), onSite: set.onSite, held: set.held } satisfies Holds, 'holds');
  // In the set's order: the most dangerous first.
  const order = new Map(set.subjects.map((s, i) => [s, i]));
  const wanted = [...want].sort((a, b) => (order.get(a) ?? -1) - (order.get(b) ?? -1));
  void meta.put(wanted, 'wanting');
  await tx.done;
}

/** Stores whole logs, marks their subjects as whole, and wants what they name and is not here. @returns what is wanted of it. */
export async function keepLogs(subjects: readonly Subject[], entries: readonly LoggedEntry[]): Promise<Subject[]> {
  const tx = (await db()).transaction(['entries', 'outbox', 'meta', 'held'], 'readwrite', DURABLE);
  for (const e of entries) {
    void tx.objectStore('entries').put(e);
    void tx.objectStore('outbox').delete(e.id);
  }
  const whole = tx.objectStore('held');
  for (const s of subjects) void whole.put(true, s);
  const meta = tx.objectStore('meta');
  const here = new Set<string>(await whole.getAllKeys());
  const named = [...new Set(namedIn(entries))].filter((s) => !here.has(s));
  const before = ((await meta.get('wanting')) as readonly Subject[] | undefined) ?? [];
  void meta.put(
    [...new Set([...named, ...before])].filter((s) => !here.has(s)),
    'wanting',
  );
  await tx.done;
  return named;
}
