import { type StatedFacts, statedNumber } from '../coherence/stated';
import type { ShippingFacts } from './facts';

/** The facts of a row as relations are asked of them. */
export function statedOf(f: ShippingFacts): StatedFacts {
  return {
    ...(f.chemistry && { chemistry: f.chemistry }),
    ...(f.series !== undefined && { series: f.series }),
    ...(f.parallel !== undefined && { parallel: f.parallel }),
    ...(f.nominalVoltage !== undefined && { nominalVoltage: statedNumber(f.nominalVoltage, 'V') }),
    ...(f.ratedCapacity !== undefined && { ratedCapacity: statedNumber(f.ratedCapacity, 'Ah') }),
    ...(f.ratedEnergy !== undefined && { ratedEnergy: statedNumber(f.ratedEnergy, 'Wh') }),
    ...(f.mass !== undefined && { mass: statedNumber(f.mass, 'kg') }),
    ...(f.stateOfCharge !== undefined && { stateOfCharge: f.stateOfCharge }),
    ...(f.findings && { findings: f.findings }),
    ...(f.cleared !== undefined && { cleared: f.cleared }),
    ...(f.policy?.swelling && { swelling: f.policy.swelling }),
    ...(f.placement && { placement: f.placement }),
    ...(f.package && { package: f.package }),
  };
}
