import type { CapacityUnit, EnergyUnit, Figure, VoltUnit } from '../quantity/figure';
import { micro, step, value } from '../quantity/figure';
import type { Interval } from '../quantity/interval';
import { gap, overlaps } from '../quantity/interval';

/** What the maker declares, as printed. */
export interface LabelValues {
  readonly nominalVoltage?: Figure<VoltUnit>;
  readonly ratedCapacity?: Figure<CapacityUnit>;
  readonly ratedEnergy?: Figure<EnergyUnit>;
  readonly limitedChargeVoltage?: Figure<VoltUnit>;
}

export const CHEMISTRIES = ['li-ion', 'li-metal', 'na-ion', 'ni-mh', 'none'] as const;
export type Chemistry = (typeof CHEMISTRIES)[number];

/** Everything a label may say. Any field may be missing; missing is unknown. */
export interface LabelBody extends LabelValues {
  readonly chemistry?: Chemistry;
  readonly typeCode?: string;
  readonly spareNumber?: string;
  readonly designation?: string;
  readonly serial?: string;
  readonly series?: number;
  readonly parallel?: number;
  /** YYYY, YYYY-MM or YYYY-MM-DD. */
  readonly madeOn?: string;
  /** Watt-hours printed on the case. */
  readonly energyMarked?: boolean;
}

/** What a printed figure can stand for: rounded to its last digit. */
export function printed(f: Figure): Interval {
  const x = value(f);
  const h = step(f) / 2;
  return { lo: x - h, hi: x + h };
}

/** What a printed figure can stand for when the maker cut digits off instead of rounding: from x up to one step more. */
export function truncated(f: Figure): Interval {
  const x = value(f);
  return { lo: x, hi: x + step(f) };
}

/**
 * Rated energy from nominal voltage and rated capacity as declared, in millionths of a watt-hour, computed in whole numbers
 * (Watt-hour rating: UN Manual of Tests and Criteria 38.3.2.3; 49 CFR 171.8; from memory).
 */
export function declaredEnergyMicro(v: Figure<VoltUnit>, q: Figure<CapacityUnit>): number {
  // mV x mAh is uWh; figures finer than that are rare and keep their fraction.
  return (micro(v) / 1000) * (micro(q) / 1000);
}

/** Energy interval in Wh that the printed digits of voltage and capacity allow. */
export function energyInterval(v: Figure<VoltUnit>, q: Figure<CapacityUnit>): Interval {
  const V = printed(v);
  const Q = printed(q);
  return { lo: V.lo * Q.lo, hi: V.hi * Q.hi };
}

/** Capacity interval in Ah from printed energy and voltage. */
export function capacityInterval(e: Figure<EnergyUnit>, v: Figure<VoltUnit>): Interval {
  const E = printed(e);
  const V = printed(v);
  return { lo: E.lo / V.hi, hi: E.hi / V.lo };
}

/** Voltage interval in V from printed energy and capacity. */
export function voltageInterval(e: Figure<EnergyUnit>, q: Figure<CapacityUnit>): Interval {
  const E = printed(e);
  const Q = printed(q);
  return { lo: E.lo / Q.hi, hi: E.hi / Q.lo };
}

/** Common practice, no source: under 3 % apart is a mix of typical and rated figures, to 6 % doubtful, beyond it inconsistent. */
export type LabelVerdict = 'consistent' | 'consistent if rounded' | 'doubtful' | 'inconsistent' | 'not comparable';

export interface LabelCheck {
  readonly verdict: LabelVerdict;
  /** Wh from voltage and capacity, as an interval; null when one is missing. */
  readonly computed: Interval | null;
  /** Distance in % of the printed energy, 0 when they overlap. */
  readonly apart: number;
}

/** Do the printed voltage, capacity and energy agree within what their digits allow? */
export function checkLabel(label: LabelValues): LabelCheck {
  const { nominalVoltage: v, ratedCapacity: q, ratedEnergy: e } = label;
  const computed = v && q ? energyInterval(v, q) : null;
  if (!computed || !e) return { verdict: 'not comparable', computed, apart: 0 };
  if (overlaps(computed, printed(e)) || overlaps(computed, truncated(e))) return { verdict: 'consistent', computed, apart: 0 };
  const apart = (100 * Math.min(gap(computed, printed(e)), gap(computed, truncated(e)))) / value(e);
  const verdict = apart < 3 ? 'consistent if rounded' : apart <= 6 ? 'doubtful' : 'inconsistent';
  return { verdict, computed, apart };
}

/** The energies the label declares, in millionths of a watt-hour: the printed one, and volts times capacity. */
export function declaredEnergies(label: LabelValues): number[] {
  const out: number[] = [];
  if (label.ratedEnergy) out.push(micro(label.ratedEnergy));
  if (label.nominalVoltage && label.ratedCapacity) {
    out.push(declaredEnergyMicro(label.nominalVoltage, label.ratedCapacity));
  }
  return out;
}
