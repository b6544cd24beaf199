import type { StatedPackage } from '../coherence/stated';
import { type Classified, classifyPrepared, prepare, type Prepared } from '../shipping/classify';
import type { Route, ShippingFacts } from '../shipping/facts';

/** Facts of a kind without a package; the mass of one pack says nothing of a package with several kinds in it. */
function withoutPackage(facts: ShippingFacts, mixed: boolean): ShippingFacts {
  if (!mixed) return facts;
  const { mass: _one, ...others } = facts;
  return others;
}

/** What the packs need of the equipment they lie in: one machine for each pack, where nothing else is said. */
const statedFor = (facts: ShippingFacts, packs: number, netKg: number, grossKg: number): StatedPackage => ({
  packs,
  netKg,
  grossKg,
  ...(facts.placement !== 'loose' && { equipment: packs, packsPerEquipment: 1 }),
  ...(facts.placement === 'in-equipment' && { fittedPacks: packs }),
});

/** A package to ask about: how many packs lie in it, with what weight, in how large a consignment, and whether packs of other kinds do. */
export interface AskedPackage {
  readonly packs: number;
  readonly netKg: number;
  readonly grossKg: number;
  readonly packages: number;
  readonly mixed: boolean;
}

/** Asks the rules about a package with packs of one kind in it. */
export type AskPackage = (asked: AskedPackage) => Classified;

/** The rules for packages of one kind on one route. The pack is the same in each: what it is by itself is worked out once. */
export function packagesOf(facts: ShippingFacts, route: Route): AskPackage {
  const [alone, others] = [false, true].map((mixed): AskPackage => {
    const kind = withoutPackage(facts, mixed);
    let pack: Prepared | undefined;
    return ({ packs, netKg, grossKg, packages }) => {
      const stated = statedFor(kind, packs, netKg, grossKg);
      const made = prepare({ ...kind, package: stated, consignment: { ...kind.consignment, packages } }, pack);
      pack ??= made;
      return classifyPrepared(made, route);
    };
  }) as [AskPackage, AskPackage];
  return (asked) => (asked.mixed ? others : alone)(asked);
}
