import type { Bodies, Kind, Subject } from './entry';
import { metBy } from './fold-dues';
import { type Item, when } from './standing';

/** A pack that is being brought down: somebody has to look when it should be there. */
export interface Discharge {
  /** The entry that began it; what ends it by hand is a due met with this id. */
  readonly id: string;
  readonly at: string;
  /** % of full it is to reach. */
  readonly to: number;
  readonly how: Bodies['brought-down']['how'];
  /** When it should be there, ISO 8601 UTC. */
  readonly until: string;
}

/** Whatever says that it is no longer on its way down. */
const ENDS: ReadonlySet<Kind> = new Set([
  'brought-down',
  'topped-up',
  'cycled',
  'refitted',
  'handed-over',
  'drum-collected',
  'consignment-handed-over',
]);

/**
 * The way down that is under way; null where none was begun, or it ended. Entries of older programs name no hours: nobody knows whether those
 * still run, and nothing is due for them.
 */
export function dischargeOf(items: readonly Item[], me: Subject): Discharge | null {
  const mine = items.filter((i) => ENDS.has(i.kind) && i.entry.subjects.includes(me));
  const last = mine[mine.length - 1];
  if (last?.kind !== 'brought-down') return null;
  const { to, how, hours } = last.body as Bodies['brought-down'];
  if (hours === undefined || metBy(items).has(last.entry.id)) return null;
  const at = when(last.entry);
  return { id: last.entry.id, at, to, how, until: new Date(Date.parse(at) + hours * 3_600_000).toISOString() };
}
