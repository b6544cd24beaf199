import type { Interval } from '../quantity/interval';
import type { LogResult } from './measure';

/** A log as it is compared: what it says, and the volts it began and ended at. */
export interface Compared {
  readonly result: Pick<LogResult, 'capacityAh' | 'energyWh' | 'resistanceOhm' | 'celsius' | 'meanAmperes'>;
  readonly startVolts: number;
  readonly endVolts: number;
}

/**
 * How far two logs may differ in how they were taken before what they say is no longer compared: volts at either end and mean current as
 * parts of the larger one, temperature in K. Common practice, no source.
 */
export const ALIKE = { volts: 0.015, amperes: 0.2, kelvin: 5 } as const;

export interface LogComparison {
  /** What of how they were taken differs, or is not known. Empty: taken alike. */
  readonly unlike: readonly string[];
  /** Change from the first to the second, % of the first; null where the first may be nothing, or one of them does not say it. */
  readonly charge: Interval | null;
  readonly energy: Interval | null;
  readonly resistance: Interval | null;
}

/** Change of one interval to another, %, as wide as both allow; null where the first reaches 0. */
function change(a: Interval | null, b: Interval | null): Interval | null {
  if (a === null || b === null || a.lo <= 0) return null;
  return { lo: 100 * (b.lo / a.hi - 1), hi: 100 * (b.hi / a.lo - 1) };
}

const apart = (x: number, y: number): number => Math.abs(x - y) / Math.max(Math.abs(x), Math.abs(y), 1e-12);

/**
 * Two discharge logs of one pack against each other. The intervals are told whatever differs: whoever reads them is told that as well. The
 * instruments are taken to be independent of each other; the same ones give less difference than is said.
 */
export function compareLogs(a: Compared, b: Compared): LogComparison {
  const unlike: string[] = [];
  const [ra, rb] = [a.result, b.result];
  if (apart(a.startVolts, b.startVolts) > ALIKE.volts)
    unlike.push(`they begin at ${a.startVolts.toFixed(2)} and ${b.startVolts.toFixed(2)} V`);
  if (apart(a.endVolts, b.endVolts) > ALIKE.volts)
    unlike.push(`they end at ${a.endVolts.toFixed(2)} and ${b.endVolts.toFixed(2)} V`);
  if (apart(ra.meanAmperes, rb.meanAmperes) > ALIKE.amperes)
    unlike.push(`they were taken at ${ra.meanAmperes.toFixed(2)} and ${rb.meanAmperes.toFixed(2)} A`);
  if (ra.celsius === null || rb.celsius === null) unlike.push('the temperature of one is not known');
  else if (Math.abs(ra.celsius.lo + ra.celsius.hi - rb.celsius.lo - rb.celsius.hi) / 2 > ALIKE.kelvin)
    unlike.push(
      `they were taken at ${[ra, rb].map((r) => `${r.celsius!.lo.toFixed(0)} to ${r.celsius!.hi.toFixed(0)} °C`).join(' and ')}`,
    );
  return {
    unlike,
    charge: change(ra.capacityAh, rb.capacityAh),
    energy: change(ra.energyWh, rb.energyWh),
    resistance: change(ra.resistanceOhm, rb.resistanceOhm),
  };
}
