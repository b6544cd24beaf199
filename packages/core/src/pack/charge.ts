import { chargeInterval, type CurveKey, energyFraction } from '../cell/curve';
import type { FamilyKey } from '../cell/family';
import { hull, type Interval } from '../quantity/interval';

/** Charge of *full* charge and charge of *rated* capacity are two quantities; each function says which it gives. */

/**
 * Charge of full charge in % from a rested voltage per cell, over every curve the families allow.
 * @param u standard uncertainty per cell, V (meter and relaxation).
 */
export function chargeFromRest(voltsPerCell: number, u: number, curves: readonly CurveKey[], family: FamilyKey | null): Interval {
  return hull(curves.map((c) => chargeInterval(c, voltsPerCell, u, family))) as Interval;
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
  const U = Math.max(maxErrorPercent ?? 0, 5);
  const k = fullCharge / rated;
  return { lo: Math.max(0, (soc - U) * k), hi: (soc + U) * k };
}

/**
 * Charge of rated capacity from charge of full charge. Health unknown: the upper end takes a full-charge capacity equal to the
 * rated one plus 3 % (typical against rated), so that wear never flatters.
 */
export function ratedCharge(ofFull: Interval, health: number | null): Interval {
  const k = health ?? 1.03;
  return { lo: ofFull.lo * (health ?? 0), hi: Math.min(100, ofFull.hi * k) };
}

/** Energy aboard in Wh at a charge of full charge, over the curves: full energy times the fraction below that charge. */
export function energyAboard(fullWh: number, ofFull: Interval, curves: readonly CurveKey[]): Interval {
  const lo = Math.min(...curves.map((c) => energyFraction(c, ofFull.lo)));
  const hi = Math.max(...curves.map((c) => energyFraction(c, ofFull.hi)));
  return { lo: fullWh * lo, hi: fullWh * hi };
}
