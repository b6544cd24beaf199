import fc from 'fast-check';
import { classify } from '../shipping/classify';
import { fill } from './knapsack';
import { plan } from './plan';
import { capacityOf, type Plan, type PlanOrder } from './problem';
import { BadOrder, readOrder } from './read';
import { BOXES, kindOf, orderOf } from './testing';

/** Everything a plan promises, checked from its order alone. */
function holds(order: PlanOrder, p: Plan): void {
  const used = new Map<string, number>();
  const packed = new Map<string, number>();
  for (const pkg of p.packages) {
    used.set(pkg.box, (used.get(pkg.box) ?? 0) + 1);
    const box = order.boxes.find((b) => b.id === pkg.box)!;
    const inside = Object.entries(pkg.contents).map(([id, n]) => ({ kind: order.kinds.find((k) => k.id === id)!, n }));
    const net = inside.reduce((sum, { kind, n }) => sum + n * kind.facts.mass!, 0);
    const share = inside.reduce((sum, { kind, n }) => sum + n / capacityOf(kind.outline, box.inner, order.gapMm), 0);
    expect(share).toBeLessThanOrEqual(1 + 1e-6);
    expect(pkg.netKg).toBeCloseTo(net, 5);
    expect(pkg.grossKg).toBeCloseTo(net + box.tareKg + order.fillKgPerBox, 5);
    expect(pkg.grossKg).toBeLessThanOrEqual(box.maxGrossKg + 1e-6);
    const packs = inside.reduce((sum, { n }) => sum + n, 0);
    const ruled = inside.map(({ kind }) => {
      const { mass, ...facts } = kind.facts;
      return classify(
        {
          ...facts,
          ...(inside.length === 1 && { mass: mass! }),
          package: { packs, netKg: pkg.netKg, grossKg: pkg.grossKg },
          consignment: { packages: p.count },
        },
        order.route,
      );
    });
    for (const r of ruled) expect([r.outcome, r.provision]).toEqual(['allowed', pkg.provision]);
    expect(new Set(ruled.map((r) => (r.condition === 'damaged' ? r.condition : 'others'))).size).toBe(1);
    for (const { kind, n } of inside) packed.set(kind.id, (packed.get(kind.id) ?? 0) + n);
  }
  for (const l of p.left) packed.set(l.kind, (packed.get(l.kind) ?? 0) + l.count);
  for (const k of order.kinds) expect([k.id, packed.get(k.id)]).toEqual([k.id, k.count]);
  for (const [id, n] of used) expect(n).toBeLessThanOrEqual(order.boxes.find((b) => b.id === id)!.stock);
  expect(p.count).toBe(p.packages.length);
  const boxes = p.packages.reduce((sum, x) => sum + order.boxes.find((b) => b.id === x.box)!.price, 0);
  const gross = p.packages.reduce((sum, x) => sum + x.grossKg, 0);
  expect(p.price).toBeCloseTo(boxes + p.count * order.price.perPackage + gross * order.price.perKg, 4);
  expect(p.bound.count).toBeLessThanOrEqual(p.count);
  if (p.bound.count === p.count) expect(p.bound.price).toBeLessThanOrEqual(p.price + 1e-6);
}

test('packs of one outline lie in layers of the better turn', () => {
  const inner = { length: 400, width: 300, height: 200 };
  // By hand: 180 x 105 with 5 mm between: 2 x 2 along, 3 x 1 turned; 18 layers of 6 mm.
  expect(capacityOf({ length: 180, width: 105, height: 6 }, inner, 5)).toBe(18 * 4);
  expect(capacityOf({ length: 400, width: 300, height: 200 }, inner, 0)).toBe(1);
  expect(capacityOf({ length: 401, width: 20, height: 20 }, inner, 5)).toBe(0);
});

const facts = fc.constantFrom(
  {},
  {},
  { ratedEnergy: 130 },
  { findings: ['swollen'] },
  { findings: ['smoke'] },
  { typeTested: 'no' as const },
  { stateOfCharge: 80 },
  { conditionKnown: false },
  { placement: 'in-equipment' as const },
);
const kind = fc.record({
  count: fc.integer({ min: 1, max: 30 }),
  mass: fc.integer({ min: 100, max: 900 }),
  outline: fc.tuple(fc.integer({ min: 60, max: 330 }), fc.integer({ min: 40, max: 150 }), fc.integer({ min: 4, max: 30 })),
  facts,
});
const anyOrder = fc
  .record({
    kinds: fc.array(kind, { minLength: 1, maxLength: 5 }),
    mode: fc.constantFrom('road', 'sea', 'air-cargo', 'air-passenger'),
    region: fc.constantFrom('eu', 'us'),
    stock: fc.integer({ min: 0, max: 12 }),
    gap: fc.constantFrom(0, 5, 12),
    most: fc.constantFrom(undefined, 1, 3),
  })
  .map(({ kinds, mode, region, stock, gap, most }) =>
    orderOf(
      kinds.map((k, i) => kindOf(`k${i}`, k.count, k.mass / 1000, k.outline, k.facts)),
      {
        boxes: BOXES.map((b) => ({ ...b, stock })),
        route: { mode, region: mode === 'road' ? region : 'international', on: '2026-11-27' },
        gapMm: gap,
        ...(most !== undefined && { maxPackages: most }),
      },
    ),
  );

test('no plan breaks a limit, loses a pack, or is milder than the rules for a single pack', () => {
  fc.assert(
    fc.property(anyOrder, (order) => {
      const p = plan(order);
      holds(order, p);
      expect(p.count).toBeLessThanOrEqual(order.maxPackages ?? Infinity);
      // Nothing critical is ever packed, whatever it is packed with.
      const critical = order.kinds.filter((k) => k.facts.findings!.includes('smoke')).map((k) => k.id);
      expect(p.packages.flatMap((x) => Object.keys(x.contents)).filter((id) => critical.includes(id))).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('the same order gives the same plan', () => {
  const order = orderOf([kindOf('a', 40, 0.25, [180, 105, 6]), kindOf('b', 25, 0.4, [250, 90, 8], { ratedEnergy: 90 })]);
  expect(plan(order)).toEqual(plan(order));
});

test('what shares no package: the damaged, another provision, and what no way opens for', () => {
  const p = plan(
    orderOf([
      kindOf('sound', 10, 0.25, [180, 105, 6]),
      kindOf('large', 10, 0.6, [280, 100, 9], { ratedEnergy: 130 }),
      kindOf('swollen', 3, 0.25, [180, 105, 12], { findings: ['swollen'] }),
      kindOf('smoking', 2, 0.25, [180, 105, 12], { findings: ['smoke'] }),
    ]),
  );
  expect(p.packages.map((x) => [Object.keys(x.contents), x.provision]).sort()).toEqual([
    [['large'], 'P903'],
    [['sound'], 'SP188'],
    [['swollen'], 'SP376-P908'],
  ]);
  expect(p.left).toMatchObject([{ kind: 'smoking', count: 2 }]);
  expect(p.left[0]!.why).toMatch(/leave, alarm, call/);
});

test('a bound that is met is proved: 40 packs of which a box holds 18 need three', () => {
  const box = { ...BOXES[0]!, inner: { length: 200, width: 110, height: 200 }, maxGrossKg: 100, stock: 9 };
  const p = plan(orderOf([kindOf('a', 40, 0.25, [180, 105, 6])], { boxes: [box] }));
  expect([p.count, p.bound.count, p.proved]).toEqual([3, 3, true]);
  // Two boxes in stock hold 36: four stay, and say why.
  const short = plan(orderOf([kindOf('a', 40, 0.25, [180, 105, 6])], { boxes: [{ ...box, stock: 2 }] }));
  expect([short.count, short.left]).toEqual([2, [{ kind: 'a', count: 4, why: 'no box is left for it' }]]);
});

test('a knapsack is filled as well as by trying everything, and its bound holds with any patience', () => {
  const item = fc.record({
    worth: fc.integer({ min: 1, max: 50 }).map((w) => w / 10),
    shares: fc.tuple(fc.integer({ min: 5, max: 60 }), fc.integer({ min: 5, max: 60 })).map((s) => s.map((x) => x / 100)),
    most: fc.integer({ min: 0, max: 3 }),
  });
  fc.assert(
    fc.property(fc.array(item, { maxLength: 5 }), fc.integer({ min: 0, max: 40 }), (items, nodes) => {
      let best = 0;
      const all = (k: number, room: readonly number[], worth: number): void => {
        best = Math.max(best, worth);
        if (k === items.length) return;
        for (let c = 0; c <= items[k]!.most; c++) {
          const left = room.map((r, i) => r - c * items[k]!.shares[i]!);
          if (left.some((r) => r < -1e-9)) break;
          all(k + 1, left, worth + c * items[k]!.worth);
        }
      };
      all(0, [1, 1], 0);
      expect(fill(items, 1e6).worth).toBeCloseTo(best, 6);
      const hasty = fill(items, nodes);
      expect(hasty.worth).toBeLessThanOrEqual(best + 1e-6);
      expect(hasty.most).toBeGreaterThanOrEqual(best - 1e-6);
    }),
    { numRuns: 300 },
  );
});

interface RawOrder {
  kinds: { count: number; facts: Record<string, unknown> }[];
  boxes: { inner: { height: number } }[];
  gapMm: unknown;
}

test.each<[string, (o: RawOrder) => unknown, RegExp]>([
  ['no mass', (o: RawOrder) => delete o.kinds[0]!.facts.mass, /kinds\[0\]\.facts\.mass: weigh one pack/],
  ['half a pack', (o: RawOrder) => (o.kinds[0]!.count = 1.5), /kinds\[0\]\.count: must be a whole number/],
  ['a flat box', (o: RawOrder) => (o.boxes[1]!.inner.height = 0), /boxes\[1\]\.inner\.height: must be more than 0/],
  ['a kind twice', (o: RawOrder) => o.kinds.push(o.kinds[0]!), /"a" stands twice/],
  ['a package of its own', (o: RawOrder) => (o.kinds[0]!.facts.package = { packs: 2 }), /leave it out/],
  ['an unknown fact', (o: RawOrder) => (o.kinds[0]!.facts.colour = 'red'), /colour.*no such field/],
  ['text for a number', (o: RawOrder) => (o.gapMm = '5'), /gapMm: must be a number/],
  ['no boxes', (o: RawOrder) => (o.boxes = []), /boxes: must be a list/],
])('an order with %s is refused with its place', (_what, spoil, words) => {
  const order = JSON.parse(JSON.stringify(orderOf([kindOf('a', 4, 0.25, [180, 105, 6])]))) as RawOrder;
  expect(plan(readOrder(JSON.parse(JSON.stringify(order)), '2026-11-27')).count).toBe(1);
  spoil(order);
  expect(() => readOrder(order, '2026-11-27')).toThrow(BadOrder);
  expect(() => readOrder(order, '2026-11-27')).toThrow(words);
});
