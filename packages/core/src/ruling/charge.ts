import { latest, seriesOf } from '../condition/series';
import type { PackFacts } from '../logbook/fold';
import { chargeFromRest, energyAboard, ratedCharge, ratedChargeFromGauge } from '../pack/charge';
import { type Health, healthOf } from '../pack/health';
import type { Nature } from '../pack/nature';
import type { LabelBody } from '../pack/label';
import { restOf } from '../pack/rest';
import { type Figure, value } from '../quantity/figure';
import type { Interval } from '../quantity/interval';
import { combine } from '../quantity/uncertainty';

export interface ChargeState {
  /** % of full charge; null when the gauge gives only rated figures. */
  readonly ofFull: Interval | null;
  /** % of rated capacity; the upper end is what rules compare. */
  readonly ofRated: Interval;
  readonly from: 'gauge' | 'rest voltage';
  readonly at: string;
  /** Wh aboard; null when the energy is not known. */
  readonly aboard: Interval | null;
}

export interface Electrical {
  readonly charge: ChargeState | null;
  /** Why there is no charge figure, in words. */
  readonly whyNot: string;
  readonly health: Health | null;
  readonly cellsSeen: boolean;
}

const isEnergy = (f: Figure) => f.unit.endsWith('Wh');

/** Rated capacity or energy in the unit of a gauge figure; null when neither label nor gauge tells. */
function ratedLike(f: Figure, label: LabelBody, design: Figure | undefined): number | null {
  if (isEnergy(f)) {
    if (label.ratedEnergy) return value(label.ratedEnergy);
    if (label.nominalVoltage && label.ratedCapacity) return value(label.nominalVoltage) * value(label.ratedCapacity);
  } else if (label.ratedCapacity) return value(label.ratedCapacity);
  return design && isEnergy(design) === isEnergy(f) ? value(design) : null;
}

/** Charge, health and energy aboard from gauge and rest voltage, whichever is newer. Doubted readings are no evidence. */
export function electrical(facts: PackFacts, label: LabelBody, nature: Nature): Electrical {
  const gauges = facts.gauges.filter((g) => !g.doubted).sort((a, b) => (a.at < b.at ? -1 : 1));
  const gauge = gauges[gauges.length - 1];
  const fcc = gauge?.body.fullChargeCapacity;
  const design = gauge?.body.designCapacity;
  const health =
    fcc && design && isEnergy(fcc) === isEnergy(design) ? healthOf(value(fcc), value(design), gauge?.body.maxError) : null;
  const cellsSeen =
    gauges.some((g) => (g.body.cellVoltages ?? []).length > 0) ||
    facts.readings.some((r) => r.body.quantity === 'cell-voltage' && !r.doubted);
  const fullWh = fullEnergy(label, health);
  const found: ChargeState[] = [];
  let whyNot = 'no gauge reading and no rest voltage';

  const left = gauge?.body.remainingCapacity;
  if (gauge && left && fcc && isEnergy(left) === isEnergy(fcc)) {
    const rated = ratedLike(fcc, label, design);
    if (rated) {
      const ofRated = ratedChargeFromGauge(value(left), value(fcc), rated, gauge.body.maxError);
      const soc = (100 * value(left)) / value(fcc);
      const U = Math.max(gauge.body.maxError ?? 0, 5);
      const ofFull = { lo: Math.max(0, soc - U), hi: Math.min(100, soc + U) };
      const aboard = fullWh === null ? null : energyAboard(fullWh, ofFull, nature.curves);
      found.push({ ofFull, ofRated, from: 'gauge', at: gauge.at, aboard });
    } else whyNot = 'rated capacity not known';
  }
  const volts = latest(seriesOf(facts.readings, 'pack-voltage'));
  if (volts && volts.mean > 0.5) {
    const rest = restOf(volts.restMinutes, volts.flow);
    if (!rest.rested)
      whyNot = `the voltage was taken too early to be a rest voltage${rest.bias ? `, it reads ${rest.bias}` : ''}`;
    else if (nature.series === null) whyNot = 'cells in series not known';
    else {
      const u = combine(volts.u / nature.series, rest.u);
      const ofFull = chargeFromRest(volts.mean / nature.series, u, nature.curves, nature.family);
      const h = health && health.trusted ? health.percent / 100 : null;
      const aboard = fullWh === null ? null : energyAboard(fullWh, ofFull, nature.curves);
      found.push({ ofFull, ofRated: ratedCharge(ofFull, h), from: 'rest voltage', at: volts.at, aboard });
    }
  }
  const charge = found.sort((a, b) => (a.at < b.at ? -1 : 1)).pop() ?? null;
  return { charge, whyNot: charge ? '' : whyNot, health, cellsSeen };
}

/** Energy of a full pack: declared, times health when the gauge is to be trusted; never more than 3 % over the label. */
function fullEnergy(label: LabelBody, health: Health | null): number | null {
  const declared = label.ratedEnergy
    ? value(label.ratedEnergy)
    : label.nominalVoltage && label.ratedCapacity
      ? value(label.nominalVoltage) * value(label.ratedCapacity)
      : null;
  if (declared === null) return null;
  return declared * (health?.trusted ? Math.min(1.03, health.percent / 100) : 1);
}
