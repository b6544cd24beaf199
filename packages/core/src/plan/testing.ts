import type { Box, PackKind, PlanOrder } from './problem';

/** A sound pack of three cells in series that may travel, as wide as it is long is up to the caller. */
export const kindOf = (
  id: string,
  count: number,
  mass: number,
  outline: readonly [number, number, number],
  facts: Partial<PackKind['facts']> = {},
): PackKind => ({
  id,
  count,
  facts: {
    chemistry: 'li-ion',
    series: 3,
    parallel: 1,
    nominalVoltage: 11.4,
    ratedEnergy: 50,
    energyMarked: true,
    madeOn: '2021',
    typeTested: 'yes',
    findings: [],
    conditionKnown: true,
    stateOfCharge: 28,
    placement: 'loose',
    purpose: 'use',
    mass,
    ...facts,
  },
  outline: { length: outline[0], width: outline[1], height: outline[2] },
});

/** Three boxes of a shipper (invented). */
export const BOXES: readonly Box[] = [
  { id: 'S', inner: { length: 300, width: 200, height: 150 }, tareKg: 0.3, maxGrossKg: 10, stock: 40, price: 1.2 },
  { id: 'M', inner: { length: 400, width: 300, height: 200 }, tareKg: 0.5, maxGrossKg: 20, stock: 40, price: 1.9 },
  { id: 'L', inner: { length: 600, width: 400, height: 300 }, tareKg: 0.9, maxGrossKg: 30, stock: 20, price: 3.1 },
];

export const orderOf = (kinds: readonly PackKind[], more: Partial<PlanOrder> = {}): PlanOrder => ({
  kinds,
  boxes: BOXES,
  route: { mode: 'road', region: 'eu', on: '2026-11-27' },
  gapMm: 5,
  fillKgPerBox: 0.2,
  price: { perPackage: 4, perKg: 0.6 },
  ...more,
});
