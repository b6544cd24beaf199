import type { GaugeBody } from '../logbook/entry';
import { type CapacityUnit, type EnergyUnit, type Figure, value, type VoltUnit } from '../quantity/figure';

/** One battery as an operating system reports it. */
export interface ReportedBattery {
  readonly name: string;
  readonly maker: string;
  readonly model: string;
  readonly serial: string;
  /** What of it is a gauge reading; empty when nothing could be used. */
  readonly gauge: GaugeBody;
  /** Charge in % as shown; rounding and clamping make it differ from left over full. */
  readonly shown: number | null;
  /** Terminal voltage at that moment, not a rest voltage. */
  readonly volts: Figure<VoltUnit> | null;
  /** Nominal voltage; the operating system may file it under another name. */
  readonly nominal: Figure<VoltUnit> | null;
  /** What was left out or is doubtful, and why. */
  readonly doubts: readonly string[];
}

export type Amount = Figure<CapacityUnit | EnergyUnit>;

/** Capacities as they were reported, all charges or all energies; null where there is none. */
export interface Amounts {
  readonly design: Amount | null;
  readonly full: Amount | null;
  readonly now: Amount | null;
}

const isEnergy = (f: Amount): boolean => f.unit === 'Wh' || f.unit === 'mWh';

/** Full charge as it can be used: not 0, and not far over design. */
function usableFull(full: Amount, design: Amount | null, doubts: string[]): Amount | null {
  if (value(full) <= 0) {
    doubts.push('full-charge capacity 0: left out');
    return null;
  }
  if (design && value(design) > 0 && value(full) > 1.15 * value(design)) {
    doubts.push(`full-charge capacity is ${Math.round((100 * value(full)) / value(design))} % of design: left out`);
    return null;
  }
  return full;
}

/** Puts the figures together and leaves out what contradicts itself; why goes to the doubts. */
export function judged({ design, full: reported, now: left }: Amounts, cycles: number | null, doubts: string[]): GaugeBody {
  const full = reported && usableFull(reported, design, doubts);
  let now = left;
  if (now && full && value(now) > value(full) * 1.02) {
    doubts.push('more charge left than full: left out');
    now = null;
  }
  // Watt-hours and ampere-hours of a notebook pack do not overlap there.
  if (design && isEnergy(design) && value(design) > 0 && value(design) < 10)
    doubts.push(`says ${design.unit}, but the figure looks like mAh: check it against the label`);
  if (design && !isEnergy(design) && value(design) > 15)
    doubts.push(`says ${design.unit}, but the figure looks like mWh: check it against the label`);
  return {
    ...(design && value(design) > 0 && { designCapacity: design }),
    ...(full && { fullChargeCapacity: full }),
    ...(now && value(now) >= 0 && full && { remainingCapacity: now }),
    // Zero mostly means that nobody counts.
    ...(cycles !== null && cycles > 0 && cycles <= 65_535 && { cycleCount: cycles }),
  };
}

/** Says so where the chemistry is another one. */
export function doubtChemistry(chemistry: string, doubts: string[]): void {
  if (chemistry !== '' && !/^(li|unknown)/i.test(chemistry)) doubts.push(`technology ${chemistry}: not lithium-ion`);
}
