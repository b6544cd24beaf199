import type { Contradiction } from '../coherence/relation';
import { gaugeProblems, isEnergy, ratedLike } from './gauge';
import { type Series, seriesOf } from './series';
import { cellSets, cellsSeen } from './sets';
import type { GaugeBody } from '../logbook/entry';
import type { Statement, PackFacts, Worked } from '../logbook/fold';
import { chargeFromRest, energyAboard, fullChargeFromGauge, ratedCharge, ratedChargeFromGauge } from '../pack/charge';
import { type Health, healthOf, LOST_COUNT } from '../pack/health';
import type { LabelBody } from '../pack/label';
import type { Nature } from '../pack/nature';
import { restOf } from '../pack/rest';
import { value } from '../quantity/figure';
import { type Interval, overlaps } from '../quantity/interval';
import { combine } from '../quantity/uncertainty';
import { DAY_MS } from '../quantity/day';

export interface ChargeState {
  /** % of full charge. */
  readonly ofFull: Interval;
  /** % of rated capacity; the upper end is what rules compare. */
  readonly ofRated: Interval;
  readonly from: 'gauge' | 'rest voltage' | 'what was said';
  readonly at: string;
  /** Wh aboard; null when the energy is not known. */
  readonly aboard: Interval | null;
}

export interface Electrical {
  readonly charge: ChargeState | null;
  /** Why there is no charge figure, in words. */
  readonly whyNot: string;
  readonly health: Health | null;
  /** Every cell seen in one set, or one full cycle in a host. */
  readonly cellsSeen: boolean;
  /** What gauge, meter and label say against each other. */
  readonly contradictions: readonly Contradiction[];
}

/** Points by which a charge may be off that was said, not measured. Common practice, no source. */
const SAID_WITHIN = 5;

interface Known {
  readonly label: LabelBody;
  readonly nature: Nature;
  readonly health: Health | null;
  readonly fullWh: number | null;
}

/** A charge as one reading or statement gives it. */
type Found = Omit<ChargeState, 'aboard'> & { readonly doubted: boolean };

/** The charge that counts, with the energy it leaves aboard. */
function withEnergy({ ofFull, ofRated, from, at }: Found, { nature: { curves }, fullWh }: Known): ChargeState {
  const aboard = fullWh === null || curves.length === 0 ? null : energyAboard(fullWh, ofFull, curves);
  return { ofFull, ofRated, from, at, aboard };
}

/** Health may lower a charge of rated capacity only where the gauge can be held to it. */
const ratedOf = (k: Known, ofFull: Interval): Interval => ratedCharge(ofFull, k.health?.lowers ? k.health.range : null);

function fromGauge(k: Known, g: Statement<GaugeBody>): Found | string {
  const { fullChargeCapacity: fcc, designCapacity: design, remainingCapacity: left, maxError } = g.body;
  if (!left || !fcc || isEnergy(left) !== isEnergy(fcc)) return 'the gauge does not say what is left of what';
  const rated = ratedLike(fcc, k.label) ?? (design && isEnergy(design) === isEnergy(fcc) ? value(design) : null);
  if (!rated) return 'rated capacity not known';
  const ofFull = fullChargeFromGauge(value(left), value(fcc), maxError);
  const byGauge = ratedChargeFromGauge(value(left), value(fcc), rated, maxError);
  // A full-charge capacity that is nearly nothing must not make little of what is left.
  const lost = (100 * value(fcc)) / rated < LOST_COUNT || k.health?.lowers === false;
  const hi = lost ? Math.max(byGauge.hi, ratedCharge(ofFull, null).hi) : byGauge.hi;
  return { ofFull, ofRated: { lo: byGauge.lo, hi }, from: 'gauge', at: g.at, doubted: g.doubted };
}

function fromVolts(k: Known, s: Series): Found | string {
  const rest = restOf(s.restMinutes, s.flow);
  if (!rest.rested) return `the voltage was taken too early to be a rest voltage${rest.bias ? `, it reads ${rest.bias}` : ''}`;
  if (!k.nature.lithium) return 'a rest voltage says nothing of the charge of this chemistry';
  if (k.nature.series === null) return 'cells in series not known';
  const u = combine(s.u / k.nature.series, rest.u);
  const ofFull = chargeFromRest(s.mean / k.nature.series, u, k.nature.curves, k.nature.families);
  return { ofFull, ofRated: ratedOf(k, ofFull), from: 'rest voltage', at: s.at, doubted: s.doubted };
}

const apart = (a: Found, b: Found): Contradiction => ({
  relation: 'charge-agree',
  fields: [a.from === 'gauge' ? 'gauge' : 'packVolts', b.from === 'gauge' ? 'gauge' : 'packVolts'],
  sentence: `${percent(a)} by ${a.from}, but ${percent(b)} by ${b.from} within a day: take both again; until then the higher counts`,
});
const percent = ({ ofFull }: Found): string => `${Math.round(ofFull.lo)} to ${Math.round(ofFull.hi)} % of full`;

/** The charge that counts: the newest, or the highest of several that do not agree. A questioned one counts where it is higher. */
function agreed(all: readonly Found[]): { charge: Found | null; contradictions: Contradiction[] } {
  const sure = all.filter((f) => !f.doubted).sort((a, b) => (a.at < b.at ? -1 : 1));
  const newest = sure[sure.length - 1];
  if (!newest) return { charge: null, contradictions: [] };
  const near = (f: Found) => Math.abs(Date.parse(newest.at) - Date.parse(f.at)) <= DAY_MS;
  const other = all.filter((f) => f !== newest && near(f) && !overlaps(f.ofFull, newest.ofFull));
  const highest = [newest, ...other].reduce((a, b) => (b.ofRated.hi > a.ofRated.hi ? b : a));
  const first = other[0];
  return { charge: highest, contradictions: first ? [apart(newest, first)] : [] };
}

/**
 * The charge after the last thing that was done with the pack: it makes older readings void, and what was said of it counts until it is
 * measured. Facts that did not agree before are asked about until something was measured anew.
 */
function chargeAfter(
  k: Known,
  tried: readonly { readonly at: string; readonly found: Found | string }[],
  changes: readonly Worked[],
): ReturnType<typeof agreed> & { readonly since: readonly (Found | string)[] } {
  const changed = changes[changes.length - 1];
  const since = tried.filter((x) => changed === undefined || x.at > changed.at).map((x) => x.found);
  const measured = since.filter((x) => typeof x !== 'string');
  const said: Found[] = [];
  if (changed && changed.to !== null) {
    const ofFull = { lo: Math.max(0, changed.to - SAID_WITHIN), hi: Math.min(100, changed.to + SAID_WITHIN) };
    said.push({ ofFull, ofRated: ratedOf(k, ofFull), from: 'what was said', at: changed.at, doubted: false });
  }
  const now = agreed([...measured, ...said]);
  if (!changed || measured.length > 0) return { ...now, since };
  const before = chargeAfter(k, tried, changes.slice(0, -1));
  return { ...now, contradictions: [...now.contradictions, ...before.contradictions], since };
}

/** Charge, health and energy aboard from gauge and rest voltage. Doubted readings are no evidence, and still count for more. */
export function electrical(facts: PackFacts, label: LabelBody, nature: Nature): Electrical {
  const contradictions: Contradiction[] = [];
  const usable = facts.gauges.filter((g) => {
    const problems = gaugeProblems(g.body, label);
    if (!g.doubted) contradictions.push(...problems);
    return problems.length === 0;
  });
  const gauge = usable
    .filter((g) => !g.doubted)
    .sort((a, b) => (a.at < b.at ? -1 : 1))
    .pop();
  const fcc = gauge?.body.fullChargeCapacity;
  const design = gauge?.body.designCapacity;
  const health =
    fcc && design && isEnergy(fcc) === isEnergy(design) ? healthOf(value(fcc), value(design), gauge?.body.maxError) : null;
  const known: Known = { label, nature, health, fullWh: fullEnergy(label, health) };
  const volts = seriesOf(facts.readings, 'pack-voltage').filter((s) => s.mean > 0.5);
  const tried = [
    ...usable.map((g) => ({ at: g.at, found: fromGauge(known, g) })),
    ...volts.map((s) => ({ at: s.at, found: fromVolts(known, s) })),
  ];
  const changes = facts.worked.filter((w) => w.charge).sort((a, b) => (a.at < b.at ? -1 : 1));
  const { charge, contradictions: disagree, since } = chargeAfter(known, tried, changes);
  const old = changes.length > 0 && tried.length > 0;
  const reasons = since.filter((x) => typeof x === 'string');
  const whyNot =
    reasons[reasons.length - 1] ??
    (old ? 'it was charged, discharged or used since it was measured' : 'no gauge reading and no rest voltage');
  return {
    charge: charge && withEnergy(charge, known),
    whyNot: charge ? '' : whyNot,
    health,
    cellsSeen: cellsSeen(cellSets(facts), nature.series) || cycledWell(facts),
    contradictions: [...contradictions, ...disagree],
  };
}

/** The last word on a full cycle in a host, as evidence: it went as usual. */
export function cycledWell(facts: PackFacts): boolean {
  const last = [...facts.cycles].sort((a, b) => (a.at < b.at ? -1 : 1)).pop();
  return last !== undefined && !last.doubted && last.body.went === 'as-usual';
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
