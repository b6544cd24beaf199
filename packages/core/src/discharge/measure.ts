import { RESISTANCE_ACTIVATION, resistanceAt, fullCycles } from '../pack/electric';
import type { Interval } from '../quantity/interval';
import type { DischargeLog } from './read';
import { counted } from '../quantity/counted';

/** What the instrument is taken to be off by where nobody says: gain of amperes and volts, offset A. Common practice, no source. */
export const ACCURACY = { gain: 0.01, voltsGain: 0.005, offset: 0.005 } as const;
/** A pause longer than so many sampling intervals, or than so many seconds where rows lie closer, is a gap. */
const GAP = { intervals: 3, seconds: 60 } as const;
/** Below this part of the largest current the pack is at rest. */
export const REST = 0.02;

export interface LogResult {
  readonly rows: number;
  readonly gaps: number;
  /** First and last moment: ISO 8601 UTC where the log has a date, else seconds. */
  readonly from: string | number;
  readonly to: string | number;
  readonly capacityAh: Interval;
  readonly energyWh: Interval;
  readonly resistanceOhm: Interval | null;
  /** Lowest and highest temperature, °C; null where the log has none. */
  readonly celsius: Interval | null;
  /** The resistance as it would be at 25 °C; null where the log has no temperature or no step of the current. */
  readonly resistance25Ohm: Interval | null;
  /** Charge over what the label says, or energy where it says only that; null where it says nothing. */
  readonly fullCycles: Interval | null;
  /** While it was under load. */
  readonly meanAmperes: number;
  readonly healthPercent: Interval | null;
  /** The volts rise while the current flows: a charge, not a discharge. */
  readonly isCharge: boolean;
  readonly remarks: readonly string[];
}

/** What the label says: ampere-hours or watt-hours. */
export interface Rated {
  readonly ampereHours?: number;
  readonly wattHours?: number;
}

/** Rows looked at for what is usual in a log: of a long one every so-manieth. */
const SAMPLE = 20_001;
const sampled = <T>(length: number, of: (i: number) => T): T[] => {
  const step = Math.max(1, Math.floor(length / SAMPLE));
  return Array.from({ length: Math.floor(length / step) }, (_, k) => of(k * step));
};

/** The figure that so much of the others lie below; 0 of none. @param part 0 to 1. */
const quantile = (figures: readonly number[], part: number): number => {
  const sorted = Float64Array.from(figures).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? 0;
};

/** The middle of all steps of time. */
function samplingOf(seconds: Float64Array): number {
  const steps = sampled(seconds.length - 1, (i) => seconds[i + 1]! - seconds[i]!);
  return quantile(
    steps.filter((s) => s > 0),
    0.5,
  );
}

/** Largest current by its size, of the ordinary ones: a spike of one row is none. */
export const loadOf = (amperes: Float64Array): number =>
  quantile(
    sampled(amperes.length, (i) => Math.abs(amperes[i]!)),
    0.98,
  );

/** From one row to the next: the time between them, s, amperes and volts of both. */
type Step = (dt: number, i1: number, i2: number, u1: number, u2: number) => void;

/** Goes through a log from row to row; where the clock stands still or turns back there is no step. */
export function eachStep({ seconds, amperes, volts }: DischargeLog, take: Step): void {
  let [s1, i1, u1] = [NaN, NaN, NaN];
  seconds.forEach((s2, k) => {
    const [i2, u2] = [amperes[k]!, volts[k]!];
    if (s2 > s1) take(s2 - s1, i1, i2, u1, u2);
    [s1, i1, u1] = [s2, i2, u2];
  });
}

/** Does the current run with a plus the way most of the charge flows? Whether that is a discharge the volts tell later. */
function signOf(log: DischargeLog): 1 | -1 {
  let sum = 0;
  eachStep(log, (dt, i1, i2) => {
    sum += ((i1 + i2) / 2) * dt;
  });
  return sum < 0 ? -1 : 1;
}

/** Resistance from steps of the current between neighbouring rows; null where none is large enough for the digits printed. */
function resistanceOf(log: DischargeLog, sign: 1 | -1, load: number, sampling: number): Interval | null {
  const least = Math.max(0.1 * load, 20 * log.steps.amperes);
  const found: number[] = [];
  eachStep(log, (dt, i1, i2, u1, u2) => {
    const [dI, dU] = [sign * (i2 - i1), u1 - u2];
    if (dt > Math.max(30, 3 * sampling) || Math.abs(dI) < least) return;
    // A step that the last digit of the volts could be is none.
    if (Math.abs(dU) >= 10 * log.steps.volts && dU * dI > 0) found.push(dU / dI);
  });
  if (found.length === 0) return null;
  found.sort((a, b) => a - b);
  const [lo, hi] = [found[Math.floor(found.length * 0.25)]!, found[Math.ceil(found.length * 0.75) - 1]!];
  return { lo: lo * 0.95, hi: hi * 1.05 };
}

/** Lowest and highest temperature of the log, °C; rows without one are left out. */
function celsiusOf({ celsius }: DischargeLog): Interval | null {
  let [lo, hi] = [Infinity, -Infinity];
  for (const c of celsius ?? []) {
    if (!Number.isFinite(c)) continue;
    lo = Math.min(lo, c);
    hi = Math.max(hi, c);
  }
  return lo <= hi ? { lo, hi } : null;
}

/** Standard uncertainties that an interval of this file spans to either side. */
export const COVERAGE = 2;

/**
 * A resistance measured at other temperatures as it would be at 25 °C: the hull over the temperatures of the log and over what is usual of
 * the activation. The sensor lies on the case, the cells are warmer: that is not in it.
 */
function at25(ohm: Interval, celsius: Interval): Interval {
  const { value, u } = RESISTANCE_ACTIVATION;
  const all = [celsius.lo, celsius.hi].flatMap((c) =>
    [value - COVERAGE * u, value + COVERAGE * u].flatMap((a) => [ohm.lo, ohm.hi].map((r) => resistanceAt(r, c, 25, a))),
  );
  return { lo: Math.min(...all), hi: Math.max(...all) };
}

/** Cells are full at rest above, and empty under load below, V; common practice, no source. */
const ENDS = { full: 4.1, empty: 3.3 } as const;
/** No cell stands higher than this, V: 4.50 V is the highest limit that labels print, and a meter is off by a little. Common practice, no source. */
const HIGHEST = 4.6;
/** Health above this, %, says that the label or the pack is another one. Common practice, no source. */
const HEALTHIEST = 120;

/** Why health does not follow; empty where it does. */
function notWhole(log: DischargeLog, sign: 1 | -1, rest: number, cells: number | undefined): string {
  const { volts, amperes } = log;
  if (cells === undefined) return 'health: say how many cells are in series';
  const resting = sign * amperes[0]! <= rest;
  const first = volts[0]! / cells;
  const last = volts[volts.length - 1]! / cells;
  let [lowest, highest] = [last, last];
  for (const v of volts) {
    lowest = Math.min(lowest, v / cells);
    highest = Math.max(highest, v / cells);
  }
  if (highest > HIGHEST) return `health: ${highest.toFixed(2)} V a cell is more than any has: are more cells in series?`;
  if (first < (resting ? ENDS.full : ENDS.full - 0.15)) return `health: it did not begin full (${first.toFixed(2)} V a cell)`;
  return lowest > ENDS.empty ? `health: it did not end empty (${lowest.toFixed(2)} V a cell)` : '';
}

/** What flowed: seconds, coulombs and joules; in gaps what may have flowed at most. */
interface Flow {
  readonly seconds: number;
  readonly charge: number;
  readonly energy: number;
  /** The other way, beyond what rests leave, C. */
  readonly other: number;
  readonly voltSeconds: number;
  readonly gap: { readonly count: number; readonly seconds: number; readonly charge: number; readonly energy: number };
}

/** Adds up a log from row to row. @param limit a step longer than this is a gap, s. @param rest below this current it rests, A. */
function flowOf(log: DischargeLog, sign: 1 | -1, limit: number, rest: number): Flow {
  let [seconds, charge, energy, other, voltSeconds] = [0, 0, 0, 0, 0];
  const gap = { count: log.jumps.length, seconds: 0, charge: 0, energy: 0 };
  eachStep(log, (dt, a1, a2, u1, u2) => {
    const [i1, i2] = [sign * a1, sign * a2];
    if (dt > limit) {
      const most = Math.max(0, i1, i2);
      gap.count += 1;
      gap.seconds += dt;
      gap.charge += most * dt;
      gap.energy += most * Math.max(u1, u2) * dt;
      return;
    }
    seconds += dt;
    voltSeconds += ((u1 + u2) / 2) * dt;
    const q = ((i1 + i2) / 2) * dt;
    if (i1 < -rest && i2 < -rest) {
      other -= q;
      return;
    }
    charge += q;
    energy += ((i1 * u1 + i2 * u2) / 2) * dt;
  });
  return { seconds, charge, energy, other, voltSeconds, gap };
}

/**
 * What a discharge log says, each figure as an interval with what limits it. Sum of trapezoids between neighbouring rows of one direction
 * (charge: Q = Σ (I1 + I2)/2 Δt); a gap is not bridged: between nothing and the larger current of its ends may have flowed in it.
 * @param rated what the label says; health is told only where the log runs from full to empty.
 */
export function measureLog(log: DischargeLog, rated: Rated = {}, cells?: number): LogResult {
  const { seconds, volts, amperes } = log;
  const remarks = [...log.remarks];
  const sampling = samplingOf(seconds);
  const load = loadOf(amperes);
  const rest = REST * load;
  const sign = signOf(log);
  const limit = Math.max(1.5 * sampling, Math.min(GAP.seconds, GAP.intervals * sampling));
  const { charge, energy, other, gap, ...whole } = flowOf(log, sign, limit, rest);
  if (gap.seconds > 0)
    remarks.push(`${counted(gap.count, 'gap')} of ${Math.round(gap.seconds)} s together: what flowed in them is not known`);
  if (other > 0.005 * Math.abs(charge)) remarks.push(`${(other / 3600).toFixed(3)} Ah the other way are left out`);
  const rising =
    volts[volts.length - 1]! > volts[0]! + 20 * log.steps.volts &&
    charge > 0 &&
    sign * amperes[Math.floor(amperes.length / 2)]! > rest;
  if (rising) remarks.push('the volts rise while the current flows: this is a charge, not a discharge');
  const hours = whole.seconds / 3600;
  const [ah, wh] = [charge / 3600, energy / 3600];
  const mean = whole.seconds > 0 ? whole.voltSeconds / whole.seconds : 0;
  const offset = ACCURACY.offset * hours;
  const within = (x: number, u: number, more: number): Interval => ({ lo: Math.max(0, x - u), hi: x + u + more });
  const capacityAh = within(ah, ACCURACY.gain * ah + offset, gap.charge / 3600);
  const energyWh = within(wh, (ACCURACY.gain + ACCURACY.voltsGain) * wh + offset * mean, gap.energy / 3600);
  const label = rated.ampereHours ?? rated.wattHours;
  const drawn = rated.ampereHours !== undefined ? capacityAh : energyWh;
  let healthPercent: Interval | null = null;
  if (label !== undefined) {
    const why = rising ? 'health: this is a charge' : notWhole(log, sign, rest, cells);
    if (why === '') healthPercent = { lo: (100 * drawn.lo) / label, hi: (100 * drawn.hi) / label };
    else remarks.push(why);
    if (healthPercent && healthPercent.lo > HEALTHIEST)
      remarks.push('health: far more than the label says; is it the label of this pack, and is its capacity right?');
  }
  const resistanceOhm = resistanceOf(log, sign, load, sampling);
  const celsius = celsiusOf(log);
  const moment = (s: number): string | number => (log.dated ? new Date(s * 1000).toISOString() : s);
  return {
    rows: seconds.length,
    gaps: gap.count,
    from: moment(seconds[0]!),
    to: moment(seconds[seconds.length - 1]!),
    capacityAh,
    energyWh,
    resistanceOhm,
    celsius,
    resistance25Ohm: resistanceOhm && celsius && at25(resistanceOhm, celsius),
    fullCycles: label === undefined || rising ? null : { lo: fullCycles(drawn.lo, label), hi: fullCycles(drawn.hi, label) },
    meanAmperes: meanLoaded(log, sign, rest),
    healthPercent,
    isCharge: rising,
    remarks,
  };
}

/** Mean current while it was under load, A. */
function meanLoaded(log: DischargeLog, sign: 1 | -1, rest: number): number {
  let [q, t] = [0, 0];
  eachStep(log, (dt, i1, i2) => {
    if (sign * i1 <= rest || sign * i2 <= rest) return;
    q += sign * ((i1 + i2) / 2) * dt;
    t += dt;
  });
  return t > 0 ? q / t : 0;
}
