import { CURVES, type CurveKey, voltsAt } from '../cell/curve';

/** A pack as a resistor sees it. */
export interface Bleeding {
  readonly curve: CurveKey;
  /** Cells in series. */
  readonly series: number;
  /** Full-charge capacity, Ah. */
  readonly ampHours: number;
  /** Charge at the start and at the end, % of full charge. */
  readonly from: number;
  readonly to: number;
  /** Of the pack, ohm. */
  readonly internal?: number;
}

/** Points between which the table is a straight line, from high to low, with both ends. */
function corners(b: Bleeding): number[] {
  if (!(b.to >= 0 && b.to < b.from && b.from <= 100)) throw new RangeError('charge must fall, between 100 and 0 %');
  const step = 100 / (CURVES[b.curve].length - 1);
  const inner = CURVES[b.curve].map((_, i) => i * step).filter((z) => z < b.from && z > b.to);
  return [b.from, ...inner.reverse(), b.to];
}

/** The integral of dz / OCV over one straight piece of the table, z from 0 to 1, per volt. */
function piece(curve: CurveKey, hi: number, lo: number): number {
  const [a, b] = [voltsAt(curve, lo), voltsAt(curve, hi)];
  const h = (hi - lo) / 100;
  return Math.abs(b - a) < 1e-9 ? h / a : (h * Math.log(b / a)) / (b - a);
}

/** The same between any two charges. Source: constant resistance on a piecewise linear table, closed form. */
export function chargeOverVolts(b: Bleeding): number {
  const z = corners(b);
  return z.slice(1).reduce((sum, lo, i) => sum + piece(b.curve, z[i]!, lo), 0);
}

/** Hours through a resistor of so many ohm. */
export const bleedHours = (b: Bleeding, ohm: number): number =>
  (((ohm + (b.internal ?? 0)) * b.ampHours) / b.series) * chargeOverVolts(b);

/** Ohm for so many hours. */
export const bleedOhm = (b: Bleeding, hours: number): number =>
  (hours * b.series) / (b.ampHours * chargeOverVolts(b)) - (b.internal ?? 0);

/** Watt-hours that leave, by the open-circuit volts: trapezoids, exact on a piecewise linear table. */
export function bleedEnergy(b: Bleeding): number {
  const z = corners(b);
  const area = z.slice(1).reduce((sum, lo, i) => {
    const hi = z[i]!;
    return sum + ((voltsAt(b.curve, hi) + voltsAt(b.curve, lo)) / 2) * ((hi - lo) / 100);
  }, 0);
  return b.series * b.ampHours * area;
}

/** Watts in the resistor at a charge. */
export function bleedWatts(b: Bleeding, ohm: number, charge: number): number {
  const amps = (b.series * voltsAt(b.curve, charge)) / (ohm + (b.internal ?? 0));
  return amps * amps * ohm;
}

/** Volts at the plug under load at which to stop. */
export function stopVolts(b: Bleeding, ohm: number): number {
  const open = b.series * voltsAt(b.curve, b.to);
  return (open * ohm) / (ohm + (b.internal ?? 0));
}

/** Resistors that shops have, ohm: the E12 series of IEC 60063 (from memory), 10 to 100. */
export const STOCK_OHM = [10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82, 100] as const;
/** Rating over the highest watts, in free air. Common practice, no source. */
export const RATING = 3;
/** At most a quarter of the capacity an hour, and never overnight. Common practice, no source. */
export const MOST = { perHour: 0.25, hours: 10 } as const;

export interface BleedPlan {
  readonly ohm: number;
  readonly hours: number;
  readonly startWatts: number;
  readonly endWatts: number;
  readonly startAmps: number;
  /** Least rating of the resistor in free air, W. */
  readonly ratingWatts: number;
  readonly stopVolts: number;
  readonly leaves: number;
  /** Charge and power over time, from start to end. */
  readonly course: readonly { readonly hours: number; readonly charge: number; readonly watts: number }[];
}

/** Steps of equal time in which the way down is shown. */
const COURSE = 8;

/** Charge after some hours: halving the interval, to a thousandth of a percent. */
function chargeAfter(b: Bleeding, ohm: number, hours: number): number {
  let [hi, lo] = [b.from, b.to];
  while (hi - lo > 1e-3) {
    const mid = (hi + lo) / 2;
    if (bleedHours({ ...b, to: mid }, ohm) < hours) hi = mid;
    else lo = mid;
  }
  return (hi + lo) / 2;
}

export function bleedPlan(b: Bleeding, ohm: number): BleedPlan {
  const hours = bleedHours(b, ohm);
  const course = Array.from({ length: COURSE + 1 }, (_, i) => {
    const charge = i === 0 ? b.from : i === COURSE ? b.to : chargeAfter(b, ohm, (hours * i) / COURSE);
    return { hours: (hours * i) / COURSE, charge, watts: bleedWatts(b, ohm, charge) };
  });
  const startWatts = bleedWatts(b, ohm, b.from);
  return {
    ohm,
    hours,
    startWatts,
    endWatts: bleedWatts(b, ohm, b.to),
    startAmps: Math.sqrt(startWatts / ohm),
    ratingWatts: RATING * startWatts,
    stopVolts: stopVolts(b, ohm),
    leaves: bleedEnergy(b),
    course,
  };
}

/** Stock resistors that are neither too fast nor last into the night. */
export const bleedPlans = (b: Bleeding): BleedPlan[] =>
  STOCK_OHM.map((ohm) => bleedPlan(b, ohm)).filter((p) => p.startAmps <= MOST.perHour * b.ampHours && p.hours <= MOST.hours);
