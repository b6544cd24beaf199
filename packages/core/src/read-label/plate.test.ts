import fc from 'fast-check';
import { plateTexts } from './plate';
import { lookAlikes, type PixelBox, type ReadLine } from './text';

const lines = (texts: readonly string[], confidence = 90): ReadLine[] =>
  texts.map((t, row) =>
    t.split(' ').map((text, i): ReadLine[number] => ({ text, confidence, box: [i * 100, row * 40, 90, 30] satisfies PixelBox })),
  );
const told = (texts: readonly string[], codes: readonly string[] = []) =>
  plateTexts(lines(texts), codes).map((t) => [t.field, t.said] as const);

// Wordings of plates: common practice, no source.
test('names beside, in one line, below each other, and in other languages', () => {
  expect(told(['Tern Works', 'Model: TW-14 S/N: 5CD1234XYZ', 'Made far away'])).toEqual([
    ['model', 'TW-14'],
    ['serial', '5CD1234XYZ'],
    [null, 'Tern Works'],
    [null, 'Made far away'],
  ]);
  expect(told(['MODEL NO.', 'TW 14 G2', 'SERIAL NUMBER', '5CD1234XYZ'])).toEqual([
    ['model', 'TW 14 G2'],
    ['serial', '5CD1234XYZ'],
  ]);
  expect(told(['Hersteller: Ternwerk', 'Modell TW-14', 'Serien-Nr. 77-1234'])).toEqual([
    ['maker', 'Ternwerk'],
    ['model', 'TW-14'],
    ['serial', '77-1234'],
  ]);
  expect(told(['Modèle : TW-14', 'N° de série : 771234'])).toEqual([
    ['model', 'TW-14'],
    ['serial', '771234'],
  ]);
});

test('a name without a value is none, nor one whose neighbour names something else; what cannot be read well is not offered', () => {
  expect(told(['Serial number'])).toEqual([]);
  expect(told(['Serial number', 'Model: TW-14'])).toEqual([['model', 'TW-14']]);
  expect(plateTexts(lines(['scratches here'], 30), [])).toEqual([]);
  expect(told(['Snowman models'])).toEqual([[null, 'Snowman models']]);
});

test('a code that looks the same has the last word; a code that nobody reads stands by itself; each text comes once', () => {
  expect(plateTexts(lines(['S/N 5CDO123']), ['5CD0123', '00-AA-11'])).toEqual([
    { field: 'serial', said: '5CD0123', box: expect.anything(), coded: true },
    { field: null, said: '00-AA-11', box: null, coded: true },
  ]);
  const serial = fc.stringMatching(/^[0-9]{6,14}$/);
  fc.assert(
    fc.property(serial, fc.nat(), (s, n) => {
      const others = [s, ...lookAlikes(s)];
      const printed = others[n % others.length]!;
      const found = plateTexts(lines([`S/N: ${printed}`, 'Tern Works']), [s]);
      // The code is offered whatever was read, and nothing twice.
      expect(found.some((t) => t.said === s && t.coded)).toBe(true);
      expect(new Set(found.map((t) => t.said)).size).toBe(found.length);
    }),
  );
});

test('whatever is read, what is offered stands in it, within the picture’s words', () => {
  const word = fc.stringMatching(/^[A-Za-z0-9:./#-]{1,12}$/);
  fc.assert(
    fc.property(
      fc.array(fc.array(fc.oneof(word, fc.constantFrom('S/N', 'Model:', 'Serial', 'type')), { minLength: 1, maxLength: 6 }), {
        maxLength: 8,
      }),
      (rows) => {
        const all = lines(rows.map((r) => r.join(' ')));
        const found = plateTexts(all, []);
        expect(found.length).toBeLessThanOrEqual(14);
        for (const t of found) {
          expect(
            all.some((l) =>
              l
                .map((w) => w.text)
                .join(' ')
                .includes(t.said),
            ),
          ).toBe(true);
          expect(t.box![2]).toBeGreaterThan(0);
        }
      },
    ),
  );
});
