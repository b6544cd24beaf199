import type { ShippingFacts } from './facts';

/** Test helper: a day on which every edition is held. */
export const ON = '2026-11-24';
/** Test helper: a small, sound, tested lithium-ion pack at 25 %, loose, for use; its weight and package are not said. */
export const SMALL: ShippingFacts = {
  chemistry: 'li-ion',
  series: 3,
  parallel: 1,
  nominalVoltage: 11.4,
  ratedCapacity: 5,
  ratedEnergy: 57,
  energyMarked: true,
  madeOn: '2021-05',
  typeTested: 'yes',
  findings: [],
  placement: 'loose',
  purpose: 'use',
  stateOfCharge: 25,
};
