import fc from 'fast-check';
import { rule, type Ruling } from '../ruling/ruling';
import type { GaugeBody, LabelBody, LoggedEntry, ReadingBody } from '../logbook/entry';
import { DEFAULT_POLICY, foldPack } from '../logbook/fold';
import { ALL_GROUPS, entry, NOW, ON, PACK } from '../logbook/testing';
import { chargeFromRest } from '../pack/charge';
import { judgeImbalance } from '../pack/imbalance';
import { natureOf, naturesOf } from '../pack/nature';
import { INSTRUMENTS } from '../quantity/uncertainty';
import { seriesOf } from './series';

// What a pack is when its facts contradict each other, or when one of them was not said. Thresholds: trade convention, no source.
const V = (digits: string) => ({ digits, unit: 'V' as const });
const mAh = (digits: string) => ({ digits, unit: 'mAh' as const });
const FULL: LabelBody = {
  chemistry: 'li-ion',
  nominalVoltage: V('11.4'),
  ratedCapacity: mAh('5000'),
  ratedEnergy: { digits: '57', unit: 'Wh' },
  limitedChargeVoltage: V('13.05'),
  madeOn: '2021-05',
  energyMarked: true,
};
const looked = () => [
  entry('pack-added', { tag: 'T-1', use: 'removed' }),
  entry('looked', { groups: [...ALL_GROUPS] }),
  entry('evidence-stated', { typeTested: 'yes' }),
];
const label = (body: LabelBody) => entry('label-read', body);
const without = (...keys: (keyof LabelBody)[]): LabelBody =>
  Object.fromEntries(Object.entries(FULL).filter(([k]) => !keys.includes(k as keyof LabelBody)));
const volts = (digits: string, minutes = 5, more: Partial<ReadingBody> = {}) =>
  entry(
    'reading-taken',
    { quantity: 'pack-voltage', figure: V(digits), instrument: INSTRUMENTS.multimeter, restMinutes: 200, ...more },
    { minutes },
  );
const SET = 'd0000000-0000-4000-8000-00000000000';
const cells = (digits: readonly string[], minutes = 10, more: Partial<ReadingBody> = {}, set = `${SET}1`, of = digits.length) =>
  digits.map((d, i) =>
    entry(
      'reading-taken',
      {
        quantity: 'cell-voltage',
        figure: V(d),
        point: String(i + 1),
        instrument: INSTRUMENTS.multimeter,
        restMinutes: 200,
        set: { id: set, of },
        ...more,
      },
      { minutes: minutes + i * 0.2 },
    ),
  );
const gauge = (body: GaugeBody, minutes = 6) => entry('gauge-read', body, { minutes });
const full = (left: string, more: Partial<GaugeBody> = {}): GaugeBody => ({
  designCapacity: mAh('5000'),
  fullChargeCapacity: mAh('4600'),
  remainingCapacity: mAh(left),
  maxError: 2,
  ...more,
});
const ruling = (entries: readonly LoggedEntry[]): Ruling => rule(foldPack(PACK, entries)!, DEFAULT_POLICY, NOW, ON);
const state = (...entries: readonly LoggedEntry[]) => ruling([...looked(), ...entries]).judgement.condition;
const codes = (...entries: readonly LoggedEntry[]) => ruling([...looked(), ...entries]).judgement.findings.map((f) => f.code);
const good = () => cells(['3.780', '3.781', '3.779']);

test('label, looks and every cell of one set: sound', () => expect(state(label(FULL), ...good())).toBe('sound'));

describe('cells in series', () => {
  test.each([
    ['nobody knows them: 5.00 V', without('nominalVoltage', 'limitedChargeVoltage'), '5.00', 'unproven'],
    ['nobody knows them: 11.40 V', without('nominalVoltage', 'limitedChargeVoltage'), '11.40', 'unproven'],
    [
      '11.4 V against a designation of four, 7.00 V',
      { ...without('limitedChargeVoltage'), designation: '4ICP5/57/101' },
      '7.00',
      'damaged',
    ],
    [
      '11.4 V against a designation of four, 11.40 V',
      { ...without('limitedChargeVoltage'), designation: '4ICP5/57/101' },
      '11.40',
      'unproven',
    ],
    ['a limit of 17.4 V alone, 17.90 V', { chemistry: 'li-ion', limitedChargeVoltage: V('17.4') }, '17.90', 'unproven'],
    ['19.2 V is five or six, 9.00 V', { chemistry: 'li-ion', nominalVoltage: V('19.2') }, '9.00', 'damaged'],
    ['label says three, the meter more than three can have', FULL, '14.20', 'damaged'],
  ] as const)('%s', (_what, body, digits, want) => expect(state(label(body as LabelBody), volts(digits))).toBe(want));
  test('a contradiction heads what is worth taking next, and names both facts', () => {
    const r = ruling([...looked(), label({ ...FULL, series: 4 }), ...good()]);
    expect(r.judgement).toMatchObject({
      condition: 'unproven',
      contradictions: [{ relation: 'label-series' }, { relation: 'label-limit' }],
    });
    expect(r.next[0]).toMatchObject({ card: 'label', words: '4 in series, but 11.4 V is 3 in series: count the cells' });
    expect(r.cells.filter((c) => c.purpose === 'use').every((c) => c.word === 'hold' || c.word === 'no')).toBe(true);
  });
  test('nickel cells are not judged as lithium, nor lithium as nickel', () => {
    const nickel: LabelBody = { chemistry: 'ni-mh', nominalVoltage: V('9.6'), ratedCapacity: mAh('4000') };
    expect(naturesOf(nickel)).toMatchObject([{ series: 8, lithium: false, curves: [] }]);
    expect(codes(label(nickel), volts('8.20'))).toEqual([]);
    expect(ruling([...looked(), label(nickel), volts('9.60')]).electrical.charge).toBeNull();
  });
});

describe('over the charge limit', () => {
  test('without a known limit the highest of the chemistry counts', () => {
    expect(codes(label({ chemistry: 'li-ion' }), ...cells(['5.200', '5.201', '5.199']))).toContain('over-voltage');
    expect(state(label({ chemistry: 'li-ion' }), ...cells(['4.700', '4.701', '4.699']))).toBe('damaged');
  });
  test('a limit of 21.0 V is five cells of 4.2 V', () =>
    expect(
      codes(label({ chemistry: 'li-ion', limitedChargeVoltage: V('21.0') }), ...cells(Array.from({ length: 5 }, () => '4.650'))),
    ).toContain('over-voltage'));
});

describe('one set of cells', () => {
  const odd = ['3.780', '3.781', '3.400'];
  test.each([
    ['over the turn of a minute', cells(odd, 9.9)],
    ['over the turn of an hour, told late', cells(odd, 59.9).reverse()],
    ['by an older device that names no set', cells(odd, 9.9, { set: undefined })],
  ])('%s: the low cell counts', (_what, set) => expect(state(label(FULL), ...set)).toBe('damaged'));
  test('three good readings after it in the same minute do not hide it, nor does taking it back', () => {
    const bad = cells(odd, 10);
    const after = cells(['3.780', '3.781', '3.779'], 10.1, {}, `${SET}2`);
    const back = entry('retracted', { reason: 'slipped' }, { replaces: bad[2]!.id, minutes: 11 });
    expect(state(label(FULL), ...bad, ...after)).toBe('damaged');
    expect(state(label(FULL), ...bad, ...after, back)).toBe('damaged');
  });
  test('a part of a set passes nothing, and a part that breaches still breaches', () => {
    const part = cells(['3.780', '3.781'], 10, {}, `${SET}1`, 3);
    expect(ruling([...looked(), label(FULL), ...part]).stream.stream).toBe('hold');
    expect(state(label(FULL), ...part)).toBe('unproven');
    expect(state(label(FULL), ...cells(['3.780', '3.400'], 10, {}, `${SET}1`, 3))).toBe('damaged');
    // One of three, three times over, is one of three.
    expect(state(label(FULL), ...cells(['3.780', '3.780', '3.780'], 10, { point: '1' }))).toBe('unproven');
  });
  test('the set must be of the cells the label names', () =>
    expect(state(label(FULL), ...cells(['3.780', '3.781', '3.779', '3.780']))).toBe('unproven'));
  test('a rest nobody stated is judged and asked; one too short says nothing', () => {
    const unsaid = ruling([...looked(), label(FULL), ...cells(odd, 10, { restMinutes: undefined })]);
    expect(unsaid.judgement).toMatchObject({ condition: 'damaged', asked: [expect.stringContaining('rest')] });
    expect(state(label(FULL), ...cells(odd, 10, { restMinutes: 5 }))).toBe('unproven');
  });
  test('pack volts never pass a cell: sound and reuse need every cell, or one full cycle in a host', () => {
    expect(state(label(FULL), volts('8.00'))).toBe('unproven');
    expect(state(label(FULL), volts('11.40'))).toBe('unproven');
    const cycled = entry('cycled', { went: 'as-usual' }, { minutes: 30 });
    const r = ruling([...looked(), label(FULL), volts('11.40'), cycled]);
    expect([r.judgement.condition, r.stream.stream]).toEqual(['sound', 'reuse']);
    expect(state(label(FULL), volts('11.40'), cycled, entry('cycled', { went: 'not-as-usual' }, { minutes: 40 }))).toBe(
      'unproven',
    );
  });
});

describe('imbalance', () => {
  test('is not cut off at the ends of a curve: 180 mV at 4.43 V', () =>
    expect(judgeImbalance([4.43, 4.25], ['LCO_4.20'], 0.003)).toMatchObject({ grade: 'bad', code: 'imbalance' }));
  test('respects a bend inside the uncertainty interval: more doubt on the flat side than by one slope', () => {
    // 3.61 V is where the steep foot of the curve ends.
    const { limit } = judgeImbalance([3.62, 3.6], ['LCO_4.20'], 0.04);
    expect(limit.u).toBeGreaterThan(1.5);
  });
  test('more spread is never better', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3000, max: 4500 }),
        fc.integer({ min: 0, max: 400 }),
        fc.integer({ min: 0, max: 100 }),
        (mv, d, more) => {
          const of = (x: number) => judgeImbalance([mv / 1000, (mv - x) / 1000], ['HV_4.35', 'LCO_4.20'], 0.003).charge;
          return of(d + more) >= of(d) - 1e-9;
        },
      ),
    );
  });
});

describe('heat', () => {
  const surface = (digits: string, restMinutes?: number) =>
    entry(
      'reading-taken',
      {
        quantity: 'surface-temperature',
        figure: { digits, unit: '°C' },
        instrument: INSTRUMENTS.contactProbe,
        ...(restMinutes !== undefined && { restMinutes }),
      },
      { minutes: 20 },
    );
  const room = entry(
    'reading-taken',
    { quantity: 'room-temperature', figure: { digits: '21.0', unit: '°C' }, instrument: INSTRUMENTS.contactProbe },
    { minutes: 21 },
  );
  test.each([
    ['room and rest', [surface('45.0', 45), room], 'critical'],
    ['no room', [surface('45.0', 45)], 'unproven'],
    ['no rest', [surface('45.0'), room], 'unproven'],
    ['neither', [surface('45.0')], 'unproven'],
    ['over 60 whatever else', [surface('63.0')], 'critical'],
    ['24 degrees', [surface('24.0')], 'sound'],
  ] as const)('45 degrees, %s', (_what, entries, want) => expect(state(label(FULL), ...good(), ...entries)).toBe(want));
});

describe('charge', () => {
  const charge = (...entries: readonly LoggedEntry[]) => ruling([...looked(), label(FULL), ...good(), ...entries]).electrical;
  test('what changes it makes older readings void, and what was said then counts', () => {
    const g = gauge(full('920'));
    expect(charge(g).charge!.ofRated.hi).toBeLessThan(30);
    expect(charge(g, entry('topped-up', { to: 80 }, { minutes: 30 })).charge!.ofFull).toEqual({ lo: 75, hi: 85 });
    const used = entry('refitted', { back: [] }, { minutes: 30 });
    expect(charge(g, used)).toMatchObject({ charge: null, whyNot: expect.stringContaining('since it was measured') });
    expect(charge(g, entry('brought-down', { to: 30, how: 'notebook' }, { minutes: 30 })).charge).toBeNull();
    expect(charge(g, used, gauge(full('920'), 60)).charge!.from).toBe('gauge');
  });
  test('two that do not agree within a day: the higher counts, it is said, and the pack is not vouched for', () => {
    const r = ruling([
      ...looked(),
      label(FULL),
      ...good(),
      volts('13.00', 5),
      volts('11.00', 5.5, { instrument: { ...INSTRUMENTS.multimeter, name: 'other' } }),
    ]);
    expect(r.electrical.charge!.ofFull.hi).toBeGreaterThan(95);
    expect(r.judgement.condition).toBe('unproven');
    expect(r.judgement.contradictions.map((c) => c.relation)).toEqual(['charge-agree']);
  });
  test.each([
    [
      'a unit trap: mWh that are mAh',
      {
        fullChargeCapacity: { digits: '4600', unit: 'mWh' as const },
        designCapacity: { digits: '5000', unit: 'mWh' as const },
        remainingCapacity: { digits: '920', unit: 'mWh' as const },
      },
      /looks like mAh/,
    ],
    [
      'mAh that are mWh',
      { fullChargeCapacity: mAh('52000'), designCapacity: mAh('57000'), remainingCapacity: mAh('10400') },
      /looks like mWh/,
    ],
    ['more left than full', full('5200'), /left of/],
    ['full 0', full('0', { fullChargeCapacity: mAh('0') }), /capacity of 0 mAh/],
  ] as const)('a gauge that contradicts the label or itself is not used: %s', (_what, body, words) => {
    const r = ruling([...looked(), label(FULL), ...good(), gauge(body as GaugeBody)]);
    expect(r.electrical.charge).toBeNull();
    expect(r.judgement.condition).toBe('unproven');
    expect(r.judgement.contradictions.map((c) => c.sentence).join()).toMatch(words);
    expect(JSON.stringify(r)).not.toMatch(/NaN|Infinity/);
  });
  test('a full-charge capacity that is nearly nothing does not make a full pack fly', () => {
    const e = charge(gauge(full('1180', { fullChargeCapacity: mAh('1200'), maxError: undefined })), volts('12.95', 7));
    expect(e.charge!.ofRated.hi).toBeGreaterThan(90);
  });
  test('the gauge’s own error widens health; unknown it counts as 5 points', () => {
    const range = (maxError?: number) => charge(gauge(full('920', { maxError }))).health!.range;
    expect(range()).toEqual({ lo: expect.closeTo(0.87, 9), hi: expect.closeTo(0.97, 9) });
    expect(range(8)).toEqual({ lo: expect.closeTo(0.84, 9), hi: expect.closeTo(1, 9) });
  });
  test('a label with fewer digits never gives a narrower charge', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1050, max: 1179 }), fc.integer({ min: 33, max: 44 }), (hundredths, tenths) => {
        const at = (digits: string) => {
          const n = natureOf({ nominalVoltage: V(digits) });
          return n.series === 3 ? chargeFromRest(tenths / 10, 0.005, n.curves, n.families) : null;
        };
        const [fine, coarse] = [at((hundredths / 100).toFixed(2)), at((hundredths / 100).toFixed(1))];
        return !fine || !coarse || (coarse.lo <= fine.lo + 1e-9 && coarse.hi >= fine.hi - 1e-9);
      }),
      { numRuns: 2000 },
    );
  });
});

test('a reading without an instrument is never more exact than one with the usual one', () => {
  const u = (quantity: ReadingBody['quantity'], digits: string, unit: string, instrument?: ReadingBody['instrument']) =>
    seriesOf(
      foldPack(PACK, [
        entry('pack-added', { tag: 'T', use: 'spare' }),
        entry('reading-taken', { quantity, figure: { digits, unit }, ...(instrument && { instrument }) }),
      ])!.readings,
      quantity,
    )[0]!.u;
  expect(u('pack-voltage', '11.40', 'V')).toBeGreaterThan(u('pack-voltage', '11.40', 'V', INSTRUMENTS.multimeter));
  expect(u('thickness', '5.10', 'mm')).toBeGreaterThan(u('thickness', '5.10', 'mm', INSTRUMENTS.calliper));
  expect(u('surface-temperature', '30.0', '°C')).toBeGreaterThan(
    u('surface-temperature', '30.0', '°C', INSTRUMENTS.contactProbe),
  );
  expect(u('mass', '270', 'g')).toBeGreaterThan(u('mass', '270', 'g', INSTRUMENTS.scale));
});

test('a weight that no such pack can have is asked about; kept, it stands', () => {
  const mass = (confirmedOdd?: true) =>
    entry('reading-taken', { quantity: 'mass', figure: { digits: '27', unit: 'g' }, ...(confirmedOdd && { confirmedOdd }) });
  expect(ruling([...looked(), label(FULL), ...good(), mass()]).judgement.contradictions.map((c) => c.relation)).toEqual([
    'mass-energy',
  ]);
  expect(state(label(FULL), ...good(), mass(true))).toBe('sound');
});
