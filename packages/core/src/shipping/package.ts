import { NET_APART } from '../coherence/limits';
import type { Reader } from './leaf';
import { both, COUNT, exactly, POSITIVE, type Possible, times } from './possible';

/** What is stated of a package settles what is not: net over mass is the number of packs, gross is more than net, fitted packs are packs. */

/** Packs in the package. */
export function packs(r: Reader): Possible {
  if (r.peek<number>('package.packs') !== undefined) return r.possible('package.packs');
  const fitted = r.peek<number>('package.fittedPacks') ?? 0;
  const least = both(r.possible('package.packs'), { lo: Math.max(1, fitted), hi: Infinity });
  const net = r.peek<number>('package.netKg');
  const mass = r.peek<number>('mass');
  if (mass === undefined) return least;
  if (net === undefined) {
    const gross = r.peek<number>('package.grossKg');
    return gross === undefined ? least : { ...least, hi: Math.max(least.lo, Math.min(least.hi, Math.ceil(gross / mass) - 1)) };
  }
  const n = net / mass;
  // Fitted packs alone weigh more than the net weight: that is a contradiction of its own, and the packs are there.
  if (n * (1 + NET_APART) < least.lo) return exactly(least.lo);
  const whole = Math.max(1, Math.round(n));
  const near = Math.abs(whole * mass - net) <= NET_APART * whole * mass;
  return both(least, near ? exactly(whole) : { lo: Math.max(1, Math.floor(n)), hi: Math.max(1, Math.ceil(n)) });
}

/** Packs that are fitted at least, and machines times packs each: how many packs the equipment needs. */
export function sets(r: Reader): Possible {
  const fitted = r.peek<number>('package.fittedPacks') ?? 0;
  const product = times(r.possible('package.equipment'), r.possible('package.packsPerEquipment'));
  return both(product, { ...COUNT, lo: Math.max(1, fitted) });
}

/** Mass of one pack, kg. */
export function mass(r: Reader): Possible {
  const stated = r.peek<number>('mass');
  if (stated !== undefined) return exactly(stated);
  const net = r.peek<number>('package.netKg');
  const count = r.peek<number>('package.packs');
  return net !== undefined && count !== undefined ? exactly(net / count) : POSITIVE;
}

/** Net kg of packs in the package: stated, mass times count, or less than gross. Two figures that disagree are both tried. */
export function net(r: Reader): Possible {
  const stated = r.peek<number>('package.netKg');
  const one = r.peek<number>('mass');
  const count = r.peek<number>('package.packs');
  const product = one !== undefined && count !== undefined ? one * count : undefined;
  if (stated !== undefined && product !== undefined && Math.abs(stated - product) > NET_APART * product) {
    r.say('net weight and weight of a pack times their number differ by more than 5 %: weigh again');
    return exactly(r.decide('package.netKg#which', ['package.netKg'], [stated, product]));
  }
  if (stated !== undefined) return exactly(stated);
  if (product !== undefined) return exactly(product);
  const gross = r.peek<number>('package.grossKg');
  const sum = times(packs(r), mass(r));
  return gross === undefined ? sum : both(sum, { ...POSITIVE, hi: gross });
}

/** Is the net weight at most a limit in kg? */
export const netAtMost = (r: Reader, limit: number): boolean => r.atMost('package.netKg#total', limit, net, ['package.netKg']);

/** Gross kg of the package: stated, or more than the net weight. */
function gross(r: Reader): Possible {
  const stated = r.peek<number>('package.grossKg');
  return stated !== undefined ? exactly(stated) : { lo: net(r).lo, hi: Infinity, above: true };
}

/** Is the gross weight of the package at most a limit in kg? */
export const grossAtMost = (r: Reader, limit: number): boolean => r.atMost('package.grossKg', limit, gross);
