import { boxServes } from '../dispatch/packaging';
import type { Outcome, Provision } from '../shipping/facts';
import { SEVERITY } from '../shipping/facts';
import type { AskPackage } from './in-package';
import type { PlanOrder } from './problem';
import { companyOf } from './ways';

export interface RuledPackage {
  readonly netKg: number;
  readonly grossKg: number;
  readonly outcome: Outcome;
  readonly provision: Provision | null;
  /** True where every kind in it is allowed under the same provision and may share a package with the others. */
  readonly lawful: boolean;
}

/** Kilograms without the dust of adding them up. */
const kg = (x: number): number => Math.round(x * 1e6) / 1e6;

/**
 * Rules on one package with its own figures, kind by kind, by the same rules as a single pack.
 * @param asks of each kind. @param counts of each kind in it. @param packages in the consignment.
 */
export function rulePackage(
  order: PlanOrder,
  asks: readonly AskPackage[],
  box: number,
  counts: readonly number[],
  packages: number,
): RuledPackage {
  const kinds = order.kinds.map((kind, k) => ({ kind, ask: asks[k]!, n: counts[k]! })).filter(({ n }) => n > 0);
  const netKg = kg(kinds.reduce((sum, { kind, n }) => sum + n * kind.facts.mass!, 0));
  const grossKg = kg(netKg + order.boxes[box]!.tareKg + order.fillKgPerBox);
  const packs = kinds.reduce((sum, { n }) => sum + n, 0);
  const ruled = kinds.map(({ ask }) => ask({ packs, netKg, grossKg, packages, mixed: kinds.length > 1 }));
  const worst = ruled.reduce((a, b) => (SEVERITY[b.outcome] > SEVERITY[a.outcome] ? b : a));
  const lawful =
    ruled.every((c) => c.outcome === 'allowed' && c.provision === worst.provision) &&
    new Set(ruled.map((c) => companyOf(c.condition))).size === 1 &&
    kinds.every(({ kind }) => boxServes(order.boxes[box]!, worst.provision, kind.facts.placement)) &&
    grossKg <= order.boxes[box]!.maxGrossKg + 1e-9;
  return { netKg, grossKg, outcome: worst.outcome, provision: worst.provision, lawful };
}
