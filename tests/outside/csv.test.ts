import { ruleRow, writeTable } from '@gavrel/core/batch';
import { parse } from 'csv-parse/sync';

// Another CSV library (csv-parse) reads what ours wrote, cell by cell.
test('results written as CSV are read back by another library', () => {
  const tags = ['TH-1', 'a "quoted" one', 'comma, and\nline', '=SUM(A1)', 'Größe µ', ''];
  const ruled = tags.map((tag, i) =>
    ruleRow({
      line: i + 1,
      tag,
      facts: { chemistry: 'li-ion', placement: 'loose', findings: [] },
      route: { mode: 'road', on: '2026-11-24' },
      problems: i === 4 ? [{ column: 'mass', words: 'write grams as "270 g"' }] : [],
    }),
  );
  const read = parse(writeTable(ruled), { columns: true }) as Record<string, string>[];
  expect(read.map((r) => r.tag)).toEqual(tags.map((t) => (t.startsWith('=') ? `'${t}` : t)));
  expect(read.map((r) => r.outcome)).toEqual(ruled.map((r) => r.outcome ?? ''));
  expect(read[4]!.problems).toBe('mass: write grams as "270 g"');
});
