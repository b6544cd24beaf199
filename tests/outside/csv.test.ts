import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ruleRow, writeList, writeTable } from '@gavrel/core/batch';
import { parse } from 'csv-parse/sync';
import fc from 'fast-check';

const tags = ['TH-1', 'a "quoted" one', 'comma, and\nline', '=1+1', 'Größe µ', '0012', '', ' =1+1', '＝1+1', 'x;=1+1'];
const ruled = tags.map((tag, i) =>
  ruleRow({
    line: i + 1,
    tag,
    facts: { chemistry: 'li-ion', placement: 'loose', findings: [] },
    route: { mode: 'road', on: '2026-11-24' },
    printed: {},
    problems: i === 4 ? [{ column: 'mass', words: 'write grams as "270 g"' }] : [],
  }),
);
const csv = writeTable(ruled);
const harmless = tags.map((t) => t.replace(/^(?=\s?[=＝])/, "'").replace(';=', ";'="));

// Another CSV library (csv-parse) reads what ours wrote, cell by cell.
test('results written as CSV are read back by another library', () => {
  const read = parse(csv, { columns: true }) as Record<string, string>[];
  expect(read.map((r) => r.tag)).toEqual(harmless);
  expect(read.map((r) => r.outcome)).toEqual(ruled.map((r) => r.outcome ?? ''));
  expect(read[4]!.problems).toBe('mass: write grams as "270 g"');
});

// A spreadsheet program (Debian's gnumeric) opens the file, recalculates it and saves it as its own kind and as CSV again.
test('a spreadsheet program keeps every row, and computes nothing from a tag that looks like a formula', () => {
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-sheet-'));
  try {
    const file = (name: string) => join(folder, name);
    writeFileSync(file('in.csv'), csv);
    const convert = (from: string, to: string) =>
      execFileSync('ssconvert', ['--recalc', file(from), file(to)], {
        stdio: 'pipe',
        env: { ...process.env, LC_ALL: 'C.UTF-8' },
      });
    convert('in.csv', 'own.xlsx');
    convert('own.xlsx', 'out.csv');
    const read = parse(readFileSync(file('out.csv')), { columns: true }) as Record<string, string>[];
    expect(read).toHaveLength(tags.length);
    // It takes the mark of a text away and 0012 for the number 12, which shows that it really read the cells; it adds nothing up.
    const shown = harmless.map((t) => (t === '0012' ? '12' : t.replace(/^'/, '')));
    expect(read.map((r) => r.tag)).toEqual(shown);
    expect(read.map((r) => r.outcome)).toEqual(ruled.map((r) => r.outcome ?? ''));
    expect(read[4]!.problems).toBe('mass: write grams as "270 g"');
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

// Wherever a spreadsheet of some country may end a cell, whether it minds the quotes or not, what follows is no formula.
test('no part of a list begins a formula, whatever ends a cell', () => {
  const cell = fc.string({ unit: fc.constantFrom(...'ab ;,|\t\r\n"\'=+-@＝＋－＠1()') });
  fc.assert(
    fc.property(fc.array(cell, { minLength: 1, maxLength: 4 }), (cells) => {
      const parts = writeList([], [cells]).split(/[;,|\t\r\n]/);
      expect(parts.filter((part) => /^[\s"]*[=+\-@＝＋－＠]/.test(part))).toEqual([]);
    }),
    { numRuns: 5000 },
  );
});

test('whoever stops reading, as head does, gets no trace of the program; a file is named from the folder one is in', () => {
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-head-'));
  const file = join(folder, 'many.csv');
  writeFileSync(
    file,
    ['tag;series;ratedEnergy;findings', ...Array.from({ length: 20_000 }, (_, i) => `B-${i};3;50;none`)].join('\n'),
  );
  const command = `set -o pipefail; "$0" classify many.csv | head -n 2`;
  const r = spawnSync('bash', ['-c', command, join(process.cwd(), 'gavrel')], { encoding: 'utf8', cwd: folder });
  rmSync(folder, { recursive: true });
  expect([r.status, r.stderr, r.stdout.trim().split('\n').length]).toEqual([0, '', 2]);
});

test('a heading that is not known, or stands twice, is named with what could be meant', () => {
  const told = (table: string) => spawnSync('./gavrel', ['classify', '-'], { input: table, encoding: 'utf8' });
  const odd = told('tag,Energy (Wh),colour\nA-1,50,red\n');
  expect([odd.status, odd.stdout]).toEqual([1, '']);
  expect(odd.stderr).toMatch(/nobody knows: Energy \(Wh\), colour; .* one of tag, chemistry, .*ratedEnergy/);
  expect(told('tag,ratedEnergy,rated energy\nA-1,50,50\n').stderr).toMatch(/two columns are rated energy: take one out/);
});
