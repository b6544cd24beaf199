import type { Condition } from '../logbook/entry';
import { classify } from '../shipping/classify';
import type { Provision, Region, ShippingFacts } from '../shipping/facts';
import { REGION_RULES } from '../shipping/regions';
import { SHIPPING } from '../shipping/rulebook';
import { loadPoints } from './load';

/** A pack as these ways ask about it. */
export interface OwnPack {
  readonly id: string;
  readonly tag: string;
  readonly shipping: ShippingFacts;
  /** The most it weighs, kg; null where nobody knows. */
  readonly kg: number | null;
}

export type OwnWayName = 'own vehicle' | 'in the hand by air' | 'train or bus' | 'brought or fetched';

/** One way without a carrier: who may go, who stays and why, and what to do. */
export interface OwnWay {
  readonly name: OwnWayName;
  readonly goes: readonly string[];
  readonly stays: readonly { readonly id: string; readonly why: string }[];
  readonly steps: readonly string[];
  /** Ids of the rules it rests on. */
  readonly rules: readonly string[];
}

interface Judged extends OwnPack {
  readonly condition: Condition;
  /** Declared, the larger where figures differ, Wh; null where none is known. */
  readonly wattHours: number | null;
}

type Account = Omit<ShippingFacts, 'rivals'>;
/** All that is said of a pack: what is in dispute too. */
const allAccounts = (f: ShippingFacts): readonly Account[] => [f, ...(f.rivals ?? []).map((r) => ({ ...f, ...r }))];

function energyOf(f: ShippingFacts): number | null {
  const of = ({ ratedEnergy, nominalVoltage, ratedCapacity }: Account) => [
    ratedEnergy,
    nominalVoltage !== undefined && ratedCapacity !== undefined ? nominalVoltage * ratedCapacity : undefined,
  ];
  const all = allAccounts(f)
    .flatMap(of)
    .filter((x) => x !== undefined);
  return all.length > 0 ? Math.max(...all) : null;
}

/** What keeps a pack from every such way; empty where nothing does. Missing is unknown. */
function suspect({ condition, shipping }: Judged): string {
  if (condition === 'critical') return 'critical: it does not travel';
  if (allAccounts(shipping).some((s) => s.frozen === true)) return 'it was in an incident: wait until that is declared over';
  if (condition === 'damaged') return 'damaged: only by road as damaged goods, with a carrier who takes it';
  return condition === 'unproven' ? 'nobody knows what it is: examine it first' : '';
}

/** Is it sent to be recycled or disposed of? */
const isWaste = ({ shipping }: OwnPack): boolean =>
  allAccounts(shipping).some((s) => s.purpose === 'recycling' || s.purpose === 'disposal');

const COVER = 'contacts covered, each pack apart from the others and from metal';

type Reason = (p: Judged) => string;
function way(
  name: OwnWayName,
  packs: readonly Judged[],
  why: Reason,
  steps: readonly string[],
  rules: readonly string[],
): OwnWay {
  const asked = packs.map((p) => ({ id: p.id, why: suspect(p) || why(p) }));
  return {
    name,
    goes: asked.filter((a) => a.why === '').map((a) => a.id),
    stays: asked.filter((a) => a.why !== ''),
    steps,
    rules,
  };
}

/**
 * Own vehicle in Europe, inside the points of one vehicle; whoever does not fit any more stays. To or from a job nothing else is asked
 * (ADR 1.1.3.1 (c)); waste on its way to a recycler is no job: the points alone relieve it (1.1.3.6), of the rest nothing.
 */
function european(packs: readonly Judged[], on: string): OwnWay {
  const edition = SHIPPING.on('own.vehicle', on);
  const { points = 0, litres = 0 } = edition?.figures ?? {};
  let used = 0;
  const why: Reason = (p) => {
    if (!edition) return `no edition is held for ${on}`;
    if (p.kg === null) return 'its weight is not known';
    const { provision } = classify({ ...p.shipping, package: { packs: 1, netKg: p.kg } }, { mode: 'road', region: 'eu', on });
    const more = loadPoints([{ provision: (provision ?? 'P903') as Provision, netKg: p.kg }]).points;
    if (used + more > points + 1e-6) return `over ${points} points of one vehicle`;
    used += more;
    return '';
  };
  const extinguisher = 'a fire extinguisher of 2 kg, no smoking; whoever drives knows what lies in the back';
  const steps = packs.some(isWaste)
    ? [
        'waste on its way to a recycler is no job of ours: packed, marked and with its papers as for a carrier',
        'ask the waste authority who may carry it: own waste too',
        COVER,
        extinguisher,
      ]
    : [
        'only to or from a job of ours: never to supply others, never between our own sites',
        COVER,
        `in packagings of at most ${litres} l that do not leak, kept from moving`,
        extinguisher,
        'for any other journey: packed, marked and with papers as for a carrier; the points relieve it still',
      ];
  return way('own vehicle', packs, why, steps, ['own.vehicle']);
}

/** Own vehicle in the United States: materials of trade. */
function american(packs: readonly Judged[], on: string): OwnWay {
  const { packageKg = 0, vehicleKg = 0 } = SHIPPING.on('own.trade', on)?.figures ?? {};
  let used = 0;
  const why: Reason = (p) => {
    if (isWaste(p)) return 'waste is no material of trade: it goes with a carrier';
    if (p.kg === null) return 'its weight is not known';
    if (p.kg > packageKg) return `over ${packageKg} kg in a packaging`;
    if (used + p.kg > vehicleKg) return `over ${vehicleKg} kg in one vehicle`;
    used += p.kg;
    return '';
  };
  const steps = [
    'only what our own trade needs, in our own vehicle',
    COVER,
    `strong closed packagings up to ${packageKg} kg gross, marked with what lies in them; at most ${vehicleKg} kg gross in the vehicle`,
    'the driver is told of it and of these conditions',
  ];
  return way('own vehicle', packs, why, steps, ['own.trade']);
}

/** In the hand of a technician on an aircraft. Those above the free limit count as spares, and two of them go. */
function byHand(packs: readonly Judged[], placement: ShippingFacts['placement']): OwnWay {
  const { freeWh = 0, approvalWh = 0, spares = 0 } = SHIPPING.undated('own.hand-air').figures;
  let large = 0;
  const why: Reason = (p) => {
    const said = allAccounts(p.shipping);
    // Provisions for passengers are for what they use (ICAO TI part 8); what is waste, or may be, asks for both States (A183).
    if (isWaste(p)) return 'waste flies only with the approval of both States (A183)';
    if (p.condition === 'spent') return 'worn out: by air that may be waste (A183)';
    if (said.some((s) => s.chemistry === undefined)) return 'nobody knows what is in it: read its label';
    if (said.some((s) => s.chemistry === 'li-metal')) return 'lithium metal: ask the operator for its limit in grams';
    if (p.wattHours === null) return 'its watt-hours are not known';
    if (p.wattHours > approvalWh) return `over ${approvalWh} Wh`;
    if (said.some((s) => s.makerCleared !== true && s.findings?.includes('safety-recall'))) return 'recalled';
    if (p.wattHours <= freeWh || placement === 'in-equipment') return '';
    large += 1;
    return large > spares ? `more than ${spares} spares over ${freeWh} Wh` : '';
  };
  const steps = [
    'in the cabin, never in checked baggage; only what the journey’s work needs',
    COVER,
    `over ${freeWh} Wh only with the operator’s approval, asked for before`,
    'ask the operator: many allow less',
  ];
  return way('in the hand by air', packs, why, steps, ['own.hand-air']);
}

/**
 * Every way without a carrier, side by side. Damaged packs go by none of them: the rules for damaged goods ask for packaging, marks and papers.
 * Steps are from memory; the operator, a trained person and local law decide.
 * @param on day, YYYY-MM-DD.
 */
export function ownWays(packs: readonly OwnPack[], region: Region, on: string): OwnWay[] {
  const judged = packs.map((p): Judged => {
    const road = { mode: 'road', region, on } as const;
    const { condition } = classify({ ...p.shipping, package: { packs: 1, ...(p.kg !== null && { netKg: p.kg }) } }, road);
    return { ...p, condition, wattHours: energyOf(p.shipping) };
  });
  const placement = packs[0]?.shipping.placement;
  const { road } = REGION_RULES[region];
  const nothing: Reason = () => '';
  return [
    ...(road === '49cfr' ? [american(judged, on)] : road === 'adr' ? [european(judged, on)] : []),
    byHand(judged, placement),
    way('train or bus', judged, nothing, [COVER, 'as hand baggage, never left alone; ask the operator'], ['own.train']),
    way(
      'brought or fetched',
      judged,
      (p) => (isWaste(p) ? 'whoever fetches waste is its carrier' : ''),
      [
        COVER,
        'tell them: in the boot, in a closed box, straight here, out of the sun',
        'a pack that swells, smells, leaks or is warm stays where it is: call us first',
      ],
      ['own.customer'],
    ),
  ];
}
