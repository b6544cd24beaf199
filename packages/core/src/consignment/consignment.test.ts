import fc from 'fast-check';
import { WORKED } from '../cases';
import { foldConsignment, type BoxFacts, type CarrierFacts } from '../logbook/fold-consignment';
import { entry, OTHER_PACK, PACK } from '../logbook/testing';
import { marksOf } from '../dispatch/marks';
import { type Mode, MODES } from '../logbook/entry';
import { kindOf } from '../plan/testing';
import { comesOn, routesOf } from './carrier';
import { byWorth, offer, type OfferQuestion, waysToAsk } from './offers';
import { rulePacked, sentPackage } from './rule-packed';
import { boxesLeft, type Sending } from './send';
import { consignmentState, type PackageState } from './state';
import { grossRange, oddGross } from './weigh';

const ON = '2026-11-27';
const C = 'e0000000-0000-4000-8000-000000000001';
const box = (name: string, side: number, more: Partial<BoxFacts & { left: number }> = {}) => ({
  id: name,
  at: '2026-11-01T08:00:00.000Z',
  name,
  inner: { length: side, width: side, height: side },
  tareKg: 0.5,
  maxGrossKg: 28,
  kind: 'fibreboard' as const,
  un: false,
  stock: 400,
  left: 400,
  price: 2,
  ...more,
});
const BOXES = [box('plain', 400), box('marked', 400, { un: true, price: 9 })];
const carrier = (more: Partial<CarrierFacts> = {}): CarrierFacts => ({
  id: 'marram',
  at: '2026-11-01T08:00:00.000Z',
  name: 'Marram Freight',
  modes: [...MODES],
  takes: { loose: true, withEquipment: true, inEquipment: true, damaged: true, recycling: true, class9: true },
  price: { perPackage: 6, perKg: 0.5, class9: 20 },
  ...more,
});
const question = (packs: readonly Sending[], more: Partial<OfferQuestion> = {}): OfferQuestion => ({
  packs,
  means: { boxes: BOXES, carriers: [] },
  region: 'eu',
  on: ON,
  today: ON,
  ...more,
});
const sending = (n: number, shipping: Sending['shipping'], kg = 0.32): Sending => ({
  id: `p${n}`,
  tag: `T-${n}`,
  shipping,
  kg: { lo: kg, hi: kg, weighed: true },
  outline: { length: 210, width: 70, height: 20 },
});
const SOUND = kindOf('k', 1, 0.32, [1, 1, 1]).facts;
const METAL: Sending['shipping'] = {
  ...SOUND,
  chemistry: 'li-metal',
  lithiumContent: 0.8,
  series: 1,
  parallel: 1,
  nominalVoltage: 3,
  ratedCapacity: 3,
  ratedEnergy: undefined,
};
const sound = (n: number, more: Partial<Sending['shipping']> = {}) => sending(n, { ...SOUND, ...more });

/** Packs of every worked case: all chemistries, conditions and gaps, as they lie in the file. */
const MIXED = WORKED.map((c, i): Sending => {
  const { package: _p, consignment: _c, mass, ...facts } = c.facts;
  return sending(i, { ...facts, placement: facts.placement ?? 'loose', purpose: facts.purpose ?? 'use' }, mass ?? 0.32);
});

const someCarrier = fc.record({
  takes: fc.record({
    loose: fc.boolean(),
    withEquipment: fc.boolean(),
    inEquipment: fc.boolean(),
    damaged: fc.boolean(),
    recycling: fc.boolean(),
    class9: fc.boolean(),
  }),
  groundFlies: fc.constantFrom(undefined, true as const),
  maxGrossKg: fc.constantFrom(undefined, 1, 8, 500),
});

test('a carrier’s profile narrows the rules and never widens them, whatever it says it takes', () => {
  fc.assert(
    fc.property(
      fc.shuffledSubarray(MIXED, { minLength: 1, maxLength: 12 }),
      someCarrier,
      fc.constantFrom(...MODES),
      (packs, said, mode) => {
        const by = carrier({ ...said, ...(said.maxGrossKg === undefined && { maxGrossKg: 1000 }) } as Partial<CarrierFacts>);
        const q = question(packs);
        const [made, free] = [offer(q, mode, by), offer(q, mode, null)];
        // Nothing is lost and nothing is sent twice.
        const told = [...made.packages.flatMap((p) => p.packs), ...made.stays.flatMap((s) => s.packs)].sort();
        expect(told).toEqual(packs.map((p) => p.id).sort());
        const goes = new Set(free.packages.flatMap((p) => p.packs));
        for (const p of made.packages) {
          const of = p.packs.map((id) => packs.find((x) => x.id === id)!);
          for (const route of routesOf(mode, 'eu', ON, by)) {
            const ruled = rulePacked({
              packs: of,
              box: BOXES.find((b) => b.id === p.box)!,
              weighedKg: p.grossKg,
              routes: [route],
              packages: made.packages.length,
              carrier: null,
            });
            expect(ruled.why).toEqual([]);
          }
          if (!by.groundFlies) for (const id of p.packs) expect(goes).toContain(id);
        }
      },
    ),
    { numRuns: 120 },
  );
});

test('what is told to open a way opens it, by each of its routes, on its day and with its carrier', () => {
  const TODAY = '2026-11-26';
  const changes: readonly (readonly [RegExp, (s: Sending['shipping']) => Sending['shipping']])[] = [
    [/^with the charge at (30|25) %/, (s) => ({ ...s, stateOfCharge: 25 })],
    [/^with the UN 38.3 test summary/, (s) => ({ ...s, typeTested: 'yes' })],
    [/^with watt-hours on the case/, (s) => ({ ...s, energyMarked: true })],
  ];
  const told = new Set<string>();
  fc.assert(
    fc.property(
      fc.constantFrom(...MIXED, ...MIXED.slice(0, 20).map((p) => ({ ...p, shipping: { ...p.shipping, stateOfCharge: 80 } }))),
      someCarrier,
      fc.constantFrom(undefined, [1, 2, 3, 5], [4]),
      fc.constantFrom(...MODES),
      fc.constantFrom(ON, '2027-01-02', '2031-01-01'),
      (pack, said, days, mode, on) => {
        const by = carrier({ ...said, days } as Partial<CarrierFacts>);
        const [stay] = offer(question([pack], { on, today: TODAY }), mode, by).stays;
        if (!stay?.opens) return;
        told.add(stay.opens.replace(/\d.*/, ''));
        const change = changes.find(([words]) => words.test(stay.opens!))?.[1];
        const day = change ? on : TODAY;
        if (!change) expect(stay.opens).toBe(`today instead of ${on}`);
        const then = { ...pack, shipping: change ? change(pack.shipping) : pack.shipping };
        const routes = routesOf(mode, 'eu', day, by);
        const { why } = rulePacked({ packs: [then], box: null, routes, packages: 1, carrier: { ...by, maxGrossKg: 1000 } });
        expect(why.filter((w) => !w.includes('no weight known'))).toEqual([]);
        if (!change) expect(comesOn(by, TODAY)).toBe(true);
      },
    ),
    { numRuns: 800 },
  );
  expect([...told]).toEqual(expect.arrayContaining(['today instead of ', 'with the charge at ']));
});

test('ground that flies takes only what the air rules take, under their provision', () => {
  const full = sound(1, { stateOfCharge: 80 });
  const low = sound(2);
  const [flies, drives] = [carrier({ groundFlies: true }), carrier()].map((c) => offer(question([full, low]), 'road', c));
  expect(drives!.going).toBe(2);
  expect(flies!.packages.map((p) => [p.packs, p.provision])).toEqual([[['p2'], 'PI965-IB']]);
  expect(flies!.stays).toMatchObject([{ packs: ['p1'], opens: 'with the charge at 30 % of rated capacity or less' }]);
});

test('what nobody weighed or measured stays, and says what to do', () => {
  const made = offer(question([{ ...sound(1), kg: null }, { ...sound(2), outline: null }, sound(3)]), 'road', null);
  expect(made.going).toBe(1);
  expect(made.stays.map((s) => s.why)).toEqual([
    'nobody weighed it, and its watt-hours are not known',
    'its length, width or thickness is not known',
  ]);
});

test('UN packaging is taken where it is asked for, and plain boxes where they will do', () => {
  const large = Array.from({ length: 3 }, (_, i) => sound(i, { ratedEnergy: 180, ratedCapacity: 15.8 }));
  const boxesOf = (packs: readonly Sending[]) => offer(question(packs), 'road', null).packages.map((p) => p.box);
  expect(boxesOf(large)).toEqual(['marked']);
  expect(boxesOf([sound(1)])).toEqual(['plain']);
  const none = question(large, { means: { boxes: [BOXES[0]!], carriers: [] } });
  expect(offer(none, 'road', null).going).toBe(0);
});

test('a damaged pack lies with no other, also by hand; the packages say what they carry', () => {
  const damaged = sound(9, { findings: ['swollen'] });
  const made = offer(question([sound(1), damaged, sound(2)]), 'road', null);
  expect(made.packages.map((p) => p.packs)).toEqual(expect.arrayContaining([['p9'], ['p1', 'p2']]));
  const q = { packs: [sound(1), damaged], box: BOXES[1]!, routes: routesOf('road', 'eu', ON, null), packages: 1, carrier: null };
  expect(rulePacked(q)).toMatchObject({ lawful: false });
  expect(rulePacked(q).why.join()).toMatch(/a damaged pack lies beside others/);
  expect(rulePacked({ ...q, packs: [] })).toMatchObject({ lawful: false, why: ['nothing lies in it'] });
  const alone = { ...q, packs: [damaged] };
  expect(sentPackage('x', alone, rulePacked(alone))).toMatchObject({
    packs: ['p9'],
    box: 'marked',
    un: 'UN 3480',
    provision: 'SP376-P908',
    rules: expect.arrayContaining([expect.objectContaining({ edition: expect.stringMatching(/ADR/) })]),
  });
});

test('every UN number in a lawful package is named, marked and weighed, in whatever order its packs lie', () => {
  let several = 0;
  fc.assert(
    fc.property(
      fc.constantFrom(...MODES),
      fc.constantFrom('use', 'recycling' as const),
      fc.shuffledSubarray(MIXED, { minLength: 1, maxLength: 3 }),
      (mode, purpose, drawn) => {
        const packs = drawn.map((p) => ({ ...p, shipping: { ...p.shipping, purpose, placement: 'loose' as const } }));
        const q = { packs, box: BOXES[1]!, routes: routesOf(mode, 'eu', ON, null), packages: 1, carrier: null };
        const ruled = rulePacked(q);
        const turned = rulePacked({ ...q, packs: [...packs].reverse() });
        expect([turned.lawful, turned.goods]).toEqual([ruled.lawful, ruled.goods]);
        const sorted = (of: typeof ruled) => [...(of.carry?.marks ?? [])].sort();
        if (!ruled.lawful) return;
        expect(sorted(turned)).toEqual(sorted(ruled));
        const each = packs.map((p) => rulePacked({ ...q, packs: [p] }));
        const uns = new Set(each.flatMap((r) => r.goods.map((g) => g.un)));
        if (uns.size > 1) several += 1;
        expect(new Set(ruled.goods.map((g) => g.un))).toEqual(uns);
        for (const { un, netKg } of ruled.goods) {
          const of = each.filter((r) => r.goods[0]?.un === un);
          expect(netKg).toBeCloseTo(
            of.reduce((kg, r) => kg + r.netKg.hi, 0),
            6,
          );
        }
        // Nothing that a pack alone is marked with is missing on the whole.
        const words = marksOf(ruled.carry ?? { marks: [] }, [...uns], ruled.netKg.hi, false);
        for (const r of each)
          for (const m of r.carry
            ? marksOf(
                r.carry,
                r.goods.map((g) => g.un),
                r.netKg.hi,
                false,
              )
            : [])
            if (m.kind !== 'class 9A') expect(words).toContainEqual(m);
      },
    ),
    { numRuns: 400 },
  );
  expect(several).toBeGreaterThan(0);
});

test('ion and metal lie together under one provision, with both numbers on marks and record; by air they do not', () => {
  const metal = sending(2, METAL);
  const q = (mode: Mode) => ({
    packs: [sound(1), metal],
    box: BOXES[1]!,
    routes: routesOf(mode, 'eu', ON, null),
    packages: 1,
    carrier: null,
  });
  const ruled = rulePacked(q('road'));
  const goods = [
    { un: 'UN 3090', netKg: 0.32 },
    { un: 'UN 3480', netKg: 0.32 },
  ];
  expect(ruled.why).toEqual([]);
  expect(ruled).toMatchObject({ lawful: true, goods, together: null });
  expect(sentPackage('x', q('road'), ruled).goods).toEqual(goods);
  expect(rulePacked(q('air-cargo')).why.join()).toMatch(/two provisions/);
});

test('ways are asked with each carrier that goes, and the one that takes more comes first', () => {
  const by = [carrier({ modes: ['road'] }), carrier({ id: 'old', modes: ['road', 'sea'], retired: true })];
  const asked = waysToAsk({ means: { boxes: [], carriers: by } });
  expect(asked.map((a) => [a.mode, a.carrier?.id ?? null])).toEqual(MODES.map((m) => [m, m === 'road' ? 'marram' : null]));
  const packs = [sound(1, { stateOfCharge: 60 }), sound(2)];
  const list = (['air-cargo', 'road'] as const).map((m) => offer(question(packs), m, null)).sort(byWorth);
  expect(list.map((o) => o.mode)).toEqual(['road', 'air-cargo']);
  // A way that nobody of ours goes costs nothing that we know of: it is no cheaper way.
  const priced = [null, by[0]!].map((c) => offer(question([sound(1)]), 'road', c)).sort(byWorth);
  expect(priced.map((o) => o.carrier)).toEqual(['marram', null]);
});

test('packs of one sort that differ by grams and by a few percent of charge are planned as one, and proved', () => {
  const lot = Array.from({ length: 90 }, (_, i) =>
    sending(i, { ...SOUND, stateOfCharge: 12 + (i % 17), madeOn: `202${i % 4}` }, 0.31 + (i % 9) / 1000),
  );
  for (const mode of ['road', 'air-cargo'] as const) {
    const o = offer(question(lot), mode, null);
    expect(o).toMatchObject({ going: 90, proved: true });
    expect(o.bound).toBe(o.packages.length);
  }
});

test('what asks for more than the rest is named, and without it the rest costs that much less and asks for less', () => {
  const large = sound(7, { ratedEnergy: 180, ratedCapacity: 15.8 });
  const rest = [1, 2, 3].map((n) => sound(n));
  const [all, less] = [[...rest, large], rest].map((packs) => offer(question(packs), 'road', carrier()));
  expect(all!.leaving).toMatchObject({
    packs: ['p7'],
    spares: expect.arrayContaining([expect.stringMatching(/class 9A label/)]),
  });
  expect(less!.price).toBeCloseTo(all!.price - all!.leaving!.saves, 2);
  const asked = [...less!.carry.marks, ...less!.carry.papers, less!.carry.trained];
  for (const spared of all!.leaving!.spares) expect(asked).not.toContain(spared);
  expect(less!.leaving).toBeNull();
  // Where most ask for it, nothing is said.
  expect(offer(question([large, { ...large, id: 'p8' }, rest[0]!]), 'road', carrier()).leaving).toBeNull();
});

test('a carrier comes on its days', () => {
  expect(comesOn(carrier({ days: [5] }), ON)).toBe(true);
  expect(comesOn(carrier({ days: [5] }), '2026-11-29')).toBe(false);
});

test('boxes used since they were counted are gone; a plan that needs more says so', () => {
  const f = foldConsignment(C, [
    entry('package-closed', { package: PACK, box: 'plain' }, { subjects: [`consignment:${C}`] }),
    entry('package-closed', { package: OTHER_PACK, box: 'plain' }, { subjects: [`consignment:${C}`] }),
  ])!;
  expect(boxesLeft({ ...BOXES[0]!, stock: 3 }, [f])).toBe(1);
  expect(boxesLeft({ ...BOXES[0]!, stock: 1 }, [f])).toBe(0);
  expect(boxesLeft({ ...BOXES[0]!, stock: 3, at: '2026-12-01T00:00:00.000Z' }, [f])).toBe(3);
});

test('a package weighs at least box and packs, at most the same full of fill', () => {
  const range = grossRange({ tareKg: 0.5, inner: { length: 400, width: 300, height: 200 } }, { lo: 3, hi: 3.2 });
  expect(range).toEqual({ lo: 3.45, hi: 0.5 + 3.2 + 24 * 0.16 + 0.05 });
  expect(oddGross(3.2, range)).toMatch(/Is a pack missing/);
  expect(oddGross(9, range)).toMatch(/too many/);
  expect(oddGross(5, range)).toBe('');
});

test('stages follow from what was said, and what was taken elsewhere is missed', () => {
  const on = (...packs: string[]) => ({ subjects: [`consignment:${C}`, ...packs.map((p) => `pack:${p}`)] }) as never;
  const planned = entry('plan-kept', { packages: [{ id: 'k', box: 'plain', packs: [PACK, OTHER_PACK] }] }, on());
  const packed = [PACK, OTHER_PACK].map((p) => entry('packed', { package: 'k' }, on(p)));
  const closed = entry('package-closed', { package: 'k', box: 'plain' }, on());
  const stage = (entries: Parameters<typeof foldConsignment>[1], members = [PACK, OTHER_PACK]) =>
    consignmentState(
      foldConsignment(C, entries)!,
      members.map((id) => ({ id })),
    );
  const named = entry('consignment-described', { name: 'x' }, on());
  expect(stage([named])).toMatchObject({ stage: 'draft', unplanned: [PACK, OTHER_PACK] });
  expect(stage([named, planned])).toMatchObject({ stage: 'planned', unplanned: [] });
  expect(stage([named, planned, ...packed]).stage).toBe('planned');
  expect(stage([named, planned, ...packed, closed])).toMatchObject({ stage: 'packed', packages: [{ number: 1, box: 'plain' }] });
  // It lies in the closed box still: nothing leaves until somebody took it out and closed the box anew.
  const strayed = { stage: 'planned', packages: [{ strayed: [OTHER_PACK], closed: null }] };
  const all = [named, planned, ...packed, closed];
  expect(stage(all, [PACK])).toMatchObject({ packs: [PACK], elsewhere: [OTHER_PACK], ...strayed });
  expect(stage([...all, entry('package-closed', { package: 'k', box: 'plain' }, on())], [PACK])).toMatchObject(strayed);
  const known = consignmentState(foldConsignment(C, all)!, [{ id: PACK }], (p) => p === PACK);
  expect(known.packages[0]).toMatchObject({ strayed: [], closed: { box: 'plain' } });
  // What a device does not hold is in it all the same, and said.
  expect(known).toMatchObject({ packs: [PACK, OTHER_PACK].sort(), elsewhere: [], unheld: [OTHER_PACK] });
  const off = foldConsignment(C, [...all, entry('withdrawn', {}, on(OTHER_PACK))])!;
  expect(consignmentState(off, [{ id: PACK }], (p) => p === PACK)).toMatchObject({ packs: [PACK], unheld: [] });
  const out = [entry('unpacked', {}, on(OTHER_PACK)), entry('package-closed', { package: 'k', box: 'plain' }, on())];
  expect(stage([...all, ...out], [PACK])).toMatchObject({ stage: 'packed', packages: [{ strayed: [] }] });
});

test('a package keeps the number that is written on it, whichever of the others are emptied, planned anew or left out', () => {
  const about = { subjects: [`consignment:${C}`] } as never;
  const kept = fc.record({
    ids: fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { minLength: 1 }),
    gone: fc.nat({ max: 31 }),
  });
  fc.assert(
    fc.property(fc.array(kept, { minLength: 2, maxLength: 6 }), (plans) => {
      let before: readonly PackageState[] = [];
      for (const { ids, gone } of plans) {
        const known = new Map(before.map((p) => [p.id, p.number]));
        const packages = ids.map((id) => ({
          id,
          box: 'plain',
          packs: [`in ${id}`],
          ...(known.has(id) && { number: known.get(id)! }),
        }));
        const facts = foldConsignment(C, [entry('plan-kept', { packages }, about)])!;
        // Of some every pack was withdrawn since.
        const members = ids.filter((_, i) => ((gone >> i) & 1) === 0).map((id) => ({ id: `in ${id}` }));
        const now = consignmentState(facts, members).packages;
        for (const p of now) if (known.has(p.id)) expect(p.number).toBe(known.get(p.id));
        expect(new Set(now.map((p) => p.number)).size).toBe(now.length);
        expect(now.map((p) => p.number)).toEqual(now.map((p) => p.number).sort((x, y) => x - y));
        before = now;
      }
    }),
    { numRuns: 300 },
  );
});

describe('packs of two provisions in one package', () => {
  const large = (i: number) => sound(i, { ratedEnergy: 180, ratedCapacity: 15.8 });
  const by = (packs: readonly Sending[], mode: 'road' | 'air-cargo', box = BOXES[1]!, region: 'eu' | 'us' = 'eu') =>
    rulePacked({ packs, box, routes: routesOf(mode, region, ON, null), packages: 1, carrier: null });

  // Section II beside Section I goes as the heavier; label and papers are the union. From memory: ICAO TI, ADR.
  test.each([
    ['road', 'eu', 'P903'],
    ['road', 'us', '173.185(c)(1)(iv)'],
    ['air-cargo', 'eu', 'PI965-IA'],
  ] as const)('small beside large by %s, %s: the whole goes as %s, with the marks of both', (mode, region, provision) => {
    const [small, over, both] = [[sound(1)], [large(2)], [sound(1), large(2)]].map((p) => by(p, mode, BOXES[1]!, region));
    expect(both).toMatchObject({ lawful: true, together: provision, result: { provision } });
    for (const one of [small!, over!]) {
      expect(both!.carry!.marks).toEqual(expect.arrayContaining([...one.carry!.marks]));
      expect(both!.carry!.papers).toEqual(expect.arrayContaining([...one.carry!.papers]));
      expect(both!.result.rules).toEqual(expect.arrayContaining([...one.result.rules]));
    }
    expect(by([large(2), sound(1)], mode, BOXES[1]!, region)).toMatchObject({ lawful: true, together: provision });
  });

  test('the packaging is that of the heavier: a plain box that serves the small one alone serves no longer', () => {
    expect(by([sound(1)], 'road', BOXES[0]!).lawful).toBe(true);
    const mixed = by([sound(1), large(2)], 'road', BOXES[0]!);
    expect(mixed.lawful).toBe(false);
    expect(mixed.why.join()).toMatch(/has no UN mark/);
  });

  test('what is held, damaged or of another kind of journey opens nothing by lying beside another', () => {
    const unknown = sound(3, { typeTested: 'unknown' });
    expect(by([large(2), unknown], 'road').lawful).toBe(false);
    expect(by([large(2), sound(4, { findings: ['swollen'] })], 'road').why.join()).toMatch(/a damaged pack lies beside others/);
    expect(by([large(2), sound(5, { purpose: 'recycling' })], 'road').why.join()).toMatch(/two provisions in one package/);
  });

  test('a package is never ruled milder for what lies beside, whatever it is', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(MIXED, { minLength: 2, maxLength: 6 }), fc.constantFrom(...MODES), (packs, mode) => {
        const ask = (some: readonly Sending[]) =>
          rulePacked({ packs: some, box: BOXES[1]!, routes: routesOf(mode, 'eu', ON, null), packages: 1, carrier: null });
        const all = ask(packs);
        const alone = packs.map((p) => ask([p]));
        if (all.lawful) expect(alone.map((a) => a.why)).toEqual(packs.map(() => []));
        // What is not subject to the rules (nickel by road) carries nothing at all.
        const heavy = (one: typeof all) => (one.carry?.marks ?? []).filter((m) => /class 9|DAMAGED|RECYCLING/.test(m));
        if (all.lawful) expect(heavy(all)).toEqual(expect.arrayContaining(alone.flatMap(heavy)));
      }),
      { numRuns: 200 },
    );
  });
});
