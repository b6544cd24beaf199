import fc from 'fast-check';
import { between, compareValues, type GridColumn, tableText } from './columns';
import { stepTo } from './use-grid';

const COLUMNS: readonly GridColumn<readonly (string | number | null)[]>[] = ['Tag', 'Words', 'Figure'].map((title, i) => ({
  id: title,
  title,
  width: 100,
  value: (r) => r[i] ?? null,
}));

describe('what a spreadsheet is given', () => {
  const cell = fc.oneof(
    fc.string(),
    fc.constantFrom('=SUM(A1)', '-3 V', '@x', 'a\tb', 'two\nlines'),
    fc.integer(),
    fc.constant(null),
  );
  test('has a line for each row and a cell for each column, whatever is in them, and no formula', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell, cell), { maxLength: 20 }), (rows) => {
        const lines = tableText(COLUMNS, rows)
          .split('\n')
          .map((line) => line.split('\t'));
        expect(lines).toHaveLength(rows.length + 1);
        for (const [i, line] of lines.entries()) {
          expect(line).toHaveLength(3);
          if (i > 0) line.forEach((c, n) => expect(typeof rows[i - 1]![n] === 'number' || !/^[=+\-@]/.test(c)).toBe(true));
        }
      }),
    );
  });
});

test('tags stand in the order people count in', () =>
  expect(['TH-10', 'TH-9', 'th-1'].sort(compareValues)).toEqual(['th-1', 'TH-9', 'TH-10']));

test('Shift selects all rows between two, whichever was first, and no other', () => {
  const keys = ['a', 'b', 'c', 'd', 'e'];
  fc.assert(
    fc.property(fc.constantFrom(...keys), fc.constantFrom(...keys), (x, y) => {
      const got = between(keys, x, y);
      expect(got).toEqual(between(keys, y, x));
      expect(got).toHaveLength(Math.abs(keys.indexOf(x) - keys.indexOf(y)) + 1);
    }),
  );
  // A row that is filtered away selects nothing; without a beginning it is the one that was tapped.
  expect(between(keys, 'a', 'gone')).toEqual([]);
  expect(between(keys, null, 'c')).toEqual(['c']);
  expect(between(keys, 'gone', 'c')).toEqual(['c']);
});

test('keys stay inside the rows, and lead nowhere where there are none', () => {
  expect([stepTo('ArrowDown', 4, 5), stepTo('PageUp', 3, 5), stepTo('End', 0, 5), stepTo('Home', 4, 5)]).toEqual([4, 0, 4, 0]);
  expect([stepTo('ArrowDown', 0, 0), stepTo('x', 0, 5)]).toEqual([null, null]);
});
