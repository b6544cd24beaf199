import fc from 'fast-check';
import { classify, decideOne, prepare } from '../shipping/classify';
import { MODES, REGIONS, type ShippingFacts } from '../shipping/facts';
import { PLACEMENTS } from '../shipping/facts';
import { SMALL } from '../shipping/testing';
import { ALL_ROUTES, factsOn, matrix, routeOn } from './matrix';

/** Figures on both sides of every limit, and as many beside them as there are packs. */
const near = (...limits: number[]) =>
  fc.oneof(fc.constantFrom(...limits.flatMap((l) => [l * 0.99, l, l * 1.01])), fc.double({ min: 0.001, max: 400, noNaN: true }));
const some = <T>(a: fc.Arbitrary<T>) => fc.option(a, { nil: undefined });
const count = some(fc.integer({ min: 1, max: 8 }));

const FACTS: fc.Arbitrary<ShippingFacts> = fc
  .record({
    chemistry: fc.constantFrom(undefined, 'li-ion', 'li-ion', 'li-ion', 'li-metal', 'ni-mh', 'na-ion', 'none'),
    series: some(fc.integer({ min: 1, max: 4 })),
    parallel: some(fc.integer({ min: 1, max: 2 })),
    nominalVoltage: some(near(3.8, 4.5, 11.4)),
    ratedCapacity: some(near(1, 5, 8.7719)),
    ratedEnergy: some(near(2.7, 20, 60, 100, 300)),
    lithiumContent: some(near(1, 2, 5, 25)),
    buttonCell: some(fc.boolean()),
    energyMarked: some(fc.boolean()),
    madeOn: fc.constantFrom(undefined, '2008', '2009', '2010-06', '2011-12-31', '2012', '2021-05-03'),
    typeTested: fc.constantFrom(undefined, 'yes', 'yes', 'no', 'unknown'),
    findings: some(fc.subarray(['swollen', 'smell', 'recelled', 'low-health', 'no-output', 'hissing', 'nobody-knows'])),
    conditionKnown: some(fc.boolean()),
    frozen: some(fc.constant(true)),
    disputed: some(fc.subarray(['ratedEnergy', 'series', 'madeOn'])),
    stateOfCharge: some(near(25, 30)),
    placement: fc.constantFrom(undefined, ...PLACEMENTS),
    purpose: fc.constantFrom(undefined, 'use', 'recycling'),
    mass: some(near(0.25, 0.5, 5)),
    policy: fc.constantFrom(undefined, { innerCellLimit: true }),
    package: some(
      fc.record({
        packs: count,
        equipment: count,
        packsPerEquipment: count,
        fittedPacks: count,
        netKg: some(near(2.5, 5, 10, 35)),
        grossKg: some(near(30)),
      }),
    ),
    consignment: some(
      fc.record({
        packages: count,
        collectionScheme: some(fc.boolean()),
        household: some(fc.boolean()),
        mainPower: some(fc.boolean()),
        netKgTransportUnit: some(near(333)),
      }),
    ),
  })
  .map((f) => JSON.parse(JSON.stringify(f)) as ShippingFacts);
const GOOD: ShippingFacts = { ...SMALL, mass: 0.27, package: { packs: 1, equipment: 1, packsPerEquipment: 1 } };
const keysOf = (f: ShippingFacts, maxLength: number) =>
  fc.shuffledSubarray(Object.keys(f) as (keyof ShippingFacts)[], { maxLength });
const exchange = (f: ShippingFacts, keys: readonly (keyof ShippingFacts)[], from: ShippingFacts): ShippingFacts =>
  JSON.parse(JSON.stringify({ ...f, ...Object.fromEntries(keys.map((k) => [k, from[k]])) })) as ShippingFacts;
/** A pack, good but for a few facts, and others that differ from it in one fact each: they come its way up to there. */
const ALIKE = fc.tuple(FACTS, FACTS).chain(([a, b]) =>
  fc.tuple(keysOf(a, 3), keysOf({ ...a, ...b }, 8)).map(([odd, one]) => {
    const first = exchange(GOOD, odd, a);
    return [first, ...one.map((k) => exchange(first, [k], b))];
  }),
);
const DAY = fc.constantFrom('2025-12-31', '2026-01-01', '2026-11-24', '2027-08-01');
const REGION = fc.constantFrom(...REGIONS);

const WHEN = fc.uniqueArray(fc.tuple(REGION, DAY), { minLength: 1, maxLength: 2 });

describe('an answer that was given before', () => {
  test('is what deciding again gives: one pack on one route', () => {
    fc.assert(
      fc.property(ALIKE, fc.constantFrom(undefined, ...MODES), WHEN, (packs, mode, when) => {
        for (const facts of packs)
          for (const [region, on] of when) {
            const route = { ...(mode && { mode }), region, on };
            expect(classify(facts, route)).toEqual(decideOne(prepare(facts), route));
          }
      }),
      { numRuns: 1500 },
    );
  });
  test('is what deciding again gives: every route of a pack', () => {
    fc.assert(
      fc.property(ALIKE, WHEN, (packs, when) => {
        for (const facts of packs)
          for (const [region, on] of when) {
            const again = ALL_ROUTES.map((r) => decideOne(prepare(factsOn(facts, r)), routeOn(r.mode, region, on)));
            expect(matrix(facts, on, { region, routes: ALL_ROUTES }).map((c) => c.result)).toEqual(again);
          }
      }),
      { numRuns: 200 },
    );
  });
});
