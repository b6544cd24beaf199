import fc from 'fast-check';
import { FINDING_CODES, FINDINGS } from '../condition/findings';
import { ladder, RANK } from '../condition/ladder';
import cases from '../cases/shipping.json';
import { classify } from './classify';
import { MODES, type Outcome, PLACEMENTS, type Route, SEVERITY, type ShippingFacts } from './facts';
import { SHIPPING, SHIPPING_RULES } from './rulebook';
import { ON, SMALL } from './testing';

const base: ShippingFacts = {
  ...SMALL,
  mass: 0.27,
  package: { packs: 1, equipment: 1, packsPerEquipment: 1, netKg: 0.27, grossKg: 1 },
  consignment: { packages: 1 },
};
const road: Route = { mode: 'road', region: 'eu', on: ON };
const cargo: Route = { mode: 'air-cargo', on: ON };
const passenger: Route = { mode: 'air-passenger', on: ON };
const without = (f: ShippingFacts, key: keyof ShippingFacts): ShippingFacts => {
  const { [key]: _gone, ...rest } = f;
  return rest;
};

describe('worked cases', () => {
  test.each(cases.map((c) => [c.id, c.title, c] as const))('%s %s', (_id, _title, c) => {
    const got = classify(c.facts as ShippingFacts, c.route as Route) as unknown as Record<string, unknown>;
    for (const [key, want] of Object.entries(c.expect)) expect({ [key]: got[key] }).toEqual({ [key]: want });
  });
});

// Limits of SP 188 and PI 965-967, from memory: equality is inside.
describe('size at, just under and just over a limit', () => {
  const wh = (ratedEnergy: number, more: Partial<ShippingFacts> = {}) =>
    classify({ ...without(without(base, 'nominalVoltage'), 'ratedCapacity'), ratedEnergy, ...more }, road).provision;
  test.each([
    [99.99, 'SP188'],
    [100, 'SP188'],
    [100.01, 'P903'],
  ])('a battery of %d Wh', (e, p) => expect(wh(e)).toBe(p));
  test.each([
    [19.99, 'SP188'],
    [20, 'SP188'],
    [20.01, 'P903'],
  ])('a cell of %d Wh', (e, p) => expect(wh(e, { series: 1, parallel: 1 })).toBe(p));
  test('cell or battery unknown: asked only where it matters', () => {
    const unknown = without(without(base, 'series'), 'parallel');
    const v = without(without(unknown, 'nominalVoltage'), 'ratedCapacity');
    expect(classify({ ...v, ratedEnergy: 15 }, road)).toMatchObject({ outcome: 'allowed', provision: 'SP188' });
    expect(classify({ ...v, ratedEnergy: 50 }, road)).toMatchObject({
      outcome: 'hold',
      missing: ['series', 'parallel'],
      provision: 'P903',
    });
    expect(classify({ ...v, ratedEnergy: 150 }, road)).toMatchObject({ outcome: 'allowed', provision: 'P903' });
    expect(classify(unknown, road)).toMatchObject({ outcome: 'allowed', provision: 'SP188' });
  });
  test('the strict reading of inner cells is a switch', () => {
    const f = { ...base, series: 4, parallel: 1, nominalVoltage: 15.2, ratedCapacity: 5.92, ratedEnergy: 90 };
    expect(classify(f, road).provision).toBe('SP188');
    expect(classify({ ...f, policy: { innerCellLimit: true } }, road)).toMatchObject({
      provision: 'P903',
      rules: expect.arrayContaining(['size.inner']),
    });
  });
  test('printed and computed energy on different sides: hold, treated as over', () => {
    expect(classify({ ...base, series: 4, nominalVoltage: 15.4, ratedCapacity: 6.494, ratedEnergy: 100 }, road)).toMatchObject({
      outcome: 'hold',
      provision: 'P903',
      missing: ['ratedEnergy'],
    });
  });
});

describe('charge at the limit, only over it needs approval', () => {
  test.each([
    [29.9, 'allowed'],
    [30, 'allowed'],
    [30.1, 'approval'],
  ] as const)('loose at %d %%: %s', (stateOfCharge, outcome) =>
    expect(classify({ ...base, stateOfCharge }, cargo).outcome).toBe(outcome),
  );
  test('packed with equipment: advised to 2025, required from 2026', () => {
    const f: ShippingFacts = {
      ...base,
      placement: 'with-equipment',
      stateOfCharge: 60,
      package: { ...base.package, fittedPacks: 0 },
    };
    expect(classify(f, { ...passenger, on: '2025-12-31' }).outcome).toBe('allowed');
    expect(classify(f, { ...passenger, on: '2026-01-01' }).outcome).toBe('approval');
  });
  test('lowering the charge never forbids', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 100, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom(...PLACEMENTS),
        fc.constantFrom(cargo, passenger),
        (soc, k, placement, route) => {
          const at = (stateOfCharge: number) => classify({ ...base, placement, stateOfCharge }, route).outcome;
          return at(soc) !== 'allowed' || at(soc * k) === 'allowed';
        },
      ),
    );
  });
});

describe('missing facts', () => {
  test('the watt-hour mark: by date', () => {
    const f = (madeOn: string | undefined) => ({ ...without(base, 'madeOn'), ...(madeOn && { madeOn }), energyMarked: false });
    expect(classify(f('2008-12'), road)).toMatchObject({ outcome: 'allowed', provision: 'SP188' });
    expect(classify(f('2010'), road)).toMatchObject({
      outcome: 'hold',
      missing: ['energyMarked'],
      notes: expect.arrayContaining([expect.stringContaining('P903')]),
    });
    expect(classify(f(undefined), road)).toMatchObject({ outcome: 'hold', missing: ['energyMarked'] });
  });
  test('what is forbidden either way is forbidden, and no useless question is asked', () => {
    expect(classify(without(base, 'typeTested'), passenger)).toMatchObject({ outcome: 'forbidden', missing: [] });
    expect(classify(without(base, 'findings'), passenger)).toMatchObject({ outcome: 'forbidden' });
    expect(classify(without(base, 'findings'), road)).toMatchObject({
      condition: 'unproven',
      outcome: 'hold',
      missing: ['findings'],
      provision: null,
    });
  });
  test('an unknown finding holds and is named', () => {
    expect(classify({ ...base, findings: ['purple'] }, road)).toMatchObject({
      outcome: 'hold',
      missing: ['findings'],
      notes: ['unknown finding: purple'],
    });
  });
  test('a missing gross weight states the limit instead of asking', () => {
    const { grossKg: _g, ...pkg } = base.package!;
    expect(classify({ ...base, package: pkg }, road)).toMatchObject({
      outcome: 'allowed',
      notes: expect.arrayContaining(['at most 30 kg gross in a package']),
    });
  });
  test('a weight that decides the provision is asked for', () => {
    expect(classify({ ...without(base, 'mass'), package: { packs: 1 } }, cargo)).toMatchObject({
      outcome: 'hold',
      missing: ['package.netKg'],
    });
  });
  test('outside the editions held: hold; critical stays forbidden', () => {
    expect(classify(base, { ...road, on: '2027-07-01' })).toMatchObject({ outcome: 'hold', missing: [], rules: ['no-edition'] });
    expect(classify(base, { ...road, on: '2027-06-30' }).outcome).toBe('allowed');
    expect(classify({ ...base, findings: ['smoke'] }, { ...road, on: '2030-01-01' }).outcome).toBe('forbidden');
  });
});

describe('the rulebook', () => {
  test('every rule has a source, a certainty and sensible dates', () => {
    for (const r of SHIPPING_RULES) {
      expect(r.source.length).toBeGreaterThan(3);
      expect(['H', 'M', 'L']).toContain(r.certainty);
      if (r.from && r.to) expect(r.from <= r.to).toBe(true);
    }
  });
  test('every outcome cites rules that exist', () => {
    for (const c of cases) {
      const { rules } = classify(c.facts as ShippingFacts, c.route as Route);
      expect(rules.length).toBeGreaterThan(0);
      for (const id of rules) expect(SHIPPING.shown(id, ON).id).toBe(id);
    }
  });
});

// Random packs whose facts agree: makers print typical beside rated figures, up to 6 % apart, and digits are rounded.
const LIMITS = [2.7, 20, 60, 100, 300];
const coherent = (f: ShippingFacts): boolean => {
  const product = f.nominalVoltage! * f.ratedCapacity!;
  const apart = LIMITS.some((l) => product > l !== f.ratedEnergy! > l);
  // Said to be in equipment, yet more than the machines take: read as packed with it, so the two do not agree.
  const { packs = 1, equipment = 1, packsPerEquipment: each = 1 } = f.package!;
  const beside = f.placement === 'in-equipment' && packs > equipment * each;
  return !apart && !beside && classify(f, road).contradictions.length === 0;
};
const anyFacts: fc.Arbitrary<ShippingFacts> = fc
  .record(
    {
      chemistry: fc.constantFrom('li-ion' as const, 'li-metal' as const, 'na-ion' as const),
      series: fc.integer({ min: 1, max: 4 }),
      parallel: fc.integer({ min: 1, max: 3 }),
      lithiumContent: fc.constantFrom(0.07, 1, 1.5, 2, 3),
      buttonCell: fc.boolean(),
      energyMarked: fc.boolean(),
      madeOn: fc.constantFrom('2008', '2010-06', '2021-05-03'),
      typeTested: fc.constantFrom('yes' as const, 'no' as const, 'unknown' as const),
      stateOfCharge: fc.constantFrom(10, 30, 30.01, 31, 80),
      placement: fc.constantFrom(...PLACEMENTS),
      mass: fc.constantFrom(0.2, 0.6),
      findings: fc.subarray([...FINDING_CODES], { maxLength: 3 }),
      conditionKnown: fc.boolean(),
      cleared: fc.boolean(),
    },
    { requiredKeys: ['chemistry', 'series', 'parallel'] },
  )
  .chain((f) =>
    fc
      .tuple(
        fc.oneof(fc.constantFrom(2, 2.7, 15, 20, 50, 60, 99.9, 100, 130, 300), fc.integer({ min: 1, max: 400 })),
        fc.integer({ min: -60, max: 60 }),
        fc.record({
          packs: fc.constantFrom(1, 2, 3, 9),
          equipment: fc.constantFrom(1, 3),
          packsPerEquipment: fc.constantFrom(1, 2),
          each: fc.constantFrom(0.3, 2, 12),
        }),
      )
      .map(([wh, off, { each, ...p }]) => {
        const nominalVoltage = (f.chemistry === 'li-metal' ? 3 : 3.8) * f.series;
        return {
          ...f,
          purpose: 'use' as const,
          nominalVoltage: Math.round(nominalVoltage * 10) / 10,
          ratedEnergy: wh,
          ratedCapacity: Math.round((wh / nominalVoltage) * (1 + off / 1000) * 1000) / 1000 || 0.001,
          package: { ...p, netKg: (f.mass ?? each) * p.packs },
        };
      }),
  )
  .filter(coherent);
const anyRoute = fc.record({
  mode: fc.constantFrom(...MODES),
  region: fc.constantFrom('eu' as const, 'us' as const),
  on: fc.constantFrom('2025-06-30', ON, '2029-01-01'),
});

describe('properties', () => {
  test('what the record says besides opens nothing: the worse of both answers is given', () => {
    fc.assert(
      fc.property(anyRoute, fc.constantFrom(...FINDING_CODES), (route, code) => {
        const [sound, found] = [
          { ...base, findings: [] },
          { ...base, findings: [code] },
        ];
        const [a, b] = [classify(sound, route), classify(found, route)];
        const both = classify({ ...sound, rivals: [found] }, route);
        expect(SEVERITY[both.outcome]).toBe(Math.max(SEVERITY[a.outcome], SEVERITY[b.outcome]));
        if (a.outcome === b.outcome) expect(RANK[both.condition]).toBe(Math.max(RANK[a.condition], RANK[b.condition]));
      }),
    );
  });
  test('no output waits for a look, and is told its way when none is possible', () => {
    const dead = { ...SMALL, findings: ['no-output'], purpose: 'recycling' } as const;
    const waits = classify(dead, { mode: 'road', region: 'eu', on: ON });
    expect(waits).toMatchObject({ outcome: 'hold', missing: ['findings'] });
    expect(waits.notes.join('; ')).toMatch(/wake it.*travels as damaged/);
    const named = { ...dead, findings: ['no-output', 'cannot-examine'] };
    expect(classify(named, { mode: 'road', region: 'eu', on: ON })).toMatchObject({
      outcome: 'allowed',
      provision: 'SP376-P908',
    });
  });
  test('removing a field never opens a way, and never makes a pack sound or spent', () => {
    const open: readonly Outcome[] = ['allowed', 'split'];
    fc.assert(
      fc.property(anyFacts, anyRoute, fc.nat(), (facts, route, pick) => {
        const keys = Object.keys(facts).filter((k) => k !== 'purpose' && k !== 'cleared' && k !== 'package');
        const inner = Object.keys(facts.package!);
        const i = pick % (keys.length + inner.length);
        const gone =
          i < keys.length
            ? without(facts, keys[i] as keyof ShippingFacts)
            : {
                ...facts,
                package: Object.fromEntries(Object.entries(facts.package!).filter(([k]) => k !== inner[i - keys.length])),
              };
        // "Nobody has looked" is an answer, not a field that may go missing.
        if (facts.conditionKnown === false && gone.conditionKnown === undefined) return true;
        const before = classify(facts, route);
        const after = classify(gone, route);
        if (!open.includes(before.outcome) && open.includes(after.outcome)) return false;
        return RANK[after.condition] >= RANK.unproven || after.condition === before.condition;
      }),
      { numRuns: 4000 },
    );
  });
  test('adding a finding never lowers the condition, and never leaves the damaged provision for a lighter one', () => {
    fc.assert(
      fc.property(anyFacts, fc.constantFrom(...FINDING_CODES), (facts, code) => {
        const more = { ...facts, findings: [...(facts.findings ?? []), code], conditionKnown: true };
        const before = { ...facts, findings: facts.findings ?? [], conditionKnown: true };
        if (RANK[ladder(more).condition] < RANK[ladder(before).condition]) return false;
        const heavy = classify(before, road).provision === 'SP376-P908';
        return !heavy || ['SP376-P908', 'SP376-P911'].includes(classify(more, road).provision ?? '');
      }),
      { numRuns: 800 },
    );
  });
  test('every critical code is forbidden by every mode; hard ones are not cleared', () => {
    for (const f of FINDINGS) {
      const facts = { ...base, findings: [f.code], cleared: true };
      if (f.class === 'reacting' || f.class === 'unstable')
        for (const mode of MODES) expect(classify(facts, { mode, on: ON }).outcome).toBe('forbidden');
      if (f.class === 'hard') expect(classify(facts, road)).toMatchObject({ condition: 'damaged', provision: 'SP376-P908' });
    }
  });
});

test('a country of its own is never silently ruled by its neighbour’s rules', () => {
  const asked = (region: 'eu' | 'uk' | 'ch' | 'ca', mode: 'road' | 'air-cargo' = 'road') =>
    classify(base, { mode, region, on: '2026-11-27' });
  const { outcome, provision } = asked('eu');
  for (const region of ['uk', 'ch'] as const) {
    expect(asked(region)).toMatchObject({ outcome, provision });
    expect(asked(region).notes.join()).toMatch(/look up where/);
  }
  expect(asked('ca')).toMatchObject({ outcome: 'hold', provision: null, missing: [], rules: ['region.unheld'] });
  expect(asked('ca').notes.join()).toMatch(/look them up/);
  expect(asked('ca', 'air-cargo')).toMatchObject(asked('eu', 'air-cargo'));
});
