import fc from 'fast-check';
import type { Route, ShippingFacts } from '../shipping/facts';
import { packagesOf } from './in-package';
import { kindOf } from './testing';
import { waysOf } from './ways';

const MASS = 0.25;
/** Figures that nobody chose for their limits, kg. */
const FIGURES = Array.from({ length: 90 }, (_, i) => Math.round(0.053 * 1.1 ** i * 1e4) / 1e4).filter((x) => x < 240);
const COUNTS = [1, 2, 3, 4, 5, 7, 9, 11, 16, 30, 77, 300, 999];
const MANY = 1000;

const facts = fc.record<Partial<ShippingFacts>>({
  chemistry: fc.constantFrom('li-ion', 'li-ion', 'li-metal', 'na-ion', 'ni-mh'),
  ratedEnergy: fc.constantFrom(15, 50, 90, 130),
  stateOfCharge: fc.constantFrom(20, 30, 31, 80),
  placement: fc.constantFrom('loose', 'with-equipment', 'in-equipment'),
  purpose: fc.constantFrom('use', 'recycling', 'disposal'),
  typeTested: fc.constantFrom('yes', 'yes', 'no'),
  findings: fc.constantFrom([], [], ['swollen'], ['smoke']),
  consignment: fc.constantFrom({}, { collectionScheme: true }, { netKgTransportUnit: 200 }),
});
const route = fc.record<Route>({
  mode: fc.constantFrom('road', 'rail', 'sea', 'air-cargo', 'air-passenger'),
  region: fc.constantFrom('eu', 'us', 'international'),
  on: fc.constantFrom('2025-11-27', '2026-11-27', '2027-02-01'),
});

test('the ways found by asking a few packages are those that asking every package finds', () => {
  fc.assert(
    fc.property(facts, route, (more, by) => {
      const kind = kindOf('a', 10, MASS, [180, 105, 6], { ...more, consignment: more.consignment ?? {} });
      const ask = packagesOf(kind.facts, by);
      const { ways } = waysOf(kind, ask, MANY);
      const under = (packs: number, netKg: number, grossKg: number) => {
        const c = ask({ packs, netKg, grossKg, packages: MANY, mixed: true });
        return c.outcome === 'allowed' ? c.provision : 'not allowed';
      };
      const way = (kg: number) => ways.find((w) => kg <= w.netKg);
      // A way too light for one pack is none.
      for (const kg of FIGURES.filter((x) => x >= MASS))
        expect([kg, way(kg)?.provision ?? 'not allowed']).toEqual([kg, under(1, kg, kg + 1e-4)]);
      const told = (limit: number | undefined, x: number, provision: unknown) =>
        limit !== undefined && x <= limit ? provision : 'another';
      const [first] = ways;
      if (!first) return;
      const asked = (x: ReturnType<typeof under>) => (x === first.provision ? x : 'another');
      for (const kg of FIGURES.filter((x) => x > MASS))
        expect([kg, told(first.grossKg, kg, first.provision)]).toEqual([kg, asked(under(1, MASS, kg))]);
      for (const n of COUNTS) expect([n, told(first.packs, n, first.provision)]).toEqual([n, asked(under(n, MASS, MASS + 1e-4))]);
    }),
    { numRuns: 150 },
  );
});

test('limits that nobody foresaw are found to the gram and to the pack, never cut short', () => {
  const limit = fc.integer({ min: MASS * 1000 + 1, max: 249_000 }).map((grams) => grams / 1000);
  fc.assert(
    fc.property(limit, limit, fc.integer({ min: 1, max: MANY - 1 }), (net, gross, packs) => {
      const kind = kindOf('a', 10, MASS, [180, 105, 6]);
      const allowed = packagesOf(kind.facts, { mode: 'road', region: 'eu', on: '2026-11-27' })({
        packs: 1,
        netKg: MASS,
        grossKg: 0.3,
        packages: 1,
        mixed: true,
      });
      const { ways } = waysOf(
        kind,
        (asked) =>
          asked.netKg <= net && asked.grossKg <= gross && asked.packs <= packs ? allowed : { ...allowed, outcome: 'forbidden' },
        MANY,
      );
      // A net weight is weighed with its wrap: the lower of the two limits ends it.
      const least = Math.min(net, gross);
      expect(ways).toHaveLength(1);
      expect(ways[0]?.netKg).toBeGreaterThanOrEqual(least - 0.001);
      expect(ways[0]?.netKg).toBeLessThanOrEqual(least + 0.001);
      expect(Math.abs((ways[0]?.grossKg ?? 0) - gross)).toBeLessThanOrEqual(0.001);
      expect(ways[0]?.packs).toBe(packs);
    }),
  );
});
