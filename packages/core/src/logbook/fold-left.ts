import { type Bodies, byTime, type Kind, type LoggedEntry, type Subject } from './entry';
import { type Item, when } from './standing';

/** Whatever is done with a pack's body shows that it is here. */
const IN_HAND: ReadonlySet<Kind> = new Set([
  'moved',
  'looked',
  'reading-taken',
  'finding-recorded',
  'pack-removed',
  'refitted',
  'packed',
  'unpacked',
]);

/**
 * Had somebody the pack in hand? A finding on its machine reaches it too: whoever saw that had the machine. A recall is read in a letter, and written
 * down for packs wherever they are.
 */
export function inHand(i: Item, me: Subject): boolean {
  if (i.kind === 'finding-recorded') return (i.body as Bodies['finding-recorded']).code !== 'safety-recall';
  if (!i.entry.subjects.includes(me)) return false;
  const cameBack =
    i.kind === 'consignment-ended' && ['refused', 'returned'].includes((i.body as Bodies['consignment-ended']).how);
  return cameBack || IN_HAND.has(i.kind);
}

/** Who has a pack that is not here; nobody where it was added by a slip. */
export type LeftTo = 'owner' | 'recycler' | 'carrier' | 'nobody';

const LEFT_TO: Readonly<Partial<Record<Kind, LeftTo>>> = {
  'handed-over': 'owner',
  'drum-collected': 'recycler',
  'consignment-handed-over': 'carrier',
};

/** Where in its history a pack left the workshop last, at a hand-over or a collection that names it; -1 where it never did. */
function lastLeft(items: readonly Item[], me: Subject): number {
  return items.reduce((last, i, n) => (i.entry.subjects.includes(me) && LEFT_TO[i.kind] !== undefined ? n : last), -1);
}

/** The last move, where the pack lies there still: not in a machine, and not away since. Where it lies when it is back is said anew. */
export function putAt(items: readonly Item[], me: Subject): Item | null {
  const since = items.slice(lastLeft(items, me) + 1);
  const put = since.filter((i) => (i.kind === 'moved' || i.kind === 'refitted') && i.entry.subjects.includes(me)).pop();
  return put?.kind === 'moved' ? put : null;
}

/** A pack named at a hand-over or a collection left the workshop, until it is handled again. */
export function leftAt(items: readonly Item[], me: Subject): { at: string; to: LeftTo } | null {
  const at = lastLeft(items, me);
  const out = items[at];
  if (!out || items.slice(at + 1).some((i) => inHand(i, me))) return null;
  return { at: when(out.entry), to: LEFT_TO[out.kind]! };
}

/**
 * A pack whose adding was taken back was never here, unless something was said of it that may be dangerous, or somebody had it in hand since:
 * nobody alone makes a danger vanish.
 */
export function neverHere(all: readonly LoggedEntry[], items: readonly Item[], me: Subject): { at: string; to: LeftTo } | null {
  const mine = all.filter((e) => e.subjects.includes(me));
  const added = new Set(mine.filter((e) => e.kind === 'pack-added').map((e) => e.id));
  const back = mine.filter((e) => e.kind === 'retracted' && e.replaces && added.has(e.replaces)).pop();
  if (!back || items.some((i) => i.kind === 'pack-added') || mine.some((e) => e.hazard)) return null;
  if (items.some((i) => byTime(i.entry, back) > 0 && inHand(i, me))) return null;
  return { at: when(back), to: 'nobody' };
}
