import type { Mode, Placement, TypeTested } from './facts';
import type { Leaf, Reader } from './leaf';
import { SHIPPING } from './rulebook';
import { isCell } from './size';

/** What the mode tables start from. */
export interface Asked {
  readonly metal: boolean;
  readonly placement: Placement;
  readonly un: string;
  readonly damaged: boolean;
  readonly recycling: boolean;
  readonly mode: Mode;
}

/** What a label that contradicts itself at a limit waits for. */
export const CONFLICT =
  'the label’s watt-hours and volts times capacity fall on different sides of a limit: the test summary settles it';

/** For use only tested types travel; `null` when that is met. */
export function typeTest(r: Reader, q: Asked): Leaf | null {
  r.cite('type-tested');
  const given = r.peek<TypeTested>('typeTested');
  const tested = given === 'yes' || given === 'no' ? given : r.need<TypeTested>('typeTested#known', ['yes', 'no']);
  if (tested === 'no') {
    r.say('a type that never passed UN 38.3 does not travel for use; for recycling it may');
    return r.leaf('forbidden', null, q.un);
  }
  return null;
}

/** Battery mark: on every package, waived only for packs in equipment in small numbers; unknown numbers are marked. */
export function batteryMark(r: Reader, q: Asked): boolean {
  r.cite('mark.battery');
  if (q.placement !== 'in-equipment') return true;
  if (q.metal && r.peek<boolean>('buttonCell') === true) return false;
  const f = SHIPPING.any('mark.battery').figures;
  const packs = r.peek<number>('package.packs');
  const packages = r.peek<number>('consignment.packages');
  if (packs === undefined || packages === undefined) {
    r.say('the battery mark is waived only for known small numbers: marked, because the counts are not known');
    return true;
  }
  if (packages > f.packages!) return true;
  if (packs <= f.batteries!) return false;
  return packs > f.cells! || !isCell(r);
}

/** Share by which a stated net weight may differ from mass times count. */
const APART = 0.05;

/** Net kg of packs in the package: stated, or mass times count; asked for with one answer in each class of limits. */
export function netKg(r: Reader, answers: readonly number[]): number {
  const stated = r.peek<number>('package.netKg');
  const mass = r.peek<number>('mass');
  const packs = r.peek<number>('package.packs');
  const product = mass !== undefined && packs !== undefined ? mass * packs : undefined;
  if (stated !== undefined && product !== undefined && Math.abs(stated - product) > APART * product) {
    r.say('net weight and weight of a pack times their number differ by more than 5 %: weigh again');
    return r.need<number>('package.netKg#which', [stated, product]);
  }
  if (stated !== undefined) return stated;
  if (product !== undefined) return product;
  return r.need<number>('package.netKg', answers);
}
