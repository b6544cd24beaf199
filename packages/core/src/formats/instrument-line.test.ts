import fc from 'fast-check';
import { plainDigits, readInstrumentLine, readUntilStill, standsStill } from './instrument-line';

const reading = (digits: string, unit: string) => ({ kind: 'reading', digits, unit });

test('numbers of SCPI and plain lines are the digits that were sent', () => {
  expect(readInstrumentLine('+1.13967E+01\r', 'volts')).toEqual(reading('11.3967', 'V'));
  expect(readInstrumentLine('-2.5E-03', 'volts')).toEqual(reading('-0.0025', 'V'));
  expect(readInstrumentLine('  270.3 g', 'mass')).toEqual(reading('270.3', 'g'));
  expect(readInstrumentLine('0,2703 kg', 'mass')).toEqual(reading('0.2703', 'kg'));
  expect(readInstrumentLine('23.4 CEL', 'temperature')).toEqual(reading('23.4', '°C'));
  expect(readInstrumentLine('5.37', 'thickness')).toEqual(reading('5.37', 'mm'));
});

test('an overload, no number, another unit and garbage are faults that say what to do, never a reading', () => {
  const words = (line: string, m: Parameters<typeof readInstrumentLine>[1]) => {
    const a = readInstrumentLine(line, m);
    return a.kind === 'fault' ? a.words : 'a reading';
  };
  expect(words('9.9E37', 'volts')).toMatch(/overload/);
  expect(words('-9.90000000E+37', 'volts')).toMatch(/overload/);
  expect(words('9.91E37', 'volts')).toMatch(/leads/);
  expect(words('12.4 A', 'volts')).toMatch(/in A, not in V/);
  expect(words('9.1 oz', 'mass')).toMatch(/not in g or kg/);
  for (const garbage of ['', 'ERR', '12.3.4', '1e99 V', '-113,"Undefined header"', '\u0007\u0000'])
    expect(words(garbage, 'volts')).not.toBe('a reading');
});

test('a scale says how its figure stands before it: at rest a reading, moving none, a tare nobody\u2019s weight', () => {
  for (const line of ['ST,GS,+00270.3  g', 'S S      270.3 g', 'N   +  270.3 g', 'ST,NT,  0.2703 kg'])
    expect(readInstrumentLine(line, 'mass')).toEqual(line.endsWith('kg') ? reading('0.2703', 'kg') : reading('270.3', 'g'));
  for (const line of ['US,GS,+00270.3  g', 'S D      270.3 g'])
    expect(readInstrumentLine(line, 'mass')).toEqual({ kind: 'moving' });
  expect(readInstrumentLine('OL,GS,+99999.9  g', 'mass')).toMatchObject({ words: expect.stringMatching(/take something off/) });
  for (const line of ['TR,+00012.0 g', 'S I', 'S +', 'AC 11.4 g']) expect(readInstrumentLine(line, 'mass').kind).toBe('fault');
});

test('an instrument that says that it moves is waited for, and what it said before no longer counts', async () => {
  const lines = ['ST,270.3 g', 'ST,270.3 g', 'US,271.9 g', 'ST,274.0 g', 'ST,274.0 g', 'ST,274.1 g'];
  const wire = { send: () => undefined, next: async () => lines.shift() ?? null, pause: async () => undefined, clock: () => 0 };
  expect(await readUntilStill(wire, 'lines', 'mass')).toEqual(reading('274.1', 'g'));
  expect(lines).toEqual([]);
});

test('whatever is sent, what is taken for a reading is the number that stands there', () => {
  fc.assert(
    fc.property(fc.double({ min: -9999, max: 9999, noNaN: true }), fc.integer({ min: 1, max: 6 }), (x, places) => {
      const sent = x.toExponential(places);
      const digits = plainDigits(sent)!;
      expect(Math.abs(Number(digits) - Number(sent))).toBeLessThanOrEqual(0.5e-6 + 1e-12);
    }),
  );
  fc.assert(
    fc.property(fc.string(), (line) => {
      const a = readInstrumentLine(line, 'volts');
      if (a.kind === 'reading') expect(line).toContain(line.trim().slice(0, 1));
      else if (a.kind === 'fault') expect(a.words.length).toBeGreaterThan(10);
    }),
  );
});

test('three readings together stand still; a creeping one does not', () => {
  const volts = (...all: string[]) => all.map((digits) => ({ digits, unit: 'V' }));
  expect(standsStill(volts('11.39', '11.391'))).toBe(false);
  expect(standsStill(volts('9', '11.390', '11.391', '11.392'))).toBe(true);
  expect(standsStill(volts('11.390', '11.395', '11.400'))).toBe(false);
  expect(standsStill([...volts('1', '1'), { digits: '1', unit: 'mV' }])).toBe(false);
});
