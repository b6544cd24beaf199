import type { Figure } from '../quantity/figure';
import { byTime, type LoggedEntry, type PhotoBody, type Subject, subjectId, subjectType } from './entry';
import type {
  BoxBody,
  CarrierBody,
  ConsignmentDescription,
  DispatchBodies,
  Ending,
  NoticeBody,
  PlannedBox,
  SentPackage,
} from './entry-dispatch';
import { type DueItem, openDues } from './fold-dues';
import { firstSubjectId, isMend, type Item, note, type Statement, standing, when } from './standing';

/** A package that was closed, and not opened since. */
export interface ClosedPackage {
  readonly at: string;
  readonly by: string;
  readonly box?: string;
  readonly weighed?: Figure<'kg' | 'g'>;
  readonly seal?: string;
}

export interface Sent {
  readonly at: string;
  readonly by: string;
  readonly to: string;
  readonly number?: string;
  readonly on: string;
  readonly mode: DispatchBodies['consignment-handed-over']['mode'];
  readonly region: DispatchBodies['consignment-handed-over']['region'];
  readonly packages: readonly SentPackage[];
  /** Every pack that left with it. */
  readonly packs: readonly string[];
}

export interface ConsignmentFacts extends ConsignmentDescription {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  /** The plan kept last. */
  readonly plan: {
    readonly at: string;
    readonly by: string;
    readonly packages: readonly PlannedBox[];
    readonly bound: number | null;
  } | null;
  /** Packs put into it and not taken out, by its own entries: what is in it, where a pack's own log is not at hand. */
  readonly consigned: readonly string[];
  /** Which package each pack lies in, by what was said last of it here. */
  readonly packed: Readonly<Record<string, string>>;
  readonly closed: Readonly<Record<string, ClosedPackage>>;
  /** Second counts since the package was closed last, each by whom. */
  readonly counts: Readonly<Record<string, readonly { readonly by: string; readonly count: number }[]>>;
  readonly sent: Sent | null;
  readonly arrived: (DispatchBodies['consignment-arrived'] & { readonly at: string; readonly by: string }) | null;
  readonly ended: { readonly how: Ending; readonly reason: string; readonly at: string; readonly by: string } | null;
  readonly photos: readonly Statement<PhotoBody>[];
  /** What was set due for it and not met: a kit, an answer. */
  readonly dues: readonly DueItem[];
  readonly lastAt: string;
}

const packsOf = (i: Item): string[] => i.entry.subjects.filter((s) => subjectType(s) === 'pack').map(subjectId);
const bodyAs = <K extends keyof DispatchBodies>(i: Item) => i.body as DispatchBodies[K];

const PACKING: readonly string[] = ['packed', 'unpacked', 'withdrawn', 'package-opened'];

/** What was said of the packing and is mended later, in the order it was mended. */
function mendedPacking(all: readonly LoggedEntry[]): LoggedEntry[] {
  const of = new Set(all.filter((e) => PACKING.includes(e.kind)).map((e) => e.id));
  for (const e of all) if (isMend(e) && e.replaces && of.has(e.replaces)) of.add(e.id);
  return all.filter((e) => isMend(e) && of.has(e.id));
}

/** What lies in which package, and which of them are closed: whatever was put in or taken out later, or said otherwise, opens a package. */
function packingOf(items: readonly Item[], all: readonly LoggedEntry[]) {
  const sent = items.find((i) => i.kind === 'consignment-handed-over');
  // What left is closed, whatever is said of it later.
  const mends = mendedPacking(all).filter((m) => !sent || byTime(m, sent.entry) < 0);
  const packed = new Map<string, string>();
  const closed = new Map<string, ClosedPackage>();
  const counts = new Map<string, { by: string; count: number }[]>();
  const opened = (id: string | undefined) => {
    if (id === undefined) return;
    closed.delete(id);
    counts.delete(id);
  };
  for (const i of items) {
    // Which package a mend is of is not said where it takes back a taking out: all are looked at again.
    for (; mends[0] && byTime(mends[0], i.entry) < 0; mends.shift()) for (const id of [...closed.keys()]) opened(id);
    if (i.kind === 'packed') {
      const { package: into } = bodyAs<'packed'>(i);
      for (const pack of packsOf(i)) {
        if (packed.get(pack) === into) continue;
        opened(packed.get(pack));
        opened(into);
        packed.set(pack, into);
      }
    } else if (i.kind === 'unpacked' || i.kind === 'withdrawn') {
      for (const pack of packsOf(i)) {
        opened(packed.get(pack));
        packed.delete(pack);
      }
    } else if (i.kind === 'package-closed') {
      const { package: id, ...said } = bodyAs<'package-closed'>(i);
      closed.set(id, { ...said, at: when(i.entry), by: i.entry.by });
      counts.delete(id);
    } else if (i.kind === 'package-opened') opened(bodyAs<'package-opened'>(i).package);
    else if (i.kind === 'package-counted') {
      const { package: id, count } = bodyAs<'package-counted'>(i);
      counts.set(id, [...(counts.get(id) ?? []), { by: i.entry.by, count }]);
    }
  }
  if (mends.length > 0) for (const id of [...closed.keys()]) opened(id);
  return { packed: Object.fromEntries(packed), closed: Object.fromEntries(closed), counts: Object.fromEntries(counts) };
}

/** Parts of one hand-over are one; the first says when. */
function sentOf(items: readonly Item[]): Sent | null {
  const parts = items.filter((i) => i.kind === 'consignment-handed-over');
  const first = parts[0];
  if (!first) return null;
  const packages = new Map<string, SentPackage>();
  for (const i of parts) for (const p of bodyAs<'consignment-handed-over'>(i).packages) packages.set(p.id, p);
  const { to, number, on, mode, region } = bodyAs<'consignment-handed-over'>(parts[parts.length - 1]!);
  return {
    at: when(first.entry),
    by: first.entry.by,
    to,
    ...(number !== undefined && { number }),
    on,
    mode,
    region,
    packages: [...packages.values()],
    packs: [...new Set(parts.flatMap(packsOf))].sort(),
  };
}

/** Packs that were put into it and not taken out since. */
function consignedIn(items: readonly Item[]): string[] {
  const packs = new Set<string>();
  for (const i of items) {
    const put = i.kind === 'consigned' || i.kind === 'packed';
    if (!put && i.kind !== 'withdrawn') continue;
    for (const pack of packsOf(i)) {
      if (put) packs.add(pack);
      else packs.delete(pack);
    }
  }
  return [...packs].sort();
}

/** Folds one consignment; null before anything was said of it. Which packs are in it follows from the packs' own entries. */
export function foldConsignment(id: string, entries: readonly LoggedEntry[]): ConsignmentFacts | null {
  const all = [...entries].sort(byTime);
  const first = all[0];
  if (!first) return null;
  const { items } = standing(all);
  const of = (kind: keyof DispatchBodies) => items.filter((i) => i.kind === kind);
  const last = (kind: keyof DispatchBodies) => of(kind).pop();
  const plan = last('plan-kept');
  const arrived = of('consignment-arrived');
  const end = last('consignment-ended');
  // What was lost and arrived after all is not lost any more.
  const found = (i: Item) => bodyAs<'consignment-ended'>(i).how === 'lost' && arrived.some((a) => when(a.entry) > when(i.entry));
  const ended = end && !found(end) ? end : undefined;
  const signed = (i: Item) => ({ at: when(i.entry), by: i.entry.by });
  return {
    ...(Object.assign({}, ...of('consignment-described').map((i) => i.body)) as ConsignmentDescription),
    id,
    at: when(first),
    by: first.by,
    plan: plan
      ? { ...signed(plan), packages: bodyAs<'plan-kept'>(plan).packages, bound: bodyAs<'plan-kept'>(plan).bound ?? null }
      : null,
    consigned: consignedIn(items),
    ...packingOf(items, all),
    sent: sentOf(items),
    arrived:
      arrived.length > 0
        ? {
            ...(Object.assign({}, ...arrived.map((i) => i.body)) as DispatchBodies['consignment-arrived']),
            ...signed(arrived[0]!),
          }
        : null,
    ended: ended ? { ...bodyAs<'consignment-ended'>(ended), ...signed(ended) } : null,
    dues: openDues(items),
    photos: items.filter((i) => i.kind === 'photo-taken').map((i) => note(i, i.body as PhotoBody)),
    lastAt: when(all[all.length - 1]!),
  };
}

const WHOLE: readonly string[] = ['box-described', 'carrier-described', 'notice-filed'];

export type BoxFacts = BoxBody & { readonly id: string; readonly at: string };
export type CarrierFacts = CarrierBody & { readonly id: string; readonly at: string };

/** What was said last of a box, a carrier or a notice, whole; null where nothing stands. */
function lastSaid<T>(id: string, entries: readonly LoggedEntry[]): (T & { readonly id: string; readonly at: string }) | null {
  const item = standing([...entries].sort(byTime))
    .items.filter((i) => WHOLE.includes(i.kind))
    .pop();
  return item ? { ...(item.body as T), id, at: when(item.entry) } : null;
}
export const foldBox = (id: string, entries: readonly LoggedEntry[]): BoxFacts | null => lastSaid<BoxBody>(id, entries);
export const foldCarrier = (id: string, entries: readonly LoggedEntry[]): CarrierFacts | null =>
  lastSaid<CarrierBody>(id, entries);

export type NoticeFacts = NoticeBody & { readonly id: string; readonly at: string };
export const foldNotice = (id: string, entries: readonly LoggedEntry[]): NoticeFacts | null => lastSaid<NoticeBody>(id, entries);

/** How a pack stands to consignments. */
export interface PackConsignment {
  /** The one consignment it is in, or left with; null for none. */
  readonly id: string | null;
  /** When it left with it; null while it is here. */
  readonly left: string | null;
  /** When it was refused or came back last: whatever was looked at before says nothing of it now. */
  readonly back: string | null;
}

/** A pack that went into a machine, with its owner, or with a drum is in no box of ours any more. */
const ANOTHER_WAY: readonly string[] = ['refitted', 'handed-over', 'drum-collected'];

/**
 * The last word on each pack counts, so it is never in two consignments. What left with one is in no other one until it is here again: refused
 * or returned, or handled by somebody.
 * @param inHand had somebody the pack in hand?
 */
export function consignmentOf(items: readonly Item[], me: Subject, inHand: (i: Item) => boolean): PackConsignment {
  let id: string | null = null;
  let left: string | null = null;
  let back: string | null = null;
  for (const i of items) {
    // Somebody had it in hand since it left: it is here.
    if (left !== null && i.kind !== 'consignment-ended' && inHand(i)) [id, left] = [null, null];
    if (!i.entry.subjects.includes(me)) continue;
    if (left === null && ANOTHER_WAY.includes(i.kind)) id = null;
    const to = firstSubjectId(i.entry, 'consignment');
    if (to === null) continue;
    const at = when(i.entry);
    switch (i.kind) {
      case 'consigned':
      case 'packed':
        if (left === null) id = to;
        break;
      case 'withdrawn':
        if (left === null && id === to) id = null;
        break;
      case 'consignment-handed-over':
        if (left === null) [id, left] = [to, at];
        break;
      case 'consignment-ended': {
        const { how } = i.body as DispatchBodies['consignment-ended'];
        const cameBack = how === 'refused' || how === 'returned';
        if (cameBack) back = at;
        // What left is not cancelled any more: it comes back, or it is lost.
        if (id === to && (cameBack || (how === 'cancelled' && left === null))) [id, left] = [null, null];
        break;
      }
    }
  }
  return { id, left, back };
}
