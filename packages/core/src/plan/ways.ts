import type { Condition } from '../logbook/entry';
import { type Classified, classify, classifyPrepared, prepare } from '../shipping/classify';
import type { Provision, Route, ShippingFacts } from '../shipping/facts';
import { factWords } from '../coherence/fact-words';
import type { StatedPackage } from '../coherence/stated';
import type { PackKind } from './problem';

/** How far a kind may go in one package under one provision. */
export interface Way {
  readonly provision: Provision | null;
  readonly netKg: number;
  readonly grossKg: number;
  readonly packs: number;
}

/** What may share a package: the damaged, the critical and the others are three. */
export type Company = 'damaged' | 'critical' | 'others';
export const companyOf = (c: Condition): Company => (c === 'damaged' || c === 'critical' ? c : 'others');

/** Figures that the rules of our copy turn on, and some between; where two neighbours differ the limit is looked for between them. */
const KILOGRAMS = [0.05, 0.5, 1, 2, 2.5, 3, 5, 8, 10, 12, 15, 20, 25, 30, 35, 50, 75, 100, 150, 250];
const COUNTS = [1, 2, 3, 4, 5, 6, 8, 10, 12, 20, 50, 100, 1000];

/** Facts of a kind in a package; the mass of one pack says nothing of a package with several kinds in it. */
export const inPackage = (facts: ShippingFacts, stated: StatedPackage, packages: number, mixed: boolean): ShippingFacts => {
  const { mass, ...others } = facts;
  return {
    ...others,
    ...(!mixed && mass !== undefined && { mass }),
    package: stated,
    consignment: { ...facts.consignment, packages },
  };
};

/** What the packs need of the equipment they lie in: one machine for each pack, where nothing else is said. */
export const statedFor = (facts: ShippingFacts, packs: number, netKg: number, grossKg: number): StatedPackage => ({
  packs,
  netKg,
  grossKg,
  ...(facts.placement !== 'loose' && { equipment: packs, packsPerEquipment: 1 }),
  ...(facts.placement === 'in-equipment' && { fittedPacks: packs }),
});

/** The largest figure of a list, and between two of it to a gram, at which it still is allowed. */
function largest(figures: readonly number[], allowed: (x: number) => boolean, whole: boolean): number {
  let best = 0;
  for (const [i, x] of figures.entries()) {
    if (allowed(x)) {
      best = x;
      continue;
    }
    if (best === 0 && i < figures.length - 1) continue;
    let [lo, hi] = [best, x];
    const least = whole ? 1 : 0.0005;
    // Most limits are figures of the list, of a gross weight but for the wrap.
    if (!allowed(lo + least)) hi = lo;
    else if (allowed(hi - least)) lo = hi - least;
    while (hi - lo > least) {
      const mid = whole ? Math.floor((lo + hi) / 2) : (lo + hi) / 2;
      if (allowed(mid)) lo = mid;
      else hi = mid;
    }
    // Up to the gram: each package is ruled anew, and a limit cut short would be no bound.
    return whole ? lo : Math.ceil(lo * 1000 - 1e-6) / 1000;
  }
  return best === figures[figures.length - 1] ? Infinity : best;
}

/** The ways that stand open for a kind, found by asking the rules; and why none does. */
export interface KindWays {
  readonly company: Company;
  readonly ways: readonly Way[];
  readonly why: string;
  /** The rules asked how many packages go: with another number the ways may be others. */
  readonly byPackages: boolean;
}

const PACKAGES = 'consignment.packages';
/** Gross weight over net of a package that is asked about, kg: next to nothing, for each of the two has limits of its own. */
const WRAP_KG = 0.0001;

const whyNot = (c: Classified): string =>
  c.missing.length > 0
    ? `${c.outcome}: ${c.missing.map(factWords).join(', ')} not known`
    : `${c.outcome}: ${c.notes[0] ?? c.provision ?? ''}`;

/**
 * Which provisions a kind may travel under, and how far each reaches. The rules themselves are asked, package by package: no limit is
 * written here.
 * @param packages in the consignment.
 */
export function waysOf(kind: PackKind, route: Route, packages: number): KindWays {
  const { facts } = kind;
  const mass = facts.mass ?? 0;
  const within = (netKg: number, grossKg: number, packs: number) =>
    inPackage(facts, statedFor(facts, packs, netKg, grossKg), packages, true);
  const one = classify(inPackage(facts, statedFor(facts, 1, mass, mass + 0.05), packages, false), route);
  let byPackages = one.used.includes(PACKAGES);
  // The pack is the same in each package: what it is by itself is worked out once, and no package is asked about twice.
  const pack = prepare(within(mass, mass + WRAP_KG, 1));
  const asked = new Map<string, Classified>();
  const ask = (netKg: number, grossKg: number, packs: number): Classified => {
    const key = `${netKg} ${grossKg} ${packs}`;
    const answer = asked.get(key) ?? classifyPrepared(prepare(within(netKg, grossKg, packs), pack), route);
    asked.set(key, answer);
    byPackages ||= answer.used.includes(PACKAGES);
    return answer;
  };
  const alone = (kg: number) => ask(kg, kg + WRAP_KG, 1);
  const company = companyOf(one.condition);
  if (kind.odd !== undefined) return { company, ways: [], why: kind.odd, byPackages };
  const allowed = KILOGRAMS.map(alone).filter((c) => c.outcome === 'allowed');
  const ways = [...new Set(allowed.map((c) => c.provision))].flatMap((provision): Way[] => {
    const same = (c: Classified) => c.outcome === 'allowed' && c.provision === provision;
    // A provision for heavier packages begins where another ends: below it that other one is named.
    const from = KILOGRAMS.find((kg) => same(alone(kg)))!;
    const above = [from, ...KILOGRAMS.filter((kg) => kg > from)];
    const netKg = largest(above, (x) => same(alone(x)), false);
    const grossKg = largest(above, (x) => same(ask(from, Math.max(x, from + WRAP_KG), 1)), false);
    const packs = largest(COUNTS, (n) => same(ask(from, from + WRAP_KG, n)), true);
    return packs < 1 || netKg < mass ? [] : [{ provision, netKg, grossKg, packs }];
  });
  return { company, ways, why: ways.length > 0 ? '' : whyNot(one), byPackages };
}
