import { asFirstSaid } from '../condition/as-said';
import { condition, type Judgement } from '../condition/condition';
import type { Effect } from '../coherence/relation';
import { relationOf } from '../coherence/relations';
import { type Series, seriesOf } from '../condition/series';
import type { LabelBody, Purpose } from '../logbook/entry';
import { LOOK_GROUPS, SUMMARY_ITEMS, type SummaryItem } from '../logbook/entry';
import { type PackFacts, type PolicyFacts, typeKey } from '../logbook/fold';
import { natureOf } from '../pack/nature';
import { value } from '../quantity/figure';
import { expanded } from '../quantity/uncertainty';
import { type Classified, classifyPrepared, type Prepared, prepare } from '../shipping/classify';
import {
  type Mode,
  MODES,
  type Placement,
  PLACEMENTS,
  type Region,
  type Route,
  type ShippingFacts,
  type TypeTested,
} from '../shipping/facts';
import { SHIPPING } from '../shipping/rulebook';
import { DAY_MS } from '../quantity/day';

/** Words of the matrix, mildest first. */
export const CELL_WORDS = ['yes', 'split', 'as damaged', 'hold', 'approval', 'no'] as const;
export type CellWord = (typeof CELL_WORDS)[number];

export interface Cell extends AskedRoute {
  readonly word: CellWord;
  readonly result: Classified;
}

export interface AskedRoute {
  readonly mode: Mode;
  readonly placement: Placement;
  readonly purpose: Purpose;
}

const across = (modes: readonly Mode[]): AskedRoute[] => [
  ...modes.flatMap((mode) => PLACEMENTS.map((placement) => ({ mode, placement, purpose: 'use' as const }))),
  ...modes.map((mode) => ({ mode, placement: 'loose' as const, purpose: 'recycling' as const })),
];

/** Routes every ruling answers: what the strip, the flip and the next reading look at. */
export const ROUTES: readonly AskedRoute[] = across(['road', 'air-cargo', 'air-passenger']);
/** Every mode side by side. */
export const ALL_ROUTES: readonly AskedRoute[] = across(MODES);

/** Before a dispatch every group must have been looked at within a week. */
function freshForDispatch(j: Judgement, days: number, now: Date): boolean {
  const oldest = now.getTime() - days * DAY_MS;
  return LOOK_GROUPS.every((g) => j.looked[g] !== null && Date.parse(j.looked[g]!) >= oldest);
}

/** Is a test summary of the type code on file, with everything it must say? */
export function summaryOn(typeCode: string | undefined, policy: PolicyFacts): 'complete' | readonly SummaryItem[] | null {
  const filed = typeCode === undefined ? undefined : policy.summaries[typeKey(typeCode)];
  if (!filed) return null;
  const missing = SUMMARY_ITEMS.filter((i) => !filed.items.includes(i));
  return missing.length === 0 ? 'complete' : missing;
}

/** Contradictions that close routes by themselves; the others make the pack unproven. */
const SHIPPED: ReadonlySet<Effect> = new Set<Effect>(['size', 'hold']);

/** What shipping reads off a label. */
function labelFacts(label: LabelBody): ShippingFacts {
  const nature = natureOf(label);
  return {
    ...(label.chemistry && { chemistry: label.chemistry }),
    ...(nature.series !== null && { series: nature.series }),
    ...(nature.parallel !== null && { parallel: nature.parallel }),
    ...(label.nominalVoltage && { nominalVoltage: value(label.nominalVoltage) }),
    ...(label.ratedCapacity && { ratedCapacity: value(label.ratedCapacity) }),
    ...(label.ratedEnergy && { ratedEnergy: value(label.ratedEnergy) }),
    ...(label.energyMarked !== undefined && { energyMarked: label.energyMarked }),
    ...(label.madeOn && { madeOn: label.madeOn }),
  };
}

/** The heaviest a pack may be by its weighings, kg: a pack does not grow lighter. */
function heaviestOf(weighings: readonly Series[]): number | undefined {
  return weighings.length > 0 ? Math.max(...weighings.map((w) => w.mean + expanded(w.u))) : undefined;
}

/** Each label as it was read, where they differ. */
const labelsInDispute = (facts: PackFacts, { label }: Judgement): ShippingFacts[] =>
  label.disputed.length > 0 ? facts.labels.map((l) => ({ ...labelFacts({ ...label.sure, ...l.body }), disputed: [] })) : [];

/**
 * What shipping may know of a pack. What is in dispute comes with it, and so does the record as it was first said while a correction
 * waits for its second person.
 */
export function shippingFacts(facts: PackFacts, j: Judgement, policy: PolicyFacts, now: Date): ShippingFacts {
  const before = asFirstSaid(facts);
  const first = before && knownFacts(before, condition(before, policy, now), policy, now);
  const rivals = [...labelsInDispute(facts, j), ...(first ? [{ disputed: [], ...first }] : [])];
  return { ...knownFacts(facts, j, policy, now), ...(rivals.length > 0 && { rivals }) };
}

/** Undisputed label figures, the upper end of the charge, the weighed mass with its whisker. */
function knownFacts(facts: PackFacts, j: Judgement, policy: PolicyFacts, now: Date): ShippingFacts {
  const { charge } = j.electrical;
  const label = j.label.sure;
  const weighings = seriesOf(facts.readings, 'mass');
  const heaviest = heaviestOf(weighings.filter((w) => !w.doubted));
  const tests = facts.evidence.map((e) => e.body.typeTested);
  const said = tests.includes('no') ? 'no' : tests.includes('yes') ? 'yes' : undefined;
  const wh = label.ratedEnergy && value(label.ratedEnergy);
  const bound = wh === undefined ? undefined : wh / SHIPPING.undated('mass-bound').figures.whPerKg!;
  const codes = [...new Set(j.findings.map((f) => f.code))];
  // What was rebuilt or opened is another type: a summary of its code says nothing of it.
  const altered = codes.some((c) => c === 'recelled' || c === 'opened');
  const typeTested: TypeTested | undefined =
    said ?? (!altered && summaryOn(label.typeCode, policy) === 'complete' ? 'yes' : undefined);
  const all = (code: string, state: string) => j.findings.filter((f) => f.code === code).every((f) => f.state === state);
  const mild = j.condition === 'sound' || j.condition === 'spent';
  const oldest = new Date(now.getTime() - policy.dispatchDays * DAY_MS).toISOString();
  return {
    ...labelFacts(label),
    ...(j.label.disputed.length > 0 && { disputed: j.label.disputed }),
    contradictions: j.contradictions.filter((c) => SHIPPED.has(relationOf(c.relation).effect)),
    ...(typeTested && { typeTested }),
    ...(charge && charge.at >= oldest && { stateOfCharge: charge.ofRated.hi }),
    ...(heaviest !== undefined && { mass: heaviest }),
    ...(facts.incidents.some((i) => i.body.frozen) && { frozen: true }),
    findings: facts.unknownHazard ? [...codes, 'opened'] : codes,
    cleared: codes.filter((c) => all(c, 'cleared')),
    quieted: codes.filter((c) => all(c, 'quieted')),
    conditionKnown: j.condition !== 'unproven' && (!mild || freshForDispatch(j, policy.dispatchDays, now)),
    policy: { innerCellLimit: policy.innerCellLimit, swelling: policy.swelling },
    package: {
      packs: 1,
      equipment: 1,
      packsPerEquipment: 1,
      ...(weighings.length === 0 && bound !== undefined && { netKg: bound }),
    },
    consignment: { packages: 1 },
  };
}

function wordOf(c: Classified): CellWord {
  switch (c.outcome) {
    case 'allowed':
      return c.condition === 'damaged' ? 'as damaged' : 'yes';
    case 'forbidden':
      return 'no';
    default:
      return c.outcome;
  }
}

/** The pack alone in its package, as one route asks for it. */
export const factsOn = (base: ShippingFacts, { placement, purpose }: AskedRoute): ShippingFacts => ({
  ...base,
  placement,
  purpose,
  package: { ...base.package, fittedPacks: placement === 'in-equipment' ? 1 : 0 },
});

/** Road and rail follow the region; air and sea are international. */
export const routeOn = (mode: Mode, region: Region, on: string): Route => ({
  mode,
  region: mode === 'road' || mode === 'rail' ? region : 'international',
  on,
});

/** Asks routes for this one pack, alone in its package. */
export function matrix(
  base: ShippingFacts,
  on: string,
  { region = 'eu', routes = ROUTES }: { readonly region?: Region; readonly routes?: readonly AskedRoute[] } = {},
): Cell[] {
  const pack = prepare(base);
  // What lies alike is prepared once, however it travels.
  const lying = new Map<string, Prepared>();
  const as = (route: AskedRoute): Prepared => {
    const key = `${route.placement} ${route.purpose}`;
    const known = lying.get(key) ?? prepare(factsOn(base, route), pack);
    lying.set(key, known);
    return known;
  };
  return routes.map((route) => {
    const { mode, placement, purpose } = route;
    const result = classifyPrepared(as(route), routeOn(mode, region, on));
    return { mode, placement, purpose, word: wordOf(result), result };
  });
}
