import type { Provision } from '../shipping/facts';

/** Points of ADR 1.1.3.6 up to which a vehicle is relieved; at 3 a kg 333 kg is inside, 334 kg is not. From memory. */
export const RELIEF_POINTS = 1000;
/** Transport category 2, factor 3 (ADR 1.1.3.6.3, from memory). */
const FACTOR = 3;
const FREE: ReadonlySet<Provision> = new Set(['SP188', 'SP636', 'SP670a', 'SP670b', 'none']);

export interface LoadItem {
  readonly provision: Provision;
  /** Net kg of packs. */
  readonly netKg: number;
}

export interface Load {
  readonly points: number;
  /** Is the vehicle relieved of the fuller rules? */
  readonly relief: boolean;
  /** Why not, in words; empty when it is. */
  readonly why: string;
}

/** Points of a vehicle's load on European roads. One critical pack (transport category 0) ends the relief. @throws RangeError below 0 kg. */
export function loadPoints(items: readonly LoadItem[]): Load {
  if (items.some((i) => !(i.netKg >= 0))) throw new RangeError('net kg must be 0 or more');
  const points = items.reduce((sum, i) => sum + (FREE.has(i.provision) ? 0 : i.netKg * FACTOR), 0);
  if (items.some((i) => i.provision === 'SP376-P911'))
    return { points, relief: false, why: 'a critical pack is aboard: transport category 0' };
  // Floating sums of kilograms must not end a relief by a billionth.
  const over = points > RELIEF_POINTS + 1e-6;
  return { points, relief: !over, why: over ? `${Math.round(points)} points, over ${RELIEF_POINTS}` : '' };
}
