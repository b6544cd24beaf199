import type { Interval } from '../quantity/interval';

/** Hours of a month: 365.25 days over 12. */
const MONTH_HOURS = 730.5;

export interface Drain {
  /** Self-discharge of the cells, fraction of full charge a month. */
  readonly perMonth: number;
  /** Electronics, A. */
  readonly amps: number;
}

/** Slowest and fastest that is usual at 20 to 25 °C: together about 2 to 5 % a month. From memory, order of magnitude. */
export const USUAL: { readonly slow: Drain; readonly fast: Drain } = {
  slow: { perMonth: 0.01, amps: 50e-6 },
  fast: { perMonth: 0.02, amps: 200e-6 },
};
/** Charge at which to top up, and at which the electronics cut off, % of full. Common practice, no source. */
export const LOW = 20;
export const CUT_OFF = 5;

/**
 * Days until the charge falls from one level to another, % of full charge; 0 where it is there already.
 * @param ampHours full-charge capacity. @throws RangeError for a capacity of 0 or less.
 */
export function daysTo(from: number, to: number, ampHours: number, d: Drain): number {
  if (!(ampHours > 0)) throw new RangeError('capacity must be above 0 Ah');
  const perHour = (d.perMonth * ampHours) / MONTH_HOURS + d.amps;
  return Math.max(0, ((from - to) / 100) * ampHours) / perHour / 24;
}

export interface ShelfLife {
  /** Days from the measurement: the earliest and the latest. */
  readonly toLow: Interval;
  readonly toCutOff: Interval;
}

/** The interval takes the lower end of the charge with the fastest drain, and the upper end with the slowest. */
export function shelfLife(charge: Interval, ampHours: number): ShelfLife {
  const span = (to: number): Interval => ({
    lo: daysTo(charge.lo, to, ampHours, USUAL.fast),
    hi: daysTo(charge.hi, to, ampHours, USUAL.slow),
  });
  return { toLow: span(LOW), toCutOff: span(CUT_OFF) };
}
