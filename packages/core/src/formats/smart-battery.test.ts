import fc from 'fast-check';
import {
  batteryMode,
  batteryStatus,
  capacityOf,
  celsiusOf,
  manufactureDate,
  manufactureWord,
  minutesAtRate,
  packetErrorCode,
  signedWord,
  specificationInfo,
} from './smart-battery';

// CRC-8/SMBUS of the CRC catalogue ("123456789" -> 0xF4); the messages are check values worked by hand from SMBus 2.0, from memory.
describe('packet error code', () => {
  test.each([
    ['123456789 in ASCII', [...'123456789'].map((c) => c.charCodeAt(0)), 0xf4],
    ['ReadWord Voltage 11400 mV', [0x16, 0x09, 0x17, 0x88, 0x2c], 0xb1],
    ['ReadWord Temperature 2982', [0x16, 0x08, 0x17, 0xa6, 0x0b], 0x2a],
    ['ReadWord ManufactureDate 0x4F17', [0x16, 0x1b, 0x17, 0x17, 0x4f], 0xf6],
    ['WriteWord BatteryMode 0x8000', [0x16, 0x03, 0x00, 0x80], 0x27],
    ['ReadBlock "LION"', [0x16, 0x22, 0x17, 0x04, 0x4c, 0x49, 0x4f, 0x4e], 0x31],
  ])('%s', (_what, bytes, want) => expect(packetErrorCode(bytes)).toBe(want));

  test('over a message with its own code it is 0, and any single flipped bit shows', () => {
    const byte = fc.integer({ min: 0, max: 255 });
    fc.assert(
      fc.property(fc.array(byte, { minLength: 1, maxLength: 34 }), fc.nat(), fc.nat(7), (bytes, at, bit) => {
        const all = [...bytes, packetErrorCode(bytes)];
        expect(packetErrorCode(all)).toBe(0);
        all[at % all.length]! ^= 1 << bit;
        expect(packetErrorCode(all)).not.toBe(0);
      }),
    );
  });
});

// Check values of the Smart Battery Data Specification 1.1, from memory.
test('dates: packed, unpacked, and none where there is no such day', () => {
  expect(manufactureWord('2019-08-23')).toBe(0x4f17);
  expect(manufactureDate(20247)).toBe('2019-08-23');
  for (const none of [0x0000, 0x4f00, 31 + 9 * 32 + 39 * 512, 31 + 2 * 32]) expect(manufactureDate(none)).toBeNull();
  expect(() => manufactureWord('1979-12-31')).toThrow(RangeError);
  fc.assert(
    fc.property(fc.date({ min: new Date('1980-01-01'), max: new Date('2107-12-31'), noInvalidDate: true }), (d) => {
      const day = d.toISOString().slice(0, 10);
      expect(manufactureDate(manufactureWord(day))).toBe(day);
    }),
  );
});

test('words, flags and scales', () => {
  expect([signedWord(0xfb1e), signedWord(0xfc18), signedWord(0x7fff)]).toEqual([-1250, -1000, 32767]);
  expect([celsiusOf(2982), celsiusOf(2632)].map((c) => c.toFixed(2))).toEqual(['25.05', '-9.95']);
  expect(batteryStatus(0x00c0)).toEqual({ flags: ['DISCHARGING', 'INITIALIZED'], error: { code: 0, words: 'OK' } });
  expect(batteryStatus(0x0083)).toEqual({ flags: ['INITIALIZED'], error: { code: 3, words: 'UnsupportedCommand' } });
  expect(batteryMode(0xe001)).toMatchObject({
    tenMilliwattHours: true,
    chargerBroadcasts: false,
    alarmBroadcasts: false,
    chargeController: true,
  });
  expect(specificationInfo(0x0031)).toEqual({ revision: 1, version: '1.1 with optional PEC', voltsScale: 0, currentScale: 0 });
  expect(specificationInfo(0xf4a1)).toMatchObject({ version: 'not defined', voltsScale: null, currentScale: null });
});

test('capacities by their mode, and times by their rate', () => {
  expect(capacityOf(4264, { tenMilliwattHours: true, currentScale: 0 })).toEqual({ wattHours: 42.64, ampereHours: null });
  const mAh = capacityOf(4264, { tenMilliwattHours: false, currentScale: 0, designMillivolts: 11400 });
  expect(mAh.ampereHours).toBe(4.264);
  expect(mAh.wattHours).toBeCloseTo(48.61, 2);
  expect(capacityOf(426, { tenMilliwattHours: false, currentScale: 1 }).ampereHours).toBeCloseTo(4.26, 9);
  expect([minutesAtRate(4400 - 2200, 1000), minutesAtRate(2200, -1000), minutesAtRate(2200, 0)]).toEqual([132, 132, null]);
});
