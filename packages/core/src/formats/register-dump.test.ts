import fc from 'fast-check';
import { parseGaugeText } from './gauge-text';
import { randomOf } from '../practice/random';
import { registersOf } from '../practice/registers';
import { packWith } from '../practice/world';
import { parseRegisterDump } from './register-dump';
import { packetErrorCode } from './smart-battery';

const hex = (x: number, digits: number) => x.toString(16).toUpperCase().padStart(digits, '0');
const lines = (words: Readonly<Record<number, number>>, how: (at: number, word: number) => string) =>
  Object.entries(words)
    .map(([at, word]) => how(Number(at), word))
    .join('\n');
const pec = (at: number, word: number) => packetErrorCode([0x16, at, 0x17, word & 0xff, word >> 8]);
const WIRE = (at: number, w: number) => `${hex(at, 2)} ${hex(w & 0xff, 2)} ${hex(w >> 8, 2)} ${hex(pec(at, w), 2)}`;

/** 4400 mAh design, 3900 full, 2100 left; initialized and discharging; edition 1.1 with PEC; 23 August 2019. */
const WORDS = { 0x03: 0x0000, 0x08: 2982, 0x09: 11_400, 0x0c: 2, 0x0d: 54, 0x0f: 2100, 0x10: 3900, 0x16: 0x00c0 } as const;
const MORE = { ...WORDS, 0x17: 212, 0x18: 4400, 0x19: 11_100, 0x1a: 0x0031, 0x1b: 0x4f17, 0x1c: 4711 } as const;
/** Packet error codes worked by hand in SMBus 2.0's own way: a word of 11400 mV, and the block "LION". */
const WORKED = ['09 88 2C B1', '22 04 4C 49 4F 4E 31', '08 A6 0B 2A', '1B 17 4F F6'].join('\n');

test('the worked packet error codes are right, and one changed bit anywhere in a line is found', () => {
  expect(parseRegisterDump(WORKED)).toMatchObject({ volts: { digits: '11400', unit: 'mV' }, model: 'made 2019-08-23' });
  expect(parseRegisterDump(WORKED)!.doubts.join()).not.toMatch(/check byte/);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 0xffff }), fc.integer({ min: 0, max: 23 }), (w, bit) => {
      const bytes = [w & 0xff, w >> 8, pec(0x0f, w)].map((b, i) => (i === Math.floor(bit / 8) ? b ^ (1 << (bit % 8)) : b));
      const spoilt = `${WORKED}\n0F ${bytes.map((b) => hex(b, 2)).join(' ')}`;
      expect(parseRegisterDump(spoilt)!.doubts).toContainEqual('check byte wrong, left out: 0x0F');
    }),
  );
});

test.each([
  ['words', (at: number, w: number) => `${hex(at, 2)} ${hex(w, 4)}`],
  ['words with 0x and a colon', (at: number, w: number) => `0x${hex(at, 2)}: 0x${hex(w, 4)}`],
  [
    'small letters, an equals sign and the check byte',
    (at: number, w: number) => `${hex(at, 2)} = 0x${hex(w, 4).toLowerCase()} 0x${hex(pec(at, w), 2)}`,
  ],
  ['bytes of the wire, low one first, with their check byte', WIRE],
])('%s: the same battery', (_name, how) => {
  const [b] = parseGaugeText(lines(MORE, how));
  expect(b).toMatchObject({
    serial: '4711',
    shown: 54,
    nominal: { digits: '11100', unit: 'mV' },
    gauge: {
      designCapacity: { digits: '4400', unit: 'mAh' },
      fullChargeCapacity: { digits: '3900', unit: 'mAh' },
      remainingCapacity: { digits: '2100', unit: 'mAh' },
      cycleCount: 212,
      maxError: 2,
    },
  });
  expect(b!.doubts.filter((d) => !/no check bytes/.test(d))).toEqual([]);
  expect(b!.doubts.some((d) => /no check bytes/.test(d))).toBe(!/check byte/.test(_name));
});

const dump = (changed: Readonly<Record<number, number | undefined>>) => {
  const words = Object.fromEntries(Object.entries({ ...MORE, ...changed }).filter(([, w]) => w !== undefined)) as Record<
    number,
    number
  >;
  return parseRegisterDump(lines(words, WIRE))!;
};

test('capacity mode and scale: ten milliwatt-hours, and powers of ten; a gauge that does not say which gives no capacity', () => {
  expect(dump({ 0x03: 0x8000, 0x18: 4884, 0x10: 4329, 0x0f: 2331 }).gauge.designCapacity).toEqual({
    digits: '48840',
    unit: 'mWh',
  });
  expect(dump({ 0x1a: 0x1131, 0x18: 440, 0x10: 390, 0x0f: 210, 0x09: 1140 })).toMatchObject({
    gauge: { fullChargeCapacity: { digits: '3900', unit: 'mAh' } },
    volts: { digits: '11400', unit: 'mV' },
  });
  for (const [without, words] of [
    [{ 0x03: undefined }, /mode \(0x03\) was not read/],
    [{ 0x1a: 0x7731 }, /none that is defined/],
  ] as const) {
    const b = dump(without);
    expect(Object.keys(b.gauge).filter((k) => k.endsWith('Capacity'))).toEqual([]);
    expect(b.doubts.join()).toMatch(words);
  }
});

test.each([
  [{ 0x16: 0x10c0 }, /over temp alarm: look at the pack/],
  [{ 0x16: 0x80c0 }, /over charged alarm/],
  [{ 0x16: 0x0040 }, /never initialized/],
  [{ 0x16: 0x00c4 }, /AccessDenied/],
  [{ 0x08: 3232 }, /50 °C inside: keep away/],
  [{ 0x08: 0 }, /sensor is off/],
  [{ 0x1b: 0x0000 }, /no day of the calendar/],
  [{ 0x0d: 80 }, /shows 80 %, and 54 % by its own figures/],
  [{ 0x10: 6000 }, /% of design: left out/],
  [{ 0x0f: 5000 }, /more charge left than full/],
] as const)('%j is doubted in words', (changed, words) => expect(dump(changed).doubts.join('; ')).toMatch(words));

test('cells are taken where they add up to the whole, and all ones are not a figure', () => {
  const cells = { 0x3f: 3800, 0x3e: 3801, 0x3d: 3799, 0x3c: 0 };
  expect(dump(cells).gauge.cellVoltages?.map((c) => c.digits)).toEqual(['3800', '3801', '3799']);
  expect(dump({ ...cells, 0x3d: 3600 }).gauge.cellVoltages).toBeUndefined();
  expect(dump({ 0x0c: 0xffff, 0x17: 0xffff }).gauge).not.toMatchObject({ maxError: expect.anything() });
});

test('nothing throws, whatever is typed; what is no dump is none', () => {
  fc.assert(fc.property(fc.string({ maxLength: 400 }), (text) => void parseRegisterDump(text)));
  const some = fc.array(fc.constantFrom('0', '9', 'A', 'F', 'x', ' ', ':', '\n', '0x09 2C88\n', '22 FF'), { maxLength: 60 });
  fc.assert(fc.property(some, (all) => void parseRegisterDump(all.join(''))));
  for (const no of [
    '',
    'POWER_SUPPLY_NAME=BAT0',
    'design capacity: 4400 mAh',
    '10:22 3900\n10:23 3901\n10:24 3902',
    '12 34\n12 35\n12 36',
  ])
    expect(parseRegisterDump(no)).toBeNull();
});

test('the gauge of a simulated pack is read as what it says, with every check byte right', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
      const p = packWith([], randomOf(seed));
      const b = parseRegisterDump(registersOf(p, randomOf(seed + 1)))!;
      expect(b).toMatchObject({ name: 'stand-in', serial: '4711', model: 'made 2022-05-17' });
      expect(b.doubts).toEqual([]);
      expect(b.gauge.designCapacity).toEqual({ digits: String(p.ratedMah), unit: 'mAh' });
      expect(b.gauge.cellVoltages!.map((c) => Number(c.digits))).toEqual(p.cells.map((v) => Math.round(v * 1000)));
      expect(Math.abs(Number(b.gauge.fullChargeCapacity!.digits) / p.ratedMah / p.health - 1)).toBeLessThan(0.06);
    }),
  );
});
