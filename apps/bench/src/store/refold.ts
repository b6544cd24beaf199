import {
  byTime,
  foldIncident,
  foldInstrument,
  foldJob,
  foldModel,
  foldNotebook,
  foldPack,
  foldPlace,
  foldPolicy,
  foldRound,
  isAlarm,
  PLACE_HAZARDS,
  reachOf,
  type LoggedEntry,
  type PackFacts,
  type Subject,
  subjectId,
  subjectType,
  withReached,
} from '@gavrel/core';
import { allEntries, entriesOf, entriesOfPack, entryById, outbox, sideItems } from '../log/store';
import { heldSubjects, holds } from '../log/held';
import { isUnkept, unsentDanger } from '../log/unkept';
import type { Store } from './index';
import { type Folded, folded, holdsCame, replaced, waitingCame } from './logbook';

type Mutable = {
  -readonly [K in keyof Folded]: Folded[K] extends Readonly<Record<string, infer V>> ? Record<string, V> : Folded[K];
};

const empty = (): Mutable => ({
  packs: {},
  notebooks: {},
  jobs: {},
  places: {},
  instruments: {},
  sheets: {},
  rounds: {},
  incidents: {},
  policy: null,
});

const cutOff = (entries: readonly LoggedEntry[], held: ReadonlySet<string> | null): boolean =>
  held !== null && reachOf(entries).some((r) => !held.has(r.subject));
const asPart = (f: PackFacts | null): PackFacts | null => f && { ...f, partial: true };

/**
 * Folds one subject. Of a pack, machine or job whose log is not all here only what was written on this device is shown, and the pack
 * says so; so does a pack whose machine's or place's log is not here.
 * @param held subjects whose whole logs are here; null where every log is.
 */
function foldInto(out: Mutable, subject: Subject, entries: readonly LoggedEntry[], held: ReadonlySet<string> | null): void {
  const id = subjectId(subject);
  const part = held !== null && !held.has(subject);
  if (part && !entries.some((e) => e.seq === null || isUnkept(e))) return;
  const put = <V>(into: Record<string, V>, facts: V | null) => {
    if (facts !== null) into[id] = facts;
  };
  switch (subjectType(subject)) {
    case 'pack':
      return put(out.packs, part || cutOff(entries, held) ? asPart(foldPack(id, entries)) : foldPack(id, entries));
    case 'notebook':
      return put(out.notebooks, foldNotebook(id, entries));
    case 'job':
      return put(out.jobs, foldJob(id, entries));
    case 'place':
      return put(out.places, foldPlace(id, entries));
    case 'instrument':
      return put(out.instruments, foldInstrument(id, entries));
    case 'model':
      return put(out.sheets, foldModel(entries));
    case 'round':
      return put(out.rounds, foldRound(id, entries));
    case 'incident':
      return put(out.incidents, foldIncident(id, entries));
    case 'policy':
      out.policy = foldPolicy(entries);
  }
}

const queues = new WeakMap<Store, Promise<unknown>>();

/** One fold after another: one that read the log earlier never shows its state over that of one that read it later. */
function inTurn(store: Store, fold: () => Promise<void>): Promise<void> {
  const done = (queues.get(store) ?? Promise.resolve()).then(fold);
  queues.set(
    store,
    done.catch(() => undefined),
  );
  return done;
}

/** Folds the whole log of the device: at the start, and after it forgot something. */
export const foldAll = (store: Store): Promise<void> => inTurn(store, () => foldEverything(store));

/** Folds again what the given entries touch. */
export const foldTouched = (store: Store, entries: readonly LoggedEntry[]): Promise<void> =>
  inTurn(store, () => foldSome(store, entries));

async function foldEverything(store: Store): Promise<void> {
  store.dispatch(holdsCame(await holds()));
  const held = await heldSubjects();
  const bySubject = new Map<Subject, LoggedEntry[]>();
  for (const e of (await allEntries()).sort(byTime)) {
    for (const s of e.subjects) {
      const list = bySubject.get(s);
      if (list) list.push(e);
      else bySubject.set(s, [e]);
    }
  }
  const out = empty();
  for (const [s, entries] of bySubject) {
    foldInto(out, s, subjectType(s) === 'pack' ? withReached(entries, (r) => bySubject.get(r)) : entries, held);
  }
  store.dispatch(replaced(out));
  await countWaiting(store);
}

async function foldSome(store: Store, entries: readonly LoggedEntry[]): Promise<void> {
  const subjects = new Set<Subject>(entries.flatMap((e) => e.subjects));
  const warned = new Set<Subject>(entries.filter((e) => PLACE_HAZARDS.includes(e.kind)).flatMap((e) => e.subjects));
  for (const [id, p] of Object.entries(store.getState().logbook.packs)) {
    if (p.notebooks.some((n) => subjects.has(`notebook:${n}`))) subjects.add(`pack:${id}`);
    if (p.places.some((n) => warned.has(`place:${n}`))) subjects.add(`pack:${id}`);
  }
  const out = empty();
  const held = await heldSubjects();
  for (const s of subjects)
    foldInto(out, s, subjectType(s) === 'pack' ? await entriesOfPack(subjectId(s)) : await entriesOf(s), held);
  store.dispatch(folded(out));
  await countWaiting(store);
}

/** What has not gone out yet: how much, how much of it warns, and what came back. */
export async function countWaiting(store: Store): Promise<void> {
  const items = await outbox();
  const entries = await Promise.all(items.map((i) => entryById(i.id)));
  const unkept = unsentDanger();
  const hazards = [...entries, ...unkept].filter((e) => e !== undefined && isAlarm(e)).length;
  const side = await sideItems();
  const refused = [...items, ...side.map((i) => ({ id: i.path, problem: i.problem }))].flatMap((i) =>
    i.problem ? [{ id: i.id, problem: i.problem }] : [],
  );
  const unsent = items.length + side.length + unkept.length - refused.length;
  store.dispatch(waitingCame({ unsent, unsentHazards: hazards, refused }));
}
