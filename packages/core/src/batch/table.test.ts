import fc from 'fast-check';
import cases from '../cases/shipping.json';
import { classify } from '../shipping/classify';
import type { Route, ShippingFacts } from '../shipping/facts';
import { COLUMNS } from './columns';
import { mappingOf, MAX_TABLE, readCase, readRows, readTable, type Row, ruleRow, writeTable } from './table';
import { decodeText } from './text';

const TODAY = '2026-11-24';
const rows = (csv: string): Row[] => {
  const table = readTable(csv);
  return readRows(table, mappingOf(table.headings), TODAY);
};
const one = (heading: string, cell: string) => rows(`tag;${heading}\nA;${cell}\nB;`)[0]!;

describe('worked cases', () => {
  test.each(cases.map((c) => [c.id, c] as const))('%s through JSON gives its expectation', (_id, c) => {
    expect(ruleRow(readCase(c, 1, TODAY))).toMatchObject({ ...c.expect, tag: c.id, problems: [] });
  });
  test('the same cases as a table of CSV give the same', () => {
    const names = COLUMNS.map((c) => c.name);
    const get = (c: (typeof cases)[number], name: string) => {
      const path = name.split('.');
      const from = ['mode', 'region', 'on'].includes(name) ? c.route : c.facts;
      const v = path.reduce<unknown>((o, k) => (o as Record<string, unknown> | undefined)?.[k], from);
      return Array.isArray(v) ? (v.length === 0 ? 'none' : v.join(';')) : v === undefined ? '' : String(v);
    };
    const csv = [['id', ...names], ...cases.map((c) => [c.id, ...names.map((n) => get(c, n))])]
      .map((line) => line.map((x) => `"${x}"`).join(','))
      .join('\n');
    const ruled = rows(csv).map(ruleRow);
    cases.forEach((c, i) => expect(ruled[i]).toMatchObject({ ...c.expect, tag: c.id, problems: [] }));
  });
});

describe('what people write', () => {
  test.each([
    ['ratedCapacity', '4386 mAh', 4.386],
    ['ratedCapacity', '4,386', 4.386],
    ['Rated capacity', '4.386Ah', 4.386],
    ['nominal_voltage', '11,4 V', 11.4],
    ['mass', '270 g', 0.27],
    ['lithiumContent', '70 mg', 0.07],
    ['stateOfCharge', '28 %', 28],
    ['facts.ratedEnergy', '57 Wh', 57],
  ])('%s "%s" is read', (heading, cell, want) => {
    const row = one(heading, cell);
    expect(row.problems).toEqual([]);
    expect(Object.values(row.facts)).toEqual([want]);
  });
  test.each([
    ['ratedCapacity', '5000', 'if it is mAh, write "5000 mAh"'],
    ['ratedCapacity', '4,386 mAh', 'may mean thousands'],
    ['nominalVoltage', '11.400 mV', 'may mean thousands'],
    ['mass', '1,250 g', 'may mean thousands'],
    ['ratedCapacity', '-4', 'negative'],
    ['ratedCapacity', '1.234,5', 'is not one number'],
    ['ratedEnergy', '57 mAh', 'unit mAh is not known here: Wh or mWh'],
    ['stateOfCharge', '130', '0 to 100'],
    ['series', '2.5', 'whole number'],
    ['madeOn', '03/2021', 'write 2021, 2021-05 or 2021-05-03'],
    ['placement', 'boxed', 'none of loose'],
    ['typeTested', 'maybe', 'none of yes, no, unknown'],
    ['energyMarked', '?', 'write yes or no'],
    ['on', '2026', 'write 2026-11-24'],
  ])('%s "%s" is questioned, and the row is not ruled on', (heading, cell, words) => {
    const row = one(heading, cell);
    expect(row.problems).toMatchObject([{ words: expect.stringContaining(words) }]);
    expect(ruleRow(row)).toMatchObject({ outcome: null, condition: null });
  });
  test('a unit in the heading is that of its bare figures, and of a column mapped by hand; another unit names no column', () => {
    const table = readTable(
      'Nominal voltage (mV),Rated capacity [mAh],mass_g,Energy in Wh\n11400,4386,270,50\n11.4 V,"4,386",0.27 kg,50000 mWh',
    );
    const mapping = { ...mappingOf(table.headings), 3: 'ratedEnergy' };
    const [bare, own] = readRows(table, mapping, TODAY);
    expect(bare).toMatchObject({
      facts: { nominalVoltage: 11.4, ratedCapacity: 4.386, mass: 0.27, ratedEnergy: 50 },
      printed: { ratedCapacity: { digits: '4386', unit: 'mAh' } },
    });
    expect(own!.facts).toEqual({ nominalVoltage: 11.4, mass: 0.27, ratedEnergy: 50 });
    expect(own!.problems).toMatchObject([{ column: 'ratedCapacity', words: expect.stringContaining('may mean thousands') }]);
    expect(mappingOf(['Rated energy (mAh)', 'findings (V)', 'mode (kg)', 'series (Wh)'])).toEqual({});
  });
  test('an empty cell is unknown, "none" is looked and nothing found, an unknown code holds and is named', () => {
    expect(one('findings', '').facts).toEqual({});
    expect(one('findings', 'none').facts.findings).toEqual([]);
    const hold = ruleRow(rows('tag,chemistry,findings,mode,placement\nA,li-ion,purple,road,loose\n')[0]!);
    expect(hold).toMatchObject({
      outcome: 'hold',
      condition: 'unproven',
      notes: expect.arrayContaining([expect.stringContaining('purple')]),
    });
  });
  test('a tag that comes twice is named with its first line; good rows stay', () => {
    const got = rows('tag,chemistry\nA,li-ion\nB,li-ion\nA,li-ion\n');
    expect(got.map((r) => r.problems.map((p) => p.words))).toEqual([[], [], ['A stands on line 1 already']]);
  });
  test('a byte-order mark, empty columns and lines, quotes, CR LF and tabs are taken', () => {
    expect(rows('\uFEFFtag\tchemistry\t\r\n"A"\tli-ion\t\r\n\r\n\t\t\r\n')).toMatchObject([
      { tag: 'A', facts: { chemistry: 'li-ion' } },
    ]);
    expect(rows('\uFEFFsep=;\r\ntag;mass\r\nA,1;0,27\r\n')).toMatchObject([{ tag: 'A,1', facts: { mass: 0.27 } }]);
  });
});

describe('what cannot be taken says what to do', () => {
  test('other encodings; UTF-16 with its mark is read', () => {
    expect(() => decodeText(Uint8Array.from([0x41, 0xe4, 0x42]))).toThrow('save it as "CSV UTF-8"');
    expect(decodeText(Uint8Array.from([0xff, 0xfe, 0x41, 0, 0x42, 0]))).toBe('AB');
  });
  test('no rows, too many, too large', () => {
    expect(() => readTable('tag,chemistry\n')).toThrow('no rows');
    expect(() => readTable(`tag\n${'x\n'.repeat(MAX_TABLE.rows + 1)}`)).toThrow('cut it into parts');
    expect(() => readTable('x'.repeat(MAX_TABLE.bytes + 1))).toThrow('100 MB');
  });
  test('JSON: no facts, a field nobody knows', () => {
    expect(readCase({ id: 'x' }, 1, TODAY)).toMatchObject({ tag: 'x', problems: [{ column: 'facts' }] });
    expect(readCase({ id: 7, facts: [] }, 1, TODAY)).toMatchObject({ tag: '7', problems: [{ column: 'facts' }] });
    // A way that cannot be read is no way that was not said.
    expect(readCase({ facts: {}, route: 'air' }, 1, TODAY).problems).toMatchObject([{ column: 'route' }]);
    expect(readCase({ facts: { chemistri: 'li-ion' } }, 1, TODAY).problems).toMatchObject([{ column: 'chemistri' }]);
  });
});

test('a cell that a spreadsheet would run is written as text', () => {
  const csv = writeTable(
    ['=1+1', '+A1', '-A1', '@x', 'TH-1'].map((tag, line) =>
      ruleRow({ line, tag, facts: {}, route: { on: TODAY }, printed: {}, problems: [] }),
    ),
  );
  const tags = csv
    .split('\r\n')
    .slice(1)
    .map((l) => l.split(',')[1]);
  expect(tags).toEqual(["'=1+1", "'+A1", "'-A1", "'@x", 'TH-1']);
});

test('a row is ruled on exactly as its facts are', () => {
  const pick = fc.record({
    soc: fc.integer({ min: 2, max: 100 }),
    packs: fc.integer({ min: 1, max: 60 }),
    mode: fc.constantFrom('road', 'sea', 'air-cargo', 'air-passenger'),
  });
  fc.assert(
    fc.property(pick, ({ soc, packs, mode }) => {
      const head =
        'chemistry,series,parallel,nominalVoltage,ratedCapacity,energyMarked,madeOn,typeTested,findings,placement,mass,stateOfCharge,package.packs,mode';
      const [row] = rows(`${head}\nli-ion,3,1,11.4,5000 mAh,yes,2021,yes,none,loose,0.27,${soc},${packs},${mode}\n`);
      const facts: ShippingFacts = {
        chemistry: 'li-ion',
        series: 3,
        parallel: 1,
        nominalVoltage: 11.4,
        ratedCapacity: 5,
        energyMarked: true,
        madeOn: '2021',
        typeTested: 'yes',
        findings: [],
        placement: 'loose',
        mass: 0.27,
        stateOfCharge: soc,
        package: { packs },
      };
      const { outcome, provision } = classify(facts, { mode: mode as Route['mode'], on: TODAY });
      const ruled = ruleRow(row!);
      return ruled.outcome === outcome && ruled.provision === provision;
    }),
  );
});
