import type {
  Bodies,
  DueKind,
  Entry,
  EntryOf,
  GaugeBody,
  Kind,
  LabelBody,
  LoggedEntry,
  LookGroup,
  PackUse,
  Purpose,
  ReadingBody,
  Subject,
} from './entry';
import { byTime, KINDS, subjectId, subjectType } from './entry';

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

export interface DueItem {
  readonly id: string;
  readonly what: DueKind;
  /** YYYY-MM-DD. */
  readonly on: string;
  readonly note: string;
}

export interface PackFacts {
  readonly id: string;
  readonly tag: string;
  readonly use: PackUse | null;
  readonly slot: 'internal' | 'external' | 'dock' | null;
  readonly notebook: string | null;
  readonly job: string | null;
  readonly labels: readonly Noted<LabelBody>[];
  readonly readings: readonly Noted<ReadingBody>[];
  readonly gauges: readonly Noted<GaugeBody>[];
  readonly looks: readonly Noted<{ readonly groups: readonly LookGroup[]; readonly where: 'pack' | 'outside' }>[];
  readonly findings: readonly Noted<Bodies['finding-recorded']>[];
  /** Clearings in force. */
  readonly clearings: readonly Noted<{ readonly clears: readonly string[] }>[];
  /** Declarations of 24 quiet hours that two people signed; whether the looks bear them out is judged later. */
  readonly quiets: readonly Noted<{ readonly ends: readonly string[] }>[];
  readonly evidence: readonly Noted<{ readonly typeTested: 'yes' | 'no' }>[];
  readonly purpose: Purpose | null;
  readonly place: string | null;
  readonly placedAt: string | null;
  readonly dues: readonly DueItem[];
  readonly waiting: readonly Waiting[];
  /** A hazard this program does not know: shown as damaged, "update this app". */
  readonly unknownHazard: boolean;
  readonly lastAt: string;
  readonly entries: number;
  readonly unsent: number;
}

/** Statements whose only effect is to make a pack milder: taking one back acts at once. "Never tested" is not one of them. */
function isBenign(kind: Kind, body: unknown): boolean {
  if (kind === 'evidence-stated') return (body as Bodies['evidence-stated']).typeTested === 'yes';
  return kind === 'looked' || kind === 'finding-cleared' || kind === 'quiet-declared';
}
const READ_OFF: ReadonlySet<Kind> = new Set(['label-read', 'notebook-identified', 'pack-added']);
const AUTHOR_WINDOW_MS = 15 * 60_000;

const when = (e: LoggedEntry) => e.effectiveAt ?? e.at;

interface Item {
  readonly entry: LoggedEntry;
  readonly kind: Kind;
  readonly body: unknown;
  readonly doubted: boolean;
  readonly unconfirmed: boolean;
}

/** Is this entry confirmed by somebody else, and known to the server on both sides? */
function confirmedByOther(entry: LoggedEntry, all: readonly LoggedEntry[]): boolean {
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
function standing(all: readonly LoggedEntry[]): { items: Item[]; waiting: Waiting[] } {
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

const note = <T>(i: Item, body: T): Noted<T> => ({
  id: i.entry.id,
  by: i.entry.by,
  at: when(i.entry),
  recordedAt: i.entry.recordedAt,
  seq: i.entry.seq,
  doubted: i.doubted,
  unconfirmed: i.unconfirmed,
  body,
});

const KNOWN: ReadonlySet<string> = new Set(KINDS);

const other = (e: Entry, type: string): string | null => {
  const s = e.subjects.find((x) => subjectType(x) === type);
  return s ? subjectId(s) : null;
};

/**
 * Folds the entries that concern one pack, each with its seq or null.
 * @returns null when none of them adds or mentions the pack.
 */
export function foldPack(id: string, entries: readonly LoggedEntry[]): PackFacts | null {
  const me: Subject = `pack:${id}`;
  const seen = new Map(entries.map((e) => [e.id, e]));
  const all = [...seen.values()].sort(byTime);
  if (!all.some((e) => e.subjects.includes(me))) return null;
  const { items, waiting } = standing(all);
  const pick = <K extends Kind>(kind: K) => items.filter((i) => i.kind === kind).map((i) => note(i, i.body as Bodies[K]));
  const last = <T>(list: readonly T[]): T | undefined => list[list.length - 1];

  const added = items.filter((i) => i.kind === 'pack-added');
  const addedBody = added[0]?.body as Bodies['pack-added'] | undefined;
  const moves = items.filter((i) => i.kind === 'moved' && i.entry.subjects.includes(me));
  const move = last(moves);
  const cleared = items.filter((i) => i.kind === 'finding-cleared');
  const quiets = items.filter((i) => i.kind === 'quiet-declared');
  const pendingOf = (i: Item, about: readonly string[], reason: string): Waiting => ({
    id: i.entry.id,
    kind: i.kind,
    by: i.entry.by,
    at: i.entry.at,
    reason,
    about,
  });
  const clearBody = (i: Item) => i.body as Bodies['finding-cleared'];
  const quietBody = (i: Item) => i.body as Bodies['quiet-declared'];
  const stillWaiting = [
    ...waiting,
    ...cleared.filter((i) => !confirmedByOther(i.entry, all)).map((i) => pendingOf(i, clearBody(i).clears, clearBody(i).reason)),
    ...quiets.filter((i) => !confirmedByOther(i.entry, all)).map((i) => pendingOf(i, quietBody(i).ends, quietBody(i).reason)),
  ];
  return {
    id,
    tag: addedBody?.tag ?? '',
    use: last(added) ? (last(added)!.body as Bodies['pack-added']).use : null,
    slot: addedBody?.slot ?? null,
    notebook: added.map((i) => other(i.entry, 'notebook')).find((x) => x !== null) ?? null,
    job: added.map((i) => other(i.entry, 'job')).find((x) => x !== null) ?? null,
    labels: pick('label-read'),
    readings: pick('reading-taken'),
    gauges: pick('gauge-read'),
    looks: pick('looked').map((n) => ({ ...n, body: { groups: n.body.groups, where: n.body.where ?? 'pack' } })),
    findings: pick('finding-recorded'),
    clearings: cleared.filter((i) => confirmedByOther(i.entry, all)).map((i) => note(i, { clears: clearBody(i).clears })),
    quiets: quiets.filter((i) => confirmedByOther(i.entry, all)).map((i) => note(i, { ends: quietBody(i).ends })),
    evidence: pick('evidence-stated'),
    purpose: last(pick('intended'))?.body.purpose ?? null,
    place: move ? other(move.entry, 'place') : null,
    placedAt: move ? when(move.entry) : null,
    dues: openDues(all),
    waiting: stillWaiting.sort((a, b) => (a.id < b.id ? -1 : 1)),
    unknownHazard: all.some((e) => !KNOWN.has(e.kind) && e.hazard),
    lastAt: when(last(all)!),
    entries: all.length,
    unsent: all.filter((e) => e.seq === null).length,
  };
}

/** Notebooks a pack was linked to: a finding on one of them reaches the pack, whenever it was written. */
export function notebooksOf(entries: readonly LoggedEntry[]): string[] {
  return [...new Set(entries.flatMap((e) => (e.kind === 'pack-added' ? (other(e, 'notebook') ?? []) : [])))];
}

/** Does an entry on a notebook reach the packs linked to it? */
export const reachesPacks = (e: LoggedEntry): boolean => e.hazard && !e.subjects.some((s) => subjectType(s) === 'pack');

/** What was set due and not met. */
export function openDues(all: readonly LoggedEntry[]): DueItem[] {
  const met = new Set(all.flatMap((e) => (e.kind === 'due-met' ? [e.body.meets] : [])));
  return all.flatMap((e) =>
    e.kind === 'due-set' && !met.has(e.id) ? [{ id: e.id, what: e.body.what, on: e.body.on, note: e.body.note ?? '' }] : [],
  );
}

export interface NotebookFacts {
  readonly id: string;
  readonly tag: string;
  readonly plate: 'read' | 'unreadable';
  readonly maker: string;
  readonly model: string;
  readonly serial: string;
  readonly job: string | null;
  readonly lastAt: string;
}

/** Folds one notebook; null before it was identified. */
export function foldNotebook(id: string, entries: readonly LoggedEntry[]): NotebookFacts | null {
  const all = [...entries].sort(byTime);
  const bodies = standing(all).items.filter((i) => i.kind === 'notebook-identified');
  const body = bodies[bodies.length - 1]?.body as Bodies['notebook-identified'] | undefined;
  if (!body) return null;
  const job = all.filter((e) => e.kind === 'job-opened').map((e) => other(e, 'job'));
  return {
    id,
    tag: body.tag,
    plate: body.plate,
    maker: body.maker ?? '',
    model: body.model ?? '',
    serial: body.serial ?? '',
    job: job[job.length - 1] ?? null,
    lastAt: when(all[all.length - 1]!),
  };
}

export interface JobFacts {
  readonly id: string;
  readonly notebook: string | null;
  readonly complaint: string;
  readonly openedAt: string;
  readonly closedAt: string | null;
  readonly packs: readonly string[];
  readonly dues: readonly DueItem[];
  readonly lastAt: string;
}

/** Folds one job; null before it was opened. */
export function foldJob(id: string, entries: readonly LoggedEntry[]): JobFacts | null {
  const all = [...entries].sort(byTime);
  const opened = all.find((e) => e.kind === 'job-opened');
  if (!opened) return null;
  const closed = all.filter((e) => e.kind === 'job-closed');
  const packs = new Set(all.filter((e) => e.kind === 'pack-added').flatMap((e) => other(e, 'pack') ?? []));
  return {
    id,
    notebook: other(opened, 'notebook'),
    complaint: opened.kind === 'job-opened' ? (opened.body.complaint ?? '') : '',
    openedAt: when(opened),
    closedAt: closed.length > 0 ? when(closed[closed.length - 1]!) : null,
    packs: [...packs].sort(),
    dues: openDues(all),
    lastAt: when(all[all.length - 1]!),
  };
}

export type PlaceFacts = Bodies['place-added'] & { readonly id: string; readonly dues: readonly DueItem[] };

/** Folds one place; null before it was added. */
export function foldPlace(id: string, entries: readonly LoggedEntry[]): PlaceFacts | null {
  const all = [...entries].sort(byTime);
  const bodies = standing(all).items.filter((i) => i.kind === 'place-added');
  const body = bodies[bodies.length - 1]?.body as Bodies['place-added'] | undefined;
  return body ? { id, ...body, dues: openDues(all) } : null;
}

export interface PolicyFacts {
  readonly swelling: 'any' | 'allowance';
  readonly innerCellLimit: boolean;
  readonly siteCard: Bodies['site-card-set'] | null;
}

export const DEFAULT_POLICY: PolicyFacts = { swelling: 'any', innerCellLimit: false, siteCard: null };

/**
 * Folds the workshop's policy. A switch to the milder school is in force only once a second person confirmed it; of several in
 * force the last one counts.
 */
export function foldPolicy(entries: readonly LoggedEntry[]): PolicyFacts {
  const all = [...entries].sort(byTime);
  let policy = DEFAULT_POLICY;
  for (const e of all) {
    if (e.kind === 'site-card-set') policy = { ...policy, siteCard: e.body };
    if (e.kind !== 'policy-set') continue;
    const milder = e.body.swelling === 'allowance' || (e.body.innerCellLimit === false && policy.innerCellLimit);
    if (milder && !confirmedByOther(e, all)) continue;
    policy = { ...policy, ...e.body };
  }
  return policy;
}
