import {
  type Kind,
  type LoggedEntry,
  type Subject,
  SUBJECT_TYPES,
  subjectId,
  type SubjectType,
  subjectType,
} from '../logbook/entry';
import { PLACE_HAZARDS, reachOf, withReached } from '../logbook/reach';
import { type Diff, FOLDS, type Link, linksOf } from './subjects';

export type EntriesBySubject = ReadonlyMap<Subject, readonly LoggedEntry[]>;

/** How the engine reads a log: IndexedDB on a device, SQL on the server. */
export interface LogPort {
  /** The entries of each subject, raised to the newest version; of some kinds only, where those are named. */
  entriesOf(subjects: readonly Subject[], kinds?: readonly Kind[]): Promise<EntriesBySubject>;
  /** Packs named by the logs of the links. */
  packsLinked(links: readonly Link[]): Promise<readonly Subject[]>;
}

/** Subjects with their own logs, and what was said of the machines and places whose hazards may reach the packs among them. */
export interface Gathered {
  readonly own: EntriesBySubject;
  readonly entriesOf: (subject: Subject) => readonly LoggedEntry[] | undefined;
}

/** Every subject that new entries change: those they name and the packs they reach. */
export async function touchedBy(log: LogPort, fresh: readonly LoggedEntry[]): Promise<Subject[]> {
  const links = linksOf(fresh);
  const linked = links.length > 0 ? await log.packsLinked(links) : [];
  return [...new Set([...fresh.flatMap((e) => e.subjects), ...linked])];
}

/**
 * Reads what folding the subjects takes.
 * @param here logs that are at hand already, whole.
 */
export async function gather(log: LogPort, subjects: readonly Subject[], here: EntriesBySubject = new Map()): Promise<Gathered> {
  const missing = subjects.filter((s) => !here.has(s));
  const read = missing.length > 0 ? await log.entriesOf(missing) : new Map<Subject, readonly LoggedEntry[]>();
  const own = new Map(subjects.map((s) => [s, here.get(s) ?? read.get(s) ?? []]));
  const reached = new Set<Subject>();
  for (const [s, entries] of own) if (subjectType(s) === 'pack') for (const r of reachOf(entries)) reached.add(r.subject);
  const around = [...reached].filter((s) => !own.has(s) && !here.has(s));
  const [places, machines] = [true, false].map((p) => around.filter((s) => (subjectType(s) === 'place') === p));
  const seen = new Map([
    ...(machines!.length > 0 ? await log.entriesOf(machines!) : []),
    ...(places!.length > 0 ? await log.entriesOf(places!, PLACE_HAZARDS) : []),
  ]);
  return { own, entriesOf: (s) => own.get(s) ?? here.get(s) ?? seen.get(s) };
}

/** A pack's own entries with the hazards that reach it; any other subject's own. */
export const entriesFor = (subject: Subject, { own, entriesOf }: Gathered): readonly LoggedEntry[] =>
  subjectType(subject) === 'pack' ? withReached(own.get(subject)!, entriesOf) : own.get(subject)!;

/** An empty difference that can be filled. */
const emptyDiff = () =>
  Object.fromEntries(SUBJECT_TYPES.map((t) => [t, new Map<string, unknown>()])) as Record<SubjectType, Map<string, unknown>>;

/**
 * Folds the gathered subjects. A log with nothing in it folds to null, whatever the type.
 * @param types the types that are wanted; others are left out, and so are those that only a newer program knows.
 */
export function fold(gathered: Gathered, types: readonly SubjectType[] = SUBJECT_TYPES): Diff {
  const out = emptyDiff();
  for (const s of gathered.own.keys()) {
    const type = subjectType(s);
    if (!types.includes(type)) continue;
    const entries = entriesFor(s, gathered);
    out[type].set(subjectId(s), entries.length > 0 ? FOLDS[type](subjectId(s), entries) : null);
  }
  return out as Diff;
}
