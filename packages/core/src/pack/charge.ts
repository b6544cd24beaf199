import { chargeInterval, type CurveKey, energyFraction } from '../cell/curve';
import type { FamilyKey } from '../cell/family';
import { hull, type Interval } from '../quantity/interval';

/** Charge of *full* charge and charge of *rated* capacity are two quantities; each function says which it gives. */

/**
 * Charge of full charge in % from a rested voltage per cell, over every curve the families allow.
 * @param u standard uncertainty per cell, V (meter and relaxation).
 */
export function chargeFromRest(
  voltsPerCell: number,
  u: number,
  curves: readonly CurveKey[],
  families: readonly FamilyKey[] = [],
): Interval {
  return hull(curves.map((c) => chargeInterval(c, voltsPerCell, u, families))) as Interval;
}

/** Points by which a gauge may be wrong that does not say its own error, or says less. Common practice, no source. */
export const GAUGE_ERROR = 5;
export const gaugeError = (maxErrorPercent: number | undefined): number => Math.max(maxErrorPercent ?? 0, GAUGE_ERROR);

/** Charge of full charge in % from the gauge, by its own error. */
export function fullChargeFromGauge(remaining: number, fullCharge: number, maxErrorPercent: number | undefined): Interval {
  const soc = (100 * remaining) / fullCharge;
  const U = gaugeError(maxErrorPercent);
  return { lo: Math.max(0, soc - U), hi: Math.min(100, soc + U) };
}

/**
 * Charge of rated capacity in % from the gauge: U is the larger of the gauge's own MaxError and 5 points of full charge, then
 * times full-charge capacity over rated capacity.
 */
export function ratedChargeFromGauge(
  remaining: number,
  fullCharge: number,
  rated: number,
  maxErrorPercent: number | undefined,
): Interval {
  const soc = (100 * remaining) / fullCharge;
  const U = gaugeError(maxErrorPercent);
  const k = fullCharge / rated;
  return { lo: Math.max(0, (soc - U) * k), hi: (soc + U) * k };
}

/**
 * Charge of rated capacity from charge of full charge.
 * @param health full-charge over rated capacity as an interval of fractions. Null, not known: the upper end takes the rated capacity plus 3 %
 * (typical against rated), so that wear never flatters.
 */
export function ratedCharge(ofFull: Interval, health: Interval | null): Interval {
  const k = health ?? { lo: 0, hi: 1.03 };
  return { lo: ofFull.lo * k.lo, hi: Math.min(100, ofFull.hi * k.hi) };
}

/** Energy aboard in Wh at a charge of full charge, over the curves: full energy times the fraction below that charge. */
export function energyAboard(fullWh: number, ofFull: Interval, curves: readonly CurveKey[]): Interval {
  const lo = Math.min(...curves.map((c) => energyFraction(c, ofFull.lo)));
  const hi = Math.max(...curves.map((c) => energyFraction(c, ofFull.hi)));
  return { lo: fullWh * lo, hi: fullWh * hi };
}
