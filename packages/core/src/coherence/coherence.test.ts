import fc from 'fast-check';
import contradictions from '../cases/contradictions.json';
import { readCase, type Ruled, ruleRow } from '../batch/table';
import { MODES } from '../shipping/facts';
import { ON, SMALL } from '../shipping/testing';
import { statedOf } from '../shipping/stated';
import type { RelationId } from './relation';
import { contradictionsOf, RELATIONS, relationOf } from './relations';
import { seriesCandidates } from '../pack/series';
import { statedFigure } from '../quantity/stated';
import type { StatedFacts } from './stated';

const rule = (facts: object, route: object = {}): Ruled =>
  ruleRow(readCase({ id: 'A', facts, route: { mode: 'road', region: 'eu', on: ON, ...route } }, 1, ON));

describe('cases whose facts cannot all be true, and ordinary ones that stay open', () => {
  test.each(contradictions.map((c) => [c.id, c.title, c] as const))('%s %s', (_id, _title, c) => {
    const got = ruleRow(readCase(c, 1, ON));
    const outcome = got.problems.length > 0 ? 'problem' : got.outcome;
    expect(c.accept).toContain(outcome);
    if (c.provision) expect(c.provision).toContain(got.provision);
    expect(c.provisionNot ?? []).not.toContain(got.provision);
    expect(c.conditionNot ?? []).not.toContain(got.condition);
    if (outcome === 'problem') expect(got.problems.every((p) => p.column !== '' && p.words.length > 10)).toBe(true);
  });
});

const v = (digits: string) => statedFigure({ digits, unit: 'V' });
const stated = (more: Partial<StatedFacts>): StatedFacts => ({ ...statedOf(SMALL), ...more });

// Each relation broken, and kept as narrowly as its tolerance allows. Tolerances: half a printed digit; else common practice, no source.
describe('relations', () => {
  const table: readonly (readonly [RelationId, Partial<StatedFacts>, Partial<StatedFacts>])[] = [
    [
      'label-energy',
      { ratedEnergy: statedFigure({ digits: '61', unit: 'Wh' }) },
      { ratedEnergy: statedFigure({ digits: '60', unit: 'Wh' }) },
    ],
    ['label-series', { series: 4 }, { series: 3 }],
    ['label-series', { series: 2, nominalVoltage: v('6.2') }, { series: 2, nominalVoltage: v('6.3') }],
    ['label-designation', { designation: '4ICP5/57/101' }, { designation: '3ICP5/57/101' }],
    ['label-designation', { designation: '3ICP5/57/101-2' }, { designation: '3ICP5/57/101', parallel: 2 }],
    ['label-limit', { limitedChargeVoltage: v('17.4') }, { limitedChargeVoltage: v('13.05') }],
    ['label-limit', { limitedChargeVoltage: v('3.0') }, { limitedChargeVoltage: v('12.6') }],
    ['chemistry-volts', { chemistry: 'ni-mh' }, { chemistry: 'ni-mh', series: 8, nominalVoltage: v('9.6') }],
    ['chemistry-volts', { chemistry: 'li-metal' }, { chemistry: 'li-metal', series: 1, nominalVoltage: v('3') }],
    [
      'chemistry-volts',
      { chemistry: 'none' },
      { chemistry: 'none', nominalVoltage: undefined, ratedCapacity: undefined, ratedEnergy: undefined },
    ],
    ['chemistry-volts', { nominalVoltage: v('5.0'), series: undefined }, { nominalVoltage: v('7.4'), series: undefined }],
    ['set-series', { cellSets: [3, 4] }, { cellSets: [3] }],
    [
      'set-series',
      { series: undefined, nominalVoltage: v('7.4'), cellSets: [1] },
      { series: undefined, nominalVoltage: undefined, cellSets: [1] },
    ],
    ['meter-series', { packVolts: [v('13.9')] }, { packVolts: [v('13.8')] }],
    [
      'mass-energy',
      { mass: statedFigure({ digits: '2.7', unit: 'kg' }) },
      { mass: statedFigure({ digits: '0.27', unit: 'kg' }) },
    ],
    ['fraction', { stateOfCharge: 0.55 }, { stateOfCharge: 0 }],
    ['fraction', { stateOfCharge: 1 }, { stateOfCharge: 1.5 }],
    [
      'count-fitted',
      { package: { packs: 1, fittedPacks: 2 } },
      { package: { packs: 2, fittedPacks: 2 }, placement: 'in-equipment' },
    ],
    [
      'count-fitted',
      { package: { equipment: 1, packsPerEquipment: 1, fittedPacks: 2 } },
      { package: { equipment: 1, packsPerEquipment: 2, fittedPacks: 2 } },
    ],
    [
      'count-fitted',
      { package: { fittedPacks: 0 }, placement: 'in-equipment' },
      { package: { fittedPacks: 0 }, placement: 'with-equipment' },
    ],
    [
      'net-count',
      { mass: statedFigure({ digits: '1', unit: 'kg' }), package: { packs: 10, netKg: 10.6 } },
      { mass: statedFigure({ digits: '1', unit: 'kg' }), package: { packs: 10, netKg: 10.5 } },
    ],
    ['gross-net', { package: { netKg: 2, grossKg: 2 } }, { package: { netKg: 2, grossKg: 2.1 } }],
    ['swelling-school', { findings: ['swelling-spent'] }, { findings: ['swelling-spent'], swelling: 'allowance' }],
    ['cleared-what', { findings: ['cannot-examine'], cleared: true }, { findings: ['dropped'], cleared: true }],
    [
      'cleared-what',
      { findings: ['recelled', 'dropped'], cleared: ['recelled'] },
      { findings: ['recelled', 'dropped'], cleared: ['dropped'] },
    ],
  ];
  test.each(table)('%s', (id, broken, kept) => {
    const of = (f: Partial<StatedFacts>) => contradictionsOf(stated(f)).filter((c) => c.relation === id);
    expect(of(broken)).toHaveLength(1);
    expect(of(kept)).toEqual([]);
    // Both facts are named, in words, and what to do.
    expect(of(broken)[0]!.sentence).not.toMatch(/undefined|NaN|[a-z][A-Z]|\w\.\w*[A-Z]/);
  });
  test('each is written once, says its tolerance and why, and those that can be asked of stated facts are in the table', () => {
    expect(new Set(RELATIONS.map((r) => r.id)).size).toBe(RELATIONS.length);
    for (const r of RELATIONS) expect([r.must, r.tolerance, r.reason, ...r.ties].every((t) => t.length > 0)).toBe(true);
    expect(RELATIONS.flatMap((r) => (r.check ? [r.id] : [])).filter((id) => !table.some(([t]) => t === id))).toEqual([]);
    expect(() => relationOf('no such' as RelationId)).toThrow(RangeError);
  });
  // 19.2 V is 5 x 3.84 or 6 x 3.2: the only nominal voltage in use that two counts share (data sheet classes, from memory).
  test('cells in series: those every fact allows, or every one that any names', () => {
    const of = (f: Partial<StatedFacts>) => seriesCandidates({ chemistry: 'li-ion', ...f });
    expect(of({ nominalVoltage: v('11.4') })).toEqual([3]);
    expect(of({ nominalVoltage: v('19.2') })).toEqual([5, 6]);
    expect(of({ nominalVoltage: v('11.4'), designation: '4ICP5/57/101' })).toEqual([3, 4]);
    expect(of({ limitedChargeVoltage: v('21.0') })).toEqual([5]);
    expect(of({})).toEqual([]);
  });
  test('one digit in a table is read as two: spreadsheets drop zeros', () => {
    expect(contradictionsOf(statedOf({ ...SMALL, ratedCapacity: 6, ratedEnergy: 57 })).map((c) => c.relation)).toEqual([
      'label-energy',
    ]);
    expect(contradictionsOf(statedOf(SMALL))).toEqual([]);
  });
});

// A pack that goes by every one of these routes, then one fact that cannot be.
const open = {
  ...SMALL,
  mass: 0.27,
  package: { packs: 2, equipment: 2, packsPerEquipment: 1, fittedPacks: 2, netKg: 0.54, grossKg: 4 },
  placement: 'in-equipment',
};
const wrong: Record<string, fc.Arbitrary<object>> = {
  zero: fc.constantFrom('ratedCapacity', 'ratedEnergy', 'nominalVoltage', 'mass', 'series', 'parallel').map((k) => ({ [k]: 0 })),
  'count-whole': fc.constantFrom(0, 1.5, -1).map((packs) => ({ package: { ...open.package, packs } })),
  calendar: fc.constantFrom('2026-02-30', '2031', '2027-01', '2026-13', '30.02.2026').map((madeOn) => ({ madeOn })),
  list: fc.constantFrom(['', ''], ['none', 'dropped'], ['dropped', ''], [' ']).map((findings) => ({ findings })),
  fraction: fc.double({ min: 0.01, max: 1, noNaN: true }).map((x) => ({ stateOfCharge: Math.round(x * 100) / 100 })),
  'mass-energy': fc
    .oneof(fc.double({ min: 1.2, max: 40, noNaN: true }), fc.double({ min: 0.001, max: 0.17, noNaN: true }))
    .map((mass) => ({ mass: Math.round(mass * 1e4) / 1e4 })),
  'chemistry-volts': fc.oneof(
    fc.constantFrom('ni-mh', 'li-metal', 'none').map((chemistry) => ({ chemistry })),
    fc
      .constantFrom(4.9, 5, 5.9, 8.5, 13.5)
      .map((nominalVoltage) => ({ nominalVoltage, series: undefined, ratedEnergy: undefined, ratedCapacity: 5 })),
  ),
  'label-series': fc.constantFrom(1, 2, 4, 5, 6).map((series) => ({ series })),
  'label-energy': fc
    .oneof(fc.integer({ min: 5, max: 53 }), fc.integer({ min: 62, max: 200 }))
    .map((ratedEnergy) => ({ ratedEnergy, mass: undefined })),
  'count-fitted': fc
    .oneof(fc.integer({ min: 3, max: 9 }), fc.constant(0))
    .map((fittedPacks) => ({ package: { ...open.package, fittedPacks } })),
  'gross-net': fc
    .double({ min: 0.01, max: 0.54, noNaN: true })
    .map((g) => ({ package: { ...open.package, grossKg: Math.round(g * 100) / 100 } })),
  'swelling-school': fc.constant({ findings: ['swelling-spent'] }),
  'cleared-what': fc.constantFrom('cannot-examine', 'recelled').map((c) => ({ findings: [c], cleared: true })),
};

describe('facts that contradict each other open no way and are never sound', () => {
  test('the pack they are made from goes by every route', () => {
    for (const mode of MODES)
      expect([mode, rule(open, { mode }).outcome, rule(open, { mode }).condition]).toEqual([mode, 'allowed', 'sound']);
  });
  test.each(Object.entries(wrong))('%s', (id, facts) => {
    fc.assert(
      fc.property(facts, fc.constantFrom(...MODES), fc.constantFrom('us', 'eu', 'international'), (f, mode, region) => {
        const got = rule({ ...open, ...f }, { mode, region });
        expect(got.condition === 'sound' || got.condition === 'spent').toBe(false);
        // What is damaged goes as damaged: that is no way opened by a contradiction.
        if (got.condition === 'damaged' && !mode.startsWith('air')) return;
        expect(['allowed', 'split']).not.toContain(got.outcome);
        const named = [...got.problems, ...got.contradictions];
        expect([id, named.length > 0]).toEqual([id, true]);
      }),
      { numRuns: 150 },
    );
  });
});
