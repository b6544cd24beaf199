/**
 * Uncertainty of readings after JCGM 100 (from memory): limits +-a are rectangular, u = a / sqrt 3;
 * coverage k = 2 for about 95 %.
 */

/** What an instrument claims: +-(percent of reading + digits of the last place + a fixed part in the base unit). */
export interface Accuracy {
  readonly percent: number;
  readonly digits: number;
  /** Fixed part in the base unit of the quantity. */
  readonly fixed?: number;
}

export interface Instrument {
  readonly name: string;
  readonly accuracy: Accuracy;
  /** Largest magnitude the instrument can show, base unit. */
  readonly range?: number;
}

/** Common practice, no source: the classes named in the handbook of the trade for handheld instruments. */
export const INSTRUMENTS = {
  multimeter: { name: 'multimeter', accuracy: { percent: 0.5, digits: 2 }, range: 60 },
  calliper: { name: 'calliper', accuracy: { percent: 0, digits: 0, fixed: 0.03 }, range: 150 },
  contactProbe: { name: 'contact probe', accuracy: { percent: 0, digits: 1, fixed: 1 }, range: 200 },
  scale: { name: 'scale', accuracy: { percent: 0.1, digits: 1 }, range: 30 },
} as const satisfies Record<string, Instrument>;

/** Half-width a of the instrument's limits at a reading, base unit. */
export function limitsOf(accuracy: Accuracy, reading: number, step: number): number {
  return (accuracy.percent / 100) * Math.abs(reading) + accuracy.digits * step + (accuracy.fixed ?? 0);
}

/** Standard uncertainty of limits +-a (rectangular, JCGM 100 4.3.7). */
export const rectangular = (a: number): number => a / Math.sqrt(3);

/** Standard uncertainty of a display step d (JCGM 100 F.2.2.1). */
export const resolution = (d: number): number => d / Math.sqrt(12);

/** Root sum of squares of independent standard uncertainties. */
export const combine = (...u: readonly number[]): number => Math.hypot(...u);

/** Expanded uncertainty, k = 2. */
export const expanded = (u: number): number => 2 * u;

/**
 * Standard uncertainty of the difference of two readings with one meter: the gain error cancels, the digits do not.
 * @param digits the meter's digits of the last place; @param step that place in the base unit.
 */
export const differenceOfSame = (digits: number, step: number): number => Math.SQRT2 * rectangular(digits * step);

/** Standard normal distribution function, from the error function series of Abramowitz & Stegun 7.1.26 (error < 1.5e-7). */
export function phi(z: number): number {
  const x = Math.abs(z) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * x);
  const poly = t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  const erf = 1 - poly * Math.exp(-x * x);
  return z >= 0 ? 0.5 * (1 + erf) : 0.5 * (1 - erf);
}
