import type { Contradiction } from '../coherence/relation';
import type { GaugeBody } from '../logbook/entry';
import type { LabelBody } from '../pack/label';
import { type Figure, show, value } from '../quantity/figure';

/** Full-charge and design capacity over the label's, least and most. Wear below, typical figures above; common practice, no source. */
export const GAUGE_RATIO = { lo: 0.2, hi: 1.3 } as const;
/** What is left may be this much of full: gauges round and run over. */
const LEFT_MOST = 1.05;

export const isEnergy = (f: Figure): boolean => f.unit.endsWith('Wh');

/** Rated capacity (Ah) or energy (Wh) of a label, whichever the figure is; null when the label does not tell. */
export function ratedLike(f: Figure, label: LabelBody): number | null {
  const { nominalVoltage: v, ratedCapacity: q, ratedEnergy: e } = label;
  if (!isEnergy(f)) return q ? value(q) : v && e ? value(e) / value(v) : null;
  return e ? value(e) : v && q ? value(v) * value(q) : null;
}

const broken = (sentence: string): Contradiction => ({ relation: 'gauge-units', fields: ['gauge', 'ratedCapacity'], sentence });

/** Would the same digits fit the label's other unit: an energy that is a capacity, or the other way round? */
function otherUnit(f: Figure, label: LabelBody): string | null {
  const other = { digits: f.digits, unit: isEnergy(f) ? 'mAh' : 'mWh' };
  const rated = ratedLike(other, label);
  if (rated === null) return null;
  // In thousandths, as systems report it.
  const x = value({ ...f, unit: f.unit } as Figure);
  const ratio = x / rated;
  return ratio >= GAUGE_RATIO.lo && ratio <= GAUGE_RATIO.hi ? (isEnergy(f) ? 'mAh' : 'mWh') : null;
}

/**
 * What a gauge's figures say against the label and against each other. With any of it the gauge is not used for charge or health.
 * @param label what stands undisputed on the label.
 */
export function gaugeProblems(body: GaugeBody, label: LabelBody): Contradiction[] {
  const { fullChargeCapacity: full, designCapacity: design, remainingCapacity: left } = body;
  const out: Contradiction[] = [];
  for (const [name, f] of [
    ['full-charge capacity', full],
    ['design capacity', design],
  ] as const) {
    if (!f) continue;
    if (value(f) <= 0) {
      out.push(broken(`the gauge says a ${name} of ${show(f)}: read it again`));
      continue;
    }
    const rated = ratedLike(f, label);
    if (rated === null || rated <= 0) continue;
    const ratio = value(f) / rated;
    if (ratio >= GAUGE_RATIO.lo && ratio <= GAUGE_RATIO.hi) continue;
    const other = otherUnit(f, label);
    out.push(
      broken(
        `the gauge says a ${name} of ${show(f)}, ${ratio.toFixed(2)} of the label’s: ${other ? `it looks like ${other}` : 'read both again'}`,
      ),
    );
  }
  if (full && design && isEnergy(full) === isEnergy(design) && value(design) > 0 && value(full) > GAUGE_RATIO.hi * value(design))
    out.push(broken(`the gauge says ${show(full)} full but ${show(design)} by design: read it again`));
  if (left && full && isEnergy(left) === isEnergy(full) && value(full) > 0 && value(left) > LEFT_MOST * value(full))
    out.push(broken(`the gauge says ${show(left)} left of ${show(full)} full: read it again`));
  return out;
}
