import { rule } from '../ruling/ruling';
import type { GaugeBody, LoggedEntry, ReadingBody } from '../logbook/entry';
import { DEFAULT_POLICY, foldPack, type PolicyFacts } from '../logbook/fold';
import { ANNA, BRAM, entry, NOW, ON, PACK, soundPack } from '../logbook/testing';
import { natureOf } from '../pack/nature';
import { INSTRUMENTS } from '../quantity/uncertainty';
import { condition } from './condition';
import { ladder } from './ladder';

const judged = (entries: readonly LoggedEntry[], policy: PolicyFacts = DEFAULT_POLICY) =>
  condition(foldPack(PACK, entries)!, policy, NOW);
const codes = (entries: readonly LoggedEntry[]) => judged(entries).findings.map((f) => f.code);
const read = (body: Partial<ReadingBody> & Pick<ReadingBody, 'quantity' | 'figure'>, minutes = 5) =>
  entry('reading-taken', { instrument: INSTRUMENTS.multimeter, ...body }, { minutes });
const volts = (digits: string, more: Partial<ReadingBody> = {}, minutes = 5) =>
  read({ quantity: 'pack-voltage', figure: { digits, unit: 'V' }, restMinutes: 200, ...more }, minutes);
const cell = (point: string, digits: string, more: Partial<ReadingBody> = {}) =>
  read({ quantity: 'cell-voltage', figure: { digits, unit: 'V' }, point, restMinutes: 200, ...more });
const gauge = (body: GaugeBody) => entry('gauge-read', body, { minutes: 6 });
const withoutGauge = () => soundPack().filter((e) => e.kind !== 'gauge-read');

// The label of these packs says 11.4 V and 5000 mAh: three in series.
describe('cells that were counted while they were read', () => {
  const cells = (n: number, low = '3.800') => {
    const set = { id: 'd0000000-0000-4000-8000-000000000001', of: n };
    return Array.from({ length: n }, (_, i) => cell(String(i + 1), i === 0 ? low : '3.800', { set }));
  };
  test('as many as the label says: nothing to settle; one more or fewer: unproven, and nothing travels by its size', () => {
    expect(judged([...withoutGauge(), ...cells(3)]).condition).toBe('sound');
    for (const n of [2, 4]) {
      const j = judged([...withoutGauge(), ...cells(n)]);
      expect(j.condition).toBe('unproven');
      expect(j.contradictions.map((c) => c.relation)).toEqual(['set-series']);
      expect(j.open[0]).toMatch(`but ${n} cells were read: count the cells`);
      const r = rule(foldPack(PACK, [...withoutGauge(), ...cells(n)])!, DEFAULT_POLICY, NOW, ON);
      expect(r.cells.filter((c) => c.purpose === 'use').map((c) => c.word)).not.toContain('yes');
    }
  });
  test('a danger in them stays one, whatever the label counts', () => {
    expect(judged([...withoutGauge(), ...cells(4, '0.900')]).condition).toBe('damaged');
  });
  test('a label that says nothing of the cells is not contradicted', () => {
    const bare = withoutGauge().filter((e) => e.kind !== 'label-read');
    expect(judged([...bare, ...cells(4)]).contradictions).toEqual([]);
  });
});

describe('what the label lets us know', () => {
  test.each([
    ['the charge limit fixes the family', { nominalVoltage: '11.55', limitedChargeVoltage: '13.2' }, 3, 'HV440', 4.4],
    ['nominal volts alone fix the series count only', { nominalVoltage: '11.4' }, 3, null, 4.35],
    ['a one-decimal 7.7 V leaves three families', { nominalVoltage: '7.7' }, 2, null, 4.45],
    ['4.20 V family from its limit', { nominalVoltage: '10.8', limitedChargeVoltage: '12.6' }, 3, 'STD', 4.2],
  ] as const)('%s', (_what, label, series, family, limit) => {
    const figures = Object.fromEntries(Object.entries(label).map(([k, digits]) => [k, { digits, unit: 'V' }]));
    expect(natureOf(figures)).toMatchObject({ series, family, chargeLimit: limit });
  });
  test('figures that name different series counts are flagged, and none is taken', () => {
    const n = natureOf({ nominalVoltage: { digits: '11.4', unit: 'V' }, limitedChargeVoltage: { digits: '17.4', unit: 'V' } });
    expect(n.series).toBeNull();
    expect(n.candidates).toEqual([3, 4]);
  });
  test('a nickel pack is not forced into lithium', () => {
    expect(natureOf({ nominalVoltage: { digits: '12.0', unit: 'V' } })).toMatchObject({ series: null, chargeLimit: null });
  });
});

test('a tag that two devices gave is no sound pack until one of the two is taken back with a second person', () => {
  const elsewhere = {
    ...entry('pack-added', { tag: 'T-1', use: 'spare' }, { by: BRAM, minutes: 2 }),
    device: 'elsewhere',
  } as LoggedEntry;
  const both = [...soundPack(), elsewhere];
  expect(judged(soundPack()).condition).toBe('sound');
  expect(judged(both)).toMatchObject({ condition: 'unproven', open: [expect.stringContaining('one pack or two?')] });
  // What is dangerous stays so.
  expect(judged([...both, entry('finding-recorded', { code: 'dropped' })]).condition).toBe('damaged');
  const back = {
    ...entry('retracted', { reason: 'it is one' }, { by: BRAM, replaces: elsewhere.id, minutes: 9 }),
    waits: 'second',
  } as LoggedEntry;
  expect(judged([...both, back]).condition).toBe('unproven');
  expect(judged([...both, back, entry('confirmed', { confirms: back.id }, { by: ANNA, minutes: 10 })]).condition).toBe('sound');
  // The same device once more, as after a lost answer of an older program, is no second pack.
  expect(judged([...soundPack(), { ...elsewhere, device: 'test' } as LoggedEntry]).condition).toBe('sound');
});

describe('pack volts', () => {
  test.each([
    ['0.00', ['no-output']],
    ['7.00', ['low-voltage']],
    ['5.70', ['deep-discharge-severe']],
    ['11.40', []],
    ['13.80', ['over-voltage']],
  ] as const)('%s V on 3S of 4.35 V: %p', (digits, want) => expect(codes([...withoutGauge(), volts(digits)])).toEqual(want));
  test('with cells unknown only what holds for every count is said', () => {
    const bare = withoutGauge().filter((e) => e.kind !== 'label-read');
    expect(codes([...bare, volts('7.00')])).toEqual([]);
    expect(codes([...bare, volts('1.90')])).toEqual(['deep-discharge-severe']);
  });
  test('a short time on record makes a deep discharge soft', () => {
    const time = entry('finding-recorded', { code: 'deep-discharge', dwellHours: 3 });
    expect(codes([...withoutGauge(), volts('5.70'), time])).toEqual(['deep-discharge', 'deep-discharge']);
    expect(judged([...withoutGauge(), volts('5.70'), time]).condition).toBe('damaged');
  });
});

describe('cells', () => {
  test('one low cell among good ones is severe imbalance', () => {
    expect(codes([...withoutGauge(), cell('1', '2.40'), cell('2', '3.80'), cell('3', '3.80')])).toEqual([
      'low-voltage',
      'imbalance-severe',
    ]);
  });
  test('apart, but not rested two hours: kept, not judged as imbalance', () => {
    const taken = (restMinutes: number) => ['3.700', '3.900', '3.900'].map((d, i) => cell(String(i + 1), d, { restMinutes }));
    expect(codes([...withoutGauge(), ...taken(20)])).toEqual([]);
    expect(codes([...withoutGauge(), ...taken(150)])).toEqual(['imbalance']);
  });
  test('readings of different minutes are no set', () => {
    const apart = [
      cell('1', '3.700'),
      { ...cell('2', '3.900'), at: '2026-11-25T09:00:00.000Z', effectiveAt: '2026-11-25T09:00:00.000Z' } as LoggedEntry,
    ];
    expect(codes([...withoutGauge(), ...apart])).toEqual([]);
  });
  test('the gauge’s permanent failure counts until cleared', () => {
    expect(judged([...soundPack(), gauge({ permanentFailure: true })])).toMatchObject({
      condition: 'damaged',
      because: ['gauge-permanent-failure'],
    });
  });
  test('a family left open: over its lowest limit cannot be told, over its highest is damage', () => {
    const open = withoutGauge().map((e) =>
      e.kind === 'label-read' ? ({ ...e, body: { nominalVoltage: { digits: '7.7', unit: 'V' } } } as LoggedEntry) : e,
    );
    const exact = { instrument: { name: 'bench meter', accuracy: { percent: 0, digits: 1 } } };
    expect(judged([...open, cell('1', '4.480', exact)])).toMatchObject({ condition: 'unproven', findings: [] });
    expect(judged([...open, cell('1', '4.560', exact)])).toMatchObject({ condition: 'damaged', because: ['over-voltage'] });
  });
});

describe('heat', () => {
  const surface = (digits: string, restMinutes?: number) =>
    read({
      quantity: 'surface-temperature',
      figure: { digits, unit: '°C' },
      instrument: INSTRUMENTS.contactProbe,
      ...(restMinutes !== undefined && { restMinutes }),
    });
  const room = (digits: string, minutes: number) =>
    read({ quantity: 'room-temperature', figure: { digits, unit: '°C' }, instrument: INSTRUMENTS.contactProbe }, minutes);
  test('over the room counts after half an hour at rest, against a room taken near it in time', () => {
    expect(judged([...soundPack(), room('20.0', 0), surface('34.0', 45)]).condition).toBe('critical');
    expect(judged([...soundPack(), room('20.0', 0), surface('34.0', 5)]).condition).toBe('sound');
    expect(judged([...soundPack(), room('20.0', 60), surface('34.0', 45)]).condition).toBe('sound');
  });
  test('close to the border is too close to tell', () => {
    expect(judged([...soundPack(), surface('59.5')])).toMatchObject({
      condition: 'unproven',
      open: expect.arrayContaining(['the surface temperature is too close to tell']),
    });
  });
  test.each([
    ['158', '72', ['hot']],
    ['72', '71', []],
  ])('a surface of %s °F in a room of %s °F: %j', (surface, room, found) => {
    const degrees = (quantity: 'surface-temperature' | 'room-temperature', digits: string) =>
      read({ quantity, figure: { digits, unit: '°F' }, instrument: INSTRUMENTS.contactProbe, restMinutes: 200 });
    const all = [...soundPack(), degrees('room-temperature', room), degrees('surface-temperature', surface)];
    expect(codes(all)).toEqual(found);
  });
});

describe('the two schools of swelling', () => {
  const t0 = entry('reading-taken', {
    quantity: 'new-thickness',
    figure: { digits: '5.00', unit: 'mm' },
    source: 'measured-new',
  });
  const at = (digits: string) => [
    ...soundPack(),
    t0,
    read({ quantity: 'thickness', figure: { digits, unit: 'mm' }, point: 'centre', instrument: INSTRUMENTS.calliper }),
  ];
  test.each([
    ['5.40', 'damaged', 'sound'],
    ['5.47', 'damaged', 'spent'],
    ['5.70', 'damaged', 'damaged'],
    ['5.05', 'sound', 'sound'],
  ])('%s mm of 5.00: %s under any, %s under allowance', (digits, any, allowance) => {
    expect(judged(at(digits)).condition).toBe(any);
    const got = judged(at(digits), { ...DEFAULT_POLICY, swelling: 'allowance' }).condition;
    expect(digits === '5.47' ? ['spent', 'unproven'] : [allowance]).toContain(got);
  });
  // 0.2126 inch is 5.40 mm, 0.1988 inch 5.05 mm; 5.00 mm when new.
  test.each([
    ['0.2126', 'damaged'],
    ['0.1988', 'sound'],
  ])('%s inch are judged as millimetres are: %s', (digits, verdict) => {
    const [t, ...rest] = at('5.00').reverse() as [LoggedEntry, ...LoggedEntry[]];
    const inch = { ...t, body: { ...(t.body as ReadingBody), figure: { digits, unit: 'inch' } } } as LoggedEntry;
    expect(judged([...rest, inch]).condition).toBe(verdict);
  });
  test('a sign decides whatever the number', () => {
    expect(judged([...at('5.00'), entry('finding-recorded', { code: 'swollen', note: 'rocks' })]).condition).toBe('damaged');
  });
});

describe('charge and health', () => {
  const electrical = (entries: readonly LoggedEntry[]) => rule(foldPack(PACK, entries)!, DEFAULT_POLICY, NOW, ON).electrical;
  test('the newer of gauge and rest voltage counts', () => {
    expect(electrical(soundPack()).charge!.from).toBe('gauge');
    expect(electrical([...soundPack(), volts('11.40', {}, 30)]).charge!.from).toBe('rest voltage');
  });
  test('a voltage taken too early says why there is no charge', () => {
    const e = electrical([...withoutGauge(), volts('11.40', { restMinutes: 5, flow: 'charge' })]);
    expect(e.charge).toBeNull();
    expect(e.whyNot).toContain('it reads too high');
  });
  test('11.4 V rested on 3S: the upper end is above the table value, and energy aboard follows', () => {
    const { charge } = electrical([...withoutGauge(), volts('11.40')]);
    expect(charge!.ofFull!.lo).toBeLessThan(37);
    expect(charge!.ofFull!.hi).toBeGreaterThan(37);
    expect(charge!.aboard!.hi).toBeLessThan(57 * 0.65);
    expect(charge!.aboard!.lo).toBeGreaterThan(5);
  });
  test('a doubted gauge reading is no evidence', () => {
    const all = soundPack();
    const g = all.find((e) => e.kind === 'gauge-read')!;
    expect(electrical([...all, entry('retracted', { reason: 'other pack' }, { replaces: g.id })]).charge).toBeNull();
  });
  test('health from full charge over design; an untrusted gauge is said', () => {
    expect(electrical(soundPack()).health).toMatchObject({ band: 'good', trusted: true });
    const worn = gauge({
      designCapacity: { digits: '5000', unit: 'mAh' },
      fullChargeCapacity: { digits: '2900', unit: 'mAh' },
      maxError: 15,
    });
    expect(electrical([...soundPack(), worn]).health).toMatchObject({ band: 'replace', trusted: false });
    expect(judged([...soundPack(), worn]).condition).toBe('sound');
  });
});

// Classes of SP 376 with its note, substance from memory; order is our cautious reading.
describe('the ladder of codes', () => {
  test.each([
    [['worn-out'], {}, 'spent'],
    [['worn-out', 'swollen'], {}, 'damaged'],
    [['dropped'], { cleared: ['dropped'] }, 'sound'],
    [['dropped', 'wet'], { cleared: ['dropped'] }, 'damaged'],
    [['safety-recall'], { cleared: true }, 'damaged'],
    [['safety-recall'], { makerCleared: true }, 'sound'],
    [['leaking'], { cleared: true }, 'critical'],
    [['leaking'], { quieted: ['leaking'] }, 'damaged'],
    [['smell', 'hot-while-charging'], { cleared: true }, 'critical'],
    [['purple'], {}, 'unproven'],
    [['purple', 'crushed'], {}, 'damaged'],
    [[], { conditionKnown: false }, 'unproven'],
    [['cannot-examine'], {}, 'damaged'],
  ] as const)('%p with %p is %s', (findings, more, want) => expect(ladder({ findings, ...more }).condition).toBe(want));
  test('nobody has looked is unproven, not sound', () => expect(ladder({}).condition).toBe('unproven'));
});

test('from a part of the record nothing mild follows, and nothing that stands is lost', () => {
  const part = (entries: readonly LoggedEntry[]) =>
    condition({ ...foldPack(PACK, entries)!, partial: true }, DEFAULT_POLICY, NOW);
  expect(judged(soundPack()).condition).toBe('sound');
  expect(part(soundPack())).toMatchObject({
    condition: 'unproven',
    open: expect.arrayContaining(['only a part of its record is on this device']) as unknown,
  });
  for (const code of ['dropped', 'hissing'] as const) {
    const found = [...soundPack(), entry('finding-recorded', { code })];
    expect(part(found).condition).toBe(judged(found).condition);
  }
});
