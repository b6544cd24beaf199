import { recordBefore } from '../condition/as-said';
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
import { type Classified, classifyPrepared, decideOne, preparedFor, type Prepared, prepare } from '../shipping/classify';
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
import { DecisionGraph, type Lying, Trace } from '../shipping/graph';
import { SHIPPING } from '../shipping/rulebook';
import type { Open } from '../shipping/stated';
import { DAY_MS } from '../quantity/day';
import { figureOf } from '../rules/rule';

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
function labelFacts(label: LabelBody): Open<ShippingFacts> {
  const nature = natureOf(label);
  const out: Open<ShippingFacts> = {};
  if (label.chemistry) out.chemistry = label.chemistry;
  if (nature.series !== null) out.series = nature.series;
  if (nature.parallel !== null) out.parallel = nature.parallel;
  if (label.nominalVoltage) out.nominalVoltage = value(label.nominalVoltage);
  if (label.ratedCapacity) out.ratedCapacity = value(label.ratedCapacity);
  if (label.ratedEnergy) out.ratedEnergy = value(label.ratedEnergy);
  if (label.energyMarked !== undefined) out.energyMarked = label.energyMarked;
  if (label.madeOn) out.madeOn = label.madeOn;
  return out;
}

/** The heaviest a pack may be by its weighings, kg: a pack does not grow lighter. */
function heaviestOf(weighings: readonly Series[]): number | undefined {
  return weighings.length > 0 ? Math.max(...weighings.map((w) => w.mean + expanded(w.u))) : undefined;
}

/** Each label as it was read, where they differ. */
const labelsInDispute = (facts: PackFacts, { label }: Judgement): ShippingFacts[] =>
  label.disputed.length > 0 ? facts.labels.map((l) => ({ ...labelFacts({ ...label.sure, ...l.body }), disputed: [] })) : [];

/**
 * What shipping may know of a pack. What is in dispute comes with it, and so does the record as it stood before each correction that
 * waits for its second person.
 */
export function shippingFacts(facts: PackFacts, j: Judgement, policy: PolicyFacts, now: Date): ShippingFacts {
  const before = recordBefore(facts);
  const { rivals: earlier = [], ...first } = before ? shippingFacts(before, condition(before, policy, now), policy, now) : {};
  const records = before ? [{ disputed: [], ...first }, ...earlier.map((r) => ({ ...first, ...r }))] : [];
  const rivals = [...labelsInDispute(facts, j), ...records];
  return { ...knownFacts(facts, j, policy, now), ...(rivals.length > 0 && { rivals }) };
}

/** The pack by itself in a package. */
const ALONE = { packs: 1, equipment: 1, packsPerEquipment: 1 } as const;

/** Undisputed label figures, the upper end of the charge, the weighed mass plus its expanded uncertainty. */
function knownFacts(facts: PackFacts, j: Judgement, policy: PolicyFacts, now: Date): ShippingFacts {
  const { charge } = j.electrical;
  const label = j.label.sure;
  const weighings = seriesOf(facts.readings, 'mass');
  const heaviest = heaviestOf(weighings.filter((w) => !w.doubted));
  const tests = facts.evidence.map((e) => e.body.typeTested);
  const said = tests.includes('no') ? 'no' : tests.includes('yes') ? 'yes' : undefined;
  const wh = label.ratedEnergy && value(label.ratedEnergy);
  const bound = wh === undefined ? undefined : wh / figureOf(SHIPPING.undated('mass-bound'), 'whPerKg');
  const codes = [...new Set(j.findings.map((f) => f.code))];
  // What was rebuilt or opened is another type: a summary of its code says nothing of it.
  const altered = codes.some((c) => c === 'recelled' || c === 'opened');
  const typeTested: TypeTested | undefined =
    said ?? (!altered && summaryOn(label.typeCode, policy) === 'complete' ? 'yes' : undefined);
  const all = (code: string, state: string) => j.findings.filter((f) => f.code === code).every((f) => f.state === state);
  const mild = j.condition === 'sound' || j.condition === 'spent';
  const oldest = new Date(now.getTime() - policy.dispatchDays * DAY_MS).toISOString();
  const out = labelFacts(label);
  if (j.label.disputed.length > 0) out.disputed = j.label.disputed;
  out.contradictions = j.contradictions.filter((c) => SHIPPED.has(relationOf(c.relation).effect));
  if (typeTested) out.typeTested = typeTested;
  if (charge && charge.at >= oldest) out.stateOfCharge = charge.ofRated.hi;
  if (heaviest !== undefined) out.mass = heaviest;
  if (facts.incidents.some((i) => i.body.frozen)) out.frozen = true;
  out.findings = facts.unknownHazard ? [...codes, 'opened'] : codes;
  out.cleared = codes.filter((c) => all(c, 'cleared'));
  out.quieted = codes.filter((c) => all(c, 'quieted'));
  out.conditionKnown = j.condition !== 'unproven' && (!mild || freshForDispatch(j, policy.dispatchDays, now));
  out.policy = { innerCellLimit: policy.innerCellLimit, swelling: policy.swelling };
  out.package = weighings.length === 0 && bound !== undefined ? { ...ALONE, netKg: bound } : ALONE;
  out.consignment = { packages: 1 };
  return out;
}

export function cellWord(c: Classified): CellWord {
  switch (c.outcome) {
    case 'allowed':
      return c.condition === 'damaged' ? 'as damaged' : 'yes';
    case 'forbidden':
      return 'no';
    default:
      return c.outcome;
  }
}

/** What a route sets of the facts. */
const SET_BY_ROUTE: ReadonlySet<string> = new Set(['placement', 'purpose', 'package.fittedPacks']);

/** The pack alone in its package, as one route asks for it. */
export const factsOn = (base: ShippingFacts, { placement, purpose }: Omit<AskedRoute, 'mode'>): ShippingFacts => ({
  ...base,
  placement,
  purpose,
  package: { ...base.package, fittedPacks: placement === 'in-equipment' ? 1 : 0 },
});

/** The pack asked about last, as it lies in each way: many questions about one pack follow each other. */
let last: { readonly base: ShippingFacts | null; readonly lain: Map<string, ShippingFacts> } = { base: null, lain: new Map() };

function lyingOf(placement: Placement, purpose: Purpose): Lying {
  const name = `${placement} ${purpose}`;
  const facts = (base: ShippingFacts) => {
    if (last.base !== base) last = { base, lain: new Map() };
    const laid = last.lain.get(name) ?? factsOn(base, { placement, purpose });
    last.lain.set(name, laid);
    return laid;
  };
  return { name, facts, sets: SET_BY_ROUTE };
}

/** Road and rail follow the region; air and sea are international. */
export const routeOn = (mode: Mode, region: Region, on: string): Route => ({
  mode,
  region: mode === 'road' || mode === 'rail' ? region : 'international',
  on,
});

/** Answers of this program so far, each for all routes of a list. */
const answers = new DecisionGraph<readonly Cell[]>(2_000);
const routeKeys = new WeakMap<readonly AskedRoute[], string>();
function routesKey(routes: readonly AskedRoute[]): string {
  const key = routeKeys.get(routes) ?? JSON.stringify(routes);
  routeKeys.set(routes, key);
  return key;
}

/** Asks routes for this one pack, alone in its package. */
export function matrix(
  base: ShippingFacts,
  on: string,
  { region = 'eu', routes = ROUTES }: { readonly region?: Region; readonly routes?: readonly AskedRoute[] } = {},
): readonly Cell[] {
  const pack = prepare(base);
  // What lies alike is prepared once, however it travels and whatever for.
  const lying = new Map(PLACEMENTS.map((placement) => [placement, prepare(lyingOf(placement, 'use').facts(base), pack)]));
  const as = ({ placement, purpose }: AskedRoute): Prepared => {
    const known = lying.get(placement)!;
    return purpose === 'use' ? known : preparedFor(known, purpose);
  };
  const cell = (route: AskedRoute, result: Classified): Cell => ({ ...route, word: cellWord(result), result });
  // What contradicts itself is told in its own words and figures.
  const plain = pack.rivals.length === 0 && PLACEMENTS.every((p) => lying.get(p)!.contradictions.length === 0);
  if (!plain) return routes.map((route) => cell(route, classifyPrepared(as(route), routeOn(route.mode, region, on))));
  const start = `${SHIPPING.span(on)} ${region} ${routesKey(routes)} ${pack.start}`;
  const known = answers.find(start, base);
  if (known) return known;
  const trace = new Trace();
  const cells = routes.map((route) => {
    const lie = lyingOf(route.placement, route.purpose);
    return cell(route, decideOne(as(route), routeOn(route.mode, region, on), new Trace(lie, trace)));
  });
  answers.add(start, trace, cells);
  return cells;
}

const rulesKept = new WeakMap<readonly Cell[], readonly string[]>();

/** Ids of every rule that decided something in these answers. */
export function rulesOf(cells: readonly Cell[]): readonly string[] {
  const rules = rulesKept.get(cells) ?? [...new Set(cells.flatMap((c) => c.result.rules))];
  rulesKept.set(cells, rules);
  return rules;
}
