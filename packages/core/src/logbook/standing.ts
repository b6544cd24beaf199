import type { Bodies, Entry, EntryOf, Kind, LoggedEntry } from './entry';
import { subjectId, subjectType } from './entry';

/**
 * Folds keep every uncorrected statement and decide nothing. A correction that is not in force keeps the old statement and adds
 * the new one: whatever judges danger sees both, whatever needs evidence sees neither. So more caution acts at once, milder
 * waits for the second person, and the order of arrival cannot matter.
 */
export interface Statement<T> {
  readonly id: string;
  readonly by: string;
  readonly at: string;
  /** When the server took it: what cannot be dated back. */
  readonly recordedAt: string | null;
  readonly seq: number | null;
  /** Questioned or not yet confirmed: counts for danger, not as evidence. */
  readonly doubted: boolean;
  /** A correction that waits for its second person. */
  readonly unconfirmed: boolean;
  readonly body: T;
}

/** Something that waits for a second person. */
export interface Waiting {
  readonly id: string;
  readonly kind: Kind;
  readonly by: string;
  readonly at: string;
  readonly reason: string;
  /** Entries it would mend, clear, end or outweigh. */
  readonly about: readonly string[];
  /** Only somebody trained to assess may confirm it. */
  readonly trained: boolean;
}

const BENIGN: ReadonlySet<Kind> = new Set(['looked', 'finding-cleared', 'quiet-declared', 'summary-filed', 'rule-checked']);

/** Statements whose only effect is to make a pack milder: taking one back acts at once. "Never tested" is not one of them. */
export function isBenign(kind: Kind, body: unknown): boolean {
  if (kind === 'evidence-stated') return (body as Bodies['evidence-stated']).typeTested === 'yes';
  if (kind === 'cycled') return (body as Bodies['cycled']).went === 'as-usual';
  return BENIGN.has(kind);
}
/** What is read off a plate or a label. */
export const READ_OFF: ReadonlySet<Kind> = new Set(['label-read', 'notebook-identified', 'pack-added']);
const AUTHOR_WINDOW_MS = 15 * 60_000;
/** What somebody trained must confirm where an entry says nothing of it itself: it was written before that was found by the server. */
const TRAINED: ReadonlySet<Kind> = new Set(['finding-recorded', 'finding-cleared', 'triaged', 'intake-noted']);

/** When it happened, by the server's clock where that is known. */
export const when = (e: LoggedEntry) => e.effectiveAt ?? e.at;

/** A statement that still stands. */
export interface Item {
  readonly entry: LoggedEntry;
  readonly kind: Kind;
  readonly body: unknown;
  readonly doubted: boolean;
  readonly unconfirmed: boolean;
}

/** Signatures of second persons by the entry they are about: who signed, known to the server. */
function signed(all: readonly LoggedEntry[], kind: 'confirmed' | 'declined'): ReadonlyMap<string, ReadonlySet<string>> {
  const out = new Map<string, Set<string>>();
  for (const e of all) {
    if (e.kind !== kind || e.seq === null) continue;
    const about = e.kind === 'confirmed' ? e.body.confirms : (e as LoggedEntry & EntryOf<'declined'>).body.declines;
    const who = out.get(about);
    if (who) who.add(e.by);
    else out.set(about, new Set([e.by]));
  }
  return out;
}

const byOther = (e: LoggedEntry, who: ReadonlySet<string> | undefined): boolean =>
  e.seq !== null && who !== undefined && [...who].some((p) => p !== e.by);

/** Is this entry confirmed by somebody else, and known to the server on both sides? */
export const confirmedByOther = (entry: LoggedEntry, all: readonly LoggedEntry[]): boolean =>
  byOther(entry, signed(all, 'confirmed').get(entry.id));

/** What was read off a plate or label may be mended by its author within 15 minutes while nothing stands on it. */
export function authorsOwnMend(mend: LoggedEntry, target: LoggedEntry, kind: Kind, all: readonly LoggedEntry[]): boolean {
  if (mend.seq === null || mend.by !== target.by || !READ_OFF.has(kind)) return false;
  // By the bench's clock and by the server's: neither may be stretched by dating an entry back.
  const bench = Date.parse(when(mend)) - Date.parse(when(target));
  const server = Date.parse(mend.recordedAt ?? '') - Date.parse(target.recordedAt ?? '');
  const stoodOn = all.some((e) => e.kind === 'moved' && when(e) >= when(target) && when(e) <= when(mend));
  return bench >= 0 && bench <= AUTHOR_WINDOW_MS && server <= AUTHOR_WINDOW_MS && !stoodOn;
}

type Mend = LoggedEntry & (EntryOf<'corrected'> | EntryOf<'retracted'>);
export const isMend = (e: LoggedEntry): e is Mend => e.kind === 'corrected' || e.kind === 'retracted';

/** Does an entry that is no mend wait: the server found that it would make something milder? */
export const isPending = (e: LoggedEntry, all: readonly LoggedEntry[]): boolean =>
  (e.waits === 'second' || e.waits === 'trained') && !confirmedByOther(e, all);

/** Kind of what a correction, or a correction of corrections, rests on. Loops, which no server takes, end. */
export function rootKinds(all: readonly LoggedEntry[]): (e: LoggedEntry) => Kind {
  const byId = new Map(all.map((e) => [e.id, e]));
  const known = new Map<string, Kind>();
  return (e) => {
    const path: LoggedEntry[] = [];
    let at: LoggedEntry = e;
    while (!known.has(at.id) && at.kind === 'corrected' && at.replaces && path.length <= all.length) {
      path.push(at);
      const target = byId.get(at.replaces);
      if (!target) break;
      at = target;
    }
    const kind = known.get(at.id) ?? at.kind;
    for (const p of path) known.set(p.id, kind);
    return kind;
  };
}

/** As the server took them; what it has not seen yet came last. */
const byArrival = (a: LoggedEntry, b: LoggedEntry): number =>
  (a.seq ?? Number.MAX_SAFE_INTEGER) - (b.seq ?? Number.MAX_SAFE_INTEGER) || (a.id < b.id ? -1 : 1);

export interface Standing {
  readonly items: Item[];
  /** In the order in which they came in. */
  readonly waiting: Waiting[];
  /** Was this entry confirmed by somebody else? */
  readonly confirmed: (e: LoggedEntry) => boolean;
  /** Everybody else who confirmed it. */
  readonly signers: (e: LoggedEntry) => string[];
}

/** Applies corrections and retractions; returns what still stands, and what waits. */
export function standing(all: readonly LoggedEntry[]): Standing {
  const byId = new Map(all.map((e) => [e.id, e]));
  const mends = all.filter(isMend);
  const against = new Map<string, Mend[]>();
  for (const m of mends) {
    if (!m.replaces) continue;
    const list = against.get(m.replaces);
    if (list) list.push(m);
    else against.set(m.replaces, [m]);
  }
  const confirms = signed(all, 'confirmed');
  const declines = signed(all, 'declined');
  const confirmed = (e: LoggedEntry) => byOther(e, confirms.get(e.id));
  const declined = (e: LoggedEntry) => byOther(e, declines.get(e.id));
  const rootKind = rootKinds(all);
  const targetOf = (m: Mend) => (m.replaces ? byId.get(m.replaces) : undefined);
  const inForce = new Map<string, boolean>();
  for (const m of mends) {
    const target = targetOf(m);
    const alone =
      target !== undefined &&
      (m.waits === undefined ? authorsOwnMend(m, target, rootKind(target), all) : m.waits === 'nobody' && m.seq !== null);
    inForce.set(m.id, target !== undefined && (confirmed(m) || alone));
  }
  // A mend that was itself taken back has no force any more: what it mended stands again.
  const takenBack = (m: LoggedEntry) => (against.get(m.id) ?? []).some((x) => x.kind === 'retracted' && inForce.get(x.id));
  const holds = (m: Mend) => inForce.get(m.id) === true && !takenBack(m);
  const actsAtOnce = (m: Mend) => {
    const target = targetOf(m);
    return target !== undefined && isBenign(rootKind(target), bodyOf(target));
  };
  const waiting: Waiting[] = mends
    .filter((m) => !inForce.get(m.id) && !actsAtOnce(m) && !declined(m))
    .map((m) => ({
      id: m.id,
      kind: m.kind,
      by: m.by,
      at: m.at,
      reason: m.body.reason,
      about: m.replaces ? [m.replaces] : [],
      trained: m.waits === 'trained' || (m.waits === undefined && TRAINED.has(rootKind(targetOf(m) ?? m))),
    }));
  for (const e of all) {
    // Every other entry that the server holds back until a second person agrees.
    if (isMend(e) || (e.waits !== 'second' && e.waits !== 'trained') || confirmed(e) || declined(e)) continue;
    const reason = 'reason' in e.body ? String(e.body.reason) : '';
    waiting.push({ id: e.id, kind: e.kind, by: e.by, at: e.at, reason, about: [], trained: e.waits === 'trained' });
  }
  waiting.sort((a, b) => byArrival(byId.get(a.id)!, byId.get(b.id)!));

  const items: Item[] = [];
  for (const e of all) {
    if (e.kind === 'retracted' || e.kind === 'confirmed' || e.kind === 'declined') continue;
    const kind = rootKind(e);
    const mended = against.get(e.id) ?? [];
    if (mended.some(holds)) continue;
    const body = bodyOf(e);
    const live = mended.filter((m) => !takenBack(m));
    // A corrected "nothing found" is no evidence: it is said anew.
    if (isBenign(kind, body) && (live.length > 0 || e.kind === 'corrected')) continue;
    const unconfirmed = e.kind === 'corrected' && !inForce.get(e.id);
    items.push({
      entry: e,
      kind,
      body,
      doubted: live.length > 0 || unconfirmed,
      unconfirmed: unconfirmed && live.length === 0,
    });
  }
  const signers = (e: LoggedEntry) => [...(confirms.get(e.id) ?? [])].filter((p) => p !== e.by).sort();
  return { items, waiting, confirmed, signers };
}

/** What an entry says: of a correction the corrected body. */
export const bodyOf = (e: LoggedEntry): unknown => (e.kind === 'corrected' ? e.body.body : e.body);

/** The statement as facts keep it. */
export const note = <T>(i: Item, body: T): Statement<T> => ({
  id: i.entry.id,
  by: i.entry.by,
  at: when(i.entry),
  recordedAt: i.entry.recordedAt,
  seq: i.entry.seq,
  doubted: i.doubted,
  unconfirmed: i.unconfirmed,
  body,
});

/** The first subject of a type that an entry names. */
export const firstSubjectId = (e: Entry, type: string): string | null => {
  const s = e.subjects.find((x) => subjectType(x) === type);
  return s ? subjectId(s) : null;
};
