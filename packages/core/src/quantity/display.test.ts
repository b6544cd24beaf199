import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { type Display, displayDigits, displayText, inDisplayUnit, METRIC } from './display';
import { type Figure, micro, step, value } from './figure';

const IMPERIAL: Display = { lengths: 'inch', temperatures: '°F', decimalMark: 'point', days: 'month-first' };
const COMMA: Display = { ...METRIC, decimalMark: 'comma' };
const ISO: Display = { ...METRIC, days: 'iso' };

// NIST SP 811 (2008), appendix B.8 and B.9: the inch is 25.4 mm; 212 °F is 100 °C, 32 °F is 0 °C; from memory.
test.each([
  [{ digits: '1', unit: 'inch' }, 25.4],
  [{ digits: '0.2484', unit: 'inch' }, 6.30936],
  [{ digits: '212', unit: '°F' }, 100],
  [{ digits: '32', unit: '°F' }, 0],
  [{ digits: '-40', unit: '°F' }, -40],
  [{ digits: '98.6', unit: '°F' }, 37],
] as const)('%j is %d in the base unit', (f, base) => {
  expect(value(f)).toBeCloseTo(base, 6);
  expect(Object.is(micro(f), -0)).toBe(false);
});

describe('a figure in another unit', () => {
  const digits = fc.tuple(fc.integer({ min: -400, max: 4000 }), fc.integer({ min: 0, max: 2 }));
  const there: readonly [string, Display][] = [
    ['mm', IMPERIAL],
    ['°C', IMPERIAL],
    ['inch', METRIC],
    ['°F', METRIC],
  ];
  test.each(there)('loses nothing of what was read: %s', (unit, d) => {
    fc.assert(
      fc.property(digits, ([n, decimals]) => {
        const f: Figure = { digits: (n / 10 ** decimals).toFixed(decimals), unit };
        const shown = inDisplayUnit(f, d);
        expect(shown.unit).not.toBe(unit);
        // Rounded again to the digits that were read it is the same reading.
        expect(Math.abs(value(shown) - value(f))).toBeLessThanOrEqual(step(f) / 2 + 1e-9);
        expect(shown.digits).not.toMatch(/^-0(\.0+)?$/);
      }),
    );
  });
  test('says how it is written', () => {
    expect(inDisplayUnit({ digits: '6.31', unit: 'mm' }, IMPERIAL)).toEqual({ digits: '0.2484', unit: 'inch' });
    expect(displayText('21.5 °C', { ...IMPERIAL, decimalMark: 'comma' })).toBe('70,7 °F');
    expect(displayDigits('11,40', METRIC)).toBe('11.40');
    expect(() => inDisplayUnit({ digits: '1,5', unit: 'mm' }, IMPERIAL)).toThrow(RangeError);
  });
});

describe('words with figures and days', () => {
  test.each([
    ['swollen: 0.31 mm more at centre', 'swollen: 0.0122 inch more at centre'],
    ['6.31 ±0.05 mm', '0.2484 ±0.0020 inch'],
    ['20.0 °C, plus or minus 0.5 °C; limit 60 °C', '68.0 °F, plus or minus 0.9 °F; limit 140 °F'],
    ['20 to 25 °C', '68 to 77 °F'],
    ['16 K over its room', '29 °F over its room'],
    ['26 Nov 19:13 1 K', 'Nov 26 19:13 2 °F'],
    ['248.5 × 91 mm', '9.783 × 3.58 inch'],
    // Threads, tags, clauses, counts and other units are none of it.
    ['4 × M2.5 × 4 mm in TH-171', '4 × M2.5 × 4 mm in TH-171'],
    ['UN 38.3, 5;2.4.10, 3 packs, 11.4 V', 'UN 38.3, 5;2.4.10, 3 packs, 11.4 V'],
    ['looked Mon 26 Oct 2026, 14:32', 'looked Mon Oct 26, 2026, 14:32'],
    ['due Thu 3 Dec', 'due Thu Dec 3'],
  ])('in inches, Fahrenheit, month first: %s', (text, shown) => expect(displayText(text, IMPERIAL)).toBe(shown));
  test.each([
    ['11.4 V and 10.80 V', '11,4 V and 10,80 V'],
    ['11.31 to 11.4 V', '11,31 to 11,4 V'],
    ['label: 11.4 V, 5000 mAh, 57.0 Wh', 'label: 11,4 V, 5000 mAh, 57,0 Wh'],
    ['UN 38.3 evidence by 2026-10-26', 'UN 38.3 evidence by 2026-10-26'],
    ['4.2 % of 12.5 kg', '4,2 % of 12,5 kg'],
  ])('with a comma: %s', (text, shown) => expect(displayText(text, COMMA)).toBe(shown));
  test('days as ISO 8601, where their year is known', () => {
    expect(displayText('made 2026-10-26, Mon 26 Oct 2026, Thu 3 Dec', ISO)).toBe('made 2026-10-26, Mon 2026-10-26, Thu 12-03');
    expect(displayText('made 2026-10-26, code 2026-99-26', IMPERIAL)).toBe('made Oct 26, 2026, code 2026-99-26');
  });
  test('nothing changes where the workshop reads what the program says, and no words are lost where it does not', () => {
    // Every sentence of the rules as text.
    const sentences = readFileSync(require.resolve('../shipping/us.ts'), 'utf8').match(/'[^'\n]{12,}'/g)!;
    expect(sentences.length).toBeGreaterThan(10);
    const letters = (s: string) => s.replace(/[\d.,\s-]|mm|inch|°[CF]|K/g, '');
    for (const s of sentences) {
      expect(displayText(s, METRIC)).toBe(s);
      expect(letters(displayText(s, { ...IMPERIAL, days: 'day-first', decimalMark: 'comma' }))).toBe(letters(s));
    }
    fc.assert(fc.property(fc.string(), (s) => expect(displayText(s, METRIC)).toBe(s)));
    fc.assert(fc.property(fc.string(), (s) => void displayText(s, { ...IMPERIAL, decimalMark: 'comma' })));
  });
});
