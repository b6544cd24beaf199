import { classify } from '../shipping/classify';
import type { Route, ShippingFacts } from '../shipping/facts';
import { SHIPPING } from '../shipping/rulebook';
import { splitOf } from './split';
import { counted } from '../quantity/counted';

export interface Way {
  readonly words: string;
}

/**
 * What would turn a route that is not open into one that is: choices and evidence, each tried against the rules. Never a change of
 * what was found, and nothing for a critical pack.
 * @param goes what else must hold of the facts as they would be: another route that must be open too, a carrier that takes them.
 */
export function waysToYes(facts: ShippingFacts, route: Route, goes: (f: ShippingFacts) => boolean = () => true): Way[] {
  const now = classify(facts, route);
  if (now.outcome === 'allowed' || now.condition === 'critical') return [];
  const out: Way[] = [];
  const attempt = (words: string, f: ShippingFacts, r: Route = route) => {
    if (classify(f, r).outcome === 'allowed' && goes(f)) out.push({ words });
  };
  const split = now.outcome === 'split' ? splitOf(facts, route) : null;
  if (split) out.push({ words: `in ${counted(split.packages, 'package')}, at most ${counted(split.most, 'pack')} in each` });
  const percent = SHIPPING.on('air.965-charge', route.on)?.figures.percent;
  if (percent !== undefined && (facts.stateOfCharge === undefined || facts.stateOfCharge > percent))
    attempt(`with the charge at ${percent} % of rated capacity or less`, { ...facts, stateOfCharge: percent });
  if (facts.typeTested === undefined || facts.typeTested === 'unknown')
    attempt('with the UN 38.3 test summary', { ...facts, typeTested: 'yes' });
  if (facts.energyMarked !== true)
    attempt('with watt-hours on the case, or the maker’s word for them', { ...facts, energyMarked: true });
  if (facts.placement === 'in-equipment') attempt('taken out of its machine', { ...facts, placement: 'loose' });
  if (facts.placement === 'loose') {
    const fitted = {
      ...facts,
      placement: 'in-equipment' as const,
      package: { ...facts.package, fittedPacks: facts.package?.packs ?? 1 },
    };
    attempt('fitted in its machine', fitted);
  }
  if (route.mode === 'air-passenger') attempt('on a cargo aircraft', facts, { ...route, mode: 'air-cargo' });
  if (route.mode === 'air-passenger' || route.mode === 'air-cargo')
    attempt('by road', facts, { mode: 'road', region: 'eu', on: route.on });
  return out;
}
