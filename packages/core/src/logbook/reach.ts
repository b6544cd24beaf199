import { byTime, type Kind, type LoggedEntry, type Subject, subjectType } from './entry';
import { firstSubjectId, isMend, isPending, standing, when } from './standing';

/** A notebook or place whose hazards reach a pack, and when: a new pack is not concerned by what was seen before it was there. */
export interface Reach {
  readonly subject: Subject;
  /** ISO time, or null: from the beginning. */
  readonly from: string | null;
  /** ISO time it was taken away again, or null: it may be there still. */
  readonly until: string | null;
}

/** What is said of a place and may concern every pack that lies in it, also one that the writer did not know to lie there. */
const HAZARDS: readonly Kind[] = ['container-looked', 'incident-opened'];
/** The same, with what mends it. */
export const PLACE_HAZARDS: readonly Kind[] = [...HAZARDS, 'corrected', 'retracted', 'confirmed', 'declined'];

function notebooksOf(entries: readonly LoggedEntry[]): Reach[] {
  const found = new Map<string, string | null>();
  for (const e of entries) {
    const notebook = firstSubjectId(e, 'notebook');
    if (notebook === null) continue;
    if (e.kind === 'pack-added' && (e.body.use === 'removed' || e.body.use === 'fitted')) found.set(notebook, null);
    else if (e.kind === 'refitted') {
      const known = found.get(notebook);
      if (known !== null && (known === undefined || when(e) < known)) found.set(notebook, when(e));
    }
  }
  return [...found].map(([notebook, from]) => ({ subject: `notebook:${notebook}`, from, until: null }));
}

const LEAVES: readonly Kind[] = ['moved', 'refitted', 'handed-over', 'drum-collected', 'consignment-handed-over'];

/** What takes a pack away from where it lay. */
interface Leave {
  readonly entry: LoggedEntry;
  /** Does it end the stays before it? Not while a second person is waited for, and not when it was taken back: then it never happened. */
  readonly ends: boolean;
  /** When it was taken back; null where it was not. */
  readonly back: string | null;
}

function leavesOf(entries: readonly LoggedEntry[]): Leave[] {
  const leaves = entries.filter((e) => LEAVES.includes(e.kind));
  const byId = new Map(leaves.map((e) => [e.id, e]));
  /** What each mend rests on in the end, where that is a leave. */
  const rests = new Map<string, LoggedEntry>();
  for (let found = -1; found !== rests.size;) {
    found = rests.size;
    for (const m of entries) {
      const target = isMend(m) && m.replaces ? (byId.get(m.replaces) ?? rests.get(m.replaces)) : undefined;
      if (target) rests.set(m.id, target);
    }
  }
  const plain = (entry: LoggedEntry): Leave => ({ entry, ends: !isPending(entry, entries), back: null });
  if (rests.size === 0) return leaves.map(plain);
  const items = new Map(standing(entries).items.map((i) => [(rests.get(i.entry.id) ?? i.entry).id, i]));
  return leaves.map((entry) => {
    const item = items.get(entry.id);
    if (item) return { ...plain(entry), ends: !item.doubted && !isPending(entry, entries) };
    const backs = entries.filter((m) => m.kind === 'retracted' && rests.get(m.id) === entry).map(when);
    return { entry, ends: false, back: [when(entry), ...backs].sort().pop()! };
  });
}

/**
 * Every stay in a place, from the move there to whatever took it away. A move that came in after danger was told of the place, and is dated
 * before it, takes nothing away until a second person agrees. A move that was taken back took nothing away either; until then the pack
 * may have lain in both places.
 */
function placesOf(entries: readonly LoggedEntry[]): Reach[] {
  const out: Reach[] = [];
  let here: { readonly subject: Subject; readonly from: string }[] = [];
  for (const { entry: e, ends, back } of leavesOf(entries)) {
    if (ends) {
      for (const stay of here) out.push({ ...stay, until: when(e) });
      here = [];
    }
    const place = e.kind === 'moved' ? firstSubjectId(e, 'place') : null;
    if (place === null) continue;
    const stay = { subject: `place:${place}` as const, from: when(e) };
    if (back === null) here.push(stay);
    else out.push({ ...stay, until: back });
  }
  for (const stay of here) out.push({ ...stay, until: null });
  return out;
}

/** Notebooks a pack belongs to and places it lay in: a hazard written on one of them reaches the pack, whenever it was written. */
export function reachOf(entries: readonly LoggedEntry[]): Reach[] {
  return [...notebooksOf(entries), ...placesOf([...entries].sort(byTime))];
}

/** Does an entry on the notebook or place reach a pack that was there? What came at the very moment it was taken away found it there. */
export function reaches(e: LoggedEntry, r: Reach): boolean {
  const inTime = (r.from === null || when(e) >= r.from) && (r.until === null || when(e) <= r.until);
  if (!e.hazard || !inTime) return false;
  // On a notebook, what names a pack concerns that pack alone; at a place the packs named are those the writer knew of.
  return subjectType(r.subject) === 'place' ? HAZARDS.includes(e.kind) : !e.subjects.some((s) => subjectType(s) === 'pack');
}

/** What an entry mends, signs or declines. */
function about(e: LoggedEntry): string | undefined {
  if (e.kind === 'confirmed') return e.body.confirms;
  if (e.kind === 'declined') return e.body.declines;
  return e.replaces;
}

/** A pack's own entries and the hazards of its notebooks and places that reach it, with whatever mends those. */
export function withReached(
  own: readonly LoggedEntry[],
  entriesOf: (subject: Subject) => readonly LoggedEntry[] | undefined,
): LoggedEntry[] {
  const out = new Map(own.map((e) => [e.id, e]));
  for (const r of reachOf(own)) {
    const there = entriesOf(r.subject) ?? [];
    const hazards = there.filter((e) => reaches(e, r));
    if (hazards.length === 0) continue;
    for (const e of hazards) out.set(e.id, e);
    let mends = there.filter((e) => about(e) !== undefined && !out.has(e.id));
    for (let found = -1; found !== 0;) {
      const now = mends.filter((e) => out.has(about(e)!));
      for (const e of now) out.set(e.id, e);
      found = now.length;
      mends = mends.filter((e) => !out.has(e.id));
    }
  }
  return [...out.values()];
}
