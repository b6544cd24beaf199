import type { Condition } from '../logbook/entry';
import type { Mode, Placement, Provision, TypeTested } from './facts';
import type { Leaf, Reader } from './leaf';
import { packs } from './package';
import { isCell, metalSize, sizeConflict, sizeOf } from './size';

/** What the mode tables start from. */
export interface Journey {
  readonly metal: boolean;
  readonly placement: Placement;
  readonly un: string;
  readonly condition: Condition;
  readonly recycling: boolean;
  readonly mode: Mode;
}

/** What a label that contradicts itself at a limit waits for. */
const CONFLICT =
  'the label’s watt-hours and volts times capacity fall on different sides of a limit: the test summary settles it';

export const sizeIn = (r: Reader, q: Journey) => (q.metal ? metalSize(r) : sizeOf(r));

/**
 * What stands between a type and its use: never tested is forbidden, rebuilt waits for the builder's report. Null when nothing does.
 */
export function typeTest(r: Reader, q: Journey): Leaf | null {
  r.cite('type-tested');
  const given = r.peek<TypeTested>('typeTested');
  const tested = given === 'yes' || given === 'no' ? given : r.decide<TypeTested>('typeTested', ['typeTested'], ['yes', 'no']);
  if (tested === 'no') {
    r.say('a type that never passed UN 38.3 does not travel for use; for recycling it may');
    return r.leaf('forbidden', null, q.un);
  }
  if (!r.facts.findings?.includes('recelled')) return null;
  r.cite('recelled');
  r.say('rebuilt with other cells: a new type, get the builder’s test report');
  return r.leaf('hold', null, q.un, null, ['typeTested']);
}

/** A hold for a size that cannot be told, under the provision that would apply if it were over. */
export function conflictHold(r: Reader, q: Journey, provision: Provision): Leaf {
  const fields = sizeConflict(r);
  if (!fields) r.say(CONFLICT);
  return r.leaf('hold', provision, q.un, null, fields ?? ['ratedEnergy']);
}

/** A hold for watt-hours that are not printed on the case. */
export function markHold(r: Reader, q: Journey, provision: Provision, wayOut?: string): Leaf {
  r.say(`no watt-hours on the case: ask the maker${wayOut ? `, or ${wayOut}` : ''}`);
  return r.leaf('hold', provision, q.un, null, ['energyMarked']);
}

/** Battery mark: on every package, waived only for packs in equipment in small numbers; unknown numbers are marked. */
export function batteryMark(r: Reader, q: Journey, rule = 'mark.battery'): boolean {
  r.cite(rule);
  if (q.placement !== 'in-equipment') return true;
  if (r.peek<boolean>('buttonCell') === true) return false;
  const [cells, batteries] = [r.figure(rule, 'cells'), r.figure(rule, 'batteries')];
  const count = packs(r);
  const packages = r.peek<number>('consignment.packages');
  if (packages !== undefined && packages > r.figure(rule, 'packages')) return true;
  if (count.lo > Math.max(cells, batteries)) return true;
  if (packages === undefined || count.hi === Infinity) {
    r.say('the battery mark is waived only for known small numbers: marked, because the counts are not known');
    return true;
  }
  if (count.hi <= batteries) return false;
  return count.hi > cells || !isCell(r);
}
