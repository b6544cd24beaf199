import type { CurveKey } from '../cell/curve';
import { value } from '../quantity/figure';
import type { Ruling } from '../ruling/ruling';
import type { Bleeding } from './bleed';
import { stopVolts } from './bleed';
import { shelfLife, type ShelfLife } from './shelf';

/** Full-charge capacity, Ah: rated, times health where the gauge is to be trusted; null when nobody declared one. */
export function capacityOf({ judgement, electrical }: Ruling): number | null {
  const rated = judgement.label.sure.ratedCapacity;
  if (!rated) return null;
  const { health } = electrical;
  return value(rated) * (health?.trusted ? Math.min(1.03, health.percent / 100) : 1);
}

/**
 * The pack as a resistor sees it, from the upper end of its charge; null where something is not known or it is below the target.
 * Of several curves that may be its own the one that stops soonest is taken.
 */
export function bleedingOf(ruling: Ruling, to: number): Bleeding | null {
  const { series, curves } = ruling.judgement.nature;
  const charge = ruling.electrical.charge?.ofFull;
  const ampHours = capacityOf(ruling);
  if (series === null || !charge || ampHours === null || charge.hi <= to) return null;
  const of = (curve: CurveKey): Bleeding => ({ curve, series, ampHours, from: charge.hi, to, internal: 0.15 });
  return curves.map(of).sort((a, b) => stopVolts(b, 22) - stopVolts(a, 22))[0] ?? null;
}

export interface OnShelf extends ShelfLife {
  /** When the charge was measured. */
  readonly at: string;
}

/** How long the pack may lie; null where its charge or capacity is not known. */
export function shelfOf(ruling: Ruling): OnShelf | null {
  const { charge } = ruling.electrical;
  const ampHours = capacityOf(ruling);
  if (!charge?.ofFull || ampHours === null) return null;
  return { ...shelfLife(charge.ofFull, ampHours), at: charge.at };
}
