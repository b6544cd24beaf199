import type { MeasuredLogBody } from '../logbook/entry';
import type { Interval } from '../quantity/interval';
import type { LogResult } from './measure';

/** Digits that a figure is written with, and most behind the point: nothing smaller is ever measured. */
const DIGITS = 5;
const MOST_DECIMALS = 12;

/** The same interval with fewer digits, never narrower. */
export function outward({ lo, hi }: Interval): Interval {
  const round = (x: number, to: (y: number) => number): number => {
    if (x === 0) return 0;
    const decimals = Math.min(MOST_DECIMALS, DIGITS - 1 - Math.floor(Math.log10(Math.abs(x))));
    // Scaled both ways by whole powers of ten: 0.1 has no exact half.
    return decimals >= 0 ? to(x * 10 ** decimals) / 10 ** decimals : to(x / 10 ** -decimals) * 10 ** -decimals;
  };
  const [low, high] = [round(lo, Math.floor), round(hi, Math.ceil)];
  // The last bit of a division may lie on the wrong side.
  return { lo: Math.min(low, lo), hi: Math.max(high, hi) };
}

/**
 * What of a log goes on the record of a pack.
 * @param sha256 lower-case hex of the file as it was opened. @param file the packed file; null where it is too large to keep.
 */
export function logBody(r: LogResult, sha256: string, file: MeasuredLogBody['file'] | null): MeasuredLogBody {
  const dated = typeof r.from === 'string' && typeof r.to === 'string';
  return {
    sha256,
    ...(file && { file }),
    method: 'trapezium',
    rows: r.rows,
    gaps: r.gaps,
    ...(dated && { from: r.from as string, to: r.to as string }),
    charge: outward(r.capacityAh),
    energy: outward(r.energyWh),
    ...(r.resistanceOhm && { resistance: outward(r.resistanceOhm) }),
    ...(r.resistance25Ohm && { resistance25: outward(r.resistance25Ohm) }),
    ...(r.celsius && { temperature: outward(r.celsius) }),
    meanCurrent: Number(r.meanAmperes.toPrecision(DIGITS)),
    ...(r.healthPercent && { health: outward(r.healthPercent) }),
    remarks: r.remarks.slice(0, 20).map((x) => x.slice(0, 300)),
  };
}

export interface LogPoint {
  /** When it was measured, ISO 8601 UTC. */
  readonly at: string;
  readonly value: number;
  readonly lo: number;
  readonly hi: number;
}

/** A figure of the logs on a pack's record over time, oldest first: when it ran where the log has a date, else when it was kept. */
export const logTrend = (
  logs: readonly { readonly at: string; readonly body: MeasuredLogBody }[],
  figure: 'charge' | 'energy' | 'resistance' | 'health',
): LogPoint[] =>
  logs
    .flatMap(({ at, body }) => {
      const i = body[figure];
      return i ? [{ at: body.to ?? at, value: (i.lo + i.hi) / 2, ...i }] : [];
    })
    .sort((a, b) => (a.at < b.at ? -1 : 1));
