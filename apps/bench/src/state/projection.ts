import {
  byTime,
  type Diff,
  type FactsOf,
  fold,
  gather,
  type Gathered,
  isAlarm,
  linkedPacks,
  type LoggedEntry,
  type LogPort,
  type PackFacts,
  reachOf,
  type Subject,
  SUBJECT_TYPES,
  subjectId,
  type SubjectType,
  subjectType,
  touchedBy,
} from '@gavrel/core';
import { subjectsOnDevice, holds } from '../device/on-device';
import { allEntries, dropUnsent, entriesOf, entryById, outbox, sideItems } from '../device/store';
import { isVolatile, unsentDanger } from '../device/volatile';
import type { Store } from '.';
import { type Changes, changed, holdsCame, replaced, waitingCame } from './logbook';

/** The device's log as the engine reads it: IndexedDB, and what only this page has. */
const devicePort: LogPort = {
  entriesOf: async (subjects, kinds) =>
    new Map(
      await Promise.all(
        subjects.map(async (s) => [s, (await entriesOf(s)).filter((e) => !kinds || kinds.includes(e.kind))] as const),
      ),
    ),
  packsLinked: async (links) => (await Promise.all(links.map(async (l) => linkedPacks(l, await entriesOf(l.subject))))).flat(),
};

const queues = new WeakMap<Store, Promise<unknown>>();

/** One after another: what read the log earlier never shows its state over that of what read it later. */
function inTurn<T>(store: Store, work: () => Promise<T>): Promise<T> {
  const done = (queues.get(store) ?? Promise.resolve()).then(work);
  queues.set(
    store,
    done.catch(() => undefined),
  );
  return done;
}

const isLocal = (e: LoggedEntry): boolean => e.seq === null || isVolatile(e);

/**
 * What a device that holds a part of the log may show of the difference: of a subject whose log is not all here only what was written
 * on this device, and a pack says so; so does a pack whose machine's or place's log is not here.
 * @param onDevice subjects whose whole logs are here; null where every log is.
 */
function shownOf(diff: Diff, { own }: Gathered, onDevice: ReadonlySet<string> | null): Diff {
  if (onDevice === null) return diff;
  const copies = SUBJECT_TYPES.map((t) => [t, new Map<string, unknown>(diff[t])]);
  const out = Object.fromEntries(copies) as { [T in SubjectType]: Map<string, FactsOf<T> | null> };
  for (const [s, entries] of own) {
    // What only a newer program knows was not folded.
    if (!(subjectType(s) in out)) continue;
    const [type, id, part] = [subjectType(s), subjectId(s), !onDevice.has(s)];
    if (part && !entries.some(isLocal)) out[type].set(id, null);
    else if (type === 'pack' && (part || reachOf(entries).some((r) => !onDevice.has(r.subject)))) {
      const facts: PackFacts | null | undefined = out.pack.get(id);
      if (facts) out.pack.set(id, { ...facts, partial: true });
    }
  }
  return out;
}

const record = <T>(map: ReadonlyMap<string, T>): Record<string, T> => Object.fromEntries(map);

/** The difference as the slice takes it. */
const changesOf = (diff: Diff): Changes => ({
  packs: record(diff.pack),
  notebooks: record(diff.notebook),
  jobs: record(diff.job),
  places: record(diff.place),
  instruments: record(diff.instrument),
  sheets: record(diff.model),
  rounds: record(diff.round),
  incidents: record(diff.incident),
  consignments: record(diff.consignment),
  boxes: record(diff.box),
  carriers: record(diff.carrier),
  notices: record(diff.notice),
  ...(diff.policy.size > 0 && { policy: [...diff.policy.values()].pop() ?? null }),
});

async function foldSubjects(store: Store, subjects: readonly Subject[]): Promise<void> {
  const gathered = await gather(devicePort, subjects);
  store.dispatch(changed(changesOf(shownOf(fold(gathered), gathered, await subjectsOnDevice()))));
  await countWaiting(store);
}

/** Folds the whole log of the device: at the start, and after it forgot something. */
export const openLog = (store: Store): Promise<void> =>
  inTurn(store, async () => {
    store.dispatch(holdsCame(await holds()));
    const bySubject = new Map<Subject, LoggedEntry[]>();
    for (const e of (await allEntries()).sort(byTime)) {
      for (const s of e.subjects) {
        const list = bySubject.get(s);
        if (list) list.push(e);
        else bySubject.set(s, [e]);
      }
    }
    const gathered = await gather(devicePort, [...bySubject.keys()], bySubject);
    store.dispatch(replaced(changesOf(shownOf(fold(gathered), gathered, await subjectsOnDevice()))));
    await countWaiting(store);
  });

/** Folds what new or renumbered entries touch. @returns the subjects: other tabs of this device fold them too. */
export const applyEntries = (store: Store, entries: readonly LoggedEntry[]): Promise<readonly Subject[]> =>
  inTurn(store, async () => {
    const subjects = await touchedBy(devicePort, entries);
    await foldSubjects(store, subjects);
    return subjects;
  });

/** Takes back what was not sent yet, and folds what it touched. @returns the subjects. */
export const undoEntries = (store: Store, ids: readonly string[]): Promise<readonly Subject[]> =>
  inTurn(store, async () => {
    const entries = (await Promise.all(ids.map(entryById))).filter((e) => e !== undefined);
    const subjects = await touchedBy(devicePort, entries);
    await dropUnsent(ids);
    await foldSubjects(store, subjects);
    return subjects;
  });

/** Folds subjects that changed in another tab. */
export const applySubjects = (store: Store, subjects: readonly Subject[]): Promise<void> =>
  inTurn(store, () => foldSubjects(store, subjects));

/** What has not gone out yet: how much, how much of it warns, and what came back. */
export async function countWaiting(store: Store): Promise<void> {
  const items = await outbox();
  const entries = await Promise.all(items.map((i) => entryById(i.id)));
  const volatile = unsentDanger();
  const hazards = [...entries, ...volatile].filter((e) => e !== undefined && isAlarm(e)).length;
  const side = await sideItems();
  const refused = [...items, ...side.map((i) => ({ id: i.path, problem: i.problem }))].flatMap((i) =>
    i.problem ? [{ id: i.id, problem: i.problem }] : [],
  );
  const unsent = items.length + side.length + volatile.length - refused.length;
  store.dispatch(waitingCame({ unsent, unsentHazards: hazards, refused }));
}
