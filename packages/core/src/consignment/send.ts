import { type BoxFacts, type CarrierFacts, type ConsignmentFacts } from '../logbook/fold-consignment';
import type { Outline, Placement, Purpose } from '../logbook/entry';
import type { Destination } from '../logbook/entry-dispatch';
import { formOf, type PackFacts } from '../logbook/fold';
import { latest, seriesOf } from '../condition/series';
import { value } from '../quantity/figure';
import { classify } from '../shipping/classify';
import type { Route, ShippingFacts } from '../shipping/facts';
import { SHIPPING } from '../shipping/rulebook';

/** A pack as a consignment knows it: what the rules may know of it, what it weighs and how large it is. */
export interface Sending {
  readonly id: string;
  readonly tag: string;
  readonly shipping: ShippingFacts;
  /** Weighed, kg; or a bound from its energy, with `lo` 0; null where nobody knows either. */
  readonly kg: { readonly lo: number; readonly hi: number; readonly weighed: boolean } | null;
  /** As measured here, or the largest of its type code; null where nobody measured one. */
  readonly outline: Outline | null;
}

export const purposeOf = (to: Destination | undefined): Purpose | undefined =>
  to === undefined ? undefined : to === 'recycler' ? 'recycling' : to === 'disposal' ? 'disposal' : 'use';

const largest = (a: Outline | undefined, b: Outline): Outline => ({
  length: Math.max(a?.length ?? 0, b.length),
  width: Math.max(a?.width ?? 0, b.width),
  height: Math.max(a?.height ?? 0, b.height),
});

/** The outline of a pack as it was measured, mm; its thickness may have grown since the form was noted. */
function measuredOutline(f: PackFacts): Outline | null {
  const { length, width, thickness } = formOf(f);
  const grown = latest(seriesOf(f.readings, 'thickness'));
  const height = Math.max(thickness ? value(thickness) : 0, ...(grown ? [grown.mean] : []));
  return length && width && height > 0 ? { length: value(length), width: value(width), height } : null;
}

/** Type code as outlines are shared by; nothing where none was read. */
const codeOf = (f: PackFacts): string | undefined =>
  f.labels
    .map((l) => l.body.typeCode)
    .filter(Boolean)
    .pop();

/** The largest outline measured of each type code. @param packs of the whole workshop. */
export function outlinesByCode(packs: readonly PackFacts[]): ReadonlyMap<string, Outline> {
  const out = new Map<string, Outline>();
  for (const f of packs) {
    const code = codeOf(f);
    const outline = code === undefined ? null : measuredOutline(f);
    if (code !== undefined && outline) out.set(code, largest(out.get(code), outline));
  }
  return out;
}

/**
 * A pack as it is to be sent.
 * @param shipping what its ruling says shipping may know.
 */
export function sendingOf(
  f: PackFacts,
  shipping: ShippingFacts,
  as: { readonly placement: Placement; readonly purpose: Purpose | undefined },
  outlines: ReadonlyMap<string, Outline>,
): Sending {
  const { package: alone, ...known } = shipping;
  const [weighed, bound] = [shipping.mass, alone?.netKg];
  const code = codeOf(f);
  return {
    id: f.id,
    tag: f.tag,
    shipping: { ...known, placement: as.placement, ...(as.purpose && { purpose: as.purpose }) },
    kg:
      weighed !== undefined
        ? { lo: weighed * 0.97, hi: weighed, weighed: true }
        : bound !== undefined
          ? { lo: 0, hi: bound, weighed: false }
          : null,
    outline: measuredOutline(f) ?? (code === undefined ? null : (outlines.get(code) ?? null)),
  };
}

/** Steps to which figures are raised so that packs that differ by a hair are planned as one kind: never to the milder side. */
const STEPS = { kg: 0.02, mm: 5, percent: 5 } as const;
const up = (x: number, step: number): number => Math.ceil(x / step - 1e-9) * step;

/** Room left round a damaged pack for what catches its heat, mm each side; common practice, no source. */
export const DAMAGED_FILL_MM = 20;

/** What a rule may ask and often does not: left out where the pack alone is answered the same without it. */
const SELDOM = ['madeOn', 'stateOfCharge', 'nominalVoltage', 'ratedCapacity', 'parallel'] as const;

/** What of a pack the plan goes by: figures raised, and left out what the rules do not ask on this route. Missing is never milder. */
export function plannedFacts(s: Sending, route: Route): ShippingFacts {
  const kg = s.kg === null ? undefined : Math.round(up(s.kg.hi, STEPS.kg) * 1000) / 1000;
  const { stateOfCharge } = s.shipping;
  let facts: ShippingFacts = {
    ...s.shipping,
    ...(kg !== undefined && { mass: kg }),
    ...(stateOfCharge !== undefined && { stateOfCharge: Math.min(100, up(stateOfCharge, STEPS.percent)) }),
  };
  const alone = (f: ShippingFacts) => {
    const c = classify({ ...f, package: { packs: 1 } }, route);
    return `${c.outcome} ${c.provision} ${c.batteryMark}`;
  };
  const answer = alone(facts);
  // A charge up to the limit is as good as the limit.
  const limit = SHIPPING.on('air.965-charge', route.on)?.figures.percent;
  if (facts.stateOfCharge !== undefined && limit !== undefined && facts.stateOfCharge < limit) {
    const raised = { ...facts, stateOfCharge: limit };
    if (alone(raised) === answer) facts = raised;
  }
  for (const k of SELDOM) {
    if (facts[k] === undefined) continue;
    const { [k]: _asked, ...less } = facts;
    if (alone(less) === answer) facts = less;
  }
  return facts;
}

/** The outline a plan lays, mm; a damaged one with its fill. */
export const laidOutline = (o: Outline, damaged: boolean): Outline => {
  const more = damaged ? 2 * DAMAGED_FILL_MM : 0;
  return {
    length: up(o.length, STEPS.mm) + more,
    width: up(o.width, STEPS.mm) + more,
    height: up(o.height, STEPS.mm) + more,
  };
};

/** Boxes of a sort that are left: as many as were counted last, without those closed since in any consignment. */
export function boxesLeft(box: BoxFacts, consignments: readonly ConsignmentFacts[]): number {
  const used = consignments.reduce(
    (n, c) => n + Object.values(c.closed).filter((p) => p.box === box.id && p.at > box.at).length,
    0,
  );
  return Math.max(0, box.stock - used);
}

/** What a consignment is planned with. */
export interface Means {
  /** In stock, with how many are left. */
  readonly boxes: readonly (BoxFacts & { readonly left: number })[];
  readonly carriers: readonly CarrierFacts[];
}
