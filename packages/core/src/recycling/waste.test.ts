import { FIRE_RULES, fireCheck, type StoredGroup } from '../storage/fire-code';
import { METALS, metalsOf } from './metals';
import { WASTE, WASTE_RULES } from './rules-waste';
import { type MovementAsked, movementOf, unknownOf } from './movement';
import { type WasteAsked, wasteOf } from './waste';

const spent: WasteAsked = {
  condition: 'spent',
  purpose: null,
  since: '2026-03-05T10:00:00Z',
  region: 'eu',
  on: '2026-11-08',
  code: null,
};

test('metals of a drum: an interval that grows with its mass, and never more than the drum', () => {
  const of = (kg: number) => METALS.map((m) => metalsOf(kg)[m]);
  expect(of(0).every((x) => x.lo === 0 && x.hi === 0)).toBe(true);
  expect(of(10).every((x, i) => x.lo > 0 && x.lo < x.hi && Math.abs(x.hi / of(20)[i]!.hi - 0.5) < 1e-12)).toBe(true);
  expect(of(10).reduce((sum, x) => sum + x.hi, 0)).toBeLessThan(10);
  expect(() => metalsOf(-1)).toThrow(RangeError);
});

// 40 CFR 273 and Regulation (EU) 2023/1542, from memory; the digits of the new codes are to be looked up.
describe('as waste', () => {
  test.each([
    ['2026-11-08', '16 06 05'],
    ['2026-11-09', '16 06 07*'],
  ])('code in Europe on %s: %s', (on, code) => expect(wasteOf({ ...spent, on })!.code).toBe(code));
  test('Great Britain keeps the old code, the workshop’s own comes first', () => {
    expect(wasteOf({ ...spent, region: 'uk', on: '2027-01-01' })!.code).toBe('16 06 05');
    expect(wasteOf({ ...spent, on: '2027-01-01', code: '16 06 99' })!.code).toBe('16 06 99');
  });
  test.each([
    ['2026-03-05T10:00:00Z', '2027-03-05'],
    ['2028-02-29T10:00:00Z', '2029-02-28'],
    [null, null],
  ])('United States: waste since %s leaves by %s', (since, until) => {
    expect(wasteOf({ ...spent, region: 'us', since })).toMatchObject({ until, code: null });
  });
  test('damaged goes into a closed container; sound is no waste until somebody means it so; critical is moved by nobody', () => {
    expect(wasteOf({ ...spent, region: 'us', condition: 'damaged' })!.rules).toContain('waste.us.damaged');
    expect(wasteOf({ ...spent, condition: 'sound' })).toBeNull();
    expect(wasteOf({ ...spent, condition: 'sound', purpose: 'recycling' })).not.toBeNull();
    expect(wasteOf({ ...spent, condition: 'critical', purpose: 'disposal' })).toBeNull();
  });
  test('figures change on their day', () => {
    expect([
      WASTE.on('waste.eu.efficiency', '2030-12-30')!.figures.percent,
      WASTE.on('waste.eu.efficiency', '2030-12-31')!.figures.percent,
    ]).toEqual([65, 70]);
    expect([WASTE.on('waste.eu.removable', '2027-02-17'), WASTE.on('waste.eu.removable', '2027-02-18')?.id]).toEqual([
      undefined,
      'waste.eu.removable',
    ]);
  });
  test('every rule has a source and a certainty', () => {
    for (const r of [...WASTE_RULES, ...FIRE_RULES])
      expect([r.source.length > 3, 'HML'.includes(r.certainty)]).toEqual([true, true]);
  });
});

// International Fire Code 2024 §320, from memory: 15 and 7.5 cubic feet, 3, 10 and 5 feet.
describe('thresholds of the fire code', () => {
  const group: StoredGroup = { litres: 212, apart: 0.91, combustibleBeside: false, toExit: 1.52 };
  const hits = (...groups: StoredGroup[]) => fireCheck(groups).map((l) => l.rule);
  test('at the limit is inside', () => expect(hits(group, group)).toEqual([]));
  test.each([
    ['fire.group', { litres: 213 }],
    ['fire.apart', { apart: 0.9 }],
    ['fire.apart', { apart: 3.04, combustibleBeside: true }],
    ['fire.exit', { toExit: 1.51 }],
    ['fire.group', { litres: undefined }],
    ['fire.apart', { apart: undefined }],
    ['fire.exit', { toExit: undefined }],
  ])('%s beyond it or not known: %j', (rule, more) =>
    expect(hits({ ...group, litres: 200, ...more }, { ...group, litres: 200 })).toEqual([rule]),
  );
  test('what may burn beside it is taken to be there until somebody looked', () => {
    expect(hits({ litres: 100, apart: 2, toExit: 3 })).toEqual(['fire.apart']);
  });
  test('all together over the permit', () => expect(hits(group, group, { ...group, litres: 2 })).toEqual(['fire.permit']));
});

// Directive 2008/98/EC, Regulations (EC) 1013/2006 and (EU) 2024/1157, SI 2005/894, SI 2011/988, 40 CFR 273; from memory.
describe('waste that leaves', () => {
  const load: MovementAsked = {
    ...{ region: 'eu', on: '2026-12-01', code: null, crossesBorder: null },
    ...{ producer: null, carrier: null, consignee: null, notification: null },
  };
  const asked = (a: Partial<MovementAsked>) => unknownOf(movementOf({ ...load, ...a })).map((s) => s.asks);
  test.each<[string, Partial<MovementAsked>, readonly unknown[]]>([
    ['Europe, the day before it is hazardous', { on: '2026-11-08' }, ['carrier', 'consignee', 'crossesBorder']],
    ['Europe, from that day on', { on: '2026-11-09' }, ['carrier', 'consignee', 'producer', 'crossesBorder']],
    ['over a border as hazardous waste', { crossesBorder: true }, ['carrier', 'consignee', 'producer', 'notification']],
    ['over a border before', { on: '2026-11-08', crossesBorder: true }, ['carrier', 'consignee']],
    ['Great Britain, by the old code', { region: 'uk' }, ['carrier', 'crossesBorder']],
    [
      'Great Britain, by a hazardous code',
      { region: 'uk', code: '16 06 02*' },
      ['carrier', 'consignee', 'producer', 'crossesBorder'],
    ],
    ['United States, abroad', { region: 'us', crossesBorder: true }, ['producer', 'consignee', 'notification']],
    ['where no law is held', { region: 'ca' }, []],
  ])('%s', (_where, a, facts) => expect(asked(a)).toEqual(facts));
  test('where no law is held it is said to look it up; blanks are no number', () => {
    expect(movementOf({ ...load, region: 'ch' }).says).toMatch(/look it up/);
    expect(asked({ carrier: '  ', consignee: 'P 1', producer: 'N', crossesBorder: false })).toEqual(['carrier']);
  });
  test('the regulation that asks for the notification is the one in force on the day', () => {
    const rule = (on: string) => WASTE.on('waste.eu.shipment', on)!.source;
    expect([rule('2026-05-20'), rule('2026-05-21')]).toEqual([
      expect.stringContaining('1013/2006'),
      expect.stringContaining('2024/1157'),
    ]);
  });
  test('more that is said never asks for more, but for the border', () => {
    const facts = ['producer', 'carrier', 'consignee', 'notification'] as const;
    for (const region of ['eu', 'uk', 'us', 'ch', 'ca', 'international'] as const)
      for (const on of ['2026-01-01', '2026-11-08', '2026-11-09'])
        for (const crossesBorder of [null, false, true])
          for (const f of facts) {
            const before = asked({ region, on, crossesBorder });
            expect(asked({ region, on, crossesBorder, [f]: '1' })).toEqual(before.filter((x) => x !== f));
          }
  });
});
