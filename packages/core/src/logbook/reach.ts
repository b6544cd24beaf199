import { byTime, type Kind, type LoggedEntry, type Subject, subjectType } from './entry';
import { isPending, firstSubjectId, when } from './standing';

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

/**
 * Every stay in a place, from the move there to whatever took it away. A move that came in after danger was told of the place, and is dated
 * before it, takes nothing away until a second person agrees.
 */
function placesOf(entries: readonly LoggedEntry[]): Reach[] {
  const out: Reach[] = [];
  let here: { readonly subject: Subject; readonly from: string }[] = [];
  for (const e of entries) {
    if (!LEAVES.includes(e.kind)) continue;
    if (!isPending(e, entries)) {
      for (const stay of here) out.push({ ...stay, until: when(e) });
      here = [];
    }
    const place = e.kind === 'moved' ? firstSubjectId(e, 'place') : null;
    if (place !== null) here.push({ subject: `place:${place}`, from: when(e) });
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
