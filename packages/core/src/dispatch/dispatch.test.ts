import fc from 'fast-check';
import { changeDays, compareRules } from '../rules/compare';
import { carryOf } from './carry';
import { classify } from '../shipping/classify';
import { MODES, PLACEMENTS, PROVISIONS, type Route, type ShippingFacts } from '../shipping/facts';
import { loadPoints } from './load';
import { SHIPPING_RULES } from '../shipping/rulebook';
import { splitOf } from './split';
import { ON, SMALL } from '../shipping/testing';
import { waysToYes } from './ways';
import { DAY_MS } from '../quantity/day';

const cargo: Route = { mode: 'air-cargo', on: ON };
const pack: ShippingFacts = { ...SMALL, mass: 0.27 };

describe('in how many packages', () => {
  // An independent way: the largest number of packs a package may hold, found one by one, then the fewest such packages.
  const largest = (facts: ShippingFacts, route: Route, packs: number): number => {
    for (let n = packs; n > 0; n--)
      if (classify({ ...facts, package: { ...facts.package, packs: n } }, route).outcome === 'allowed') return n;
    return 0;
  };
  test('as few as an independent count says, and never more packs in one than are allowed', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 60 }),
        fc.constantFrom(0.2, 0.9, 2.6, 7),
        fc.constantFrom<Route>(cargo, { mode: 'air-passenger', on: ON }, { mode: 'road', region: 'us', on: ON }),
        fc.constantFrom('loose' as const, 'in-equipment' as const),
        fc.boolean(),
        (packs, mass, route, placement, swollen) => {
          const facts = { ...pack, mass, placement, findings: swollen ? ['swollen'] : [], package: { packs } };
          if (classify(facts, route).outcome !== 'split') return true;
          const n = largest(facts, route, packs);
          const split = splitOf(facts, route);
          if (n === 0) return split === null;
          return split !== null && split.packages === Math.ceil(packs / n) && split.most <= n;
        },
      ),
      { numRuns: 300 },
    );
  });
  test('more than the equipment needs: the rest flies beside it, loose', () => {
    const facts = { ...pack, placement: 'with-equipment' as const, package: { packs: 10, equipment: 1, packsPerEquipment: 1 } };
    expect(classify(facts, cargo).outcome).toBe('split');
    expect(splitOf(facts, cargo)).toEqual({ packages: 2, most: 7 });
    // In 2025 the charge of packs with equipment was only advised; the loose ones beside them were held to it.
    expect(classify({ ...facts, stateOfCharge: 60 }, { ...cargo, on: '2025-06-01' })).toMatchObject({ provision: 'A331' });
  });
});

// ADR 1.1.3.6, from memory: 333 kg inside, 334 kg outside.
describe('the load of a vehicle', () => {
  test.each([
    [[['P903', 333]], 999, true],
    [[['P903', 334]], 1002, false],
    [
      [
        ['SP377-P909', 200],
        ['SP376-P908', 133],
        ['SP188', 900],
      ],
      999,
      true,
    ],
    [[['SP376-P911', 0.3]], 0.9, false],
    [
      [
        ['SP636', 333],
        ['SP670a', 50],
      ],
      0,
      true,
    ],
  ] as const)('%j: %d points, relief %s', (items, points, relief) => {
    const load = loadPoints(items.map(([provision, netKg]) => ({ provision, netKg })));
    expect(load.points).toBeCloseTo(points, 6);
    expect(load.relief).toBe(relief);
  });
  test('a negative weight is refused', () => expect(() => loadPoints([{ provision: 'P903', netKg: -1 }])).toThrow('0 or more'));
});

test('every provision that lets a pack go says how it is packed, and who must know how', () => {
  const closed = ['A154', 'A183', 'A331', 'SP376-P911', '173.21(c)', 'none', 'SP670a'];
  for (const p of PROVISIONS)
    for (const placement of PLACEMENTS)
      for (const mode of MODES) {
        const carry = carryOf({ provision: p, batteryMark: true, rules: [], un: 'UN 3480' }, { placement, mode });
        if (closed.includes(p)) expect(carry).toBeNull();
        else expect([carry!.packaging.length > 0, carry!.trained.length > 0]).toEqual([true, true]);
      }
});

describe('what would open a route', () => {
  const words = (facts: ShippingFacts, route: Route) => waysToYes(facts, route).map((w) => w.words);
  const one = { ...pack, package: { packs: 1, equipment: 1, packsPerEquipment: 1, netKg: 0.27 } };
  test.each([
    ['too full of charge', { ...one, stateOfCharge: 60 }, cargo, /charge at 30 %/],
    ['no evidence', { ...one, typeTested: undefined }, cargo, /test summary/],
    [
      'too many',
      { ...pack, mass: 2, placement: 'in-equipment', package: { packs: 6 } },
      { mode: 'air-passenger', on: ON },
      /in 3 packages, at most 2/,
    ],
    ['loose on a passenger aircraft', one, { mode: 'air-passenger', on: ON }, /cargo aircraft/],
    ['damaged by air', { ...one, findings: ['swollen'] }, cargo, /by road/],
  ] as const)('%s', (_what, facts, route, want) =>
    expect(words(facts as ShippingFacts, route as Route).join('; ')).toMatch(want),
  );
  test('nothing opens a way for a critical pack, and nothing is offered where it goes already', () => {
    expect(words({ ...one, findings: ['smoke'] }, cargo)).toEqual([]);
    expect(words(one, cargo)).toEqual([]);
  });
  test('damaged never flies, whatever is offered', () => {
    for (const w of words({ ...one, findings: ['swollen'] }, cargo)) expect(w).toBe('by road');
  });
});

describe('from one day to another', () => {
  test('the charge rule of packs with equipment changes with 2026; a new edition that says the same is none', () => {
    expect(compareRules(SHIPPING_RULES, '2025-12-31', '2026-01-01').map((c) => [c.id, c.kind])).toEqual([
      ['air.966-charge', 'changes'],
    ]);
    expect(compareRules(SHIPPING_RULES, '2026-02-01', ON)).toEqual([]);
  });
  test('what ends is named, with its day', () => {
    expect(changeDays(SHIPPING_RULES, ON, '2027-12-31')).toEqual(['2027-01-01', '2027-07-01']);
    expect(
      compareRules(SHIPPING_RULES, '2026-12-31', '2027-01-01').every((c) => c.kind === 'ends' && c.id.startsWith('air.')),
    ).toBe(true);
  });
  test('a later day before any change rules the same', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 300 }),
        fc.constantFrom(...MODES),
        fc.constantFrom(...PLACEMENTS),
        (days, mode, placement) => {
          const on = new Date(Date.UTC(2026, 0, 15) + days * DAY_MS).toISOString().slice(0, 10);
          const facts = { ...pack, placement, package: { packs: 2, equipment: 2, packsPerEquipment: 1 } };
          const ask = (day: string) => {
            const { outcome, provision, missing } = classify(facts, { mode, on: day });
            return JSON.stringify([outcome, provision, missing]);
          };
          return ask(on) === ask('2026-01-15');
        },
      ),
    );
  });
});
