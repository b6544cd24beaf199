import { classify } from '../shipping/classify';
import type { Route, ShippingFacts } from '../shipping/facts';
import { SHIPPING } from '../shipping/rulebook';

export interface Split {
  /** Packages needed. */
  readonly packages: number;
  /** Packs in the fullest of them. */
  readonly most: number;
}

type Counted = NonNullable<ShippingFacts['package']> & { readonly packs: number };

/** The same packs spread evenly: the facts of the fullest of n packages. */
function fullest(facts: ShippingFacts, p: Counted, n: number): ShippingFacts {
  const packs = Math.ceil(p.packs / n);
  const share = packs / p.packs;
  return {
    ...facts,
    package: {
      ...p,
      packs,
      ...(p.fittedPacks !== undefined && { fittedPacks: Math.min(packs, Math.ceil(p.fittedPacks / n)) }),
      ...(p.equipment !== undefined && { equipment: Math.max(1, Math.ceil(p.equipment / n)) }),
      ...(p.netKg !== undefined && { netKg: p.netKg * share }),
      ...(p.grossKg !== undefined && { grossKg: p.grossKg * share }),
    },
  };
}

/**
 * Fewest packages, filled evenly, that the rules allow where one is too many; packs with more than their equipment needs go
 * beside it as loose ones. Null when the number of packs is not known or no number of packages helps.
 */
export function splitOf(facts: ShippingFacts, route: Route): Split | null {
  const { packs, equipment, packsPerEquipment } = facts.package ?? {};
  if (packs === undefined || packs < 2) return null;
  const counted: Counted = { ...facts.package, packs };
  const loose = facts.placement === 'with-equipment' && route.mode === 'air-cargo';
  if (loose && equipment !== undefined && packsPerEquipment !== undefined) {
    const sets = SHIPPING.on('air.966-count', route.on)?.figures.sets;
    const most = sets === undefined ? packs : equipment * packsPerEquipment * sets;
    if (packs > most) return beside(facts, counted, route, most);
  }
  for (let n = 2; n <= packs; n++) {
    if (classify(fullest(facts, counted, n), route).outcome !== 'allowed') continue;
    return { packages: n, most: Math.ceil(packs / n) };
  }
  return null;
}

/** As many as the equipment needs beside it, the rest as loose packs. */
function beside(facts: ShippingFacts, p: Counted, route: Route, most: number): Split | null {
  const part = (packs: number, placement: 'with-equipment' | 'loose'): Split | null => {
    const { equipment, packsPerEquipment, netKg } = p;
    const f: ShippingFacts = {
      ...facts,
      placement,
      package: {
        packs,
        ...(placement === 'with-equipment' && { equipment, packsPerEquipment }),
        ...(netKg !== undefined && { netKg: (netKg * packs) / p.packs }),
      },
    };
    const { outcome } = classify(f, route);
    if (outcome === 'allowed') return { packages: 1, most: packs };
    return outcome === 'split' ? splitOf(f, route) : null;
  };
  const [a, b] = [part(most, 'with-equipment'), part(p.packs - most, 'loose')];
  return a && b ? { packages: a.packages + b.packages, most: Math.max(a.most, b.most) } : null;
}
