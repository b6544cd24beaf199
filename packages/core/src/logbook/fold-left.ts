import type { Bodies, Kind, Subject } from './entry';
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

/** Had somebody the pack in hand? A finding on its machine reaches it too: whoever saw that had the machine. */
export function inHand(i: Item, me: Subject): boolean {
  if (i.kind === 'finding-recorded') return true;
  if (!i.entry.subjects.includes(me)) return false;
  const cameBack =
    i.kind === 'consignment-ended' && ['refused', 'returned'].includes((i.body as Bodies['consignment-ended']).how);
  return cameBack || IN_HAND.has(i.kind);
}

const LEFT_TO: Readonly<Partial<Record<Kind, 'owner' | 'recycler' | 'carrier'>>> = {
  'handed-over': 'owner',
  'drum-collected': 'recycler',
  'consignment-handed-over': 'carrier',
};

/** A pack named at a hand-over or a collection left the workshop, until it is handled again. */
export function leftAt(items: readonly Item[], me: Subject): { at: string; to: 'owner' | 'recycler' | 'carrier' } | null {
  const leaves = (i: Item) => i.entry.subjects.includes(me) && LEFT_TO[i.kind] !== undefined;
  const at = items.reduce((last, i, n) => (leaves(i) ? n : last), -1);
  const out = items[at];
  if (!out || items.slice(at + 1).some((i) => inHand(i, me))) return null;
  return { at: when(out.entry), to: LEFT_TO[out.kind]! };
}
