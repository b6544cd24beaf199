import type { Route, ShippingFacts } from '@gavrel/core';
import fc from 'fast-check';

/** Labels as they are printed: V, Ah, Wh, cells in series and parallel; near every limit of the rules, and far from them. */
const LABELS = [
  [11.4, 5, 57, 3, 1],
  [11.1, 4.4, 48.84, 3, 2],
  [15.4, 6.493, 99.99, 4, 1],
  [15.4, 6.494, 100, 4, 1],
  [11.55, 8.658, 100, 3, 2],
  [10.8, 9.26, 100, 3, 3],
  [14.4, 9.03, 130, 4, 3],
  [15.4, 19.5, 300.3, 4, 4],
  [15.2, 19.735, 299.97, 4, 1],
  [3.8, 10, 38, 1, 1],
  [3.8, 10, 38, 1, 2],
  [3.7, 5.4, 19.98, 1, 1],
  [3.7, 5.41, 20.02, 1, 1],
  [3.7, 0.7, 2.6, 1, 1],
  [3.7, 0.73, 2.7, 1, 1],
  [3.85, 15.6, 60.06, 1, 1],
  [7.4, 8.12, 60.1, 2, 1],
  [15.2, 5.92, 90, 4, 1],
] as const;

const some = <T>(from: fc.Arbitrary<T>, freq = 6) => fc.option(from, { nil: undefined, freq });
const counts = fc.record(
  {
    packs: fc.constantFrom(1, 2, 3, 4, 5, 10, 26, 60),
    equipment: fc.constantFrom(1, 2, 8, 20),
    packsPerEquipment: fc.constantFrom(1, 2),
    fittedPacks: fc.constantFrom(0, 1, 2, 8),
    netKg: fc.constantFrom(0.3, 2.5, 2.51, 5, 5.01, 10, 10.01, 32, 35.01),
    grossKg: fc.constantFrom(1, 6, 30, 30.01, 40, 101),
  },
  { requiredKeys: [] },
);

const findings = fc.oneof(
  { weight: 8, arbitrary: fc.constant([]) },
  {
    weight: 5,
    arbitrary: fc.subarray(
      [
        'swollen',
        'worn-out',
        'recelled',
        'no-output',
        'low-voltage',
        'dropped',
        'deep-discharge',
        'cannot-examine',
        'hissing',
        'smell',
        'wet',
        'safety-recall',
        'swelling-spent',
        'purple',
      ],
      { minLength: 1, maxLength: 2 },
    ),
  },
);

export const facts: fc.Arbitrary<ShippingFacts> = fc
  .record({
    label: fc.constantFrom(...LABELS),
    chemistry: fc.oneof(
      { weight: 8, arbitrary: fc.constant('li-ion' as const) },
      { weight: 3, arbitrary: fc.constantFrom('li-metal' as const, 'ni-mh' as const) },
      { weight: 1, arbitrary: fc.constantFrom('na-ion' as const, 'none' as const, undefined) },
    ),
    keep: fc.record({
      v: fc.integer({ min: 0, max: 9 }),
      ah: fc.integer({ min: 0, max: 9 }),
      wh: fc.integer({ min: 0, max: 9 }),
      s: fc.integer({ min: 0, max: 9 }),
      p: fc.integer({ min: 0, max: 9 }),
    }),
    lithiumContent: some(fc.constantFrom(0.07, 1, 1.01, 2, 2.01, 5, 5.01, 25, 25.01)),
    buttonCell: some(fc.boolean(), 2),
    energyMarked: some(fc.boolean()),
    madeOn: some(fc.constantFrom('2008', '2008-12-31', '2009', '2010-06', '2011-12-31', '2012', '2021-05-03')),
    typeTested: some(fc.constantFrom('yes' as const, 'yes' as const, 'no' as const, 'unknown' as const)),
    findings: some(findings, 8),
    conditionKnown: some(fc.boolean(), 1),
    cleared: some(fc.boolean(), 1),
    makerCleared: some(fc.boolean(), 1),
    stateOfCharge: some(fc.constantFrom(0, 10, 30, 30.1, 60, 100)),
    placement: some(fc.constantFrom('loose' as const, 'with-equipment' as const, 'in-equipment' as const), 9),
    purpose: some(fc.constantFrom('use' as const, 'use' as const, 'recycling' as const, 'disposal' as const)),
    mass: some(fc.constantFrom(0.2, 0.27, 0.5, 0.501, 2.6)),
    package: some(counts),
    consignment: some(
      fc.record(
        {
          packages: fc.constantFrom(1, 2, 3),
          collectionScheme: fc.boolean(),
          household: fc.boolean(),
          mainPower: fc.boolean(),
          netKgTransportUnit: fc.constantFrom(90, 101, 333, 334),
        },
        { requiredKeys: [] },
      ),
    ),
    policy: some(
      fc.record(
        { innerCellLimit: fc.boolean(), swelling: fc.constantFrom('any' as const, 'allowance' as const) },
        { requiredKeys: [] },
      ),
      1,
    ),
  })
  .map(({ label: [v, ah, wh, s, p], keep, ...f }) => {
    const cell = f.chemistry === 'li-metal' ? 3 : f.chemistry === 'ni-mh' ? 1.2 : null;
    const metalOrNickel = cell !== null && { nominalVoltage: Math.round(cell * s * 10) / 10 };
    const out = {
      ...f,
      ...(f.chemistry !== 'none' && {
        ...(keep.v > 0 && { nominalVoltage: v, ...metalOrNickel }),
        ...(keep.ah > 1 && cell === null && { ratedCapacity: ah }),
        ...(keep.wh > 2 && cell === null && { ratedEnergy: wh }),
        ...(keep.s > 0 && { series: s }),
        ...(keep.p > 0 && { parallel: p }),
      }),
      ...(f.chemistry === 'none' && { findings: f.findings?.length ? [] : f.findings, mass: undefined }),
    };
    return JSON.parse(JSON.stringify(out)) as ShippingFacts;
  });

export const route: fc.Arbitrary<Route> = fc
  .record({
    mode: some(
      fc.constantFrom('road' as const, 'rail' as const, 'sea' as const, 'air-cargo' as const, 'air-passenger' as const),
      30,
    ),
    region: fc.constantFrom('us' as const, 'eu' as const, 'international' as const, 'ch' as const, 'ca' as const),
    on: fc.constantFrom('2025-06-30', '2026-11-24', '2026-11-24', '2026-11-24', '2027-06-30', '2027-07-01', '2024-12-31'),
  })
  .map((r) => JSON.parse(JSON.stringify(r)) as Route);
