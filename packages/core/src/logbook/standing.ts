import type { Bodies, Entry, EntryOf, Kind, LoggedEntry } from './entry';
import { subjectId, subjectType } from './entry';

/**
 * Folds keep every uncorrected statement and decide nothing. A correction that is not in force keeps the old statement and adds
 * the new one: whatever judges danger sees both, whatever needs evidence sees neither. So more caution acts at once, milder
 * waits for the second person, and the order of arrival cannot matter.
 */
export interface Noted<T> {
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
  /** Entries it would mend, clear or end. */
  readonly about: readonly string[];
}

/** Statements whose only effect is to make a pack milder: taking one back acts at once. "Never tested" is not one of them. */
function isBenign(kind: Kind, body: unknown): boolean {
  if (kind === 'evidence-stated') return (body as Bodies['evidence-stated']).typeTested === 'yes';
  return kind === 'looked' || kind === 'finding-cleared' || kind === 'quiet-declared';
}
const READ_OFF: ReadonlySet<Kind> = new Set(['label-read', 'notebook-identified', 'pack-added']);
const AUTHOR_WINDOW_MS = 15 * 60_000;

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

/** Is this entry confirmed by somebody else, and known to the server on both sides? */
export function confirmedByOther(entry: LoggedEntry, all: readonly LoggedEntry[]): boolean {
  return (
    entry.seq !== null &&
    all.some((c) => c.kind === 'confirmed' && c.body.confirms === entry.id && c.by !== entry.by && c.seq !== null)
  );
}

/** What was read off a plate or label may be mended by its author within 15 minutes while nothing stands on it. */
function authorsOwnMend(mend: LoggedEntry, target: LoggedEntry, kind: Kind, all: readonly LoggedEntry[]): boolean {
  if (mend.seq === null || mend.by !== target.by || !READ_OFF.has(kind)) return false;
  // By the bench's clock and by the server's: neither may be stretched by dating an entry back.
  const bench = Date.parse(when(mend)) - Date.parse(when(target));
  const server = Date.parse(mend.recordedAt ?? '') - Date.parse(target.recordedAt ?? '');
  const stoodOn = all.some((e) => e.kind === 'moved' && when(e) >= when(target) && when(e) <= when(mend));
  return bench >= 0 && bench <= AUTHOR_WINDOW_MS && server <= AUTHOR_WINDOW_MS && !stoodOn;
}

type Mend = LoggedEntry & (EntryOf<'corrected'> | EntryOf<'retracted'>);
const isMend = (e: LoggedEntry): e is Mend => e.kind === 'corrected' || e.kind === 'retracted';

/** Applies corrections and retractions; returns what still stands, and what waits. */
export function standing(all: readonly LoggedEntry[]): { items: Item[]; waiting: Waiting[] } {
  const byId = new Map(all.map((e) => [e.id, e]));
  const mends = all.filter(isMend);
  const rootKind = (e: LoggedEntry): Kind => {
    const target = e.kind === 'corrected' && e.replaces ? byId.get(e.replaces) : undefined;
    return target ? rootKind(target) : e.kind;
  };
  const inForce = new Map<string, boolean>();
  for (const m of mends) {
    const target = m.replaces ? byId.get(m.replaces) : undefined;
    inForce.set(m.id, target !== undefined && (confirmedByOther(m, all) || authorsOwnMend(m, target, rootKind(target), all)));
  }
  const actsAtOnce = (m: Mend) => {
    const target = m.replaces ? byId.get(m.replaces) : undefined;
    return target !== undefined && isBenign(rootKind(target), target.body);
  };
  const waiting: Waiting[] = mends
    .filter((m) => !inForce.get(m.id) && !actsAtOnce(m))
    .map((m) => ({ id: m.id, kind: m.kind, by: m.by, at: m.at, reason: m.body.reason, about: m.replaces ? [m.replaces] : [] }));

  const items: Item[] = [];
  for (const e of all) {
    if (e.kind === 'retracted' || e.kind === 'confirmed') continue;
    const kind = rootKind(e);
    const against = mends.filter((m) => m.replaces === e.id);
    if (against.some((m) => inForce.get(m.id))) continue;
    const body: unknown = e.kind === 'corrected' ? e.body.body : e.body;
    // A corrected "nothing found" is no evidence: it is said anew.
    if (isBenign(kind, body) && (against.length > 0 || e.kind === 'corrected')) continue;
    const unconfirmed = e.kind === 'corrected' && !inForce.get(e.id);
    items.push({
      entry: e,
      kind,
      body,
      doubted: against.length > 0 || unconfirmed,
      unconfirmed: unconfirmed && against.length === 0,
    });
  }
  return { items, waiting };
}

/** The statement as facts keep it. */
export const note = <T>(i: Item, body: T): Noted<T> => ({
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
export const other = (e: Entry, type: string): string | null => {
  const s = e.subjects.find((x) => subjectType(x) === type);
  return s ? subjectId(s) : null;
};
