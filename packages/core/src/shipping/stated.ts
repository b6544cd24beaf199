import type { StatedFacts } from '../coherence/stated';
import { statedNumber } from '../quantity/stated';
import type { ShippingFacts } from './facts';

/** Facts while they are put together. */
export type Open<T> = { -readonly [K in keyof T]: T[K] };

/** The facts of a row as relations are asked of them. */
export function statedOf(f: ShippingFacts): StatedFacts {
  const out: Open<StatedFacts> = {};
  if (f.chemistry !== undefined) out.chemistry = f.chemistry;
  if (f.series !== undefined) out.series = f.series;
  if (f.parallel !== undefined) out.parallel = f.parallel;
  if (f.nominalVoltage !== undefined) out.nominalVoltage = statedNumber(f.nominalVoltage, 'V');
  if (f.ratedCapacity !== undefined) out.ratedCapacity = statedNumber(f.ratedCapacity, 'Ah');
  if (f.ratedEnergy !== undefined) out.ratedEnergy = statedNumber(f.ratedEnergy, 'Wh');
  if (f.mass !== undefined) out.mass = statedNumber(f.mass, 'kg');
  if (f.stateOfCharge !== undefined) out.stateOfCharge = f.stateOfCharge;
  if (f.findings !== undefined) out.findings = f.findings;
  if (f.cleared !== undefined) out.cleared = f.cleared;
  if (f.policy?.swelling !== undefined) out.swelling = f.policy.swelling;
  if (f.placement !== undefined) out.placement = f.placement;
  if (f.package !== undefined) out.package = f.package;
  return out;
}

/** What relations of a package are asked of, no more. */
export function statedPackage(f: ShippingFacts): StatedFacts {
  const out: Open<StatedFacts> = {};
  if (f.package !== undefined) out.package = f.package;
  if (f.mass !== undefined) out.mass = statedNumber(f.mass, 'kg');
  if (f.placement !== undefined) out.placement = f.placement;
  return out;
}
