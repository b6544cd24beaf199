import type { Interval } from '../quantity/interval';
import type { FamilyKey } from './family';

/**
 * Rested volts per cell at 0, 5 ... 100 % of full charge, 25 °C. Engineering tables, not a publication: built from half-cell
 * figures recalled from the literature and blended with gauge tables; never compared with a measured cell.
 */
export type CurveKey = 'LCO_4.20' | 'NMC_4.20' | 'HV_4.35' | 'HV_4.40' | 'HV_4.45' | 'LFP_3.65';

export const CURVES: Record<CurveKey, readonly number[]> = {
  'LCO_4.20': [
    3.27, 3.61, 3.69, 3.715, 3.74, 3.76, 3.775, 3.79, 3.8, 3.815, 3.835, 3.85, 3.87, 3.91, 3.95, 3.985, 4.025, 4.07, 4.1, 4.145,
    4.19,
  ],
  'NMC_4.20': [
    3.1, 3.35, 3.43, 3.48, 3.525, 3.56, 3.59, 3.62, 3.645, 3.675, 3.71, 3.75, 3.8, 3.84, 3.885, 3.93, 3.98, 4.02, 4.07, 4.12,
    4.18,
  ],
  'HV_4.35': [
    3.3, 3.63, 3.69, 3.715, 3.74, 3.765, 3.78, 3.795, 3.81, 3.825, 3.845, 3.875, 3.92, 3.965, 4.01, 4.06, 4.105, 4.16, 4.22, 4.28,
    4.335,
  ],
  'HV_4.40': [
    3.3, 3.64, 3.69, 3.72, 3.745, 3.765, 3.785, 3.8, 3.82, 3.84, 3.865, 3.905, 3.955, 4.005, 4.05, 4.1, 4.15, 4.215, 4.275, 4.335,
    4.385,
  ],
  'HV_4.45': [
    3.3, 3.645, 3.695, 3.725, 3.75, 3.77, 3.79, 3.81, 3.83, 3.85, 3.885, 3.935, 3.99, 4.045, 4.095, 4.155, 4.22, 4.28, 4.34, 4.39,
    4.435,
  ],
  'LFP_3.65': [
    2.7, 3.05, 3.18, 3.2, 3.22, 3.245, 3.262, 3.275, 3.284, 3.288, 3.29, 3.292, 3.296, 3.305, 3.318, 3.324, 3.327, 3.329, 3.331,
    3.335, 3.38,
  ],
};

const STEP = 5;
export const CURVE_KEYS = Object.keys(CURVES) as CurveKey[];

/** Curves a family may follow: a 4.20 V cell may be cobalt or nickel rich, and the label rarely says which. */
export function curvesOf(family: FamilyKey | null): readonly CurveKey[] {
  switch (family) {
    case null:
      return CURVE_KEYS;
    case 'LFP':
      return ['LFP_3.65'];
    case 'STD':
      return ['LCO_4.20', 'NMC_4.20'];
    case 'MID':
    case 'HV435':
      return ['HV_4.35'];
    case 'HV440':
      return ['HV_4.40'];
    case 'HV445':
      return ['HV_4.40', 'HV_4.45'];
    case 'HV450':
      return ['HV_4.45'];
  }
}

/**
 * Standard uncertainty of a table at a charge, points of full charge. Judgement from the spread between sources. The highest family has no
 * table of its own: where it is not excluded, the one nearest to it is trusted less, so that knowing less never narrows anything.
 */
export function tableUncertainty(curve: CurveKey, soc: number, families: readonly FamilyKey[] = []): number {
  if (curve === 'HV_4.45' && (families.length === 0 || families.includes('HV450'))) return 8;
  switch (curve) {
    case 'LCO_4.20':
    case 'HV_4.35':
      return soc >= 30 && soc <= 55 ? 6 : 4;
    case 'HV_4.40':
    case 'HV_4.45':
      return 5;
    case 'NMC_4.20':
      return 4;
    case 'LFP_3.65':
      return soc >= 30 && soc <= 90 ? 20 : 8;
  }
}

/** Rested volts per cell at a charge of 0..100 %, linear between the table's points. */
export function voltsAt(curve: CurveKey, soc: number): number {
  const table = CURVES[curve];
  const x = Math.min(Math.max(soc, 0), 100) / STEP;
  const i = Math.min(Math.floor(x), table.length - 2);
  const a = table[i] as number;
  const b = table[i + 1] as number;
  return a + (b - a) * (x - i);
}

/** Charge in % for rested volts per cell; below the table 0, above it 100. */
export function chargeAt(curve: CurveKey, volts: number): number {
  const table = CURVES[curve];
  if (volts <= (table[0] as number)) return 0;
  for (let i = 1; i < table.length; i++) {
    const b = table[i] as number;
    if (volts <= b) {
      const a = table[i - 1] as number;
      return STEP * (i - 1 + (volts - a) / (b - a));
    }
  }
  return 100;
}

/** Charge in % for rested volts per cell, carried on beyond the table's ends by its last slope: for differences, never shown as a charge. */
export function chargeBeyond(curve: CurveKey, volts: number): number {
  const table = CURVES[curve];
  const [first, last] = [table[0] as number, table[table.length - 1] as number];
  if (volts < first) return (volts - first) / slopeAt(curve, 0);
  return volts > last ? 100 + (volts - last) / slopeAt(curve, 100) : chargeAt(curve, volts);
}

/** Slope in volts per % around a charge (central over the neighbouring points). */
export function slopeAt(curve: CurveKey, soc: number): number {
  const lo = Math.max(0, soc - STEP);
  const hi = Math.min(100, soc + STEP);
  return (voltsAt(curve, hi) - voltsAt(curve, lo)) / (hi - lo);
}

/**
 * Charge interval (k = 2) for volts per cell with standard uncertainty u, on one curve: the voltage ends are inverted, so a
 * bend inside the uncertainty interval is respected, and the table's own uncertainty is added in quadrature.
 */
export function chargeInterval(curve: CurveKey, volts: number, u: number, families: readonly FamilyKey[] = []): Interval {
  const mid = chargeAt(curve, volts);
  const table = 2 * tableUncertainty(curve, mid, families);
  const down = mid - chargeAt(curve, volts - 2 * u);
  const up = chargeAt(curve, volts + 2 * u) - mid;
  return { lo: Math.max(0, mid - Math.hypot(down, table)), hi: Math.min(100, mid + Math.hypot(up, table)) };
}

/** Energy below a charge as a fraction of full energy: the integral of the table, trapezoid. */
export function energyFraction(curve: CurveKey, soc: number): number {
  return area(curve, soc) / FULL_AREA[curve];
}

function area(curve: CurveKey, soc: number): number {
  let sum = 0;
  let at = 0;
  while (at < soc) {
    const next = Math.min(soc, at + STEP);
    sum += ((voltsAt(curve, at) + voltsAt(curve, next)) / 2) * (next - at);
    at = next;
  }
  return sum;
}

const FULL_AREA = Object.fromEntries(CURVE_KEYS.map((k) => [k, area(k, 100)])) as Record<CurveKey, number>;
