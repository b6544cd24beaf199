import { classify } from './classify';
import type { Route, ShippingFacts } from './facts';
import { SHIPPING_RULES } from './rulebook';
import { ON, SMALL } from './testing';

// Decision tables of the rules held, each limit at, just under and just over it. Rules from memory; equality is inside.
const road: Route = { mode: 'road', region: 'eu', on: ON };
const sea: Route = { mode: 'sea', on: ON };
const us: Route = { mode: 'road', region: 'us', on: ON };
const usRail: Route = { ...us, mode: 'rail' };
const cargo: Route = { mode: 'air-cargo', on: ON };
const passenger: Route = { mode: 'air-passenger', on: ON };
const pack = SMALL;
const large = { nominalVoltage: 14.4, ratedCapacity: 9.03, ratedEnergy: 130, series: 4 };
const coin: ShippingFacts = {
  ...pack,
  chemistry: 'li-metal',
  series: 1,
  nominalVoltage: 3,
  ratedCapacity: 0.22,
  ratedEnergy: undefined,
  lithiumContent: 0.07,
  buttonCell: true,
};
const nickel = { chemistry: 'ni-mh' as const, series: 8, nominalVoltage: 9.6, ratedCapacity: 4, ratedEnergy: 38.4 };
const NOTHING = { chemistry: 'none' as const, nominalVoltage: undefined, ratedCapacity: undefined, ratedEnergy: undefined };
const net = (netKg: number, more: object = {}) => ({ package: { packs: 1, equipment: 1, packsPerEquipment: 1, netKg, ...more } });
const unit = (netKgTransportUnit: number) => ({ consignment: { netKgTransportUnit } });
const cites = new Set<string>();
const ask = (facts: ShippingFacts, route: Route) => {
  const r = classify(facts, route);
  r.rules.forEach((id) => cites.add(id));
  return [r.outcome, r.provision];
};

describe('air, net kg of packs in a package', () => {
  test.each([
    ['small loose', {}, 'loose', cargo, 10, 'allowed', 'PI965-IB'],
    ['small loose', {}, 'loose', cargo, 10.01, 'allowed', 'PI965-IA'],
    ['small loose', {}, 'loose', cargo, 35.01, 'split', 'PI965-IA'],
    ['large loose', large, 'loose', cargo, 1, 'allowed', 'PI965-IA'],
    ['small with', {}, 'with-equipment', passenger, 5, 'allowed', 'PI966-II'],
    ['small with', {}, 'with-equipment', passenger, 5.01, 'split', 'PI966-II'],
    ['small with', {}, 'with-equipment', cargo, 5.01, 'allowed', 'PI966-I'],
    ['large with', large, 'with-equipment', passenger, 5, 'allowed', 'PI966-I'],
    ['large with', large, 'with-equipment', passenger, 5.01, 'split', 'PI966-I'],
    ['large with', large, 'with-equipment', cargo, 35.01, 'split', 'PI966-I'],
    ['small in', {}, 'in-equipment', passenger, 5, 'allowed', 'PI967-II'],
    ['small in', {}, 'in-equipment', passenger, 5.01, 'split', 'PI967-II'],
    ['small in', {}, 'in-equipment', cargo, 35, 'allowed', 'PI967-I'],
    ['large in', large, 'in-equipment', cargo, 35.01, 'split', 'PI967-I'],
  ] as const)('%s %p %s %p %d kg: %s %s', (_what, size, placement, route, kg, outcome, provision) => {
    expect(ask({ ...pack, ...size, placement, ...net(kg) }, route)).toEqual([outcome, provision]);
  });
  test.each([
    [2.5, 'loose', 'allowed', 'PI968-IB'],
    [2.51, 'loose', 'allowed', 'PI968-IA'],
    [5, 'with-equipment', 'allowed', 'PI969-II'],
    [5.01, 'with-equipment', 'allowed', 'PI969-I'],
    [5, 'in-equipment', 'allowed', 'PI970-II'],
    [5.01, 'in-equipment', 'allowed', 'PI970-I'],
  ] as const)('coin cells, %d kg %s on a cargo aircraft: %s %s', (kg, placement, outcome, provision) => {
    expect(ask({ ...coin, placement, ...net(kg) }, cargo)).toEqual([outcome, provision]);
  });
  test('loose on a passenger aircraft: never', () => {
    expect(ask({ ...pack, ...net(1) }, passenger)).toEqual(['forbidden', 'PI965-IB']);
    expect(ask({ ...pack, ...large, ...net(1), typeTested: 'no' }, passenger)).toEqual(['forbidden', 'PI965-IA']);
    expect(ask({ ...coin, ...net(0.1) }, passenger)).toEqual(['forbidden', 'PI968-IB']);
    expect(ask({ ...pack, ...net(1), findings: undefined }, passenger)).toEqual(['forbidden', 'PI965-IB']);
    expect(ask({ ...pack, ...net(1), findings: ['swollen'] }, passenger)).toEqual(['forbidden', 'A154']);
  });
});

test('frozen by an incident: held on the road, still no in the air', () => {
  expect(ask({ ...pack, ...net(1), frozen: true }, road)).toEqual(['hold', 'SP188']);
  expect(ask({ ...pack, ...net(1), frozen: true }, passenger)).toEqual(['forbidden', 'PI965-IB']);
});

test.each([
  [3, passenger, 'allowed', 'PI966-II'],
  [4, passenger, 'forbidden', 'PI966-II'],
  [4, cargo, 'split', 'PI966-II'],
] as const)('with one machine, %d packs: %p', (packs, route, outcome, provision) => {
  expect(ask({ ...pack, placement: 'with-equipment', ...net(1, { packs }) }, route)).toEqual([outcome, provision]);
});

test.each([
  [2.7, 'allowed', 'PI966-II'],
  [2.71, 'approval', 'A331'],
] as const)('%d Wh packed with its device at 60 %% in 2026: %s', (ratedEnergy, outcome, provision) => {
  const cell = {
    ...pack,
    series: 1,
    nominalVoltage: 3.7,
    ratedCapacity: Math.floor((1000 * ratedEnergy) / 3.7) / 1000,
    ratedEnergy,
    stateOfCharge: 60,
    placement: 'with-equipment' as const,
  };
  expect(ask({ ...cell, ...net(0.1) }, passenger)).toEqual([outcome, provision]);
});

describe('the battery mark', () => {
  const mark = (facts: Partial<ShippingFacts>, packs?: number, packages?: number) =>
    classify(
      {
        ...pack,
        placement: 'in-equipment',
        package: { ...(packs && { packs }), netKg: 1 },
        consignment: { ...(packages && { packages }) },
        ...facts,
      },
      road,
    ).batteryMark;
  test.each([
    ['two batteries, two packages', {}, 2, 2, false],
    ['three batteries', {}, 3, 1, true],
    ['three packages', {}, 1, 3, true],
    ['four cells', { series: 1, nominalVoltage: 3.7, ratedCapacity: 4, ratedEnergy: 14.8 }, 4, 1, false],
    ['five cells', { series: 1, nominalVoltage: 3.7, ratedCapacity: 4, ratedEnergy: 14.8 }, 5, 1, true],
    ['counts not known', {}, undefined, undefined, true],
    ['loose', { placement: 'loose' as const }, 1, 1, true],
    ['button cells only', coin, 1, 9, true],
  ] as const)('%s', (_what, facts, packs, packages, want) => expect(mark(facts, packs, packages)).toBe(want));
  test('button cells in equipment need none, however many packages', () => {
    expect(mark({ ...coin, placement: 'in-equipment' }, 1, 9)).toBe(false);
  });
});

describe('European road', () => {
  test.each([
    ['loose', 30, 'allowed'],
    ['loose', 30.01, 'split'],
    ['with-equipment', 40, 'allowed'],
    ['in-equipment', 40, 'allowed'],
  ] as const)('small %s, %d kg gross: %s', (placement, grossKg, outcome) => {
    expect(ask({ ...pack, placement, package: { packs: 1, grossKg } }, road)).toEqual([outcome, 'SP188']);
  });
  test.each([
    [2, 30, 'allowed'],
    [2, 30.01, 'split'],
    [1, 40, 'allowed'],
  ] as const)('damaged, %d packs, %d kg net: %s', (packs, netKg, outcome) => {
    expect(ask({ ...pack, findings: ['swollen'], package: { packs, netKg } }, road)).toEqual([outcome, 'SP376-P908']);
  });

  const recycle = (facts: Partial<ShippingFacts>, consignment: ShippingFacts['consignment'] = { collectionScheme: true }) =>
    ask({ ...pack, purpose: 'recycling', typeTested: 'unknown', mass: 0.3, consignment, ...facts }, road)[1];
  test.each([
    ['500 g to the scheme', { mass: 0.5 }, undefined, 'SP636'],
    ['501 g', { mass: 0.501 }, undefined, 'SP377-P909'],
    ['not weighed', { mass: undefined }, undefined, 'SP377-P909'],
    ['large', large, undefined, 'SP377-P909'],
    ['no scheme', {}, { collectionScheme: false }, 'SP377-P909'],
    ['nobody says whether a scheme', {}, {}, 'SP377-P909'],
    ['333 kg in the vehicle', {}, { collectionScheme: true, netKgTransportUnit: 333 }, 'SP636'],
    ['334 kg in the vehicle', {}, { collectionScheme: true, netKgTransportUnit: 334 }, 'SP377-P909'],
    ['for disposal', { purpose: 'disposal' as const }, undefined, 'SP636'],
    [
      'household machine, battery not its main power',
      { placement: 'in-equipment' as const },
      { household: true, mainPower: false },
      'SP670a',
    ],
    [
      'household machine in the scheme',
      { placement: 'in-equipment' as const },
      { household: true, mainPower: true, collectionScheme: true },
      'SP670b',
    ],
    ['machine from a firm', { placement: 'in-equipment' as const }, { household: false, collectionScheme: true }, 'SP377-P909'],
    ['damaged stays damaged in a scheme', { findings: ['crushed'] }, undefined, 'SP376-P908'],
  ] as const)('recycling: %s', (_what, facts, consignment, provision) => expect(recycle(facts, consignment)).toBe(provision));
});

// Watt-hour mark by date: SP 188 since 2009, SP 348 after 2011, from memory. A partial date takes its latest day.
describe('no watt-hours on the case', () => {
  test.each([
    ['small', {}, '2008-12-31', 'allowed', 'SP188'],
    ['small', {}, '2009-01-01', 'hold', 'P903'],
    ['small', {}, '2008', 'allowed', 'SP188'],
    ['small', {}, '2011-12-31', 'hold', 'P903'],
    ['large', large, '2011-12-31', 'allowed', 'P903'],
    ['large', large, '2012-01-01', 'hold', 'P903'],
    ['large', large, '2011', 'allowed', 'P903'],
    ['large', large, undefined, 'hold', 'P903'],
  ] as const)('%s %p made %p: %s', (_what, size, madeOn, outcome, provision) => {
    expect(ask({ ...pack, ...size, madeOn, energyMarked: false }, road)).toEqual([outcome, provision]);
  });
  test('a single cell has no such duty, and recycling needs none', () => {
    expect(
      ask({ ...pack, series: 1, nominalVoltage: 3.7, ratedCapacity: 4, ratedEnergy: 14.8, energyMarked: false }, road),
    ).toEqual(['allowed', 'SP188']);
    expect(ask({ ...pack, energyMarked: false, purpose: 'recycling' }, road)).toEqual(['allowed', 'SP377-P909']);
  });
});

describe('what it is comes first', () => {
  test.each([
    ['no battery', NOTHING, road, 'allowed', 'none'],
    ['nickel, looked at', nickel, cargo, 'allowed', 'none'],
    ['nickel, nobody looked', { ...nickel, findings: undefined }, road, 'hold', null],
    ['nickel, smoking', { ...nickel, findings: ['smoke'] }, road, 'forbidden', null],
    ['sodium-ion', { chemistry: 'na-ion' as const }, road, 'hold', null],
    ['not known', { chemistry: undefined }, road, 'hold', null],
    ['sea before the edition held', {}, { ...sea, on: '2024-12-31' }, 'hold', null],
    ['nickel, leaked, by air', { ...nickel, findings: ['leaked'] }, cargo, 'hold', null],
    ['nickel, leaked, by road', { ...nickel, findings: ['leaked'] }, road, 'allowed', 'none'],
    ['nickel at sea', nickel, sea, 'allowed', 'none'],
    ['nickel at sea, 100 kg', { ...nickel, ...unit(100) }, sea, 'allowed', 'none'],
    ['nickel at sea, more', { ...nickel, ...unit(101) }, sea, 'hold', null],
    ['nickel at sea, 101 kg gross', { ...nickel, package: { packs: 200, netKg: 98, grossKg: 101 } }, sea, 'hold', null],
    ['nickel at sea, fitted', { ...nickel, ...unit(101), placement: 'in-equipment' as const }, sea, 'allowed', 'none'],
    ['smoking in the United States', { findings: ['smoke'] }, us, 'forbidden', '173.21(c)'],
    ['air before the editions held', {}, { ...cargo, on: '2024-12-31' }, 'hold', null],
    ['rebuilt, tested as it was', { findings: ['recelled'] }, road, 'hold', null],
    ['worn out, by air', { findings: ['worn-out'] }, cargo, 'hold', null],
    ['worn out and full, by air', { findings: ['worn-out'], stateOfCharge: 80 }, cargo, 'approval', 'A331'],
    ['rebuilt, never tested', { findings: ['recelled'], typeTested: 'no' as const }, road, 'forbidden', null],
    [
      'rebuilt, for recycling',
      { findings: ['recelled'], typeTested: 'no' as const, purpose: 'recycling' as const },
      road,
      'allowed',
      'SP377-P909',
    ],
    ['damaged by air, in its machine', { findings: ['leaked'], placement: 'in-equipment' as const }, cargo, 'forbidden', 'A154'],
    ['waste by air', { purpose: 'disposal' as const }, cargo, 'approval', 'A183'],
    ['waste loose on a passenger aircraft', { purpose: 'disposal' as const }, passenger, 'forbidden', 'PI965-IB'],
  ] as const)('%s', (_what, facts, route, outcome, provision) =>
    expect(ask({ ...pack, ...net(1), ...facts }, route)).toEqual([outcome, provision]),
  );
});

// IMDG as ADR, without its collection schemes (SP 636, SP 670); from memory.
describe('sea', () => {
  test.each([
    ['small', {}, 'allowed', 'SP188'],
    ['small, 30 kg gross', { package: { packs: 1, grossKg: 30 } }, 'allowed', 'SP188'],
    ['small, more', { package: { packs: 1, grossKg: 30.1 } }, 'split', 'SP188'],
    ['large', large, 'allowed', 'P903'],
    ['damaged', { findings: ['swollen'] }, 'allowed', 'SP376-P908'],
    ['damaged, over 30 kg', { findings: ['swollen'], package: { packs: 2, netKg: 31 } }, 'split', 'SP376-P908'],
    [
      'for recycling, in a scheme',
      { purpose: 'recycling', mass: 0.3, consignment: { collectionScheme: true } },
      'allowed',
      'SP377-P909',
    ],
  ] as const)('%s', (_what, facts, outcome, provision) => {
    expect(ask({ ...pack, ...facts } as ShippingFacts, sea)).toEqual([outcome, provision]);
  });
});

// 49 CFR 173.185, from memory.
describe('United States, highway and rail', () => {
  const wh = (ratedEnergy: number, more: object = {}) => ({
    nominalVoltage: undefined,
    ratedCapacity: undefined,
    ratedEnergy,
    ...more,
  });
  const cell = { series: 1, parallel: 1 };
  test.each([
    [wh(100), 'allowed', '173.185(c)'],
    [wh(100.01), 'allowed', '173.185(c)(1)(iv)'],
    [wh(300), 'allowed', '173.185(c)(1)(iv)'],
    [wh(300.01), 'allowed', '173.185(b)'],
    [wh(20, cell), 'allowed', '173.185(c)'],
    [wh(60, cell), 'allowed', '173.185(c)(1)(iv)'],
    [wh(60.01, cell), 'allowed', '173.185(b)'],
    [wh(57, { energyMarked: false, madeOn: '2008' }), 'hold', '173.185(b)'],
    [wh(400, { energyMarked: false, madeOn: '2011-12-31' }), 'allowed', '173.185(b)'],
    [wh(400, { energyMarked: false, madeOn: '2012-01-01' }), 'hold', '173.185(b)'],
    [{ package: { packs: 1, grossKg: 30 } }, 'allowed', '173.185(c)'],
    [{ package: { packs: 1, grossKg: 30.1 } }, 'split', '173.185(c)'],
    [{ placement: 'in-equipment', package: { packs: 1, grossKg: 40 } }, 'allowed', '173.185(c)'],
    [{ typeTested: 'no' }, 'forbidden', null],
  ] as const)('%j: %s %s', (facts, outcome, provision) => {
    expect(ask({ ...pack, ...facts } as ShippingFacts, usRail)).toEqual([outcome, provision]);
  });
  test.each([
    ['damaged, one', { findings: ['swollen'], package: { packs: 1 } }, us, 'allowed', '173.185(f)'],
    ['damaged, two', { findings: ['swollen'], package: { packs: 2 } }, us, 'split', '173.185(f)'],
    ['damaged, number unknown: the limit is stated', { findings: ['swollen'] }, us, 'allowed', '173.185(f)'],
    [
      'damaged, for recycling',
      { findings: ['swollen'], purpose: 'recycling', package: { packs: 1 } },
      us,
      'allowed',
      '173.185(f)',
    ],
    ['recycling by motor vehicle', { purpose: 'recycling', typeTested: 'no' }, us, 'allowed', '173.185(d)'],
    ['recycling by motor vehicle, large', { purpose: 'recycling', ...large }, us, 'allowed', '173.185(d)'],
    [
      'recycling by motor vehicle, size unknown',
      { purpose: 'recycling', ...wh(0), ratedEnergy: undefined },
      us,
      'allowed',
      '173.185(d)',
    ],
    ['recycling by rail goes on as for use', { purpose: 'recycling' }, usRail, 'allowed', '173.185(c)'],
    ['recycling by rail, never tested', { purpose: 'recycling', typeTested: 'no' }, usRail, 'forbidden', null],
  ] as const)('%s', (_what, facts, route, outcome, provision) => {
    expect(ask({ ...pack, ...facts } as ShippingFacts, route)).toEqual([outcome, provision]);
  });
  test.each([
    [{ lithiumContent: 1 }, '173.185(c)'],
    [{ lithiumContent: 1.01 }, '173.185(c)(1)(iv)'],
    [{ lithiumContent: 5 }, '173.185(c)(1)(iv)'],
    [{ lithiumContent: 5.01 }, '173.185(b)'],
    [{ series: 2, nominalVoltage: 6, lithiumContent: 25 }, '173.185(c)(1)(iv)'],
    [{ series: 2, nominalVoltage: 6, lithiumContent: 25.1 }, '173.185(b)'],
    [{ lithiumContent: undefined }, '173.185(c)'],
  ] as const)('lithium metal %j: %s', (facts, provision) => {
    expect(ask({ ...coin, ...facts } as ShippingFacts, us)).toEqual(['allowed', provision]);
  });
  test('the middle size carries the battery mark besides its text, unless waived', () => {
    expect(classify({ ...pack, ...large }, us).batteryMark).toBe(true);
    const fitted = { ...pack, ...large, placement: 'in-equipment' as const, package: { packs: 1 }, consignment: { packages: 1 } };
    expect(classify(fitted, us).batteryMark).toBe(false);
  });
});

test('a net weight that does not agree with the packs in it is asked for where it matters', () => {
  const heavy = { ...pack, mass: 0.27, placement: 'loose' as const, package: { packs: 60, netKg: 9 } };
  expect(classify(heavy, cargo)).toMatchObject({ outcome: 'hold', missing: ['package.netKg'] });
  expect(classify({ ...heavy, package: { packs: 10, netKg: 2.9 } }, cargo).outcome).toBe('allowed');
});

test('every shipping rule was reached by a table of this file', () => {
  ask(
    {
      ...pack,
      series: 4,
      ratedEnergy: 90,
      nominalVoltage: 15.2,
      ratedCapacity: 5.92,
      policy: { innerCellLimit: true },
      package: { grossKg: 1 },
    },
    road,
  );
  ask({ ...pack, ratedEnergy: 100, nominalVoltage: 15.4, ratedCapacity: 6.494, series: 4, package: { grossKg: 1 } }, road);
  ask({ ...pack, package: { packs: 3, fittedPacks: 1, netKg: 1, equipment: 1, packsPerEquipment: 1 } }, passenger);
  ask({ ...pack, package: { packs: 1, netKg: 2, grossKg: 1 } }, road);
  ask(pack, { ...road, region: 'ca' });
  // Ways without a carrier have a test of their own. The bound on a mass is used by the matrix of one pack, before the rules are asked.
  const never = [...new Set(SHIPPING_RULES.map((r) => r.id))].filter(
    (id) => !cites.has(id) && id !== 'mass-bound' && !id.startsWith('own.'),
  );
  expect(never).toEqual([]);
});
